import { z } from 'zod';
import { ok } from '../../../problems/problems.ts';
import { defineOperation } from '../../operation.ts';
import { anchored, anchorSetting } from '../../../edit/anchor.ts';
import { editMarks, markKindNames } from '../../../edit/edit-marks.ts';

const tick = z.int().min(0).max(1_000_000_000_000);
const mark = z.strictObject({
  atTick: tick,
  kind: z.enum(markKindNames).default('marker'),
  text: z.string().max(500),
});

export const timingMarks = defineOperation({
  id: 'timing.marks',
  version: 2,
  title: 'Edit markers by hand',
  summary:
    'Takes marks of a revision out and puts others in: moved, renamed, of another kind, sent or not.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    gone: z
      .array(mark.extend({ track: z.string().max(40).optional() }))
      .max(5000)
      .default([])
      .meta({ title: 'Out' }),
    come: z
      .array(mark.extend({ travels: z.boolean().default(true), anchor: anchorSetting }))
      .max(5000)
      .default([])
      .meta({ title: 'In' }),
    into: z
      .string()
      .max(40)
      .optional()
      .meta({ title: 'Track', description: 'Where they go; the first track where it names none.' }),
  }),
  byHand: true,
  apply(song, { gone, come, into }) {
    const of = anchored(song);
    const edited = editMarks(
      song,
      gone,
      come.map(({ anchor, ...m }) => ({ ...m, ...of(m.atTick, anchor) })),
      { into },
    );
    if (!edited.ok) return edited;
    const { changes } = edited.value;
    return ok({
      song: edited.value.song,
      report: {
        changes,
        skipped: changes.length === 0 ? [{ why: 'They stand as asked already.' }] : [],
      },
    });
  },
  describe({ gone, come }) {
    const names = [...new Set([...come, ...gone].map((m) => m.text))].filter(
      (n) => !n.endsWith(' (end)'),
    );
    const what = names.length === 1 ? `“${names[0]}”` : `${names.length} markers`;
    return come.length === 0
      ? `Took out ${what}`
      : gone.length === 0
        ? `Put in ${what}`
        : `Changed ${names.length === 2 && come.length === gone.length ? `“${names[1]}” to “${names[0]}”` : what}`;
  },
  examples: [{ says: 'One put in', settings: { come: [{ atTick: 0, text: 'In' }] } }],
});
