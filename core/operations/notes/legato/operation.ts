import { z } from 'zod';
import { keySwitchesOf } from '../../../instruments/key-switches.ts';
import { retimeNotes } from '../../../edit/retime.ts';
import { switchesIn, switchWords } from '../../../edit/switches.ts';
import { counted, inTracks, rewriteTracks, totalOf, within } from '../../../edit/rewrite.ts';
import type { Events } from '../../../smf/events.ts';
import { notesOf } from '../../../song/notes.ts';
import type { TickSpan } from '../../../song/scope.ts';
import type { Song } from '../../../song/song.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { quarterTicks } from '../../../timing/meter-map.ts';
import { secondsToExactTicks, tempoMap, ticksToSeconds } from '../../../timing/tempo-map.ts';
import { defineOperation } from '../../operation.ts';

/** Notes nearer together than this part of a quarter are one chord. */
const chordShare = 1 / 16;

export const notesLegato = defineOperation({
  id: 'notes.legato',
  version: 1,
  title: 'Join notes',
  summary:
    'Lets each note or chord end where the next begins, a little behind it or a little before it; repeated notes stand apart, and rests stay rests.',
  group: 'notes',
  scope: 'events',
  takesRows: true,
  settings: z.strictObject({
    how: z.enum(['meet', 'overlap', 'gap']).default('meet').meta({
      title: 'They',
      description: 'Overlap is for instruments that slur where notes overlap.',
    }),
    amount: z.number().min(0).max(5000).default(20).meta({
      title: 'By',
      description: 'For overlap and gap; an overlap is never more than half of the next note.',
    }),
    unit: z.enum(['ms', 'ticks']).default('ms').meta({ title: 'In' }),
    repeats: z.number().min(0).max(5000).default(10).meta({
      title: 'Gap between repeated notes',
      description: 'In the same unit: a key is struck anew only after it was released.',
    }),
    rests: z.number().min(0).max(64).default(1).meta({
      title: 'Bridges rests up to',
      unit: 'quarters',
      description: 'Longer ones stay rests.',
    }),
  }),
  apply(song, { how, amount, unit, repeats, rests }, scope) {
    const shift = shifter(song, unit);
    const quarter = quarterTicks(song.division);
    return rewriteTracks(song, scope, (events, span, track) => {
      const switches = keySwitchesOf(track.instrument);
      const next = nextOf(events, span, quarter * chordShare, switches);
      if (next.size === 0) return { left: 'It has no notes there that others follow.' };
      const done = retimeNotes(events, span, ({ from, to }, row) => {
        const follows = next.get(row);
        // What outlasts the next is a voice of its own that is held.
        if (!follows || follows.from - to > rests * quarter || to > follows.to) return { from, to };
        const half = follows.from + Math.floor((follows.to - follows.from) / 2);
        const wanted = follows.again
          ? shift(follows.from, -repeats)
          : how === 'meet'
            ? follows.from
            : how === 'gap'
              ? shift(follows.from, -amount)
              : Math.min(half, shift(follows.from, amount));
        return { from, to: Math.max(from + 1, wanted) };
      });
      const words = switchWords(switchesIn(track, span).length, false);
      if ('left' in done || !words) return done;
      return { ...done, detail: [done.detail, words].filter(Boolean).join(', ') };
    });
  },
  describe: ({ how }, report) =>
    `Joined ${counted(totalOf(report), 'note')} ${inTracks(report)} (${how})`,
  examples: [
    { says: 'Each ends where the next begins', settings: {} },
    { says: 'Overlapping by 30 ms', settings: { how: 'overlap', amount: 30 } },
    { says: 'Ten ticks apart', settings: { how: 'gap', amount: 10, unit: 'ticks' } },
  ],
});

/** A tick moved by an amount, as exactly as ticks can say. */
function shifter(song: Song, unit: 'ms' | 'ticks'): (tick: number, by: number) => number {
  if (unit === 'ticks') return (tick, by) => Math.round(tick + by);
  const map = tempoMap(timingOf(song).tempos, song.division);
  return (tick, by) => Math.round(secondsToExactTicks(map, ticksToSeconds(map, tick) + by / 1000));
}

interface Following {
  readonly from: number;
  /** Where the first of what follows ends. */
  readonly to: number;
  /** The same key follows. */
  readonly again: boolean;
}

/** Notes of a channel that begin together: their keys, and the rows of their note-ons. */
interface Chord {
  readonly from: number;
  to: number;
  readonly keys: Set<number>;
  readonly rows: number[];
}

/** For each note-on row of the span what follows its chord on its channel, whether that is in the span or not. */
function nextOf(
  events: Events,
  span: TickSpan,
  near: number,
  switches: ReadonlySet<number>,
): Map<number, Following> {
  const notes = notesOf(events);
  const chords = new Map<number, Chord[]>();
  for (let n = 0; n < notes.count; n++) {
    const on = notes.on[n]!;
    const [key, tick, channel] = [events.data1[on]!, events.atTick[on]!, events.status[on]! & 15];
    if (switches.has(key)) continue;
    const to = notes.off[n] === -1 ? Infinity : events.atTick[notes.off[n]!]!;
    const its = chords.get(channel) ?? [];
    chords.set(channel, its);
    const last = its.at(-1);
    if (last && tick - last.from <= near) {
      last.keys.add(key);
      last.rows.push(on);
      last.to = Math.min(last.to, to);
    } else its.push({ from: tick, to, keys: new Set([key]), rows: [on] });
  }
  const found = new Map<number, Following>();
  for (const its of chords.values())
    its.forEach(({ rows }, n) => {
      const next = its[n + 1];
      if (!next) return;
      for (const row of rows)
        if (within(span, events, row))
          found.set(row, {
            from: next.from,
            to: next.to,
            again: next.keys.has(events.data1[row]!),
          });
    });
  return found;
}
