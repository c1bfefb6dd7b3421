import { expect, it } from 'vitest';
import { packEvents } from '../../../smf/event-builder.ts';
import { channelEvent, meta, metaEvent, type EventValue } from '../../../smf/events.ts';
import { encodeText } from '../../../smf/text.ts';
import { Contents } from './atoms-of.ts';

const exclusive = (...bytes: number[]): EventValue => ({
  ...metaEvent(0, 0, Uint8Array.from(bytes)),
  status: 0xf0,
});
const marker = (text: string): EventValue => metaEvent(0, meta.marker, encodeText(text));

it('what reads the same is one content, whatever differs is another: payloads by all their bytes', () => {
  const events = packEvents([
    exclusive(1, 2),
    exclusive(1, 3),
    exclusive(1, 2),
    marker('A'),
    marker('B'),
    channelEvent(0, 0x90, 60, 80),
    channelEvent(0, 0x91, 60, 80),
    metaEvent(0, meta.endOfTrack),
  ]);
  const contents = new Contents();
  const of = (row: number, channels = true) => contents.of(events, row, 'UTF-8', channels);
  expect(of(0)).toBe(of(2));
  expect(new Set([0, 1, 3, 4, 5, 6].map((row) => of(row))).size).toBe(6);
  expect(of(5, false)).toBe(of(6, false));
});
