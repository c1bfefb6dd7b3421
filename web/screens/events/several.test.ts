import { expect, it } from 'vitest';
import { eventsFrom } from '#core/smf/event-builder.ts';
import { channelEvent, meta, metaEvent, type EventValue } from '#core/smf/events.ts';
import { indexEvents } from '#core/song/event-index.ts';
import { note } from '../../../tests/support/songs.ts';
import { severalAsked, severalOf, various } from './several.ts';

const as = { encoding: 'UTF-8', middleC: 4 } as const;
const of = (...values: EventValue[]) => {
  const events = [eventsFrom(values)];
  const index = indexEvents(events, () => true);
  const chosen = new Set(values.map((_, n) => n));
  return severalOf({ events, index }, chosen, as);
};
const asked = (several: ReturnType<typeof of>, values: string[], channel = '') =>
  severalAsked(several, { channel, values }, as);
const expression = of(channelEvent(0, 0xb0, 11, 5), channelEvent(1, 0xb3, 11, 9));

it('what events have in common is shown, and where they differ that they do', () => {
  expect(expression.channel).toBe(various);
  expect(expression.fields.map((f) => [f.name, f.value])).toEqual([
    ['Controller', '11'],
    ['Value', various],
  ]);
  const mixed = of(channelEvent(0, 0xb0, 11, 5), channelEvent(1, 0xc0, 11));
  expect([mixed.channel, mixed.fields]).toEqual(['1', []]);
  expect(of(channelEvent(0, 0xb0, 1, 5), metaEvent(1, meta.text)).channel).toBeUndefined();
});

it('what is typed is for all, or more or less than each has; blank stays', () => {
  expect(asked(expression, ['', '+5'])).toEqual({ data2: { by: 5 } });
  expect(asked(expression, ['1', '-5'], '3')).toEqual({
    channel: 3,
    data1: { to: 1 },
    data2: { by: -5 },
  });
  expect(asked(of(...note(0, 9, 60).slice(0, 1)), ['D4', ''])).toEqual({ data1: { to: 62 } });
  expect(asked(of(channelEvent(0, 0xe0, 0, 64)), ['-100'])).toEqual({ bend: -100 });
  expect(asked(of(channelEvent(0, 0xc0, 3)), ['10'])).toEqual({ data1: { to: 9 } });
  expect(asked(of(channelEvent(0, 0xd0, 3)), ['10'])).toEqual({ data1: { to: 10 } });
  expect(asked(of(metaEvent(0, meta.marker, Uint8Array.of(65))), ['AB'])).toEqual({
    payload: [65, 66],
  });
});

it.each([
  [['', ''], '', /Type what/],
  [['', '128'], '', /^Value: a whole number from 0 to 127, or \+5/],
  [['', 'loud'], '', /^Value/],
  [['', ''], '17', /^Channel/],
])('%j on channel "%s" is told', (values, channel, says) =>
  expect(asked(expression, values, channel)).toEqual({
    wrong: expect.stringMatching(says) as string,
  }),
);
