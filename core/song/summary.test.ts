import { describe, expect, it } from 'vitest';
import { eventsFrom } from '../smf/event-builder.ts';
import { channelEvent, meta, metaEvent, type EventValue } from '../smf/events.ts';
import { encodeText } from '../smf/text.ts';
import { meterMap } from '../timing/meter-map.ts';
import { barCells, cellAt } from './cells.ts';
import { notesOf } from './notes.ts';
import { summarise } from './summary.ts';

const ppq96 = { kind: 'ppq' as const, ticksPerQuarter: 96 };
const note = (from: number, to: number, key: number, velocity: number): EventValue[] => [
  channelEvent(from, 0x90, key, velocity),
  channelEvent(to, 0x90, key, 0),
];

describe('pairing notes', () => {
  it('ends the oldest sounding note of a key first, keeps what hangs, counts ends without a note', () => {
    const events = eventsFrom([
      channelEvent(0, 0x90, 60, 1),
      channelEvent(10, 0x90, 60, 2),
      channelEvent(20, 0x80, 60, 0),
      channelEvent(30, 0x80, 61, 0),
      channelEvent(40, 0x91, 60, 3),
      channelEvent(50, 0x81, 60, 0),
    ]);
    const { on, off, strayOffs } = notesOf(events);
    expect(
      [...on].map((row, n) => [events.atTick[row], off[n] === -1 ? -1 : events.atTick[off[n]!]]),
    ).toEqual([
      [0, 20],
      [10, -1],
      [40, 50],
    ]);
    expect(strayOffs).toBe(1);
  });
});

describe('the summary of a track', () => {
  // Hand-worked: 4/4 at 96 PPQ, a bar is 384 ticks; three bars.
  const events = eventsFrom([
    metaEvent(0, meta.trackName, encodeText('Flute')),
    metaEvent(0, meta.port, Uint8Array.of(1)),
    channelEvent(0, 0xb0, 0, 2),
    channelEvent(0, 0xb0, 32, 5),
    channelEvent(0, 0xc0, 73),
    channelEvent(0, 0xb0, 7, 100),
    channelEvent(5, 0xb0, 7, 101),
    channelEvent(9, 0xe0, 0, 64),
    ...note(0, 384, 72, 40),
    ...note(400, 800, 84, 104),
    metaEvent(1152, meta.endOfTrack),
  ]);
  const cells = barCells(meterMap([], ppq96), 1152);
  const summary = summarise({ id: 't1', events }, cells, 'UTF-8');

  it('says what the track carries', () => {
    expect(summary).toMatchObject({
      name: 'Flute',
      ownName: true,
      channels: [0],
      ports: [1],
      notes: 2,
      pitch: { lowest: 72, highest: 84 },
      firstNoteTick: 0,
      lastNoteTick: 800,
      endTick: 1152,
    });
    expect(summary.programs).toEqual([{ channel: 0, program: 73, atTick: 0, bank: 2 * 128 + 5 }]);
    expect(summary.controllers).toEqual([
      { controller: 0, count: 1 },
      { controller: 7, count: 2 },
      { controller: 32, count: 1 },
    ]);
    expect(summary.velocity).toMatchObject({ lowest: 40, highest: 104, mean: 72, distinct: 2 });
    expect(summary.velocity!.bins.map((n, i) => (n ? i : -1)).filter((i) => i >= 0)).toEqual([
      5, 13,
    ]);
    expect(summary.counts).toMatchObject({ pitchBend: 1, programChanges: 1 });
  });

  it('says in which bars notes sound: a note that ends on a bar line does not sound in the next bar', () => {
    expect(cells.bars).toBe(3);
    expect(summary.activity).toEqual([1, 1, 1]);
    expect(
      summarise(
        {
          id: 't1',
          events: eventsFrom([...note(0, 384, 60, 1), metaEvent(1152, meta.endOfTrack)]),
        },
        cells,
        'UTF-8',
      ).activity,
    ).toEqual([1, 0, 0]);
  });
});

describe('cells of bars', () => {
  it('are bars in ordinary songs and bounded in endless ones', () => {
    const map = meterMap([], ppq96);
    expect(barCells(map, 384 * 120)).toMatchObject({ bars: 120, barsPerCell: 1 });
    const endless = barCells(map, 384 * 1_000_000);
    expect(endless.starts.length).toBeLessThanOrEqual(513);
    expect(endless.bars).toBe(1_000_000);
    expect(cellAt(endless, 384 * 999_999)).toBe(endless.starts.length - 2);
    expect(barCells(map, 384 * 1_000_000, 60_000).starts.length).toBeLessThanOrEqual(18);
  });
});
