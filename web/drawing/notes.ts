import { shownChord } from '#core/harmony/shown.ts';
import type { ShownChord } from '../api/harmony.ts';
import type { MeterMap } from '#core/timing/meter-map.ts';
import { barTick, meterAt, positionAt } from '#core/timing/meter-map.ts';
import { notesBetween, type NoteTable } from '#core/song/note-table.ts';
import type { Inks } from './canvas.tsx';
import { levelFor, type Density } from '../plane/density.ts';
import { stitchWeight } from './picture.ts';
import type { Plane } from '../plane/plane.ts';

/** More notes in view than this are drawn as density. */
const mostSingle = 6000;

/** Width of the names of the keys at the left. */
export const gutter = 46;

/** What a drag would make of the selected notes. */
export interface Ghost {
  readonly ticks: number;
  readonly keys: number;
  readonly lengthen: number;
}

export interface NoteScene {
  readonly table: NoteTable;
  readonly density: Density;
  readonly meters: MeterMap;
  /** Index of the track that is drawn in ink; the others are faint. */
  readonly focus: number;
  /** 1 for every selected note. */
  readonly selected: Uint8Array;
  readonly ghost: Ghost | undefined;
  /** A note being drawn, or a rectangle being pulled, in pixels. */
  readonly drawing:
    { readonly from: number; readonly to: number; readonly key: number } | undefined;
  readonly rubber:
    | { readonly x: number; readonly y: number; readonly width: number; readonly height: number }
    | undefined;
  readonly bars: { readonly from: number; readonly to: number } | undefined;
  keyName(key: number): string;
  /** Whether a note is not of the key that is told around it; undefined where nothing is told. */
  readonly outside?: ((track: number, tick: number, key: number) => boolean) | undefined;
}

/** Lines of the plane: bars as lines, beats as seams where there is room, the octaves across. */
export function drawGrid(
  c: CanvasRenderingContext2D,
  plane: Plane,
  height: number,
  { meters, bars, keys }: Pick<NoteScene, 'meters' | 'bars'> & { keys: boolean },
  inks: Inks,
): void {
  const { width } = plane;
  if (bars) {
    const [from, to] = [plane.x(barTick(meters, bars.from)), plane.x(barTick(meters, bars.to + 1))];
    c.fillStyle = inks.soft;
    c.fillRect(from, 0, to - from, height);
  }
  if (keys) {
    c.fillStyle = inks.line;
    for (let key = 0; key <= 127; key += 12)
      c.fillRect(0, Math.round(plane.y(key) + plane.keyHeight / 2), width, 1);
    c.globalAlpha = 0.35;
    if (plane.keyHeight >= 9)
      for (let key = 0; key <= 127; key++)
        if (key % 12 === 5) c.fillRect(0, Math.round(plane.y(key) + plane.keyHeight / 2), width, 1);
    c.globalAlpha = 1;
  }
  drawBarLines(c, plane, height, meters, inks);
  if (keys) drawBarNumbers(c, plane, meters, inks);
}

function drawBarLines(
  c: CanvasRenderingContext2D,
  plane: Plane,
  height: number,
  meters: MeterMap,
  inks: Inks,
): void {
  const { width } = plane;
  let bar = positionAt(meters, Math.max(0, plane.tick)).bar;
  for (let drawn = 0; drawn < 2000; drawn++) {
    const tick = barTick(meters, bar);
    const x = plane.x(tick);
    if (x > width) break;
    const span = meterAt(meters, tick);
    const barWidth = span.barTicks / plane.ticksPerPixel;
    c.fillStyle = inks.line;
    if (x >= 0) c.fillRect(Math.round(x), 0, 1, height);
    const beatWidth = span.beatTicks / plane.ticksPerPixel;
    if (beatWidth >= 14) {
      c.strokeStyle = inks.line;
      c.lineWidth = 1;
      c.setLineDash([2, 4]);
      for (let beat = 1; beat < span.numerator; beat++) {
        const at = Math.round(x + beat * beatWidth) + 0.5;
        c.beginPath();
        c.moveTo(at, 0);
        c.lineTo(at, height);
        c.stroke();
      }
      c.setLineDash([]);
    }
    // Where bars are finer than a few pixels only every so many are drawn.
    bar += barWidth >= 8 ? 1 : 2 ** Math.ceil(Math.log2(8 / Math.max(barWidth, 1e-6)));
  }
}

/** Numbers of the bars along the upper edge, as many as have room. */
function drawBarNumbers(
  c: CanvasRenderingContext2D,
  plane: Plane,
  meters: MeterMap,
  inks: Inks,
): void {
  c.font = '10.5px "JetBrains Mono Variable", monospace';
  let free = -1;
  for (let bar = positionAt(meters, Math.max(0, plane.tick)).bar; ; bar++) {
    const x = plane.x(barTick(meters, bar));
    if (x > plane.width) return;
    if (x < 0 || x < free) {
      // Far out there are thousands of bars: those that have no room are passed over together.
      const width = plane.x(barTick(meters, bar + 1)) - x;
      if (x < free && width > 0) bar += Math.max(0, Math.floor((free - x) / width) - 1);
      continue;
    }
    c.fillStyle = inks.faint;
    c.fillText(String(bar), x + 4, 11);
    free = x + 34;
  }
}

/** Chords along the upper edge, under the numbers of the bars, as many as have room. */
export function drawChordNames(
  c: CanvasRenderingContext2D,
  plane: Plane,
  chords: readonly ShownChord[],
  inks: Inks,
): void {
  c.font = '12px "Commissioner Variable", sans-serif';
  c.textBaseline = 'alphabetic';
  let free = -Infinity;
  chords.forEach(({ atTick, text }, n) => {
    const next = chords[n + 1];
    if (atTick > plane.lastTick || (next && next.atTick <= plane.tick)) return;
    const x = Math.max(0, plane.x(atTick)) + 4;
    const name = shownChord(text);
    const wide = c.measureText(name).width;
    const room = next ? plane.x(next.atTick) - x : Infinity;
    if (x < free || wide > room) return;
    c.fillStyle = inks.sheet;
    c.globalAlpha = 0.85;
    c.fillRect(x - 3, 15, wide + 6, 16);
    c.globalAlpha = 1;
    c.fillStyle = inks.ink;
    c.fillText(name, x, 27);
    free = x + wide + 6;
  });
}

/** A dot under the beginning of notes that are not of the key. */
function drawOutside(
  c: CanvasRenderingContext2D,
  plane: Plane,
  { table, outside }: NoteScene,
  first: number,
  end: number,
  inks: Inks,
): void {
  if (!outside || plane.keyHeight < 5) return;
  c.fillStyle = inks.ochre;
  for (let n = first; n < end; n++) {
    if (!outside(table.track[n]!, table.from[n]!, table.key[n]!)) continue;
    const [x, y] = [plane.x(table.from[n]!), plane.y(table.key[n]!)];
    if (y < -20 || y > plane.height + 20) continue;
    c.beginPath();
    c.arc(x - 4, y, 2.2, 0, 2 * Math.PI);
    c.fill();
  }
}

/** Notes as stitches: ink for the track in focus, faint for the others, amber for the selected; weight is velocity. */
export function drawNotes(
  c: CanvasRenderingContext2D,
  plane: Plane,
  scene: NoteScene,
  inks: Inks,
): void {
  const { table, selected, ghost } = scene;
  const { first, end } = notesBetween(table, plane.tick, plane.lastTick);
  if (end - first > mostSingle) drawDensity(c, plane, scene.density, inks);
  else {
    // One colour after the other: changing it costs more than a stitch.
    for (const pass of [0, 1] as const) {
      c.fillStyle = pass === 0 ? inks.other : inks.stitch;
      for (let n = first; n < end; n++)
        if (!selected[n] && (table.track[n] === scene.focus) === (pass === 1))
          stitch(c, plane, table, n);
    }
    drawOutside(c, plane, scene, first, end, inks);
  }
  c.fillStyle = inks.amber;
  for (let n = first, drawn = 0; n < end && drawn < mostSingle * 2; n++) {
    if (!selected[n]) continue;
    drawn++;
    stitch(c, plane, table, n, ghost);
  }
  drawHelp(c, plane, scene, inks);
}

const still: Ghost = { ticks: 0, keys: 0, lengthen: 0 };

function stitch(
  c: CanvasRenderingContext2D,
  plane: Plane,
  table: NoteTable,
  n: number,
  { ticks, keys, lengthen }: Ghost = still,
): void {
  const y = plane.y(table.key[n]! + keys);
  if (y < -20 || y > plane.height + 20) return;
  const x = plane.x(table.from[n]! + ticks);
  const to = plane.x(Math.max(table.from[n]! + 1, table.to[n]! + lengthen) + ticks);
  const weight = Math.max(1.2, stitchWeight(table.velocity[n]!) * Math.min(2, plane.keyHeight / 5));
  c.fillRect(x, y - weight / 2, Math.max(1.5, to - x - 1), weight);
  // The needle's hole: where the note begins.
  if (plane.keyHeight >= 7) c.fillRect(x, y - plane.keyHeight * 0.32, 2, plane.keyHeight * 0.64);
}

function drawHelp(
  c: CanvasRenderingContext2D,
  plane: Plane,
  { drawing, rubber }: NoteScene,
  inks: Inks,
): void {
  if (drawing) {
    const y = plane.y(drawing.key);
    c.fillStyle = inks.amber;
    c.fillRect(
      plane.x(drawing.from),
      y - 2.5,
      Math.max(2, plane.x(drawing.to) - plane.x(drawing.from)),
      5,
    );
  }
  if (rubber) {
    c.strokeStyle = inks.amber;
    c.setLineDash([4, 3]);
    c.strokeRect(rubber.x + 0.5, rubber.y + 0.5, rubber.width, rubber.height);
    c.setLineDash([]);
  }
}

/** One column a pixel, one row a key, from the level that fits: the cost depends on the size of the view alone. */
function drawDensity(
  c: CanvasRenderingContext2D,
  plane: Plane,
  density: Density,
  inks: Inks,
): void {
  const { level, cells } = levelFor(density, plane.ticksPerPixel);
  const width = Math.ceil(plane.width);
  const [highest, lowest] = [plane.keyAt(0), plane.keyAt(plane.height)];
  c.fillStyle = inks.stitch;
  const perCell = cells / density.endTick;
  for (let key = lowest; key <= highest; key++) {
    const y = plane.y(key);
    let run = -1;
    let loudest = 0;
    for (let x = 0; x <= width; x++) {
      const cell = Math.floor(plane.tickAt(x) * perCell);
      const next = Math.min(cells, Math.max(cell + 1, Math.floor(plane.tickAt(x + 1) * perCell)));
      let v = 0;
      if (x < width && cell >= 0)
        for (let i = cell; i < next; i++) v = Math.max(v, level[key * cells + i]!);
      if (v > 0) {
        if (run === -1) run = x;
        loudest = Math.max(loudest, v);
      } else if (run !== -1) {
        const weight = Math.max(1.2, stitchWeight(loudest) * Math.min(2, plane.keyHeight / 5));
        c.fillRect(run, y - weight / 2, x - run, weight);
        run = -1;
        loudest = 0;
      }
    }
  }
}

/** Names of the keys: every C, and every key where there is room. */
export function drawGutter(
  c: CanvasRenderingContext2D,
  plane: Plane,
  keyName: (key: number) => string,
  inks: Inks,
): void {
  c.fillStyle = inks.sheet;
  c.fillRect(0, 0, gutter, plane.height);
  c.fillStyle = inks.line;
  c.fillRect(gutter - 1, 0, 1, plane.height);
  c.font = '10.5px "JetBrains Mono Variable", monospace';
  c.textBaseline = 'middle';
  c.textAlign = 'right';
  for (let key = plane.keyAt(plane.height); key <= plane.keyAt(0); key++) {
    if (key % 12 !== 0 && plane.keyHeight < 11) continue;
    c.fillStyle = key % 12 === 0 ? inks.ink : inks.faint;
    const name = keyName(key);
    c.fillText(name.length > 6 ? `${name.slice(0, 5)}…` : name, gutter - 5, plane.y(key));
  }
  c.textAlign = 'left';
  c.textBaseline = 'alphabetic';
}
