import fc from 'fast-check';
import { channelEvent, type EventValue } from '#core/smf/events.ts';
import { controller, note, songOf } from './songs.ts';

/** Messages of two channels that set something or play, the parts of parameters among them. */
const message = fc
  .record({
    tick: fc.integer({ min: 0, max: 12 }).map((n) => n * 32),
    channel: fc.constantFrom(0, 0, 1),
    kind: fc.constantFrom('note', 'note', 'control', 'control', 'control', 'program', 'bend'),
    number: fc.constantFrom(0, 32, 1, 7, 11, 64, 6, 38, 96, 97, 98, 99, 100, 101, 121, 10, 42),
    value: fc.constantFrom(0, 1, 2, 64, 127),
  })
  .map(({ tick, channel, kind, number, value }): EventValue[] =>
    kind === 'note'
      ? note(tick, 20, 60 + value / 2, 80, channel).slice(0, 2)
      : kind === 'control'
        ? [controller(tick, number, value, channel)]
        : kind === 'program'
          ? [channelEvent(tick, 0xc0 | channel, value)]
          : [channelEvent(tick, 0xe0 | channel, 0, value)],
  );
/** Songs of a bar whose tracks share channels, and say on them all that counts. */
export const busySong = fc
  .array(fc.array(message, { maxLength: 30 }), { minLength: 1, maxLength: 3 })
  .map((tracks) => songOf(...tracks.map((t) => t.flat())));
