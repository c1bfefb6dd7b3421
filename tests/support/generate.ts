import fc from 'fast-check';
import { eventsFrom } from '#core/smf/event-builder.ts';
import { META, channelEvent, metaEvent, noBytes, type EventValue } from '#core/smf/events.ts';
import { encodeText } from '#core/smf/text.ts';
import type { AlienChunk, Smf, SmfTrack } from '#core/smf/smf.ts';

/** Songs made at random for laws: every kind of event that a valid file can hold. */
const tickStep = fc.oneof(
  { weight: 6, arbitrary: fc.integer({ min: 0, max: 960 }) },
  { weight: 1, arbitrary: fc.constantFrom(0, 0x7f, 0x80, 0x3fff, 0x4000, 0x1fffff, 0x200000) },
);
const seven = fc.integer({ min: 0, max: 127 });
const bytes = (min: number, max: number) => fc.uint8Array({ minLength: min, maxLength: max });

const channelMessage = fc
  .tuple(
    fc.constantFrom(0x80, 0x90, 0x90, 0x90, 0xa0, 0xb0, 0xc0, 0xd0, 0xe0),
    fc.integer({ min: 0, max: 15 }),
    seven,
    seven,
  )
  .map(([kind, channel, a, b]) =>
    channelEvent(0, kind | channel, a, kind === 0xc0 || kind === 0xd0 ? 0 : b),
  );

const textMeta = fc
  .tuple(fc.integer({ min: 1, max: 9 }), fc.string({ maxLength: 30 }))
  .map(([type, text]) => metaEvent(0, type, encodeText(text)));

const fixedMeta = fc.oneof(
  bytes(3, 3).map((b) => metaEvent(0, 0x51, Uint8Array.of(b[0]! | 1, b[1]!, b[2]!))),
  fc
    .tuple(fc.integer({ min: 1, max: 32 }), fc.integer({ min: 0, max: 5 }))
    .map(([n, d]) => metaEvent(0, 0x58, Uint8Array.of(n, d, 24, 8))),
  fc
    .tuple(fc.integer({ min: -7, max: 7 }), fc.integer({ min: 0, max: 1 }))
    .map(([k, m]) => metaEvent(0, 0x59, Uint8Array.of(k & 0xff, m))),
  seven.map((p) => metaEvent(0, 0x21, Uint8Array.of(p))),
  bytes(0, 12).map((b) => metaEvent(0, 0x7f, b)),
  fc
    .tuple(fc.constantFrom(0x0a, 0x10, 0x2e, 0x4b, 0x60, 0x7e), bytes(0, 200))
    .map(([type, b]) => metaEvent(0, type, b)),
);

const sysex = fc.oneof(
  bytes(0, 40).map((b): EventValue => ({
    atTick: 0,
    status: 0xf0,
    data1: 0,
    data2: 0,
    payload: Uint8Array.of(...b.map((x) => x & 0x7f), 0xf7),
  })),
  bytes(0, 40).map((b): EventValue => ({
    atTick: 0,
    status: 0xf7,
    data1: 0,
    data2: 0,
    payload: b,
  })),
);

const event = fc.oneof(
  { weight: 10, arbitrary: channelMessage },
  { weight: 1, arbitrary: textMeta },
  { weight: 1, arbitrary: fixedMeta },
  { weight: 1, arbitrary: sysex },
);

export const trackEvents = fc
  .array(fc.tuple(tickStep, event), { maxLength: 80 })
  .chain((list) => tickStep.map((tail) => ({ list, tail })))
  .map(({ list, tail }) => {
    let tick = 0;
    const values = list.map(([step, e]) => ({ ...e, atTick: (tick += step) }));
    return eventsFrom([
      ...values,
      { atTick: tick + tail, status: META, data1: 0x2f, data2: 0, payload: noBytes },
    ]);
  });

const track = trackEvents.map((events): SmfTrack => ({ events }));

const division = fc.oneof(
  fc
    .integer({ min: 1, max: 0x7fff })
    .map((ticksPerQuarter) => ({ kind: 'ppq' as const, ticksPerQuarter })),
  fc
    .tuple(
      fc.constantFrom(24 as const, 25 as const, 29 as const, 30 as const),
      fc.integer({ min: 1, max: 255 }),
    )
    .map(([framesPerSecond, ticksPerFrame]) => ({
      kind: 'smpte' as const,
      framesPerSecond,
      ticksPerFrame,
    })),
);

/** Any valid file; alien chunks where `alien` asks for them (the independent reader refuses those). */
export function smfFile({ alien = true }: { alien?: boolean } = {}): fc.Arbitrary<Smf> {
  return fc
    .record({
      format: fc.constantFrom(0 as const, 1 as const, 2 as const),
      division,
      tracks: fc.array(track, { minLength: 1, maxLength: 5 }),
      alienChunks: alien
        ? fc.array(
            fc.record<AlienChunk>({
              beforeTrack: fc.integer({ min: 0, max: 5 }),
              id: fc.constantFrom('XFIH', 'Abcd', 'CTRK'),
              body: bytes(0, 30),
            }),
            { maxLength: 2 },
          )
        : fc.constant<AlienChunk[]>([]),
      headerExtra: alien ? bytes(0, 3) : fc.constant(noBytes),
    })
    .map((smf) => (smf.format === 0 ? { ...smf, tracks: smf.tracks.slice(0, 1) } : smf))
    .map((smf) => ({
      ...smf,
      alienChunks: smf.alienChunks
        .map((c) => ({ ...c, beforeTrack: Math.min(c.beforeTrack, smf.tracks.length) }))
        .sort((a, b) => a.beforeTrack - b.beforeTrack),
    }));
}
