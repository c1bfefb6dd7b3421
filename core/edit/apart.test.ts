import { describe, expect, it } from 'vitest';
import { note, songOf } from '../../tests/support/songs.ts';
import type { EventValue } from '../smf/events.ts';
import { notesOf } from '../song/notes.ts';
import { apartWords, keepApart } from './apart.ts';

/** Notes moved to new starts by the same length; what is kept of that, as "from-to". Worked by hand. */
function moved(notes: readonly (readonly EventValue[])[], starts: readonly number[]) {
  const { events } = songOf(notes.flat()).tracks[0]!;
  const pairs = notesOf(events);
  const ticks = events.atTick.slice();
  for (let n = 0; n < pairs.count; n++) {
    const [on, off] = [pairs.on[n]!, pairs.off[n]!];
    const by = starts[n]! - events.atTick[on]!;
    ticks[on] = starts[n]!;
    if (off !== -1) ticks[off] = events.atTick[off]! + by;
  }
  const kept = keepApart(events, pairs, ticks);
  return {
    ...kept,
    notes: Array.from(pairs.on, (on, n) => `${ticks[on]}-${ticks[pairs.off[n]!]}`),
  };
}

describe('notes that are moved stay apart', () => {
  it('the one before ends where the next of its key begins', () => {
    expect(moved([note(0, 40, 60), note(100, 40, 60)], [80, 100])).toEqual({
      cut: 1,
      stayed: 0,
      notes: ['80-100', '100-140'],
    });
  });

  it('all that begin together end where the next of their key begins', () => {
    expect(
      moved([note(0, 40, 60), note(0, 40, 60), note(100, 40, 60)], [80, 80, 100]).notes,
    ).toEqual(['80-100', '80-100', '100-140']);
  });

  it('what begins with a note that stays, stays with it', () => {
    expect(
      moved([note(0, 10, 60), note(100, 10, 60), note(100, 10, 60)], [50, 40, 40]).notes,
    ).toEqual(['50-60', '100-110', '100-110']);
  });

  it('one that would begin with its forerunner, or before it, stays where it was', () => {
    expect(moved([note(0, 40, 60), note(100, 40, 60)], [0, 0])).toEqual({
      cut: 0,
      stayed: 1,
      notes: ['0-40', '100-140'],
    });
    expect(moved([note(50, 40, 60), note(100, 40, 60)], [50, 20]).notes).toEqual([
      '50-90',
      '100-140',
    ]);
  });

  it('notes of another key or channel are in nobody’s way', () => {
    const result = { cut: 0, stayed: 0, notes: ['80-120', '100-140'] };
    expect(moved([note(0, 40, 60), note(100, 40, 61)], [80, 100])).toEqual(result);
    expect(moved([note(0, 40, 60), note(100, 40, 60, 80, 1)], [80, 100])).toEqual(result);
    // Drums too: the same key of the tenth channel and of another.
    expect(moved([note(0, 40, 36, 80, 9), note(100, 40, 36)], [80, 100])).toEqual(result);
  });

  it('drums are kept apart key by key', () => {
    expect(
      moved(
        [note(0, 40, 36, 90, 9), note(60, 20, 38, 90, 9), note(100, 40, 36, 90, 9)],
        [70, 70, 100],
      ),
    ).toEqual({ cut: 1, stayed: 0, notes: ['70-100', '70-90', '100-140'] });
  });

  it('what overlapped before goes on overlapping, and what touches is not cut', () => {
    expect(moved([note(0, 150, 60), note(100, 40, 60)], [0, 100]).cut).toBe(0);
    expect(moved([note(0, 40, 60), note(100, 40, 60)], [60, 100])).toMatchObject({ cut: 0 });
  });

  it('says how many', () => {
    expect(apartWords({ cut: 0, stayed: 0 })).toBeUndefined();
    expect(apartWords({ cut: 1, stayed: 0 })).toBe('1 ends where the next of the key begins');
    expect(apartWords({ cut: 2, stayed: 1 })).toBe(
      '2 end where the next of the key begins, 1 stays where another of the key would stand',
    );
  });
});
