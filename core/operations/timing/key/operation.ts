import { z } from 'zod';
import { ok } from '../../../problems/problems.ts';
import { meta } from '../../../smf/events.ts';
import { defineOperation } from '../../operation.ts';
import { editMap, keyEvent } from '../../../edit/edit-map.ts';
import { placeSettings, tickOfPlace } from '../../../edit/place-setting.ts';

export const timingKey = defineOperation({
  id: 'timing.key',
  version: 1,
  title: 'Set a key',
  summary: 'Puts a key signature at a bar, or takes the one there out. No note changes.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    ...placeSettings,
    sharps: z
      .int()
      .min(-7)
      .max(7)
      .default(0)
      .meta({ title: 'Sharps', description: 'Flats below zero.' }),
    minor: z.boolean().default(false).meta({ title: 'Minor' }),
    remove: z.boolean().default(false).meta({ title: 'Take it out instead' }),
  }),
  apply(song, { bar, beat, tick, sharps, minor, remove }) {
    const at = tickOfPlace(song, { bar, beat, tick });
    if (!at.ok) return at;
    const edited = editMap(
      song,
      (type, its) => type === meta.keySignature && its === at.value,
      remove ? [] : [keyEvent(at.value, sharps, minor)],
      'key',
    );
    const skipped =
      edited.changes.length === 0
        ? [{ why: remove ? 'There is no key at that place.' : 'That key stands there already.' }]
        : [];
    return ok({ song: edited.song, report: { changes: edited.changes, skipped } });
  },
  describe: ({ bar, remove }) =>
    remove ? `Took the key out at bar ${bar}` : `Set the key at bar ${bar}`,
  examples: [{ says: 'D minor at the beginning', settings: { sharps: -1, minor: true } }],
});
