import { expect, it } from 'vitest';
import { eventsFrom } from '../smf/event-builder.ts';
import { channelEvent, meta, metaEvent, type EventValue } from '../smf/events.ts';
import { factsOf } from '../song/track-facts.ts';
import type { Song, Track } from '../song/song.ts';
import { encodeText } from '../smf/text.ts';
import { note, songOf } from '../../tests/support/songs.ts';
import { madeOf, openChannel, openName, standingOn } from './part-rooms.ts';

const named = (name: string): EventValue => metaEvent(0, meta.trackName, encodeText(name));
const port = (number: number): EventValue => metaEvent(0, meta.port, Uint8Array.of(number));
const on = (channel: number, events: readonly EventValue[]): EventValue[] =>
  events.map((e) => ({ ...e, status: e.status | channel }));
const track = (id: string, ...events: EventValue[]): Track => ({ id, events: eventsFrom(events) });
const everywhere = { ports: [] };

/** What is told of a song that nothing was passed on to. */
const fresh = (song: Song): Song => ({ ...song });
const told = (song: Song) => [
  openChannel(song, everywhere),
  openName(song, 'Flute'),
  ...Array.from({ length: 128 }, (_, key) => standingOn(song, everywhere, 0)(key)),
];

it('what is passed on from song to song is what each would tell by itself', () => {
  const first = songOf([named('Flute'), ...note(0, 96, 60), ...note(96, 96, 62)]);
  expect(openName(first, 'Flute')).toBe('Flute 2');
  // Channel 1 is taken, so that 2 is open; keys are told in the order in which they begin.
  expect(openChannel(first, everywhere)).toBe(1);
  expect(standingOn(first, everywhere, 0)(60).map((n) => [n.from, n.to])).toEqual([[0, 96]]);

  const added = track('t2', named('Flute 2'), ...note(48, 10, 60), ...on(1, note(0, 10, 60)));
  const second: Song = { ...first, tracks: [...first.tracks, added] };
  madeOf(first, second, added);
  const without = track('t1', named('Flute'), ...note(96, 96, 62));
  const third: Song = { ...second, tracks: [without, added] };
  madeOf(second, third, without, first.tracks[0]);
  expect(told(third)).toEqual(told(fresh(third)));
  expect(standingOn(third, everywhere, 0)(60).map((n) => n.from)).toEqual([48]);
  expect(openChannel(third, everywhere)).toBe(2);
  expect(openName(third, 'Flute')).toBe('Flute 3');
});

it('a song that was made and let go again takes nothing from the one before it', () => {
  const song = songOf(note(0, 96, 60));
  expect(openChannel(song, everywhere)).toBe(1);
  const added = track('t2', ...on(1, note(0, 10, 60)));
  madeOf(song, { ...song, tracks: [...song.tracks, added] }, added);
  expect(openChannel(song, everywhere)).toBe(1);
});

it('channels of another port are open, and their notes do not stand here', () => {
  const song = songOf([port(0), ...note(0, 96, 60)], [port(1), channelEvent(0, 0x91, 60, 9)]);
  const [here, there] = song.tracks.map(factsOf);
  expect([openChannel(song, here!), openChannel(song, there!)]).toEqual([1, 0]);
  expect(standingOn(song, there!, 0)(60)).toEqual([]);
});
