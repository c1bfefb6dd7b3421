import type { SongView } from '#contracts/songs.ts';
import { lineEnd, readChord } from '#core/harmony/read-chord.ts';
import { asTyped, type ChordPoint } from '#core/harmony/typed-chords.ts';
import { chordIn } from '#core/timing/chord-texts.ts';
import { barTick, type MeterMap } from '#core/timing/meter-map.ts';
import type { StepAsked } from '../api/queries.ts';

/** Of longer lines a song lists only the first. */
const mostListed = 5000;
/** Whether all of the line is here: else it cannot be sent or kept as a whole. */
export const isWhole = (line: ShownLine): boolean => line.points.length < mostListed;

/** The chord line of a song as it is shown. */
export interface ShownLine {
  readonly points: readonly (ChordPoint & { readonly travels: boolean })[];
  /** Whether new chords are sent, as those that are there. */
  readonly sent: boolean;
}

export function lineOf({ timing }: SongView): ShownLine {
  const points = timing.chords.map(({ atTick, text, travels }) => ({
    atTick,
    text: chordIn(text) ?? text,
    travels,
  }));
  return { points, sent: points.at(-1)?.travels ?? true };
}

/** The chord that is in force at a tick; none behind an end of the line. */
export function inForce(points: readonly ChordPoint[], tick: number): ChordPoint | undefined {
  const said = points.findLast((p) => p.atTick <= tick);
  return said?.text === lineEnd ? undefined : said;
}

/** What is typed in a bar; '' where nothing begins in it, or where the line ends with the bar before it. */
export function typedIn(line: ShownLine, meters: MeterMap, bar: number): string {
  const typed = asTyped(line.points, meters, bar, bar);
  return typed === '%' || typed === lineEnd ? '' : typed;
}

/** Bars as they are copied: what goes on into the first of them is said. */
export function copied(line: ShownLine, meters: MeterMap, from: number, to: number): string {
  const typed = asTyped(line.points, meters, from, to);
  const before = inForce(line.points, barTick(meters, from));
  return typed.startsWith('%') && before ? before.text + typed.slice(1) : typed;
}

/** The first of some typed chords that is none; undefined where all are. */
export const unreadable = (typed: string): string | undefined =>
  typed
    .split(/[|\s]+/)
    .find((symbol) => symbol !== '' && !/^[.\-/%_]$/.test(symbol) && !readChord(symbol));

/** The step that writes what was typed into a bar and, where it has several bars, those behind it. */
export const writing = (line: ShownLine, bar: number, typed: string): StepAsked =>
  typed.trim() === ''
    ? emptying(bar, bar)
    : {
        operation: 'chords.set',
        settings: { typed, sent: line.sent },
        scope: { tracks: 'all', bars: { from: bar, to: bar } },
      };

/** The step that sends the whole line with the song, or keeps it here. */
export const sending = (line: ShownLine, sent: boolean): StepAsked => ({
  operation: 'chords.set',
  settings: {
    from: 'points',
    points: line.points.map((p) => ({ atTick: p.atTick, chord: p.text })),
    sent,
  },
  scope: { tracks: 'all' },
});

export const emptying = (from: number, to: number): StepAsked => ({
  operation: 'chords.set',
  settings: { from: 'nothing' },
  scope: { tracks: 'all', bars: { from, to } },
});

/** The step that moves the chords of some bars to others; whatever lies between stays, and no other bar is touched. */
export function moving(
  line: ShownLine,
  meters: MeterMap,
  { from, to }: { from: number; to: number },
  at: number,
): StepAsked {
  const [begin, end] = [barTick(meters, from), barTick(meters, to + 1)];
  const landing = barTick(meters, at);
  const length = end - begin;
  const first = inForce(line.points, begin);
  const taken = line.points.filter((p) => p.atTick >= begin && p.atTick < end);
  const its = first && first.atTick < begin ? [{ ...first, atTick: begin }, ...taken] : taken;
  const bars = { from: Math.min(from, at), to: Math.max(to, at + to - from) };
  const [low, high] = [barTick(meters, bars.from), barTick(meters, bars.to + 1)];
  const stay = line.points.filter(
    ({ atTick }) =>
      atTick >= low &&
      atTick < high &&
      (atTick < begin || atTick >= end) &&
      (atTick < landing || atTick >= landing + length),
  );
  const points = [...stay, ...its.map((p) => ({ ...p, atTick: p.atTick - begin + landing }))].sort(
    (a, b) => a.atTick - b.atTick,
  );
  return {
    operation: 'chords.set',
    settings: {
      from: 'points',
      points: points.map((p) => ({ atTick: p.atTick, chord: p.text })),
      sent: line.sent,
    },
    scope: { tracks: 'all', bars },
  };
}
