import { onOtherChannels } from '../../../edit/other-channels.ts';
import { findTrack, trackLabel, withEvents, type Song, type Track } from '../../../song/song.ts';
import { factsOf } from '../../../song/track-facts.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { channelsIn } from '../../../units/channel-bits.ts';
import type { Change, Report } from '../../operation.ts';
import { landedPart, landedWords, type Way } from './as-new-tracks.ts';
import { laidOnto } from './onto.ts';

interface Laid {
  readonly song: Song;
  readonly changes: Change[];
  readonly skipped: Report['skipped'][number][];
}

/** Parts laid onto tracks that are there, one after another; `atTick` is where the source begins. */
export function ontoTracks(
  song: Song,
  parts: readonly Track[],
  way: Way & { readonly atTick: number },
): Laid {
  const byId = new Map(parts.map((part) => [part.id, part]));
  const end = Math.round(way.landing(timingOf(way.source).endTick));
  return way.asked.onto.reduce<Laid>(
    (done, { track: id, to, how }) => {
      const part = byId.get(id);
      const there = findTrack(done.song, to)!;
      if (!part) return done;
      const fitted = landedPart(part, done.song, way);
      const said = landedWords(fitted);
      const own = onItsChannel(withEvents(part, fitted.events), there, said);
      const span = { from: way.atTick, to: Math.max(end, way.atTick + 1) };
      const laid = laidOnto(done.song, there, own, how, span);
      const name = trackLabel(song, there);
      const from = trackLabel(way.source, part);
      if ('left' in laid)
        return {
          ...done,
          skipped: [...done.skipped, { name: `${from}, onto ${name}`, why: laid.left }],
        };
      const detail = [`${from}`, ...said, ...laid.said].join('; ');
      return {
        song: {
          ...done.song,
          tracks: done.song.tracks.map((t) => (t === there ? laid.track : t)),
        },
        changes: [
          ...done.changes,
          { track: to, name, did: 'changed', counts: laid.counts, detail },
        ],
        skipped: done.skipped,
      };
    },
    { song, changes: [], skipped: [] },
  );
}

/** A part of one channel on the channel of a track; one of several keeps its own, which is told. */
function onItsChannel(part: Track, there: Track, said: string[]): Track {
  const [own, others] = [channelsIn(factsOf(part).channels), channelsIn(factsOf(there).channels)];
  if (own.length === 0 || others.length === 0 || others.includes(own[0]!)) return part;
  if (own.length > 1) {
    said.push('on its own channels');
    return part;
  }
  said.push(`channel ${own[0]! + 1} is ${others[0]! + 1} here`);
  return onOtherChannels(part, new Map([[own[0]!, others[0]!]]));
}
