import { boundText } from '../../../units/bounds.ts';
import { recognised } from '../../../timing/coarseness.ts';
import { withinSteps, type FewSteps, type TimePoint } from '../../../timing/few-steps.ts';
import { gradualRuns, type GradualRun } from '../../../timing/gradual-runs.ts';
import { gradualSteps } from '../../../timing/gradual-steps.ts';
import { shredsIn } from '../../../timing/shreds.ts';
import { tempoMap, ticksToSeconds } from '../../../timing/tempo-map.ts';
import type { TempoPoint } from '../../../timing/timing.ts';

/** A change in fewer steps: they stand for the tempo points from `first` to `last`. */
export interface ThinnedChange {
  readonly first: number;
  readonly last: number;
  readonly steps: FewSteps['steps'];
  /** What it is, in words behind a number of steps. */
  readonly words: string;
}

/** Steps of a change that is in few already are drawn anew where a fifth of them is saved. */
const worthwhile = 0.8;
/** With less of the error left to it than this a change is not drawn anew. */
const leastRoom = 0.1;

/**
 * Gradual changes among tempo points in fewer steps, in order. Every tick of the song stays within `error`
 * seconds of where it was: what one change leaves is made up for by the next, and errors do not add up.
 * Only where `most` steps cannot hold that it grows.
 */
export function thinned(
  tempos: readonly TempoPoint[],
  ppq: number,
  error: number,
  most: number,
): ThinnedChange[] {
  const map = tempoMap(tempos, { kind: 'ppq', ticksPerQuarter: ppq });
  const done: ThinnedChange[] = [];
  // How much later than in the file what follows begins by now, in seconds.
  let late = 0;
  for (const part of parts(tempos, ppq)) {
    const { first, last } = part;
    if (first < (done.at(-1)?.last ?? 0)) continue;
    const line = tempos
      .slice(first, last + 1)
      .map((p) => ({ atTick: p.atTick, seconds: ticksToSeconds(map, p.atTick) }));
    const made = part.shred
      ? withinSteps(line, ppq, error, most, line[0]!.seconds + late)
      : again(part.run!, line, late, ppq, error, most);
    if (!made || made.steps.length >= last - first) continue;
    done.push({ first, last, steps: made.steps, words: part.words });
    late +=
      timeOf(made.steps, line.at(-1)!.atTick, ppq) - (line.at(-1)!.seconds - line[0]!.seconds);
  }
  return done;
}

interface Part {
  readonly first: number;
  readonly last: number;
  readonly shred: boolean;
  readonly run?: GradualRun;
  readonly words: string;
}

/**
 * Changes that may be in too many steps, by where they begin: shredded ones, and others for a receiver that
 * takes fewer still.
 */
function parts(tempos: readonly TempoPoint[], ppq: number): Part[] {
  const runs = gradualRuns(tempos, ppq);
  const shreds = shredsIn(tempos, ppq).map((shred): Part => {
    const run = runs.find((r) => r.first <= shred.first + 1 && r.last >= shred.last - 1);
    if (!run) return { first: shred.first, last: shred.last, shred: true, words: '' };
    // A change arrives at the tempo behind its last shred.
    const words = `: one gradual change from ${bpmOf(run.from)} to ${bpmOf(run.to)} BPM, which they followed within ${boundText(run.deviation * 1000)} ms`;
    return {
      first: Math.min(run.first, shred.first),
      last: Math.max(run.last, shred.last),
      shred: true,
      words,
    };
  });
  const others = runs
    .filter((run) => !shreds.some((s) => s.first < run.last && run.first < s.last))
    .map((run): Part => ({
      first: run.first,
      last: run.last,
      shred: false,
      run,
      words: `: the change from ${bpmOf(run.from)} to ${bpmOf(run.to)} BPM`,
    }));
  return [...shreds, ...others].sort((a, b) => a.first - b.first);
}

/**
 * Steps of a change that is in few already. What is near a closed form keeps to it, however often it is
 * thinned, as far as the error leaves room; what is not keeps to its steps.
 */
function again(
  run: GradualRun,
  line: readonly TimePoint[],
  late: number,
  ppq: number,
  error: number,
  most: number,
): FewSteps | undefined {
  const steps = run.last - run.first;
  const room = error - run.deviation - Math.abs(late);
  const close = run.deviation <= recognised;
  if (steps <= most && close && room < error * leastRoom) return undefined;
  const made = close
    ? gradualSteps(run, run.fromTick, run.toTick, ppq, {
        error: Math.max(room, error * leastRoom),
        most,
      })
    : withinSteps(line, ppq, error, most, line[0]!.seconds + late);
  return steps <= most && made.steps.length > steps * worthwhile ? undefined : made;
}

/** Seconds from the first of some steps to a tick. */
function timeOf(steps: FewSteps['steps'], toTick: number, ppq: number): number {
  let sum = 0;
  for (const [n, { atTick, tempo }] of steps.entries())
    sum += ((steps[n + 1]?.atTick ?? toTick) - atTick) * tempo;
  return sum / (ppq * 1_000_000);
}

const bpmOf = (bpm: number): number => Math.round(bpm * 100) / 100;
