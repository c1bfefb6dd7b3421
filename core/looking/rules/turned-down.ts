import { lanesOf, type Lane } from '../../song/lanes.ts';
import { onTracks, type Noticed } from '../finding.ts';
import type { LookedSong, LookedTrack } from '../view.ts';

const names = new Map<Lane['what'], string>([
  [7, 'volume'],
  [11, 'expression'],
]);
/** Values that are as good as silence. */
const nearNothing = 4;
/** Notes that begin in silence before it is no fade any more. */
const leastNotes = 4;

/** Notes that nobody will hear because volume or expression was left at or near 0. */
export function turnedDown(song: LookedSong): Noticed[] {
  return song.parts.flatMap((t) =>
    lanesOf(t.track.events).flatMap((lane) => (names.has(lane.what) ? lost(song, t, lane) : [])),
  );
}

function lost({ barAt }: LookedSong, t: LookedTrack, lane: Lane): Noticed[] {
  const { events } = t.track;
  const ticks = lane.rows.map((row) => events.atTick[row]!);
  let count = 0;
  let first = Infinity;
  let at = -1;
  for (let n = 0; n < t.notes.count; n++) {
    const on = t.notes.on[n]!;
    if ((events.status[on]! & 15) !== lane.channel) continue;
    while (at + 1 < ticks.length && ticks[at + 1]! <= events.atTick[on]!) at++;
    // A swell from nothing is heard as soon as it rises: only what stays down as long as the note counts.
    const off = t.notes.off[n]!;
    const end = off === -1 ? Infinity : events.atTick[off]!;
    let heard = at === -1;
    for (let i = at; i >= 0 && i < ticks.length && (i === at || ticks[i]! < end); i++)
      heard ||= lane.values[i]! > nearNothing;
    if (heard) continue;
    count++;
    first = Math.min(first, events.atTick[on]!);
  }
  if (count < leastNotes) return [];
  const name = names.get(lane.what)!;
  const bar = barAt(first);
  return [
    {
      title: `${count.toLocaleString('en')} notes of ${t.label} are silent: its ${name} is left at or near 0`,
      why: 'It was turned down to leave the part out of a mix. At the other end it looks like a part that does not play.',
      tracks: [t.id],
      bars: { from: bar, to: bar },
      count,
      sure: 'certain',
      settle: [
        {
          title: `Park the ${name}`,
          operation: 'controllers.park',
          settings: { lanes: [lane.what] },
          scope: onTracks(t.id),
        },
        {
          title: `Raise it to 64 at least`,
          operation: 'controllers.adjust',
          settings: { lanes: [lane.what], lowest: 64 },
          scope: onTracks(t.id),
        },
      ],
    },
  ];
}
