import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { controller, note, songOf } from '../../tests/support/songs.ts';
import fc from 'fast-check';
import { madeSong } from '../../tests/support/made-songs.ts';
import { asSpans, changedNotes, changedRows } from './changed-rows.ts';
import type { Events } from '../smf/events.ts';

const events = (...list: Parameters<typeof songOf>): Events => songOf(...list).tracks[0]!.events;

describe('rows that another state does not have', () => {
  it('are those taken out, changed and moved, and no others', () => {
    const before = events([controller(0, 7, 90), ...note(0, 96, 60), controller(50, 11, 3)]);
    expect(changedRows(before, before)).toEqual([]);
    // The volume is another, the note is moved, the expression is gone.
    const after = events([controller(0, 7, 91), ...note(10, 96, 60)]);
    const gone = changedRows(before, after).map((row) => [before.atTick[row], before.status[row]]);
    expect(gone).toEqual([
      [0, 0xb0],
      [0, 0x90],
      [50, 0xb0],
      [96, 0x80],
      // And the end of the track, which stands elsewhere.
      [96, 0xff],
    ]);
  });

  it('of events that are alike as many as are missing', () => {
    const twice = events([controller(0, 7, 90), controller(0, 7, 90), controller(0, 7, 90)]);
    const once = events([controller(0, 7, 90)]);
    expect(changedRows(twice, once)).toEqual([1, 2]);
    expect(changedRows(once, twice)).toEqual([]);
  });

  it('agree with a plain count of what each state has, over songs made at random', () => {
    const said = (e: Events, row: number): string =>
      JSON.stringify([
        e.atTick[row],
        e.status[row],
        e.data1[row],
        e.data2[row],
        [...e.pool.bytes.subarray(e.pool.start[e.payload[row]!]!, e.pool.end[e.payload[row]!]!)],
      ]);
    const law = (a: Events, b: Events): void => {
      const left = new Map<string, number>();
      for (let row = 0; row < b.count; row++)
        left.set(said(b, row), (left.get(said(b, row)) ?? 0) + 1);
      const missing: number[] = [];
      for (let row = 0; row < a.count; row++) {
        const n = left.get(said(a, row)) ?? 0;
        if (n > 0) left.set(said(a, row), n - 1);
        else missing.push(row);
      }
      expect(changedRows(a, b)).toEqual(missing);
    };
    fc.assert(
      fc.property(madeSong, ({ tracks }) => {
        for (const a of tracks) for (const b of tracks) law(a.events, b.events);
      }),
      { numRuns: scaleRuns(40) },
    );
  });

  it('a note whose end alone is another is changed, where it begins', () => {
    const before = events([...note(0, 96, 60), ...note(0, 96, 64)]);
    const after = events([...note(0, 48, 60), ...note(0, 96, 64)]);
    expect(changedNotes(before, after).map((row) => before.data1[row])).toEqual([60]);
    expect(changedNotes(before, before)).toEqual([]);
  });

  it('rising rows become spans', () => {
    expect(asSpans([1, 2, 3, 7, 9, 10])).toEqual([
      [1, 3],
      [7, 7],
      [9, 10],
    ]);
  });
});
