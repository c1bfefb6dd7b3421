import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { trackEvents } from '../../tests/support/generate.ts';
import { eventsFrom } from '../smf/event-builder.ts';
import { channelEvent, meta, metaEvent, type Events } from '../smf/events.ts';
import { encodeText } from '../smf/text.ts';
import { eventBytes, eventWords } from './event-words.ts';
import { indexEvents } from './event-index.ts';

describe('rows of several tracks', () => {
  it('stand in the order of their ticks, on one tick in the order of tracks and rows, as a plain sort has them', () => {
    fc.assert(
      fc.property(fc.array(trackEvents, { maxLength: 6 }), fc.boolean(), (tracks, onlyChannel) => {
        const keep = (e: Events, i: number): boolean => !onlyChannel || e.status[i]! < 0xf0;
        const plain = tracks
          .flatMap((e, t) =>
            Array.from({ length: e.count }, (_, i) => ({ t, i })).filter(({ i }) => keep(e, i)),
          )
          .sort(
            (a, b) =>
              tracks[a.t]!.atTick[a.i]! - tracks[b.t]!.atTick[b.i]! || a.t - b.t || a.i - b.i,
          );
        const index = indexEvents(tracks, keep);
        expect(Array.from(index.row, (i, n) => ({ t: index.track[n]!, i }))).toEqual(plain);
      }),
      { seed: 51, numRuns: scaleRuns(200) },
    );
  });
});

describe('events in words (names of MIDI 1.0, General MIDI and SMF 1.0)', () => {
  const cases: [ReturnType<typeof channelEvent>, string, string, string][] = [
    [channelEvent(0, 0x90, 60, 64), 'Note', 'C4, velocity 64', '90 3C 40'],
    [channelEvent(0, 0x99, 38, 64), 'Note', 'Acoustic Snare, velocity 64', '99 26 40'],
    [channelEvent(0, 0x99, 81, 1), 'Note', 'Open Triangle, velocity 1', '99 51 01'],
    [channelEvent(0, 0x90, 69, 0), 'Note off', 'A4', '90 45 00'],
    [channelEvent(0, 0xb0, 64, 127), 'Damper', '127', 'B0 40 7F'],
    [channelEvent(0, 0xc0, 21), 'Program', '22 Accordion', 'C0 15'],
    [channelEvent(0, 0xe0, 0, 64), 'Pitch bend', '0', 'E0 00 40'],
    [channelEvent(0, 0xe0, 0, 0), 'Pitch bend', '-8192', 'E0 00 00'],
    [
      metaEvent(0, meta.tempo, Uint8Array.of(7, 0xa1, 0x20)),
      'Tempo',
      '120 BPM (500,000 µs)',
      'FF 51 07 A1 20',
    ],
    [
      metaEvent(0, meta.timeSignature, Uint8Array.of(7, 3, 12, 8)),
      'Meter',
      '7/8',
      'FF 58 07 03 0C 08',
    ],
    [
      metaEvent(0, meta.keySignature, Uint8Array.of(0xff, 1)),
      'Key signature',
      'D minor',
      'FF 59 FF 01',
    ],
    [
      metaEvent(0, meta.smpteOffset, Uint8Array.of(0x41, 0, 59, 29, 0)),
      'SMPTE offset',
      '01:00:59;29 at 29.97 frames a second',
      'FF 54 41 00 3B 1D 00',
    ],
    [metaEvent(0, meta.marker, encodeText('Mist')), 'Marker', 'Mist', 'FF 06 4D 69 73 74'],
    [metaEvent(0, 0x60, Uint8Array.of(1, 2)), 'Meta event 60', '01 02', 'FF 60 01 02'],
  ];

  it.each(cases)('%o', (event, what, value, bytes) => {
    const events = eventsFrom([event]);
    expect(eventWords(events, 0, 'UTF-8')).toEqual({ what, value });
    expect(eventBytes(events, 0)).toBe(bytes);
  });
});
