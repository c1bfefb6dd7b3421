import { scaleLinear } from 'd3-scale';
import { shownChord } from '#core/harmony/shown.ts';
import type { ShownChord } from '../api/harmony.ts';
import type { TimingView } from '#contracts/songs.ts';
import { tempoToBpm } from '#core/units/units.ts';
import type { Tempos } from '../api/runs.ts';
import type { Draw, Inks } from './canvas.tsx';

/** Where ticks stand on a strip of equal cells; 0 is its left edge, 1 its right. */
export interface StripScale {
  at(tick: number): number;
  tickAt(part: number): number;
  /** Left edge of a bar. */
  bar(number: number): number;
}

export function stripScale({ cellTicks, bars, barsPerCell }: TimingView): StripScale {
  // The last cell is as long as the others, also where the song has fewer bars in it: its end lies behind the strip's.
  const edges = cellTicks.map((_, n) => (n * barsPerCell) / bars);
  const along = scaleLinear(cellTicks, edges).clamp(true);
  return {
    at: (tick) => Math.min(1, along(tick)),
    tickAt: (part) => Math.round(along.invert(part)),
    bar: (number) => (number - 1) / bars,
  };
}

const tagRow = 18;
const strapRow = 16;
const ruler = 38;
/** Sections that overlap more deeply than this share the last row. */
const mostStraps = 3;

/** A section in the row where it has room. */
export interface Strap {
  readonly name: string;
  readonly fromTick: number;
  readonly toTick: number;
  readonly row: number;
}

/** Sections in as few rows as keep those that overlap apart. */
export function strapsOf(sections: TimingView['sections']): Strap[] {
  const ends: number[] = [];
  return sections.map(({ name, fromTick, toTick }) => {
    const free = ends.findIndex((end) => end <= fromTick);
    const row = Math.min(mostStraps - 1, free === -1 ? ends.length : free);
    ends[row] = Math.max(ends[row] ?? 0, toTick);
    return { name, fromTick, toTick, row };
  });
}

export const strapRows = (straps: readonly Strap[]): number =>
  straps.reduce((most, s) => Math.max(most, s.row + 1), 0);

/** Height of the strip in pixels. */
export const stripHeight = (straps: readonly Strap[], chords = false): number =>
  74 + strapRows(straps) * strapRow + (chords ? chordRow : 0);

const chordRow = 15;

/** The section at a place of the strip: `part` of its width, `y` pixels down. */
export function strapAt(
  straps: readonly Strap[],
  scale: StripScale,
  part: number,
  y: number,
): Strap | undefined {
  const row = Math.floor((y - tagRow) / strapRow);
  return straps.findLast(
    (s) => s.row === row && scale.at(s.fromTick) <= part && part < scale.at(s.toTick),
  );
}

/** Tags for markers, straps for sections, a ruler of bars with meters, and the tempo as a line below. */
export const drawBars =
  (
    timing: TimingView,
    straps: readonly Strap[],
    tempos: Tempos | undefined,
    /** Undefined where they have no room. */
    chords: readonly ShownChord[] | undefined,
  ): Draw =>
  (c, width, height, inks) => {
    const scale = stripScale(timing);
    const rows = strapRows(straps) * strapRow;
    const down = rows + (chords ? chordRow : 0);
    drawTags(c, width, timing, scale, inks);
    drawStraps(c, width, straps, scale, inks);
    drawChords(c, width, chords ?? [], scale, tagRow + rows, inks);
    c.save();
    c.translate(0, down);
    drawRuler(c, width, timing, scale, inks);
    if (tempos) drawTempo(c, { width, height: height - down }, tempos, scale, inks);
    c.restore();
  };

/** Sections as straps: a band from bar to bar with its ends sewn down. */
function drawStraps(
  c: CanvasRenderingContext2D,
  width: number,
  straps: readonly Strap[],
  scale: StripScale,
  inks: Inks,
): void {
  c.font = '11.5px "Commissioner Variable", sans-serif';
  c.textBaseline = 'alphabetic';
  for (const strap of straps) {
    const [x, end] = [scale.at(strap.fromTick) * width, scale.at(strap.toTick) * width];
    const y = tagRow + strap.row * strapRow;
    c.fillStyle = inks.line;
    c.globalAlpha = 0.55;
    c.fillRect(x + 1, y + 3, Math.max(1, end - x - 2), strapRow - 6);
    c.globalAlpha = 1;
    // Too short for seams: a band of many tells that they are many.
    if (end - x < 7) continue;
    c.fillStyle = inks.stitch;
    c.fillRect(Math.round(x) + 1, y + 1, 2, strapRow - 2);
    c.fillRect(Math.round(end) - 2, y + 1, 1, strapRow - 2);
    const text = end - x > 16 ? fitted(c, strap.name, end - x - 12) : '';
    c.fillStyle = inks.ink;
    if (text) c.fillText(text, x + 7, y + strapRow - 4.5);
  }
}

/** A tick where each chord begins, and the names of as many as have room. */
function drawChords(
  c: CanvasRenderingContext2D,
  width: number,
  chords: readonly ShownChord[],
  scale: StripScale,
  top: number,
  inks: Inks,
): void {
  c.font = '11px "Commissioner Variable", sans-serif';
  c.textBaseline = 'alphabetic';
  let [drawn, free] = [-1, -Infinity];
  for (const { atTick, text } of chords) {
    const x = Math.round(scale.at(atTick) * width);
    if (x === drawn) continue;
    drawn = x;
    c.fillStyle = inks.line;
    c.fillRect(x, top + chordRow - 4, 1, 4);
    const name = shownChord(text);
    const wide = c.measureText(name).width;
    if (x < free || x + wide > width) continue;
    c.fillStyle = inks.ink;
    c.fillText(name, x + 3, top + chordRow - 5);
    free = x + wide + 8;
  }
}

/** Every how many bars a number stands, so that numbers have room. */
function numberStep(bars: number, width: number): number {
  const room = 14 + 7 * String(bars).length;
  return 2 ** Math.ceil(Math.log2(Math.max(1, (bars * room) / width)));
}

function drawRuler(
  c: CanvasRenderingContext2D,
  width: number,
  { bars, meters }: TimingView,
  scale: StripScale,
  inks: Inks,
): void {
  const step = numberStep(bars, width);
  c.font = '11px "JetBrains Mono Variable", monospace';
  c.textBaseline = 'alphabetic';
  const barWidth = width / bars;
  if (barWidth > 3) {
    c.fillStyle = inks.line;
    for (let bar = 1; bar <= bars; bar++)
      c.fillRect(Math.round(scale.bar(bar) * width), ruler - 4, 1, 4);
  }
  c.fillStyle = inks.line;
  c.fillRect(0, ruler, width, 1);
  const taken: number[] = [];
  c.fillStyle = inks.ink;
  for (const m of meters) {
    const x = scale.bar(m.bar) * width;
    if (taken.some((t) => Math.abs(t - x) < 60)) continue;
    taken.push(x);
    c.fillStyle = inks.stitch;
    c.fillRect(Math.round(x), ruler - 14, 2, 14);
    c.fillStyle = inks.ink;
    c.fillText(`${m.bar}  ${m.numerator}/${m.denominator}`, x + 5, ruler - 6);
  }
  c.fillStyle = inks.faint;
  for (let bar = 1; bar <= bars; bar += step) {
    const x = scale.bar(bar) * width;
    if (taken.some((t) => x > t - 30 && x < t + 64)) continue;
    c.fillText(String(bar), x + 3, ruler - 6);
    c.fillRect(Math.round(x), ruler - 9, 1, 9);
  }
}

/**
 * Marks as tags that hang from the top edge: markers of leather, cue points of paper, faint what is not
 * sent. A tag that would cover the next is cut.
 */
function drawTags(
  c: CanvasRenderingContext2D,
  width: number,
  { markers, cuePoints }: TimingView,
  scale: StripScale,
  inks: Inks,
): void {
  const marks = [
    ...markers.map((m) => ({ ...m, cue: false })),
    ...cuePoints.map((m) => ({ ...m, cue: true })),
  ].sort((a, b) => a.atTick - b.atTick);
  c.font = '11.5px "Commissioner Variable", sans-serif';
  let drawn = -9;
  marks.forEach((mark, i) => {
    const x = scale.at(mark.atTick) * width;
    // More marks than there are places: every third pixel still tells that they are many.
    if (x - drawn < 3) return;
    drawn = x;
    const next = marks[i + 1];
    const room = (next ? scale.at(next.atTick) * width : width) - x - 4;
    c.fillStyle = inks.faint;
    c.fillRect(Math.round(x), 0, 1, tagRow + 2);
    if (room < 14) return;
    const text = fitted(c, mark.text, room - 14);
    if (text === '') return;
    const long = c.measureText(text).width + 12;
    c.beginPath();
    c.moveTo(x, 2);
    c.lineTo(x + long, 2);
    c.lineTo(x + long - 5, 2 + tagRow / 2 - 1);
    c.lineTo(x + long, tagRow - 2);
    c.lineTo(x, tagRow - 2);
    c.closePath();
    c.globalAlpha = mark.travels ? 1 : 0.55;
    c.fillStyle = mark.cue ? inks.sheet : inks.line;
    c.fill();
    c.strokeStyle = inks.stitch;
    c.lineWidth = 1;
    if (mark.cue) c.stroke();
    c.fillStyle = inks.ink;
    c.fillText(text, x + 5, tagRow - 6);
    c.globalAlpha = 1;
  });
}

function fitted(c: CanvasRenderingContext2D, text: string, room: number): string {
  if (c.measureText(text).width <= room) return text;
  for (let n = text.length - 1; n > 0; n--)
    if (c.measureText(`${text.slice(0, n)}…`).width <= room) return `${text.slice(0, n)}…`;
  return '';
}

function drawTempo(
  c: CanvasRenderingContext2D,
  { width, height }: { width: number; height: number },
  { points: all, runs }: Tempos,
  scale: StripScale,
  inks: Inks,
): void {
  const inRun = new Set(
    runs.flatMap((r) =>
      Array.from({ length: Math.max(0, r.last - r.first - 1) }, (_, i) => r.first + 1 + i),
    ),
  );
  const starts = new Map(runs.map((r) => [r.first, r]));
  const points = all
    .map((p, i) => ({
      atTick: p.atTick,
      bpm: starts.get(i)?.from ?? tempoToBpm(p.tempo),
      to: starts.get(i)?.to,
    }))
    .filter((_, i) => !inRun.has(i));
  const values = points.flatMap((p) => (p.to === undefined ? [p.bpm] : [p.bpm, p.to]));
  const [low, high] = values.reduce(([least, most], v) => [Math.min(least, v), Math.max(most, v)], [
    Infinity,
    -Infinity,
  ] as [number, number]);
  const top = ruler + 6;
  const y = (bpm: number): number =>
    high === low
      ? (top + height - 8) / 2 + 4
      : height - 7 - ((bpm - low) / (high - low)) * (height - 10 - top);
  c.strokeStyle = inks.stitch;
  c.lineWidth = 1.5;
  c.beginPath();
  points.forEach((p, i) => {
    const x = scale.at(p.atTick) * width;
    const before = points[i - 1];
    if (before) c.lineTo(x, y(before.to ?? before.bpm));
    if (i === 0) c.moveTo(0, y(p.bpm));
    else c.lineTo(x, y(p.bpm));
  });
  c.lineTo(width, y(points.at(-1)!.to ?? points.at(-1)!.bpm));
  c.stroke();
  tempoNumbers(c, width, points, scale, y, inks);
  if (all.length > 200) {
    const text = `${all.length.toLocaleString('en')} tempo events`;
    const wide = c.measureText(text).width;
    c.fillStyle = inks.sheet;
    c.fillRect(width - wide - 14, height - 18, wide + 10, 15);
    c.fillStyle = inks.ochre;
    c.fillText(text, width - wide - 9, height - 7);
  }
}

/** Numbers where the tempo settles: points that hold for long enough to be read. */
function tempoNumbers(
  c: CanvasRenderingContext2D,
  width: number,
  points: readonly { atTick: number; bpm: number }[],
  scale: StripScale,
  y: (bpm: number) => number,
  inks: Inks,
): void {
  c.font = '11px "JetBrains Mono Variable", monospace';
  c.fillStyle = inks.faint;
  c.strokeStyle = inks.sheet;
  c.lineWidth = 3;
  c.lineJoin = 'round';
  points.forEach((p, i) => {
    const x = scale.at(p.atTick) * width;
    const next = points[i + 1];
    const room = (next ? scale.at(next.atTick) : 1) * width - x;
    if (room < 62) return;
    const text = `${Math.round(p.bpm * 100) / 100}${i === 0 ? ' BPM' : ''}`;
    const over = y(p.bpm) - 4 > ruler + 10;
    const place = [x + 4, over ? y(p.bpm) - 3 : y(p.bpm) + 11] as const;
    // The line passes behind its numbers.
    c.strokeText(text, ...place);
    c.fillText(text, ...place);
  });
}
