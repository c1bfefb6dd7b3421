import { z } from 'zod';
import { isSwitch } from '../../../song/lanes.ts';
import { laneList, lanesSetting } from '../../../edit/lane-settings.ts';
import { noteValues, valueTicks } from '../../../edit/note-values.ts';
import { counted, inTracks, rewriteTracks, totalOf } from '../../../edit/rewrite.ts';
import { shapeLanes } from '../../../edit/shape-lanes.ts';
import { defineOperation } from '../../operation.ts';

export const controllersSmooth = defineOperation({
  id: 'controllers.smooth',
  version: 1,
  title: 'Smooth controllers',
  summary:
    'Replaces each value by the mean of what its lane says around it. Pedals stay as they are.',
  group: 'controllers',
  scope: 'events',
  takesRows: true,
  settings: z.strictObject({
    lanes: lanesSetting,
    over: z.enum(noteValues).default('1/8').meta({
      title: 'Over',
      description: 'How far around each value is looked, half before and half after.',
    }),
  }),
  apply(song, { lanes, over }, scope) {
    const width = valueTicks(over, 'straight', song.division);
    return rewriteTracks(song, scope, (_, span, track) =>
      shapeLanes(track, span, lanes, (values, ticks, { what }) =>
        isSwitch(what) ? values : smoothed(values, ticks, width),
      ),
    );
  },
  describe: ({ lanes, over }, report) =>
    `Smoothed ${laneList(lanes)} over ${over} ${inTracks(report)}: ${counted(totalOf(report), 'value')}`,
  examples: [{ says: 'Every lane, over an eighth', settings: {} }],
});

/**
 * The mean over `width` ticks around each value of the line that holds each value until the next; before
 * the first value the first holds. Linear: sums run along.
 */
export function smoothed(
  values: readonly number[],
  ticks: readonly number[],
  width: number,
): number[] {
  if (values.length < 2) return [...values];
  // area[i]: what the held line encloses from the first tick to tick i.
  const area = [0];
  for (let i = 1; i < values.length; i++)
    area.push(area[i - 1]! + values[i - 1]! * (ticks[i]! - ticks[i - 1]!));
  const until = (tick: number, near: number): { area: number; at: number } => {
    let at = near;
    while (at < values.length - 1 && ticks[at + 1]! <= tick) at++;
    return {
      area:
        tick < ticks[0]!
          ? (tick - ticks[0]!) * values[0]!
          : area[at]! + values[at]! * (tick - ticks[at]!),
      at,
    };
  };
  let low = 0;
  let high = 0;
  return values.map((_, i) => {
    const from = until(ticks[i]! - width / 2, low);
    const to = until(ticks[i]! + width / 2, high);
    [low, high] = [from.at, to.at];
    return (to.area - from.area) / width;
  });
}
