// @vitest-environment jsdom
import { describe, expect, it, vi } from 'vitest';
import { meterMap } from '#core/timing/meter-map.ts';
import { Plane } from '../../plane/plane.ts';
import { gridOf } from './snap.ts';
import { noteKeys } from './use-note-keys.ts';

const division = { kind: 'ppq', ticksPerQuarter: 96 } as const;
const meters = meterMap([{ atTick: 0, numerator: 7, denominator: 8 }], division);

describe('the grid', () => {
  it('begins anew with every bar (7/8 at 96 PPQ is 336 ticks)', () => {
    const { step, snap } = gridOf('1/4', division, meters);
    expect([step, snap(40), snap(50), snap(330), snap(340), snap(400)]).toEqual([
      96, 0, 96, 336, 336, 432,
    ]);
  });

  it('knows triplets, and none', () => {
    expect(gridOf('1/8 triplet', division, meters).step).toBe(32);
    expect(gridOf('none', division, meters).snap(41.4)).toBe(41);
  });
});

describe('keys on the plane', () => {
  const actions = {
    any: true,
    shift: vi.fn(),
    remove: vi.fn(),
    all: vi.fn(),
    none: vi.fn(),
    steps: vi.fn(),
    go: vi.fn(),
    show: vi.fn(),
  };
  const press = (key: string, mods: object = {}, any = true): boolean => {
    for (const f of Object.values(actions)) if (typeof f === 'function') f.mockClear();
    let prevented = false;
    noteKeys(new Plane(10_000), 24, { ...actions, any })({
      key,
      preventDefault: () => (prevented = true),
      ...mods,
    } as never);
    return prevented;
  };

  it.each<[string, object, object, number]>([
    ['ArrowRight', {}, { ticks: 24, keys: 0, lengthen: 0 }, 0],
    ['ArrowLeft', { shiftKey: true }, { ticks: -1, keys: 0, lengthen: 0 }, 0],
    ['ArrowRight', { altKey: true }, { ticks: 0, keys: 0, lengthen: 24 }, 0],
    ['ArrowUp', {}, { ticks: 0, keys: 1, lengthen: 0 }, 0],
    ['ArrowDown', { shiftKey: true }, { ticks: 0, keys: -12, lengthen: 0 }, 0],
    ['ArrowUp', { altKey: true }, { ticks: 0, keys: 0, lengthen: 0 }, 5],
  ])('%s %j moves what is selected', (key, mods, ghost, louder) => {
    expect(press(key, mods)).toBe(true);
    expect(actions.shift).toHaveBeenCalledWith(ghost, louder);
  });

  it('with nothing selected the arrows scroll, and other keys are left to the page', () => {
    expect(press('ArrowRight', {}, false)).toBe(true);
    expect(actions.shift).not.toHaveBeenCalled();
    expect(press('k', { ctrlKey: true })).toBe(false);
    expect(press('x')).toBe(false);
    press('Delete');
    expect(actions.remove).toHaveBeenCalled();
    press('a', { ctrlKey: true });
    expect(actions.all).toHaveBeenCalled();
  });
});
