import { boundText } from '../../units/bounds.ts';
import { editMap, tempoEvent } from '../../edit/edit-map.ts';
import { keepLengths } from '../../edit/least-length.ts';
import { sortedByTick } from '../../edit/retime.ts';
import { runStep } from '../../operations/run.ts';
import { meta } from '../../smf/events.ts';
import { withEvents, type Song } from '../../song/song.ts';
import { timingOf } from '../../song/timing-of.ts';
import {
  effective,
  greatestDistance,
  tempoAt,
  tempoMap,
  ticksToSeconds,
} from '../../timing/tempo-map.ts';
import { bpmToTempo, tempoToBpm } from '../../units/units.ts';
import type { Wanted } from '../settings.ts';
import { fewerASecond } from './fewer-a-second.ts';

type TempoForm = Pick<Wanted['form'], 'tempo' | 'bpm' | 'steps' | 'ppq'>;
interface Formed {
  readonly song: Song;
  readonly notes: readonly string[];
}

/** The tempo map as the receiver takes it, with the greatest error told. Frames obey no tempo. */
export function tempoFormed(song: Song, { tempo, bpm, steps, ppq }: TempoForm): Formed {
  if (song.division.kind === 'smpte') return { song, notes: [] };
  if (tempo === 'one, as it sounds') return asItSounds(song, bpm, ppq);
  if (tempo === 'one, in its bars') return inItsBars(song, bpm);
  return steps ? inFewerSteps(song, steps) : { song, notes: [] };
}

const bpmWords = (tempo: number): string => `${Number(tempoToBpm(tempo).toFixed(3))} BPM`;
const msWords = (seconds: number): string => `${boundText(seconds * 1000)} ms`;

const many = (n: number): string => n.toLocaleString('en');
const farWords = (seconds: number): string =>
  seconds >= 1 ? `${seconds.toFixed(2)} s` : msWords(seconds);

/**
 * Every event on the tick of the one tempo that is nearest to its time, in the resolution that is asked
 * for, so that it is rounded once. Bar lines stay with the ticks, so that meters after the first would say
 * nothing.
 */
function asItSounds(song: Song, bpm: number | null, wanted: number | null): Formed {
  if (song.division.kind === 'smpte') return { song, notes: [] };
  const ppq = wanted ?? song.division.ticksPerQuarter;
  const map = tempoMap(timingOf(song).tempos, song.division);
  const tempo = bpm === null ? tempoAt(map, 0) : bpmToTempo(bpm);
  if (map.ticks.length === 1 && map.tempos[0] === tempo) return { song, notes: [] };
  const scale = (ppq * 1_000_000) / tempo;
  let worst = 0;
  const tracks = song.tracks.map((track) => {
    const { events } = track;
    const atTick = new Float64Array(events.count);
    for (let i = 0; i < events.count; i++) {
      atTick[i] = Math.round(ticksToSeconds(map, events.atTick[i]!) * scale);
    }
    const rank = new Int8Array(events.count);
    const kept = keepLengths(events, atTick, rank);
    // The end of a note that would have lost its length may be further off than half a tick.
    for (let i = 0; i < events.count; i++)
      worst = Math.max(
        worst,
        Math.abs(atTick[i]! - ticksToSeconds(map, events.atTick[i]!) * scale),
      );
    return withEvents(track, kept > 0 ? sortedByTick(events, atTick, rank) : { ...events, atTick });
  });
  const { song: made, changes } = editMap(
    { ...song, tracks, division: { kind: 'ppq', ticksPerQuarter: ppq } },
    (type, tick) => type === meta.tempo || (type === meta.timeSignature && tick > 0),
    [tempoEvent(0, tempo)],
    'tempo',
  );
  const meters = changes.some((c) => (c.counts.meter ?? 0) > 0);
  return {
    song: made,
    notes: [
      `Placed anew at ${bpmWords(tempo)} throughout, so that it sounds as here: at most ${msWords(worst / scale)} off.`,
      `Its bars are no longer those of the receiver${meters ? ', and meters after the first were left out' : ''}.`,
    ],
  };
}

function inItsBars(song: Song, bpm: number | null): Formed {
  const { tempos, endTick } = timingOf(song);
  const map = tempoMap(tempos, song.division);
  const lasting = (ticksToSeconds(map, endTick) * map.scale) / endTick;
  const tempo =
    bpm !== null ? bpmToTempo(bpm) : endTick === 0 ? tempoAt(map, 0) : Math.round(lasting);
  const same = map.ticks.length === 1 && map.tempos[0] === tempo;
  // What is said again is as one tempo too many to who takes one.
  if (same && tempos.length <= 1) return { song, notes: [] };
  const { song: made } = editMap(
    song,
    (type) => type === meta.tempo,
    [tempoEvent(0, tempo)],
    'tempo',
  );
  if (same) return { song: made, notes: [] };
  const one = tempoMap([{ atTick: 0, tempo }], song.division);
  const atEnd = Math.abs(ticksToSeconds(map, endTick) - ticksToSeconds(one, endTick));
  const off = Math.max(atEnd, greatestDistance(map, one));
  return {
    song: made,
    notes: [
      `At ${bpmWords(tempo)} throughout, every event in its bar: at most ${farWords(off)} from where it sounds here.`,
    ],
  };
}

function inFewerSteps(song: Song, steps: NonNullable<TempoForm['steps']>): Formed {
  const before = effective(timingOf(song).tempos);
  const thinned = runStep(song, {
    operation: 'timing.thin-tempo',
    settings: { error: steps.error },
    scope: { tracks: 'all' },
  });
  const fewer = thinned.ok ? thinned.value.song : song;
  const made = steps.perSecond === null ? fewer : atMostASecond(fewer, steps.perSecond);
  const after = effective(timingOf(made).tempos);
  if (after.length === before.length) return { song: made, notes: [] };
  const [was, is] = [before, after].map((t) => tempoMap(t, song.division)) as [
    ReturnType<typeof tempoMap>,
    ReturnType<typeof tempoMap>,
  ];
  const off = greatestDistance(was, is);
  const beyond =
    off * 1000 > steps.error + 0.005 && steps.perSecond !== null
      ? `, since so few a second hold no ${steps.error} ms`
      : '';
  return {
    song: made,
    notes: [
      `${many(before.length)} tempos leave as ${many(after.length)}: nowhere more than ${msWords(off)} off${beyond}.`,
    ],
  };
}

function atMostASecond(song: Song, most: number): Song {
  const { tempos, endTick } = timingOf(song);
  const fewer = fewerASecond(tempos, song.division, most, endTick);
  if (fewer === undefined) return song;
  return editMap(
    song,
    (type) => type === meta.tempo,
    fewer.map(({ atTick, tempo }) => tempoEvent(atTick, tempo)),
    'tempo',
  ).song;
}
