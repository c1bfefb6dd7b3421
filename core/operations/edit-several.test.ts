import { describe, expect, it } from 'vitest';
import { plainEvents } from '../../tests/support/independent.ts';
import { controller, note, refusal, songOf, take } from '../../tests/support/songs.ts';
import { channelEvent, meta, metaEvent } from '../smf/events.ts';
import type { Song } from '../song/song.ts';

// Bytes by hand after MIDI 1.0: 9n key velocity, 8n key velocity, Bn number value, En LSB MSB.
const song = songOf([
  ...note(0, 48, 60, 80), // rows 0 and 1
  ...note(48, 48, 60, 100), // rows 2 and 3
  controller(96, 1, 10), // 4
  controller(97, 1, 120), // 5
  channelEvent(98, 0xe0, 0, 64), // 6
  metaEvent(99, meta.marker, Uint8Array.of(65)), // 7
  metaEvent(100, meta.marker, Uint8Array.of(66)), // 8
]);
const rows = (of: Song): string[] => plainEvents(of.tracks[0]!.events);
const edit = (spans: [number, number][], settings: object): string[] =>
  rows(take(song, 'events.edit-several', { rows: { t1: spans }, ...settings }).song);
const before = rows(song);
const differing = (after: string[]): string[] => after.filter((e, n) => e !== before[n]);

describe('events edited together', () => {
  it('have one value, or each its own and some more, within range', () => {
    expect(differing(edit([[4, 5]], { data2: { to: 64 } }))).toEqual(['96 b00140', '97 b00140']);
    expect(differing(edit([[4, 5]], { data2: { by: 20 } }))).toEqual(['96 b0011e', '97 b0017f']);
    expect(differing(edit([[4, 5]], { data1: { to: 11 } }))).toEqual(['96 b00b0a', '97 b00b78']);
    expect(differing(edit([[6, 6]], { bend: 100 }))).toEqual(['98 e06440']);
    expect(differing(edit([[7, 8]], { payload: [67] }))).toEqual(['99 ff06 43', '100 ff06 43']);
  });

  it('are notes with both their ends, whichever of them is chosen', () => {
    const [on, off] = ['0 923e50', '48 823e40'];
    const whole = { channel: 3, data1: { by: 2 } };
    for (const spans of [[[0, 0]], [[0, 1]]] as [number, number][][])
      expect(differing(edit(spans, whole))).toEqual([on, off]);
    expect(differing(edit([[1, 1]], whole))).toEqual([on, off]);
    // Chosen whole, a note's velocity is that of its beginning; its end alone has the release velocity.
    expect(differing(edit([[0, 1]], { data2: { to: 1 } }))).toEqual(['0 903c01']);
    expect(differing(edit([[1, 1]], { data2: { to: 1 } }))).toEqual(['48 803c01']);
    expect(edit([[0, 0]], { data2: { by: -127 } })[0]).toBe('0 903c01');
  });

  it('are longer up to the next note of their key, and never so short that they are none', () => {
    const { song: longer, report } = take(song, 'events.edit-several', {
      rows: { t1: [[0, 0]] },
      length: { to: 96 },
    });
    expect(rows(longer)).toEqual(before);
    expect(report.changes).toEqual([]);
    const shorter = edit([[0, 3]], { length: { by: -999 } });
    expect(shorter.filter((e) => / 803c/.test(e))).toEqual(['1 803c40', '49 803c40']);
  });

  it('tells notes that meet others of the key they are given', () => {
    const chord = songOf([...note(0, 96, 60), ...note(0, 96, 64)]);
    const { report } = take(chord, 'events.edit-several', {
      rows: { t1: [[0, 3]] },
      data1: { to: 60 },
    });
    expect(report.changes[0]!.detail).toBe('one note begins while another of the key sounds');
  });

  it('says how many', () => {
    const { described, report } = take(song, 'events.edit-several', {
      rows: { t1: [[0, 6]] },
      channel: 2,
    });
    expect(report.changes[0]!.counts).toEqual({ note: 2, controller: 2, bend: 1 });
    expect(described).toBe('Edited 5 events in track 1');
  });

  it.each([
    [[[0, 5]], { data2: { to: 5 } }],
    [[[0, 7]], { channel: 2 }],
    [[[7, 7]], { data1: { to: 5 } }],
    [[[9, 9]], { payload: [1] }],
    [[[4, 4]], { payload: [1] }],
    [[[4, 4]], { length: { to: 5 } }],
    [[[4, 4]], { bend: 5 }],
    [[[0, 0]], { data2: { to: 0 } }],
    [[[0, 0]], {}],
    [[[0, 99]], { channel: 2 }],
  ])('%j cannot be given %j', (spans, settings) =>
    expect(refusal(song, 'events.edit-several', { rows: { t1: spans }, ...settings })).toBe(
      'settings-invalid',
    ),
  );
});
