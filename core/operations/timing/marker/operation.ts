import { z } from 'zod';
import { ok } from '../../../problems/problems.ts';
import { tracksIn } from '../../../song/scope.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { defineOperation } from '../../operation.ts';
import { anchored, anchorSetting } from '../../../edit/anchor.ts';
import { editMarks, markKindNames } from '../../../edit/edit-marks.ts';
import { placeSettings, tickOfPlace } from '../../../edit/place-setting.ts';

export const timingMarker = defineOperation({
  id: 'timing.marker',
  version: 2,
  title: 'Set a marker',
  summary:
    'Puts a marker, cue point or text at a place, in place of one of its kind that stands there; an empty text takes it out. With tracks chosen it belongs to the first of them, else to the song.',
  group: 'timing',
  scope: 'tracks',
  settings: z.strictObject({
    ...placeSettings,
    text: z.string().max(500).default('Marker').meta({ title: 'Text' }),
    kind: z.enum(markKindNames).default('marker').meta({ title: 'Kind' }),
    travels: z
      .boolean()
      .default(true)
      .meta({ title: 'It is sent', description: 'Else it is kept here, and no file has it.' }),
    anchor: anchorSetting,
  }),
  apply(song, { text: typed, kind, travels, anchor, ...place }, scope) {
    const at = tickOfPlace(song, place);
    if (!at.ok) return at;
    const tracks = tracksIn(song, scope);
    if (!tracks.ok) return tracks;
    const text = typed.trim();
    const { markers, cuePoints, texts } = timingOf(song);
    const meant = new Set(tracks.value.map((t) => t.id));
    const there = [...markers, ...cuePoints, ...texts].filter(
      (m) => m.kind === kind && m.atTick === at.value && meant.has(m.track),
    );
    const edited = editMarks(
      song,
      there,
      text === ''
        ? []
        : [{ atTick: at.value, text, kind, travels, ...anchored(song)(at.value, anchor) }],
      { into: tracks.value[0]!.id },
    );
    if (!edited.ok) return edited;
    const { changes } = edited.value;
    const skipped =
      changes.length === 0
        ? [{ why: text === '' ? 'There is none at that place.' : 'It stands there already.' }]
        : [];
    return ok({ song: edited.value.song, report: { changes, skipped } });
  },
  describe: ({ text, kind, bar }) =>
    text.trim() === ''
      ? `Took the ${kind} out at bar ${bar}`
      : `Set the ${kind} “${text.trim()}” at bar ${bar}`,
  examples: [
    { says: 'A chorus in bar 2', settings: { bar: 2, text: 'Chorus' } },
    {
      says: 'A note to oneself, not sent',
      settings: { text: 'Ask about the harp', travels: false },
    },
    {
      says: 'A cut of the picture, which stays at its time',
      settings: { text: 'Cut', anchor: 'time' },
    },
  ],
});
