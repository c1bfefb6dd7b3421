import { z } from 'zod';
import type { PlainMeter } from './laid-out.ts';

/** A meter as it is written, such as 7/8. */
export const meterSetting = (description: string) =>
  z
    .string()
    .regex(/^([1-9]\d?|1\d\d|2[0-4]\d|25[0-5])\/(1|2|4|8|16|32|64|128)$/, 'a meter such as 7/8')
    .optional()
    .meta({ title: 'Meter', description });

export function meterOf(said: string | undefined): PlainMeter | undefined {
  if (said === undefined) return undefined;
  const [numerator, denominator] = said.split('/').map(Number) as [number, number];
  return { numerator, denominator };
}
