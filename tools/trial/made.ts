import { EventBuilder, eventsFrom } from '#core/smf/event-builder.ts';
import {
  channelEvent,
  eventValues,
  metaEvent,
  type EventValue,
  type Events,
} from '#core/smf/events.ts';
import { readSmf } from '#core/smf/read.ts';
import type { Smf } from '#core/smf/smf.ts';
import { writeSmf } from '#core/smf/write.ts';
import { demoFiles } from '#demo/files.ts';
import { dice } from '#demo/theory.ts';
import { damages } from '../../tests/support/damage.ts';

/** Files for a trial where there are none: the demo's, and the same with faults made. */
export interface MadeFile {
  readonly name: string;
  readonly bytes: Uint8Array;
}

const smfOf = (bytes: Uint8Array): Smf => {
  const reading = readSmf(bytes);
  if (!reading.ok) throw new Error(reading.problem.code);
  return reading.value.smf;
};

/** The file with every track's events made anew. */
const changed = (
  bytes: Uint8Array,
  change: (events: readonly EventValue[], track: number) => readonly EventValue[],
): Uint8Array => {
  const smf = smfOf(bytes);
  return writeSmf({
    ...smf,
    tracks: smf.tracks.map((t, n) => ({ events: eventsFrom(change(eventValues(t.events), n)) })),
  });
};

const isOff = (e: EventValue): boolean =>
  e.status >> 4 === 8 || (e.status >> 4 === 9 && e.data2 === 0);

const faults: Readonly<Record<string, (bytes: Uint8Array) => Uint8Array>> = {
  'notes that overlap themselves': (b) =>
    changed(b, (events) =>
      events.map((e, i) => (isOff(e) && i % 3 === 0 ? { ...e, atTick: e.atTick + 700 } : e)),
    ),
  'notes that hang': (b) =>
    changed(b, (events) => events.filter((e, i) => !isOff(e) || i % 7 !== 0)),
  'notes of no length': (b) =>
    changed(b, (events) =>
      events.flatMap((e) =>
        e.status >> 4 === 9 && e.data2 > 0 && e.atTick % 5 === 0
          ? [e, channelEvent(e.atTick, 0x80 | (e.status & 15), e.data1, 64)]
          : [e],
      ),
    ),
  'two ports': (b) =>
    changed(b, (events, n) => [metaEvent(0, 0x21, Uint8Array.of(n % 2)), ...events]),
  'metas of a wrong length': (b) =>
    changed(b, (events) => [
      metaEvent(0, 0x58, Uint8Array.of(3, 2)),
      metaEvent(480, 0x51, Uint8Array.of(7, 0xa1, 0x20, 0)),
      ...events,
    ]),
  'a wait beyond 28 bits': (b) => {
    const smf = smfOf(b);
    const far = eventsFrom([
      channelEvent(200_000_000, 0x90, 60, 64),
      channelEvent(400_000_000, 0x80, 60, 64),
    ]);
    return writeSmf({ ...smf, format: 1, tracks: [...smf.tracks, { events: far }] });
  },
  'no notes at all': (b) =>
    changed(b, (events) => events.filter((e) => e.status >> 4 !== 8 && e.status >> 4 !== 9)),
  'time in frames': (b) =>
    writeSmf({ ...smfOf(b), division: { kind: 'smpte', framesPerSecond: 25, ticksPerFrame: 40 } }),
};

/** Notes by the million, as fast as they can be made: alternately on and off. */
export function manyEvents(count: number): Uint8Array {
  const track = (channel: number): Events => {
    const out = new EventBuilder(count / 8);
    for (let n = 0; n < count / 16; n++) {
      out.add(n * 60, 0x90 | channel, 36 + (n % 48), 1 + (n % 127));
      out.add(n * 60 + 50, 0x80 | channel, 36 + (n % 48), 64);
    }
    out.add((count / 16) * 60, 0xff, 0x2f, 0);
    return out.finish(new Uint8Array(0));
  };
  return writeSmf({
    format: 1,
    division: { kind: 'ppq', ticksPerQuarter: 480 },
    headerExtra: new Uint8Array(0),
    alienChunks: [],
    tracks: Array.from({ length: 8 }, (_, c) => ({ events: track(c) })),
  });
}

export function* madeFiles(): Generator<MadeFile> {
  for (const { name, bytes } of demoFiles) yield { name, bytes: bytes() };
  const [small, middle] = [demoFiles[5]!.bytes(), demoFiles[1]!.bytes()];
  for (const [fault, make] of Object.entries(faults)) {
    yield { name: `market groove, ${fault}`, bytes: make(small) };
    yield { name: `phone sketch, ${fault}`, bytes: make(middle) };
  }
  const chance = dice(9);
  for (const [kind, damage] of Object.entries(damages))
    yield { name: `phone sketch, ${kind}`, bytes: damage(middle, chance).bytes };
}
