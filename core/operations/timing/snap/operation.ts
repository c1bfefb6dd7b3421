import { z } from 'zod';
import { ok } from '../../../problems/problems.ts';
import { META, meta } from '../../../smf/events.ts';
import { meantType } from '../../../smf/own-events.ts';
import { trackLabel, withEvents, type Song } from '../../../song/song.ts';
import {
  barTick,
  meterMap,
  positionAt,
  quarterTicks,
  type MeterMap,
} from '../../../timing/meter-map.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { sortedByTick } from '../../../edit/retime.ts';
import { noteValues, valueTicks } from '../../../edit/note-values.ts';
import { defineOperation, type Change } from '../../operation.ts';

export const timingSnap = defineOperation({
  id: 'timing.snap',
  version: 2,
  title: 'Bring markers and meters to bar lines',
  summary:
    'Moves markers, cue points and meter changes that stand a little off a bar line onto it.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    markers: z.boolean().default(true).meta({ title: 'Markers and cue points' }),
    meters: z.boolean().default(false).meta({
      title: 'Meter changes',
      description:
        'Where a meter moves, the bars behind it move with it, and what marks stand on their lines; the music stays where it sounds.',
    }),
    window: z.enum(noteValues).default('1/16').meta({
      title: 'As far as',
      description: 'Only what is nearer to a bar line than this moves.',
    }),
  }),
  apply(song, { markers, meters, window }) {
    const near = valueTicks(window, 'straight', song.division);
    const changes: Change[] = [];
    const first = meters
      ? moved(
          song,
          (type) => type === meta.timeSignature,
          meterTargets(song, near),
          'meter',
          changes,
        )
      : song;
    const marks = markers
      ? barTargets(first, near)
      : first === song
        ? undefined
        : lineTargets(song, first, near);
    const second = marks
      ? moved(
          first,
          (type) => type === meta.marker || type === meta.cuePoint,
          marks,
          'marker',
          changes,
        )
      : first;
    const skipped =
      changes.length === 0
        ? [{ why: 'Nothing of the kind stands that little off a bar line.' }]
        : [];
    return ok({ song: changes.length === 0 ? song : second, report: { changes, skipped } });
  },
  describe: (_, { changes }) =>
    `Brought ${changes.reduce((n, c) => n + (c.counts.marker ?? 0) + (c.counts.meter ?? 0), 0)} markers or meters to bar lines`,
  examples: [
    { says: 'Markers', settings: {} },
    { says: 'Meters too, as far as an eighth', settings: { meters: true, window: '1/8' } },
  ],
});

type Target = (tick: number) => number;

/** The nearest bar line where it is near; else the tick as it is. */
function toBar(map: MeterMap, tick: number, near: number): number {
  const { bar } = positionAt(map, tick);
  const [before, after] = [barTick(map, bar), barTick(map, bar + 1)];
  const line = tick - before <= after - tick ? before : after;
  return Math.abs(line - tick) < near ? line : tick;
}

function barTargets(song: Song, near: number): Target {
  const map = meterMap(timingOf(song).meters, song.division);
  return (tick) => toBar(map, tick, near);
}

/** What stands on a bar line goes along with it; else it stays. */
function lineTargets(before: Song, after: Song, near: number): Target {
  const map = meterMap(timingOf(before).meters, before.division);
  const along = barTargets(after, near);
  return (tick) => (barTick(map, positionAt(map, tick).bar) === tick ? along(tick) : tick);
}

/**
 * Meters one after the other: each goes to a bar line counted from the one before it, where that has been
 * brought to.
 */
function meterTargets(song: Song, near: number): Target {
  const places = new Map<number, number>();
  let from = 0;
  let barTicks = quarterTicks(song.division) * 4;
  for (const { atTick, numerator, denominator } of timingOf(song).meters) {
    const line = Math.ceil(from + Math.round((atTick - from) / barTicks) * barTicks - 1e-9);
    const to = Math.abs(line - atTick) < near ? line : atTick;
    places.set(atTick, to);
    from = to;
    barTicks = (quarterTicks(song.division) * 4 * numerator) / denominator;
  }
  return (tick) => places.get(tick) ?? tick;
}

/** The song with the metas of a kind at their targets. */
function moved(
  song: Song,
  isMeant: (type: number) => boolean,
  target: Target,
  kind: string,
  changes: Change[],
): Song {
  const tracks = song.tracks.map((track) => {
    const { events } = track;
    let atTick: Float64Array | undefined;
    let count = 0;
    for (let i = 0; i < events.count; i++) {
      if (events.status[i] !== META || !isMeant(meantType(events, i))) continue;
      const to = target(events.atTick[i]!);
      if (to === events.atTick[i]) continue;
      atTick ??= events.atTick.slice();
      atTick[i] = to;
      count++;
    }
    if (!atTick) return track;
    changes.push({
      track: track.id,
      name: trackLabel(song, track),
      did: 'changed',
      counts: { [kind]: count },
    });
    return withEvents(track, sortedByTick(events, atTick, new Int8Array(events.count)));
  });
  return { ...song, tracks };
}
