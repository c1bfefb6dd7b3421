import { META, eventAt, meta, type EventValue } from '../../smf/events.ts';
import { isChordEvent, meantType } from '../../smf/own-events.ts';
import type { Song, Track } from '../../song/song.ts';
import { timingOf } from '../../song/timing-of.ts';
import { chordTextOf } from '../../timing/chord-texts.ts';
import { tempoWithin } from '../../timing/gradual.ts';
import { gradualRuns } from '../../timing/gradual-runs.ts';
import { factsOf } from '../../song/track-facts.ts';
import { keyEvent, tempoEvent } from '../edit-map.ts';
import { chordLineEvent } from '../edit-marks.ts';
import { saidOnce } from '../sets-up.ts';
import { timecodeAt } from '../excerpt/map-in-force.ts';
import { joinsOf } from './joins.ts';
import { RowSets } from './row-sets.ts';
import type { Arrangement } from './stretches.ts';
import { headRows } from './values-at.ts';
import { order, type Put } from './woven.ts';

/** Metas that hold from the beginning on where they stand there, as programs and controllers do. */
const holding: ReadonlySet<number> = new Set([
  meta.tempo,
  meta.timeSignature,
  meta.keySignature,
  meta.programName,
  meta.sequencerSpecific,
]);

/** What belongs to the bars and not to what is played in them. */
export const ofBars: ReadonlySet<number> = new Set([
  meta.tempo,
  meta.timeSignature,
  meta.keySignature,
  meta.marker,
  meta.cuePoint,
]);

/** The value of the last point at or before a tick, and whether one stands there. */
function inForce<P extends { readonly atTick: number }>(
  points: readonly P[],
  tick: number,
): { point: P | undefined; stands: boolean } {
  const point = points.findLast((p) => p.atTick <= tick);
  return { point, stands: point?.atTick === tick };
}

/** What is said again at the joins of the map, and kinds of meta (by type) that something else says at the beginning. */
export interface MapAgain {
  readonly puts: readonly { readonly track: string; readonly put: Put }[];
  readonly overruled: ReadonlySet<number>;
  /** The same of keys, by track. */
  readonly keysOverruled: ReadonlySet<string>;
}

const plainTempo = 500_000;

/** The tempo, into the first track, and the key of each track, where a join would change them. */
export function mapAgain(song: Song, tracks: readonly Track[], arrangement: Arrangement): MapAgain {
  const puts: { track: string; put: Put }[] = [];
  const overruled = new Set<number>();
  const keysOverruled = new Set<string>();
  const say = (track: string, event: EventValue): void =>
    void puts.push({ track, put: { event, order: order.said } });
  const { tempos, chords } = timingOf(song);
  const keyed = tracks.filter((t) => (factsOf(t).timing?.keys.length ?? 0) > 0);
  for (const { atTick, after, from, ends } of joinsOf(arrangement)) {
    // What stands at the very beginning stays there.
    const begins = after === undefined && atTick === 0 && from > 0;
    const before = after === undefined ? 0 : after - 1;
    const stands = (there: boolean): boolean => there && from > 0;
    const tempo = inForce(tempos, from);
    // A gradual change that is cut in two with empty bars between arrives where it was at the cut.
    const arrives = after !== undefined && ends < atTick ? arrival(song, after) : undefined;
    if (arrives !== undefined) say(song.tracks[0]!.id, tempoEvent(ends, arrives));
    const has = arrives ?? inForce(tempos, before).point?.tempo ?? plainTempo;
    const is = tempo.point?.tempo ?? plainTempo;
    const says = !stands(tempo.stands) && is !== has;
    if (says) say(song.tracks[0]!.id, tempoEvent(atTick, is));
    if (begins && (says || stands(tempo.stands))) overruled.add(meta.tempo);
    const chord = inForce(chords, from);
    const [hadChord, hasChord] = [inForce(chords, before).point, chord.point].map((c) => c?.text);
    const saysChord = !stands(chord.stands) && hasChord !== undefined && hasChord !== hadChord;
    if (saysChord) say(chord.point!.track, chordLineEvent(chord.point!, atTick, song.encoding));
    // Where no chord was said, none goes on.
    const goesOn = hadChord === undefined ? undefined : inForce(chords, before).point;
    if (goesOn && hasChord === undefined)
      say(
        goesOn.track,
        chordLineEvent({ ...goesOn, text: chordTextOf('N.C.') }, atTick, song.encoding),
      );
    for (const track of keyed) {
      const { keys } = factsOf(track).timing!;
      const key = inForce(keys, from);
      const [old, now] = [inForce(keys, before).point, key.point].map((k) => k ?? plainKey);
      const differs = old!.sharps !== now!.sharps || old!.minor !== now!.minor;
      const saysKey = !stands(key.stands) && differs;
      if (saysKey) say(track.id, keyEvent(atTick, now!.sharps, now!.minor));
      if (begins && (saysKey || stands(key.stands))) keysOverruled.add(track.id);
    }
  }
  return { puts, overruled, keysOverruled };
}

/** The tempo that a gradual change has reached at a tick inside it; undefined where there is none. */
function arrival(song: Song, tick: number): number | undefined {
  const { tempos } = timingOf(song);
  if (song.division.kind !== 'ppq') return undefined;
  const run = gradualRuns(tempos, song.division.ticksPerQuarter).find(
    (r) => r.fromTick < tick && r.toTick > tick,
  );
  if (!run) return undefined;
  const stated = tempos.find((t) => t.atTick === tick)?.tempo;
  const part = (tick - run.fromTick) / (run.toTick - run.fromTick);
  return stated ?? Math.round(60e6 / tempoWithin(run, part));
}

/** C major, where no key was said. */
const plainKey = { sharps: 0, minor: false };

/** Rows of a track that stay at the beginning or where they are: which are not taken over, and what is put. */
export interface Staying {
  readonly puts: readonly Put[];
  readonly without: RowSets;
}

/**
 * What of a track does not go with its music: what sets it up at the very beginning, but for what is
 * overruled there; where the map stays, the map.
 */
export function staying(
  song: Song,
  track: Track,
  { stretches }: Arrangement,
  { mapStays, isOverruled }: { mapStays: boolean; isOverruled: (row: number) => boolean },
): Staying {
  const { events } = track;
  const puts: Put[] = [];
  const without = new RowSets();
  const [first] = stretches;
  const head = headRows(events);
  const put = (event: EventValue): void => void puts.push({ event, order: order.said });
  /** Leaves a row where it is: once in place, or put there. */
  const stay = (row: number, atTick: number, event = eventAt(events, row)): void => {
    const was = events.atTick[row]!;
    const inPlace = first?.from === 0 && first.at === 0 && was < first.to && was === atTick;
    stretches.forEach(({ from, to }, n) => {
      if (was >= from && was < to && !(inPlace && n === 0)) without.add(n, row);
    });
    if (!inPlace && !isOverruled(row)) put({ ...event, atTick });
  };
  const inFirst = (row: number): boolean =>
    first?.from === 0 && first.at === 0 && events.atTick[row]! < first.to;
  for (let row = 0; row < events.count - 1; row++) {
    const isMeta = events.status[row] === META;
    if (!isMeta && row >= head) continue;
    if (!isMeta) {
      stay(row, 0);
      continue;
    }
    const type = meantType(events, row);
    const atTick = events.atTick[row]!;
    if (saidOnce.has(type)) {
      const timecode = type === meta.smpteOffset && events.data1[row] === meta.sequencerSpecific;
      const own = timecode && !inFirst(row) ? timecodeAt(song, 0)[0] : undefined;
      stay(row, inFirst(row) ? atTick : 0, own);
    } else if (mapStays && (ofBars.has(type) || isChordEvent(events, row))) stay(row, atTick);
    else if (row < head && holding.has(type)) stay(row, 0);
  }
  return { puts, without };
}
