import { z } from 'zod';
import { ok, refused } from '../../problems/problems.ts';
import { meta, metaEvent } from '../../smf/events.ts';
import { parseTimecode, type FrameRate } from '../../timing/timecode.ts';
import { defineOperation } from '../operation.ts';
import { editMap } from '../shared/edit-map.ts';

/** What the SMPTE offset event can say, with its two bits (SMF 1.0); other rates are no part of it. */
const rates = { '24': 0, '25': 1, '29.97 drop': 2, '30': 3 } as const satisfies Partial<Record<FrameRate, number>>;

export const timingTimecode = defineOperation({
  id: 'timing.timecode',
  version: 1,
  title: 'Set the start timecode',
  summary: 'States the timecode at which bar 1 begins, as the SMPTE offset event that the file carries; an empty address takes it out.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    address: z.string().max(20).default('01:00:00:00').meta({ title: 'Timecode', description: 'hh:mm:ss:ff' }),
    rate: z.enum(['24', '25', '29.97 drop', '30']).default('25').meta({ title: 'Frames a second', description: 'The four rates that a MIDI file can state.' }),
  }),
  apply(song, { address, rate }) {
    const frames = parseTimecode(address, rate);
    const remove = address.trim() === '';
    if (!remove && frames === undefined) return refused({ code: 'settings-invalid', where: { field: 'settings.address' }, expected: `an address that ${rate} frames a second has`, found: address });
    const [h, m, s, f] = address.split(/[:;.]/).map(Number) as [number, number, number, number];
    const added = remove ? [] : [metaEvent(0, meta.smpteOffset, Uint8Array.of((rates[rate] << 5) | h, m, s, f, 0))];
    const edited = editMap(song, (type) => type === meta.smpteOffset, added, 'timecode');
    return ok({ song: edited.song, report: { changes: edited.changes, skipped: edited.changes.length === 0 ? [{ why: remove ? 'The song states no timecode.' : 'It begins there already.' }] : [] } });
  },
  describe: ({ address, rate }) => (address.trim() === '' ? 'Took the start timecode out' : `Set the start timecode to ${address.trim()} at ${rate} frames a second`),
  examples: [{ says: 'One hour at 25 frames a second', settings: {} }],
});
