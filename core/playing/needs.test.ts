import { expect, it } from 'vitest';
import { controller, note, songOf } from '../../tests/support/songs.ts';
import { channelEvent } from '../smf/events.ts';
import { soundsNeeded } from './needs.ts';
import { portsOf } from './ports.ts';

it('each sound with its keys and how soft and loud they are played, whichever track says the program; the first needed first', () => {
  const tracks = songOf(
    // Programs of channel 1 stand in a track of their own: 5 from the beginning, 9 in bank 1 from tick 200.
    [channelEvent(0, 0xc0, 5), controller(150, 0, 1), channelEvent(200, 0xc0, 9)],
    [...note(100, 10, 60, 40), ...note(120, 10, 60, 90), ...note(210, 10, 72, 64)],
    note(50, 10, 36, 100, 9),
    note(0, 10, 50, 70, 3),
  ).tracks.map((t) => t.events);
  expect(soundsNeeded(tracks, portsOf(tracks))).toEqual([
    { drums: false, bank: [0, 0], program: 0, keys: [50, 70, 70] },
    { drums: true, bank: [0, 0], program: 0, keys: [36, 100, 100] },
    { drums: false, bank: [0, 0], program: 5, keys: [60, 40, 90] },
    { drums: false, bank: [1, 0], program: 9, keys: [72, 64, 64] },
  ]);
});
