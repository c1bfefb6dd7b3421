import { z } from 'zod';
import { keyEvent, meterEvent, tempoEvent } from '../edit/edit-map.ts';
import { ok, refused, type Result } from '../problems/problems.ts';
import { packEvents } from '../smf/event-builder.ts';
import { meta, metaEvent, type EventValue } from '../smf/events.ts';
import { timecodeEvent } from '../smf/own-events.ts';
import { encodeText } from '../smf/text.ts';
import { writeSmf } from '../smf/write.ts';
import { offsetEvent } from '../timing/start-timecode.ts';
import { frameRateNames, parseTimecode } from '../timing/timecode.ts';

/** A song begun with nothing: what it is called, and its time. */
export const beginSchema = z.strictObject({
  title: z
    .string()
    .trim()
    .min(1)
    .max(100)
    .regex(/^[^\p{Cc}\\/]*$/u)
    .default('Untitled')
    .meta({
      title: 'Name',
    }),
  bpm: z
    .number()
    .min(4)
    .max(10_000)
    .default(120)
    .meta({ title: 'Tempo', unit: 'BPM of the quarter' }),
  numerator: z.int().min(1).max(255).default(4).meta({ title: 'Beats in a bar' }),
  denominator: z.literal([1, 2, 4, 8, 16, 32]).default(4).meta({ title: 'Note that is a beat' }),
  key: z
    .strictObject({ sharps: z.int().min(-7).max(7), minor: z.boolean().default(false) })
    .nullable()
    .default(null)
    .meta({ title: 'Key', description: 'Sharps, or flats as numbers below 0.' }),
  bars: z.int().min(1).max(10_000).default(32).meta({ title: 'Bars' }),
  timecode: z
    .strictObject({ address: z.string().max(20), rate: z.enum(frameRateNames) })
    .nullable()
    .default(null)
    .meta({ title: 'Timecode at bar 1', description: 'hh:mm:ss:ff' }),
  ppq: z.int().min(24).max(32_767).default(480).meta({ title: 'Ticks a quarter' }),
});
export type Begin = z.infer<typeof beginSchema>;

/**
 * The file that a song of nothing would have been: its time and its full length, and no music. Refused
 * where the timecode is none.
 */
export function begunFile(begin: Begin): Result<Uint8Array> {
  const { title, bpm, numerator, denominator, key, bars, timecode, ppq } = begin;
  const frames = timecode ? parseTimecode(timecode.address, timecode.rate) : undefined;
  if (timecode && frames === undefined)
    return refused({
      code: 'settings-invalid',
      where: { field: 'timecode.address' },
      expected: `an address that ${timecode.rate} frames a second has`,
      found: timecode.address,
    });
  const length = Math.ceil((bars * numerator * 4 * ppq) / denominator);
  const events: EventValue[] = [
    metaEvent(0, meta.trackName, encodeText(title)),
    ...(timecode
      ? [
          offsetEvent(timecode.rate, frames!) ??
            timecodeEvent(0, timecode.rate, timecode.address.trim()),
        ]
      : []),
    meterEvent(0, numerator, denominator),
    ...(key ? [keyEvent(0, key.sharps, key.minor)] : []),
    tempoEvent(0, Math.min(0xffffff, Math.round(60_000_000 / bpm))),
    metaEvent(length, meta.endOfTrack),
  ];
  return ok(
    writeSmf({
      format: 1,
      division: { kind: 'ppq', ticksPerQuarter: ppq },
      headerExtra: new Uint8Array(0),
      tracks: [{ events: packEvents(events) }],
      alienChunks: [],
    }),
  );
}
