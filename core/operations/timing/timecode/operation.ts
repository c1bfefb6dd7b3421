import { z } from 'zod';
import { ok, refused } from '../../../problems/problems.ts';
import { meta, type EventValue } from '../../../smf/events.ts';
import { timecodeEvent } from '../../../smf/own-events.ts';
import { offsetEvent } from '../../../timing/start-timecode.ts';
import { frameRateNames, parseTimecode } from '../../../timing/timecode.ts';
import { defineOperation } from '../../operation.ts';
import { editMap } from '../../../edit/edit-map.ts';
import { placeSettings, tickOfPlace } from '../../../edit/place-setting.ts';

export const timingTimecode = defineOperation({
  id: 'timing.timecode',
  version: 1,
  title: 'Set the start timecode',
  summary:
    'States the timecode at which bar 1, or any other bar, begins. Files carry it as SMPTE offset where that can say it; an empty address takes it out.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    address: z
      .string()
      .max(20)
      .default('01:00:00:00')
      .meta({ title: 'Timecode', description: 'hh:mm:ss:ff' }),
    rate: z.enum(frameRateNames).default('25').meta({
      title: 'Frames a second',
      description:
        'The SMPTE offset of a MIDI file states 24, 25, 29.97 drop and 30; the others are kept in an event of our own.',
    }),
    bar: placeSettings.bar,
    beat: placeSettings.beat,
  }),
  apply(song, { address, rate, bar, beat }) {
    const frames = parseTimecode(address, rate);
    const remove = address.trim() === '';
    if (!remove && frames === undefined)
      return refused({
        code: 'settings-invalid',
        where: { field: 'settings.address' },
        expected: `an address that ${rate} frames a second has`,
        found: address,
      });
    const at = tickOfPlace(song, { bar, beat, tick: 0 });
    if (!at.ok) return at;
    const said = (): EventValue =>
      (at.value === 0 ? offsetEvent(rate, frames!) : undefined) ??
      timecodeEvent(at.value, rate, address.trim());
    const edited = editMap(
      song,
      (type) => type === meta.smpteOffset,
      remove ? [] : [said()],
      'timecode',
    );
    return ok({
      song: edited.song,
      report: {
        changes: edited.changes,
        skipped:
          edited.changes.length === 0
            ? [{ why: remove ? 'The song states no timecode.' : 'It begins there already.' }]
            : [],
      },
    });
  },
  describe: ({ address, rate, bar, beat }) =>
    address.trim() === ''
      ? 'Took the start timecode out'
      : `Set the timecode of bar ${bar}${beat > 1 ? `, beat ${beat}` : ''} to ${address.trim()} at ${rate} frames a second`,
  examples: [
    { says: 'One hour at 25 frames a second', settings: {} },
    { says: 'Film speed at the second bar', settings: { rate: '23.976', bar: 2 } },
  ],
});
