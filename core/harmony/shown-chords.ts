import { lineEnd } from './read-chord.ts';
import type { ChordPoint } from './typed-chords.ts';

/** A chord as it is told from what sounds, as far as it is shown. */
export interface ToldName {
  readonly atTick: number;
  readonly toTick: number;
  readonly name: string;
}

/**
 * The chords that are shown over a song, in tick order: those that are written, and where nothing is, before
 * the line and behind its ends, those that are told.
 */
export function shownChords(
  written: readonly ChordPoint[],
  told: readonly ToldName[],
): ChordPoint[] {
  const gaps = written.flatMap(({ atTick, text }, n) =>
    text === lineEnd ? [{ from: atTick, to: written[n + 1]?.atTick ?? Infinity }] : [],
  );
  const before = { from: 0, to: written[0]?.atTick ?? Infinity };
  return [
    ...written.filter(({ text }) => text !== lineEnd),
    ...[before, ...gaps].flatMap(({ from, to }) =>
      told
        .filter((c) => c.toTick > from && c.atTick < to)
        .map((c) => ({ atTick: Math.max(c.atTick, from), text: c.name })),
    ),
  ].sort((a, b) => a.atTick - b.atTick);
}
