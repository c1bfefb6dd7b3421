/**
 * How a gradual tempo change moves: evenly over the beats, evenly over the time, or by the same ratio from
 * beat to beat.
 */
export const shapes = ['over beats', 'over time', 'in proportion'] as const;
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
 * Seconds from the beginning of a gradual change to a quarter within it, exactly. Over beats the tempo is v
 * = a + k·q, and t = 60/k · ln(1 + k·q/a). Over time it is v = a + k·t, q = (a·t + k·t²/2)/60, solved for
 * t. In proportion it is v = a · e^(k·q), and t = 60/(a·k) · (1 − e^(−k·q)).
 */
export function secondsInto({ quarters, from, to, shape }: GradualChange, q: number): number {
  if (from === to) return (q * 60) / from;
  if (shape === 'over beats') {
    const k = (to - from) / quarters;
    return (60 / k) * Math.log1p((k * q) / from);
  }
  if (shape === 'in proportion') {
    const k = Math.log(to / from) / quarters;
    return (-60 / (from * k)) * Math.expm1(-k * q);
  }
  // The whole takes quarters · 60 / mean tempo seconds.
  const whole = (quarters * 60) / ((from + to) / 2);
  const k = (to - from) / whole;
  return (120 * q) / (from + Math.sqrt(from * from + 120 * k * q));
}

/** The tempo at a part (0–1) of a change's quarters. */
export function tempoWithin(
  { from, to, shape }: Omit<GradualChange, 'quarters'>,
  part: number,
): number {
  if (shape === 'over beats') return from + (to - from) * part;
  return shape === 'over time'
    ? Math.sqrt(from ** 2 + (to ** 2 - from ** 2) * part)
    : from * (to / from) ** part;
}
