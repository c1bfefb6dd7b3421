/** A point of a line of time: at a tick so many seconds have gone. */
export interface TimePoint {
  readonly atTick: number;
  readonly seconds: number;
}

export interface FewSteps {
  readonly steps: readonly { readonly atTick: number; readonly tempo: number }[];
  /** Greatest distance in seconds between the line and what the steps say, at any of its points. */
  readonly error: number;
}

const slowest = 0xffffff;

/**
 * Tempo steps that follow a line of time within `error` seconds at each of its points, each as long as it
 * can be: from where a step begins, tempos that pass every point so far near enough are a narrowing range;
 * the step ends when none is left. Tempos are whole microseconds a quarter, as files say them. The last
 * step aims at the last point, so that what follows stays where it was. `begun`: seconds that have gone at
 * the first point, where what stands before it is not exactly on the line: it is made up for.
 */
export function fewSteps(
  line: readonly TimePoint[],
  ticksPerQuarter: number,
  error: number,
  begun = line[0]!.seconds,
): FewSteps {
  const steps: { atTick: number; tempo: number }[] = [];
  const unit = ticksPerQuarter * 1_000_000;
  let at = 0;
  let seconds = begun;
  let worst = Math.abs(begun - line[0]!.seconds);
  while (at < line.length - 1) {
    const start = line[at]!.atTick;
    let low = 1;
    let high = slowest;
    let best = {
      end: at + 1,
      tempo: clamp(
        Math.round(((line[at + 1]!.seconds - seconds) * unit) / (line[at + 1]!.atTick - start)),
        1,
        slowest,
      ),
    };
    for (let i = at + 1; i < line.length; i++) {
      const ticks = line[i]!.atTick - start;
      low = Math.max(low, Math.ceil(((line[i]!.seconds - error - seconds) * unit) / ticks));
      high = Math.min(high, Math.floor(((line[i]!.seconds + error - seconds) * unit) / ticks));
      if (low > high) break;
      best = {
        end: i,
        tempo: clamp(Math.round(((line[i]!.seconds - seconds) * unit) / ticks), low, high),
      };
    }
    steps.push({ atTick: start, tempo: best.tempo });
    for (let i = at + 1; i <= best.end; i++)
      worst = Math.max(
        worst,
        Math.abs(seconds + ((line[i]!.atTick - start) * best.tempo) / unit - line[i]!.seconds),
      );
    seconds += ((line[best.end]!.atTick - start) * best.tempo) / unit;
    at = best.end;
  }
  return { steps, error: worst };
}

const clamp = (value: number, low: number, high: number): number =>
  Math.min(high, Math.max(low, value));

/** The least error with which at most so many steps follow the line, to a tenth of a millisecond. */
export function withinSteps(
  line: readonly TimePoint[],
  ticksPerQuarter: number,
  error: number,
  most: number,
  begun = line[0]!.seconds,
): FewSteps {
  let made = fewSteps(line, ticksPerQuarter, error, begun);
  if (made.steps.length <= most) return made;
  let low = error;
  let high = Math.max(error * 2, 0.001);
  while ((made = fewSteps(line, ticksPerQuarter, high, begun)).steps.length > most && high < 1e6)
    high *= 2;
  while (high - low > 0.0001) {
    const middle = (low + high) / 2;
    const tried = fewSteps(line, ticksPerQuarter, middle, begun);
    if (tried.steps.length <= most) [high, made] = [middle, tried];
    else low = middle;
  }
  return made;
}
