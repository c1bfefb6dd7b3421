import { describe, expect, it } from 'vitest';
import { metByNotes } from '../../tests/support/in-force-at-notes.ts';
import { controller, note, songOf, take } from '../../tests/support/songs.ts';
import { channelEvent } from '../smf/events.ts';
import { soundWords } from './new-part.ts';

/** A part on each of the sixteen channels, with a program, a volume and a pan of its own. */
const full = songOf(
  ...Array.from({ length: 16 }, (_, channel) => [
    channelEvent(0, 0xc0 | channel, channel * 3),
    controller(0, 7, 60 + channel, channel),
    controller(0, 10, 40 + channel, channel),
    ...note(0, 96, 50 + channel, 80, channel),
  ]),
);
const own = (song: typeof full) =>
  metByNotes(song)
    .filter(({ track }) => Number(track.slice(1)) <= 16)
    .sort((a, b) => a.channel - b.channel);

describe('a new part where no channel is free: the parts that are there sound as before', () => {
  it('it plays what its part plays, which is said', () => {
    const asked = { interval: 'octave', program: 41, cents: 10 };
    const { song, report } = take(full, 'notes.double', asked, { tracks: ['t2'] });
    expect(own(song)).toEqual(own(full));
    const made = song.tracks.find((t) => t.id === 't17')!;
    expect([...made.events.status].filter((s) => s < 0xf0)).toEqual([0x91, 0x81]);
    expect(report.changes[0]!.detail).toContain(
      'no channel is free: it shares channel 2 with its part, and plays what that plays',
    );
  });

  it('on a channel that was asked for, and on which another plays, it plays what that plays', () => {
    const asked = { interval: 'octave', program: 41, channel: 5 };
    const { song, report } = take(full, 'notes.double', asked, { tracks: ['t2'] });
    expect(own(song)).toEqual(own(full));
    expect(report.changes[0]!.detail).toContain(
      'plays what this song has on channel 5: 2 controllers, 1 program left out',
    );
    expect(report.changes[0]!.detail).not.toContain('Violin');
  });
});

it('General MIDI counts programs from 1: 1 is acoustic grand piano, 41 violin (GM 1)', () => {
  const words = (program: number) => soundWords({ program, definition: null, channel: null });
  expect([words(1), words(41)].map((w) => w?.toLowerCase())).toEqual([
    'acoustic grand piano',
    'violin',
  ]);
});
