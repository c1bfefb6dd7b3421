/** How a gradual tempo change moves: evenly over the beats, or evenly over the time. */
export const shapes = ['over beats', 'over time'] as const;
export type Shape = (typeof shapes)[number];

export interface GradualChange {
  /** Quarter notes that it lasts. */
  readonly quarters: number;
  /** Quarter notes a minute at its beginning and end. */
  readonly from: number;
  readonly to: number;
  readonly shape: Shape;
}

/**
 * Seconds from the beginning of a gradual change to a quarter within it, exactly. Over beats the tempo is v = a + k·q, and
 * t = 60/k · ln(1 + k·q/a). Over time it is v = a + k·t, q = (a·t + k·t²/2)/60, solved for t.
 */
export function secondsInto({ quarters, from, to, shape }: GradualChange, q: number): number {
  if (from === to) return (q * 60) / from;
  if (shape === 'over beats') {
    const k = (to - from) / quarters;
    return (60 / k) * Math.log1p((k * q) / from);
  }
  // The whole takes quarters · 60 / mean tempo seconds.
  const whole = (quarters * 60) / ((from + to) / 2);
  const k = (to - from) / whole;
  return (120 * q) / (from + Math.sqrt(from * from + 120 * k * q));
}
