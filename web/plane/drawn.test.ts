import { expect, it } from 'vitest';
import { drawnPoints } from './drawn.ts';

it('a straight stroke says each value once (worked by hand: 4 ticks a step, 2 values a step)', () => {
  expect(
    drawnPoints(
      [
        { tick: 0, value: 10 },
        { tick: 16, value: 18 },
      ],
      11,
      2,
    ),
  ).toEqual({
    from: 0,
    to: 20,
    points: [
      [0, 10],
      [4, 12],
      [8, 14],
      [12, 16],
      [16, 18],
    ],
  });
});

it('a place drawn over again has the later value', () => {
  const { points } = drawnPoints(
    [
      { tick: 0, value: 10 },
      { tick: 8, value: 10 },
      { tick: 0, value: 50 },
    ],
    11,
    2,
  );
  expect(points[0]).toEqual([0, 50]);
});

it('a single press is one value; a pedal is up or down', () => {
  expect(drawnPoints([{ tick: 7, value: 90 }], 11, 0.5)).toEqual({
    from: 7,
    to: 8,
    points: [[7, 90]],
  });
  expect(
    drawnPoints(
      [
        { tick: 0, value: 20 },
        { tick: 8, value: 100 },
      ],
      64,
      2,
    ).points.map(([, v]) => v),
  ).toEqual([0, 127]);
});
