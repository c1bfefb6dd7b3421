import { describe, expect, it } from 'vitest';
import { definitionSchema } from '../instruments/definition.ts';
import { eventsFrom } from '../smf/event-builder.ts';
import { channelEvent } from '../smf/events.ts';
import { asHeard } from './as-heard.ts';

const whistle = definitionSchema.parse({
  name: 'Whistle',
  program: 79,
  sends: { program: 5, bank: 81 * 128 + 2 },
});
const events = eventsFrom([
  channelEvent(0, 0xb0, 0, 81),
  channelEvent(0, 0xb0, 32, 2),
  channelEvent(0, 0xb0, 7, 100),
  channelEvent(0, 0xc0, 4),
  channelEvent(0, 0x90, 60, 90),
  channelEvent(96, 0x80, 60, 0),
  channelEvent(96, 0xc0, 20),
]);
const said = (list: typeof events): string[] =>
  Array.from({ length: list.count }, (_, n) => `${list.status[n]!.toString(16)} ${list.data1[n]}`);

describe('a part as it is listened to', () => {
  it('plays the program its definition is heard with in the place of what chooses it, in no bank; other programs stay', () => {
    const heard = asHeard({ id: 't1', events, instrument: whistle });
    expect(said(heard)).toEqual(['b0 7', 'c0 78', '90 60', '80 60', 'c0 20', 'ff 47']);
    // What is sent stays as it is.
    expect(said(events)).toContain('c0 4');
  });

  it('is as it is where another program stands in the place of the one that chooses it', () => {
    const other = eventsFrom([
      channelEvent(0, 0xb0, 0, 8),
      channelEvent(0, 0xc0, 30),
      channelEvent(0, 0x90, 60, 90),
      channelEvent(96, 0x80, 60, 0),
    ]);
    expect(asHeard({ id: 't1', events: other, instrument: whistle })).toBe(other);
  });

  it('is its own events where there is no definition, or one that sends what it is heard with', () => {
    expect(asHeard({ id: 't1', events })).toBe(events);
    expect(asHeard({ id: 't1', events, instrument: { ...whistle, sends: null } })).toBe(events);
  });
});
