import { z } from 'zod';
import { controllerName } from '../instruments/controllers.ts';
import type { LaneName } from '../song/lanes.ts';

const controller = z.int().min(0).max(119);

/** Lanes that have values to shape: controllers, bend and pressure. */
export const shapedLane = z.union([controller, z.enum(['bend', 'pressure'])]);

/** Any lane, the programs among them. */
export const anyLane = z.union([controller, z.enum(['bend', 'pressure', 'program'])]);

/** The setting that names lanes; the page offers those that occur. */
export const lanesSetting = z.array(shapedLane).max(122).default([]).meta({
  title: 'Lanes',
  description: 'Controllers by their numbers, bend, pressure; all where none is named.',
  offers: 'lanes',
});

export const isNamed = (lanes: readonly LaneName[], what: LaneName): boolean =>
  lanes.length === 0 || lanes.includes(what);

/** "expression", "the pitch bend". */
export const laneWords = (what: LaneName): string =>
  typeof what === 'number'
    ? controllerName(what).toLowerCase()
    : what === 'bend'
      ? 'pitch bend'
      : what === 'pressure'
        ? 'channel pressure'
        : 'programs';

export const laneList = (lanes: readonly LaneName[]): string =>
  lanes.length === 0 ? 'every lane' : lanes.map(laneWords).join(', ');
