import { isSwitch, type Lane } from '../song/lanes.ts';

/** Lanes that are left where they should not be: bend off centre, a pedal down. */
export function leftHanging(lane: Lane): number | undefined {
  const last = lane.values.at(-1)!;
  if (lane.what === 'bend') return last === 8192 ? undefined : 64;
  return isSwitch(lane.what) && lane.what !== 68 && last >= 64 ? 0 : undefined;
}
