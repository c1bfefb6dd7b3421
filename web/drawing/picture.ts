import type { Draw, Inks } from './canvas.tsx';
import type { Picture, Stroke } from '../desk/picture.ts';

/** Weight of a stitch in pixels by its velocity. */
export const stitchWeight = (velocity: number): number => 0.8 + (velocity / 127) * 2.4;

/** Notes or values of a stretch: as they are in the line colour, as they would be in ink on top. */
export const drawPicture =
  ({ from, to, notes, lane }: Picture, what: 'notes' | 'lane'): Draw =>
  (c, width, height, inks) => {
    const x = (tick: number): number => ((tick - from) / (to - from)) * width;
    if (what === 'notes' && notes) drawStitches(c, height, x, notes.before, notes.after, inks);
    if (what === 'lane' && lane) {
      const top = lane.what === 'bend' ? 16_383 : 127;
      const y = (value: number): number => height - 2 - (value / top) * (height - 4);
      for (const [points, ink, weight] of [
        [lane.before, inks.ochre, 1],
        [lane.after, inks.ink, 1.4],
      ] as const)
        drawSteps(
          c,
          width,
          points.map(([tick, value]) => [x(tick), y(value)] as const),
          ink,
          weight,
        );
    }
  };

function drawStitches(
  c: CanvasRenderingContext2D,
  height: number,
  x: (tick: number) => number,
  before: readonly Stroke[],
  after: readonly Stroke[],
  inks: Inks,
): void {
  const keys = [...before, ...after].map((n) => n[2]);
  const low = keys.reduce((a, b) => Math.min(a, b), 127) - 1;
  const high = keys.reduce((a, b) => Math.max(a, b), 0) + 1;
  const y = (key: number): number =>
    height - 3 - ((key - low) / Math.max(1, high - low)) * (height - 6);
  c.lineCap = 'butt';
  for (const [list, ink] of [
    [before, inks.ochre],
    [after, inks.ink],
  ] as const) {
    c.strokeStyle = ink;
    for (const [start, end, key, velocity] of list) {
      c.lineWidth = stitchWeight(velocity);
      c.beginPath();
      c.moveTo(x(start), y(key));
      c.lineTo(Math.max(x(start) + 1.5, x(end) - 1), y(key));
      c.stroke();
    }
  }
}

/** Values that hold until the next. */
function drawSteps(
  c: CanvasRenderingContext2D,
  width: number,
  points: readonly (readonly [number, number])[],
  ink: string,
  weight: number,
): void {
  if (points.length === 0) return;
  c.strokeStyle = ink;
  c.lineWidth = weight;
  c.beginPath();
  points.forEach(([x, y], i) => {
    if (i === 0) return c.moveTo(x, y);
    c.lineTo(x, points[i - 1]![1]);
    c.lineTo(x, y);
  });
  c.lineTo(width, points.at(-1)![1]);
  c.stroke();
}
