import { describe, expect, it } from 'vitest';
import { end } from '../../../tests/support/bars-by-hand.ts';
import { controller, note, songOf, take } from '../../../tests/support/songs.ts';
import { metaEvent, type EventValue } from '../../smf/events.ts';

/** Bar 2 is moved before bar 1: 96 ticks a quarter, bars of 384. */
const toldOf = (...events: readonly EventValue[]): string =>
  (
    take(
      songOf(
        [end(3)],
        [...note(0, 96, 60), ...events, ...note(480, 96, 62), ...note(768, 96, 64), end(3)],
      ),
      'bars.move',
      { before: 1 },
      { bars: { from: 2, to: 2 } },
    ).report.told ?? []
  ).join(' ');
const exclusive = (tick: number, says = 1): EventValue => ({
  ...metaEvent(tick, 0, Uint8Array.of(0x7d, says, 0xf7)),
  status: 0xf0,
});

describe('what bars that move leave in another state is said, one of it as one', () => {
  it('values that nobody set before, and whose first value nobody knows (controllers 20 and 21)', () => {
    expect(toldOf(controller(384, 20, 5))).toContain(
      '1 value could not be put back at a join: nothing was said of it where the music comes from.',
    );
    expect(toldOf(controller(384, 20, 5), controller(384, 21, 5))).toContain(
      '2 values could not be put back at a join: nothing was said of them where the music comes from.',
    );
  });

  it('what an instrument begins with is put back, and nothing is said (GM: expression 127, from memory)', () => {
    expect(toldOf(controller(384, 11, 5))).toBe('');
  });

  it('system exclusive messages', () => {
    expect(toldOf(exclusive(384))).toContain(
      '1 system exclusive message sent before a join holds behind it, where it did not before.',
    );
    expect(toldOf(exclusive(384), exclusive(400, 2))).toContain(
      '2 system exclusive messages sent before a join hold behind it, where they did not before.',
    );
  });
});
