import type { OriginalView, SongView } from '#contracts/songs.ts';
import { mapsOf } from '#core/song/maps.ts';
import { positionAt } from '#core/timing/meter-map.ts';
import type { StepAsked } from '../api/queries.ts';
import { barBehind, proposed, stepOf } from './bring-model.ts';

/** Files laid onto one track, one behind the other: from a bar on, or from the first bar behind what it plays. */
export function laidOnRow(
  song: SongView,
  track: string,
  originals: readonly OriginalView[],
  from: number | undefined,
): StepAsked | undefined {
  const last = song.tracks.find((t) => t.id === track)?.lastNoteTick;
  let bar =
    from ??
    (last === undefined ? 1 : positionAt(mapsOf(song).meters, Math.max(0, last - 1)).bar + 1);
  return stepOf(
    originals.flatMap(({ sha256, fileName, parts }) =>
      parts.map((held) => {
        const plain = proposed(song, held, { from: bar });
        const onto = Object.fromEntries(plain.tracks.map((id) => [id, track]));
        // What is already there says how the song goes; a file laid onto a row brings its notes.
        const wanted = { ...plain, onto, at: { bar } };
        bar = barBehind(song, held, wanted, 0);
        const called = (parts.length > 1 ? held.title : (fileName ?? held.title)).slice(0, 200);
        return { source: { original: sha256, part: held.part, called }, wanted, held };
      }),
    ),
  );
}
