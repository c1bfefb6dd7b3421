import { percussionChannel } from '../instruments/general-midi.ts';
import { firstProgram } from '../song/played-by.ts';
import { keySignatureText } from '../song/key-names.ts';
import { notesOf } from '../song/notes.ts';
import type { Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { barTick, meterMap, positionAt } from '../timing/meter-map.ts';
import { tempoToBpm } from '../units/units.ts';
import { kindOf, type ClipKind } from './kind.ts';

/** What is known of a clip beside its bytes. Programs from 0. */
export interface ClipFacts {
  readonly bars: number;
  /** As it begins: "4/4". */
  readonly meter: string;
  /** Quarter notes a minute as it begins. */
  readonly bpm: number;
  /** The key signature it says first; null where it says none. */
  readonly key: string | null;
  readonly notes: number;
  readonly drums: boolean;
  readonly program: number | null;
  readonly kind: ClipKind;
}

/**
 * The facts of a song as a clip. `bars` where it is known how many it was cut with: what rings on makes it
 * no longer.
 */
export function clipFacts(song: Song, name: string, cut?: number): ClipFacts {
  const timing = timingOf(song);
  const meters = meterMap(timing.meters, song.division);
  const first = meters[0]!;
  const { notes, drumNotes, lastOn, onsets } = countNotes(song);
  // The bars that the file says it has, where it ends with one; else those in which notes begin.
  const end = positionAt(meters, timing.endTick);
  const whole = end.beat === 1 && end.tick === 0 && timing.endTick > lastOn;
  const bars = cut ?? Math.max(1, whole ? end.bar - 1 : positionAt(meters, lastOn).bar);
  const drums = notes > 0 && drumNotes > notes / 2;
  const lastBar = barTick(meters, bars);
  const program = song.tracks.map((t) => firstProgram(t.events)).find((p) => p !== undefined);
  return {
    bars,
    meter: `${first.numerator}/${first.denominator}`,
    bpm: Math.round(tempoToBpm(timing.tempos[0]?.tempo ?? 500_000) * 100) / 100,
    key: timing.keys[0] ? keySignatureText(timing.keys[0].sharps, timing.keys[0].minor) : null,
    notes,
    drums,
    program: program?.program ?? null,
    kind: kindOf(name, {
      drums,
      notes,
      bars,
      together: onsets === 0 ? 0 : notes / onsets,
      ends: bars > 1 && lastOn >= lastBar && lastOn <= lastBar + first.beatTicks / 2,
    }),
  };
}

/** How many notes there are, on how many ticks they begin, and the last of these. */
function countNotes({ tracks }: Song) {
  let [notes, drumNotes, lastOn] = [0, 0, 0];
  const begun = new Set<number>();
  for (const { events } of tracks) {
    const { count, on } = notesOf(events);
    notes += count;
    for (let n = 0; n < count; n++) {
      const [tick, status] = [events.atTick[on[n]!]!, events.status[on[n]!]!];
      if ((status & 15) === percussionChannel) drumNotes++;
      lastOn = Math.max(lastOn, tick);
      begun.add(tick);
    }
  }
  return { notes, drumNotes, lastOn, onsets: begun.size };
}
