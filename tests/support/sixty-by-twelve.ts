import { eventsFrom } from '#core/smf/event-builder.ts';
import { channelEvent, meta, metaEvent, type EventValue } from '#core/smf/events.ts';
import { encodeText } from '#core/smf/text.ts';
import { writeSmf } from '#core/smf/write.ts';

const bar = 384;
const bars = 4;

/** Sixty tracks on four ports, in twelve sections of four bars at 96 PPQ; every track plays sixteenths throughout. */
export function sixtyByTwelve(): Uint8Array {
  const text = (tick: number, type: number, said: string): EventValue =>
    metaEvent(tick, type, encodeText(said));
  const sections = Array.from({ length: 12 }, (_, n) => [
    text(n * bars * bar, meta.marker, `Part ${n + 1}`),
    text((n + 1) * bars * bar, meta.marker, `Part ${n + 1} (end)`),
  ]).flat();
  const map = [
    text(0, meta.trackName, 'Sixty'),
    metaEvent(0, meta.tempo, Uint8Array.of(7, 0xa1, 0x20)),
    ...sections,
  ];
  const parts = Array.from({ length: 60 }, (_, n) => {
    const channel = n % 15 < 9 ? n % 15 : (n % 15) + 1;
    const notes: EventValue[] = [];
    for (let tick = 0; tick < 12 * bars * bar; tick += 24)
      notes.push(
        channelEvent(tick, 0x90 | channel, 40 + ((tick / 24) % 24), 80),
        channelEvent(tick + 20, 0x80 | channel, 40 + ((tick / 24) % 24), 64),
        channelEvent(tick, 0xb0 | channel, 11, (tick / 24) % 128),
      );
    return [
      text(0, meta.trackName, `Line ${n + 1}`),
      metaEvent(0, meta.port, Uint8Array.of(Math.floor(n / 15))),
      channelEvent(0, 0xc0 | channel, n),
      ...notes,
    ];
  });
  return writeSmf({
    format: 1,
    division: { kind: 'ppq', ticksPerQuarter: 96 },
    headerExtra: new Uint8Array(0),
    alienChunks: [],
    tracks: [map, ...parts].map((events) => ({ events: eventsFrom(events) })),
  });
}
