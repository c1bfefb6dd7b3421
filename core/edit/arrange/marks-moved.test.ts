import { describe, expect, it } from 'vitest';
import { note, songOf } from '../../../tests/support/songs.ts';
import { meta, metaEvent, type EventValue } from '../../smf/events.ts';
import { encodeText } from '../../smf/text.ts';
import { marksMoved } from './marks-moved.ts';
import type { Stretch } from './stretches.ts';

/** Bars of 384 ticks (4/4 at 96 PPQ), so a sixteenth is 24 ticks. What is expected is worked out by hand. */
const bar = 384;
const mark = (tick: number, said: string): EventValue =>
  metaEvent(tick, meta.marker, encodeText(said));

/** Bars from one up to, not including, another, and where they begin now, all counted from 0. */
const bars = (from: number, to: number, at: number): Stretch => ({
  from: from * bar,
  to: to * bar,
  at: at * bar,
  ends: Infinity,
});

/** What is put anew, as "tick text order", and what is not taken over, as "stretch: row"; a note has rows 0 and 1. */
function moved(marks: readonly EventValue[], ...stretches: readonly Stretch[]) {
  const song = songOf([...marks, ...note(0, 96, 60), metaEvent(6 * bar, meta.endOfTrack)]);
  const { puts, without, kept } = marksMoved(song, stretches);
  const said = puts.map(
    ({ put: { event, order } }) =>
      `${event.atTick} ${String.fromCharCode(...(event.payload ?? []))} ${order}`,
  );
  const gone = stretches.flatMap((_, n) =>
    [...(without.get('t1')?.of(n) ?? [])].map((row) => `${n}: ${row}`),
  );
  return { said, gone, ...(kept.length > 0 ? { kept } : {}) };
}

describe('a section whose end stands a little behind an edge', () => {
  it('ends with what is before the edge', () => {
    // Bars 1 and 2 change places: the section, of bar 1 and ten ticks, is bar 2 now.
    expect(
      moved([mark(0, 'A'), mark(bar + 10, 'A (end)')], bars(1, 2, 0), bars(0, 1, 1)).said,
    ).toEqual([expect.stringMatching(/^768 A \(end\) /)]);
  });
});

describe('a mark before an edge', () => {
  it('of less than a sixteenth names what follows, and goes with that', () => {
    // Bars 1 and 2 change places: what stands 23 ticks before bar 2 goes before that, to the very beginning.
    expect(moved([mark(bar - 23, 'B')], bars(1, 2, 0), bars(0, 1, 1))).toEqual({
      said: ['0 B 1'],
      gone: ['1: 2'],
    });
    expect(moved([mark(2 * bar - 23, 'C')], bars(0, 1, 0), bars(2, 3, 1), bars(1, 2, 2))).toEqual({
      said: [`${bar - 23} C 1`],
      gone: ['2: 2'],
    });
  });

  it('of a sixteenth stays with what it stands in, and so does one on an edge', () => {
    const none = { said: [], gone: [] };
    expect(moved([mark(bar - 24, 'B')], bars(1, 2, 0), bars(0, 1, 1))).toEqual(none);
    expect(moved([mark(bar, 'B')], bars(1, 2, 0), bars(0, 1, 1))).toEqual(none);
    expect(moved([mark(0, 'A')], bars(1, 2, 0), bars(0, 1, 1))).toEqual(none);
  });

  it('sounds as often as what follows it, and not at all where that is gone', () => {
    const [twice, gone] = [
      moved([mark(bar - 1, 'B')], bars(0, 2, 0), bars(1, 2, 2)),
      moved([mark(bar - 1, 'B')], bars(0, 1, 0), bars(2, 3, 1)),
    ];
    // It goes on from bar 1 into bar 2 as it is; before bar 2 again it is said again.
    expect(twice.said).toEqual([`${2 * bar - 1} B 1`]);
    expect(gone).toEqual({ said: [], gone: ['0: 2'] });
  });
});

describe('a marker of bars that are gone', () => {
  const cut = [bars(0, 1, 0), bars(3, 6, 1)] as const;
  const kept = (text: string) => ({ said: [`${bar} ${text} 1`], gone: [], kept: [text] });

  it('begins at the join, where its music goes on there: the last of several', () => {
    expect(moved([mark(bar, 'B')], ...cut)).toEqual(kept('B'));
    expect(moved([mark(bar, 'B'), mark(2 * bar, 'C')], ...cut)).toEqual(kept('C'));
    expect(moved([mark(0, 'A'), mark(2 * bar, 'C'), mark(4 * bar, 'D')], ...cut)).toEqual(
      kept('C'),
    );
    expect(moved([mark(0, 'A')], bars(1, 6, 0))).toEqual({
      said: ['0 A 1'],
      gone: [],
      kept: ['A'],
    });
  });

  it('is gone where another begins at the join, or less than a sixteenth behind it', () => {
    const none = { said: [], gone: [] };
    expect(moved([mark(bar, 'B'), mark(3 * bar, 'C')], ...cut)).toEqual(none);
    expect(moved([mark(bar, 'B'), mark(3 * bar + 23, 'C')], ...cut)).toEqual(none);
    expect(moved([mark(bar, 'B'), mark(3 * bar + 24, 'C')], ...cut)).toEqual(kept('B'));
  });

  it('is gone with its music at the end, and stays where its bars are elsewhere', () => {
    const none = { said: [], gone: [] };
    expect(moved([mark(3 * bar, 'B')], bars(0, 2, 0))).toEqual(none);
    expect(moved([mark(bar, 'B')], bars(0, 1, 0), bars(3, 6, 1), bars(1, 3, 4))).toEqual(none);
  });

  it('of which the join names another, goes with that', () => {
    expect(moved([mark(bar, 'B'), mark(3 * bar - 1, 'C')], ...cut)).toEqual({
      said: [`${bar - 1} C 1`],
      gone: [],
    });
  });
});

describe('a section over an edge', () => {
  const verse = [mark(0, 'Verse'), mark(2 * bar, 'Verse (end)')];

  it('whose second bar moves away begins and ends in both places', () => {
    expect(moved(verse, bars(0, 1, 0), bars(2, 3, 1), bars(1, 2, 2)).said).toEqual([
      `${bar} Verse (end) 0`,
      `${2 * bar} Verse 1`,
      `${3 * bar} Verse (end) 0`,
    ]);
  });

  it('stays one where only something of it is missing, or was put in between', () => {
    const long = [mark(0, 'Verse'), mark(3 * bar, 'Verse (end)')];
    expect(moved(long, bars(0, 1, 0), bars(2, 4, 1)).said).toEqual([]);
    expect(moved(long, bars(0, 1, 0), bars(1, 4, 2)).said).toEqual([]);
  });

  it('that is said twice is two: the second begins anew', () => {
    expect(moved(verse, bars(0, 2, 0), bars(0, 2, 2), bars(2, 3, 4)).said).toEqual([
      `${2 * bar} Verse (end) 0`,
      `${4 * bar} Verse (end) 0`,
    ]);
  });

  it('of which nothing sounds is gone, its end with it', () => {
    const late = [mark(bar, 'Verse'), mark(2 * bar, 'Verse (end)')];
    expect(moved(late, bars(0, 1, 0), bars(2, 3, 1))).toEqual({ said: [], gone: ['1: 3'] });
  });
});
