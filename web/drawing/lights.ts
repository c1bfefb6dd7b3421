import { lastFret, type Stopped } from '#core/playing/fretting.ts';
import type { Inks } from './canvas.tsx';

const blackKeys = new Set([1, 3, 6, 8, 10]);
const isBlack = (key: number): boolean => blackKeys.has(key % 12);

/** Whole octaves around the keys of a part, five at least, within what MIDI has. */
export function keysShown(lowest: number, highest: number): readonly [from: number, to: number] {
  let from = Math.floor(lowest / 12) * 12;
  let to = Math.floor(highest / 12) * 12 + 11;
  while (to - from < 59) {
    if (from > 0) from -= 12;
    if (to - from < 59 && to < 131) to += 12;
  }
  return [from, Math.min(127, to)];
}

type Lit = ReadonlySet<number>;

/** What is drawn on. */
export interface Board {
  readonly width: number;
  readonly height: number;
  readonly inks: Inks;
}

/** A white key is no wider than this, in pixels. */
const widest = 24;

/** A keyboard; `name` says what a key is called. */
export function drawKeys(
  c: CanvasRenderingContext2D,
  { width, height, inks }: Board,
  [from, to]: readonly [from: number, to: number],
  lit: Lit,
  name: (key: number) => string,
): void {
  const keys = Array.from({ length: to - from + 1 }, (_, n) => from + n);
  const whites = keys.filter((k) => !isBlack(k));
  const wide = Math.min(widest, width / whites.length);
  whites.forEach((key, n) => {
    c.fillStyle = lit.has(key) ? inks.amber : inks.sheet;
    c.fillRect(n * wide, 0, wide, height);
    c.fillStyle = inks.line;
    c.fillRect(n * wide, 0, 1, height);
    if (key % 12 !== 0 || wide < 9) return;
    c.fillStyle = inks.faint;
    c.font = '10px sans-serif';
    c.fillText(name(key), n * wide + 3, height - 4, wide - 3);
  });
  keys.filter(isBlack).forEach((key) => {
    const before = whites.filter((k) => k < key).length;
    c.fillStyle = lit.has(key) ? inks.amber : inks.stitch;
    c.fillRect(before * wide - wide * 0.3, 0, wide * 0.6, height * 0.6);
  });
}

/** A pad for each key of a kit that a part plays, with its name. */
export function drawPads(
  c: CanvasRenderingContext2D,
  { width, height, inks }: Board,
  keys: readonly number[],
  lit: Lit,
  name: (key: number) => string,
): void {
  const rows = keys.length > 14 ? 2 : 1;
  const columns = Math.ceil(keys.length / rows);
  const [wide, high] = [width / columns, height / rows];
  c.font = '11px sans-serif';
  keys.forEach((key, n) => {
    const [x, y] = [(n % columns) * wide, Math.floor(n / columns) * high];
    c.fillStyle = lit.has(key) ? inks.amber : inks.sheet;
    c.beginPath();
    c.roundRect(x + 2, y + 2, wide - 4, high - 4, 4);
    c.fill();
    c.strokeStyle = inks.line;
    c.stroke();
    c.fillStyle = inks.ink;
    c.fillText(name(key), x + 7, y + high / 2 + 4, wide - 14);
  });
}

/** Dots on a neck where it is usual to have them. */
const dotted = [3, 5, 7, 9, 12, 15, 17, 19, 21, 24];

/** Strings, the highest above, and the frets on which they are stopped; open strings are lit before the first fret. */
export function drawStrings(
  c: CanvasRenderingContext2D,
  { width, height, inks }: Board,
  tuning: readonly number[],
  stopped: readonly Stopped[],
  name: (key: number) => string,
): void {
  const [nut, between] = [46, height / tuning.length];
  const fret = (width - nut - 6) / lastFret;
  const y = (string: number): number => (string + 0.5) * between;
  c.fillStyle = inks.line;
  for (let n = 0; n <= lastFret; n++) c.fillRect(nut + n * fret, 2, n === 0 ? 3 : 1, height - 4);
  c.globalAlpha = 0.5;
  for (const n of dotted) {
    c.beginPath();
    c.arc(nut + (n - 0.5) * fret, height / 2, 2.5, 0, 7);
    c.fill();
  }
  c.globalAlpha = 1;
  c.font = '10px sans-serif';
  tuning.forEach((open, string) => {
    c.fillStyle = inks.faint;
    c.fillText(name(open), 2, y(string) + 3.5, 24);
    c.fillStyle = inks.stitch;
    c.fillRect(nut, y(string), width - nut - 6, 1);
  });
  for (const { string, fret: at } of stopped) {
    c.fillStyle = inks.amber;
    c.beginPath();
    c.arc(at === 0 ? nut - 9 : nut + (at - 0.5) * fret, y(string), Math.min(6, between / 2), 0, 7);
    c.fill();
  }
}
