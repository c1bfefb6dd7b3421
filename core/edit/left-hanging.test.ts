import { describe, expect, it } from 'vitest';
import { controller, songOf } from '../../tests/support/songs.ts';
import { channelEvent, metaEvent, type EventValue } from '../smf/events.ts';
import { settling } from './left-hanging.ts';

const end = metaEvent(400, 0x2f);
const back = (...events: EventValue[]): string[] =>
  settling(songOf([...events, end]).tracks[0]!).map(
    (e) => `${e.atTick} ${e.status.toString(16)} ${e.data1} ${e.data2}`,
  );

/** Switches are on from 64 (MIDI 1.0); 68, the legato footswitch, is no pedal that holds a sound. Worked by hand. */
describe('what is left hanging at the end of a part', () => {
  it('is a pedal at 64 or more, and not at 63', () => {
    expect(back(controller(10, 64, 64))).toEqual(['400 b0 64 0']);
    expect(back(controller(10, 64, 127))).toEqual(['400 b0 64 0']);
    expect(back(controller(10, 64, 63))).toEqual([]);
  });

  it('is no pedal that came up again', () => {
    expect(back(controller(10, 64, 127), controller(20, 64, 0))).toEqual([]);
    expect(back(controller(10, 64, 0), controller(20, 64, 100))).toEqual(['400 b0 64 0']);
  });

  it('is each switch from 64 to 69 but the legato footswitch, and no other controller', () => {
    const on = [63, 64, 65, 66, 67, 68, 69, 70].flatMap((n) => controller(10, n, 100));
    expect(back(...on)).toEqual([64, 65, 66, 67, 69].map((n) => `400 b0 ${n} 0`));
  });

  it('is a bend off its centre by one, on its own channel', () => {
    expect(back(channelEvent(10, 0xe3, 1, 64))).toEqual(['400 e3 0 64']);
    expect(back(channelEvent(10, 0xe3, 127, 63))).toEqual(['400 e3 0 64']);
    expect(back(channelEvent(10, 0xe3, 5, 70), channelEvent(20, 0xe3, 0, 64))).toEqual([]);
  });

  it('is no pressure and no volume', () => {
    expect(back(channelEvent(10, 0xd0, 99), controller(10, 7, 3), controller(10, 1, 90))).toEqual(
      [],
    );
  });
});
