import { line } from 'd3-shape';
import { barTick, positionAt, type MeterMap } from '#core/timing/meter-map.ts';
import { tempoToBpm } from '#core/units/units.ts';
import type { Tempos } from '../../api/runs.ts';
import type { Inks } from '../../drawing/canvas.tsx';
import { bpmAt, type Handle } from './map-model.ts';
import { mapBottom, mapLeft, mapTop, type MapScale } from './map-scale.ts';

const numbers = '11px "JetBrains Mono Variable", monospace';

/** Bar lines with their numbers, and lines of round tempos. */
export function drawGrid(
  c: CanvasRenderingContext2D,
  s: MapScale,
  meters: MeterMap,
  inks: Inks,
): void {
  c.font = numbers;
  c.textBaseline = 'alphabetic';
  for (const bpm of s.rounds) {
    c.fillStyle = inks.line;
    c.fillRect(mapLeft, Math.round(s.y(bpm)), s.width - mapLeft, 1);
    c.fillStyle = inks.faint;
    const text = bpm < 10_000 ? String(bpm) : bpm.toLocaleString('en', { notation: 'compact' });
    c.fillText(text, mapLeft - 8 - c.measureText(text).width, s.y(bpm) + 4);
  }
  c.fillText('BPM', mapLeft - 8 - c.measureText('BPM').width, mapTop - 8);
  const first = positionAt(meters, s.fromTick).bar;
  const last = positionAt(meters, s.toTick).bar;
  const room = (s.width - mapLeft) / Math.max(1, last - first + 1);
  const every = 2 ** Math.ceil(Math.log2(Math.max(1, 34 / room)));
  for (let bar = first; bar <= last; bar++) {
    const numbered = (bar - 1) % every === 0;
    if (room < 4 && !numbered) continue;
    const x = Math.round(s.x(barTick(meters, bar)));
    if (x < mapLeft - 1 || x > s.width) continue;
    c.fillStyle = inks.line;
    c.globalAlpha = numbered ? 1 : 0.5;
    c.fillRect(x, mapTop - 6, 1, s.height - mapTop - mapBottom + 6);
    c.globalAlpha = 1;
    if (!numbered) continue;
    c.fillStyle = inks.faint;
    c.fillText(String(bar), x + 3, mapTop - 8);
  }
}

/** The tempo as a line: level where it holds, curved where it changes gradually. */
export function drawLine(
  c: CanvasRenderingContext2D,
  s: MapScale,
  tempos: Tempos,
  inks: Inks,
): void {
  c.strokeStyle = inks.stitch;
  strokeLine(c, s, tempos);
}

/** The line as a step that is being prepared would leave it. */
export function drawComing(
  c: CanvasRenderingContext2D,
  s: MapScale,
  tempos: Tempos,
  inks: Inks,
): void {
  c.strokeStyle = inks.amber;
  c.setLineDash([6, 4]);
  strokeLine(c, s, tempos);
  c.setLineDash([]);
}

function strokeLine(c: CanvasRenderingContext2D, s: MapScale, tempos: Tempos): void {
  c.save();
  c.beginPath();
  c.rect(mapLeft, 0, s.width - mapLeft, s.height);
  c.clip();
  c.lineWidth = 2;
  c.lineJoin = 'round';
  c.beginPath();
  c.moveTo(s.x(s.fromTick), s.y(bpmAt(tempos, s.fromTick)));
  const { points, runs } = tempos;
  let next = 0;
  points.forEach((p, i) => {
    while (runs[next] && runs[next]!.last <= i && runs[next]!.toTick <= p.atTick) next++;
    const end = points[i + 1]?.atTick ?? s.toTick;
    if (end < s.fromTick || p.atTick > s.toTick) return;
    const run = runs[next];
    const inside = run && i >= run.first && i < run.last;
    if (!inside) {
      c.lineTo(s.x(p.atTick), s.y(tempoToBpm(p.tempo)));
      c.lineTo(s.x(end), s.y(tempoToBpm(p.tempo)));
      return;
    }
    if (i !== run.first && p.atTick > s.fromTick && points[i - 1]!.atTick >= s.fromTick) return;
    c.lineTo(s.x(run.fromTick), s.y(run.from));
    for (let n = 1; n <= 24; n++) {
      const tick = run.fromTick + ((run.toTick - run.fromTick) * n) / 24;
      c.lineTo(s.x(tick), s.y(n === 24 ? run.to : bpmAt(tempos, tick)));
    }
  });
  c.stroke();
  c.restore();
}

/** Handles: rounds for tempos, squares for the ends of gradual changes; amber for the one that is chosen. */
export function drawHandles(
  c: CanvasRenderingContext2D,
  s: MapScale,
  handles: readonly Handle[],
  chosen: Handle | undefined,
  inks: Inks,
): void {
  const many = handles.length > 400;
  for (const h of handles) {
    const x = s.x(h.atTick);
    if (x < mapLeft - 1 || x > s.width) continue;
    const its = chosen !== undefined && sameHandle(chosen, h);
    if (many && !its && h.kind === 'point') continue;
    const y = s.y(h.bpm);
    c.fillStyle = its ? inks.amber : inks.sheet;
    c.strokeStyle = its ? inks.amber : inks.stitch;
    c.lineWidth = 1.6;
    c.beginPath();
    if (h.kind === 'point') c.arc(x, y, its ? 5.5 : 4, 0, 2 * Math.PI);
    else c.rect(x - (its ? 5 : 4), y - (its ? 5 : 4), its ? 10 : 8, its ? 10 : 8);
    c.fill();
    c.stroke();
  }
}

/** What is being drawn or dragged: where it would go. */
export function drawGhost(
  c: CanvasRenderingContext2D,
  s: MapScale,
  ghost: readonly { tick: number; bpm: number }[],
  inks: Inks,
): void {
  c.strokeStyle = inks.amber;
  c.fillStyle = inks.amber;
  c.lineWidth = 2;
  c.setLineDash([5, 4]);
  c.beginPath();
  line<(typeof ghost)[number]>(
    (p) => s.x(p.tick),
    (p) => s.y(p.bpm),
  ).context(c)(ghost);
  c.stroke();
  c.setLineDash([]);
  for (const p of ghost) {
    c.beginPath();
    c.arc(s.x(p.tick), s.y(p.bpm), 4, 0, 2 * Math.PI);
    c.fill();
  }
}

export const sameHandle = (a: Handle, b: Handle): boolean =>
  a.kind === b.kind && a.atTick === b.atTick;
