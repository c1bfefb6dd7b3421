import { sentBy } from '../instruments/sent-by.ts';
import { pickEvents } from '../smf/event-builder.ts';
import type { Events } from '../smf/events.ts';
import { choosesIt, firstProgram } from '../song/played-by.ts';
import type { Track } from '../song/song.ts';

/**
 * The events of a track as they are listened to here: what chooses its definition on the device it is for
 * is, here, the General MIDI program or kit that the definition says it is heard with, in no bank. The
 * events themselves where that is the same.
 */
export function asHeard({ events, instrument }: Track): Events {
  if (!instrument?.sends || !choosesIt(instrument, firstProgram(events))) return events;
  const { program, bank } = sentBy(instrument);
  const heard = instrument.program - 1;
  const { status, data1, data2 } = events;
  const chooses = (row: number): boolean => status[row]! >> 4 === 0xc && data1[row] === program;
  const ofBank = (row: number): boolean =>
    bank !== null &&
    status[row]! >> 4 === 0xb &&
    ((data1[row] === 0 && data2[row] === bank >> 7) ||
      (data1[row] === 32 && data2[row] === (bank & 127)));
  const rows = [...status.keys()].filter((row) => !ofBank(row));
  const played = rows.length === events.count ? events : pickEvents(events, rows);
  const programs = played.data1.slice();
  rows.forEach((row, n) => {
    if (chooses(row)) programs[n] = heard;
  });
  return { ...played, data1: programs };
}
