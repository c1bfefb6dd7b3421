import { max } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import type { TrackView } from '#contracts/songs.ts';
import type { Draw } from './canvas.tsx';

/** Lowest and highest key of the pitch ladder that all rows share: the piano's. */
const ladder = { low: 21, high: 108 };

/** Range of a part on the ladder; lines at the C's, middle C stronger. */
export const drawPitch =
  (pitch: TrackView['pitch']): Draw =>
  (c, width, height, inks) => {
    const x = scaleLinear([ladder.low, ladder.high], [1, width - 1]).clamp(true);
    for (let key = 24; key <= 108; key += 12) {
      c.fillStyle = key === 60 ? inks.faint : inks.line;
      c.fillRect(Math.round(x(key)), key === 60 ? 2 : 5, 1, height - (key === 60 ? 4 : 10));
    }
    if (!pitch) return;
    c.strokeStyle =
      pitch.lowest < ladder.low || pitch.highest > ladder.high ? inks.ochre : inks.stitch;
    c.lineWidth = 5;
    c.lineCap = 'round';
    c.beginPath();
    c.moveTo(x(pitch.lowest), height / 2);
    c.lineTo(Math.max(x(pitch.highest), x(pitch.lowest) + 0.5), height / 2);
    c.stroke();
  };

/** Enough notes to tell, and every one as loud as the others. */
export const isFlat = ({ velocity, notes }: Pick<TrackView, 'velocity' | 'notes'>): boolean =>
  velocity?.distinct === 1 && notes > 4;

/** How loud, in sixteen bins on one scale; a part with a single velocity stands out in ochre. */
export const drawVelocity =
  (velocity: TrackView['velocity'], flat: boolean): Draw =>
  (c, width, height, inks) => {
    c.fillStyle = inks.line;
    c.fillRect(0, height - 1, width, 1);
    if (!velocity) return;
    const tall = scaleLinear([0, max(velocity.bins) ?? 1], [0, height - 2]);
    const step = width / 16;
    c.fillStyle = flat ? inks.ochre : inks.stitch;
    velocity.bins.forEach((n, i) => {
      if (n === 0) return;
      const high = Math.max(1.5, tall(n));
      c.fillRect(i * step, height - 1 - high, step - 1, high);
    });
  };

/** Where in the bars a part plays: stitches whose height is how many notes sound. */
export const drawActivity =
  (activity: readonly number[], marked: readonly number[] = []): Draw =>
  (c, width, height, inks) => {
    c.fillStyle = inks.line;
    c.fillRect(0, height - 1, width, 1);
    const most = Math.max(1, ...activity);
    const step = width / activity.length;
    c.fillStyle = inks.stitch;
    activity.forEach((n, i) => {
      if (n === 0) return;
      const tall = 3 + (height - 6) * Math.sqrt(n / most);
      c.fillRect(i * step, height - 1 - tall, Math.max(0.7, step - (step > 3 ? 0.8 : 0)), tall);
    });
    c.fillStyle = inks.ochre;
    for (const part of marked) c.fillRect(Math.min(width - 2, part * width), 0, 2, height - 1);
  };
