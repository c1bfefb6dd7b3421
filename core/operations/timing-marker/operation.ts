import { z } from 'zod';
import { ok } from '../../problems/problems.ts';
import { meta, metaEvent } from '../../smf/events.ts';
import { encodeText } from '../../smf/text.ts';
import { defineOperation } from '../operation.ts';
import { editMap } from '../shared/edit-map.ts';
import { placeSettings, tickOfPlace } from '../shared/place-setting.ts';

export const timingMarker = defineOperation({
  id: 'timing.marker',
  version: 1,
  title: 'Set a marker',
  summary: 'Puts a marker or cue point at a place, in place of one of its kind that stands there; an empty text takes it out.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    ...placeSettings,
    text: z.string().max(500).default('Marker').meta({ title: 'Text' }),
    kind: z.enum(['marker', 'cue point']).default('marker').meta({ title: 'Kind' }),
  }),
  apply(song, { text, kind, ...place }) {
    const at = tickOfPlace(song, place);
    if (!at.ok) return at;
    const type = kind === 'marker' ? meta.marker : meta.cuePoint;
    const edited = editMap(song, (t, tick) => t === type && tick === at.value, text.trim() === '' ? [] : [metaEvent(at.value, type, encodeText(text.trim()))], 'marker');
    const skipped = edited.changes.length === 0 ? [{ why: text.trim() === '' ? 'There is none at that place.' : 'It stands there already.' }] : [];
    return ok({ song: edited.song, report: { changes: edited.changes, skipped } });
  },
  describe: ({ text, kind, bar }) => (text.trim() === '' ? `Took the ${kind} out at bar ${bar}` : `Set the ${kind} “${text.trim()}” at bar ${bar}`),
  examples: [{ says: 'A chorus in bar 2', settings: { bar: 2, text: 'Chorus' } }],
});
