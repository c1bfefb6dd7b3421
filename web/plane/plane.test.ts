import { expect, it } from 'vitest';
import { Plane } from './plane.ts';

const plane = (): Plane => {
  const p = new Plane(10_000);
  p.resize(1000, 400);
  p.show(1000, 3000, 48, 72);
  return p;
};

it('shows a span of ticks and the keys around a range', () => {
  const p = plane();
  expect([p.x(1000), p.x(3000), p.tickAt(500)]).toEqual([0, 1000, 2000]);
  expect(p.y(48)).toBeLessThan(400);
  expect(p.y(72)).toBeGreaterThan(0);
  for (const key of [50, 60, 71]) expect(p.keyAt(p.y(key))).toBe(key);
});

it('zooms about the pointer: what was under it stays under it', () => {
  const p = plane();
  const tick = p.tickAt(300);
  p.zoom(2, 300);
  expect(p.tickAt(300)).toBeCloseTo(tick, 6);
  expect(p.ticksPerPixel).toBe(1);
  const key = p.keyAt(120);
  p.zoomKeys(1.5, 120);
  expect(Math.abs(p.keyAt(120) - key)).toBeLessThanOrEqual(1);
});

it('never leaves the song or the keyboard', () => {
  const p = plane();
  p.scroll(-1e9, -1e9);
  expect([p.tick, p.keyAt(0)]).toEqual([0, 127]);
  p.scroll(1e9, 1e9);
  expect(p.tick).toBeLessThan(10_000);
  expect(p.keyAt(399)).toBe(0);
  for (let i = 0; i < 100; i++) p.zoom(0.5, 0);
  expect(p.ticksPerPixel).toBe(12.5);
});

it('tells those who listen', () => {
  const p = plane();
  let calls = 0;
  const stop = p.onChange(() => calls++);
  p.scroll(5, 0);
  stop();
  p.scroll(5, 0);
  expect(calls).toBe(1);
});
