import { z } from 'zod';
import { ok, refused } from '../../problems/problems.ts';
import { timingOf } from '../../timing/timing.ts';
import { defineOperation } from '../operation.ts';
import { editMarks, sectionMarks } from '../shared/edit-marks.ts';
import { placeSettings, tickOfPlace } from '../shared/place-setting.ts';
import { plainName } from '../shared/plain-text.ts';

export const timingSection = defineOperation({
  id: 'timing.section',
  version: 1,
  title: 'Make a section',
  summary: 'Names a span of bars. Sections may overlap. In a file each is a marker with its name and a second one, “(end)” behind the name, where it ends.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    name: plainName('Name').default('Section'),
    bar: placeSettings.bar,
    beat: placeSettings.beat,
    lastBar: z.int().min(1).max(1_000_000).default(4).meta({ title: 'Last bar', row: 'place', description: 'It belongs to the section whole.' }),
    travels: z.boolean().default(true).meta({ title: 'It is sent' }),
    remove: z.boolean().default(false).meta({ title: 'Take it out instead', description: 'The section of that name that begins there.' }),
  }),
  apply(song, { name, bar, beat, lastBar, travels, remove }) {
    const from = tickOfPlace(song, { bar, beat, tick: 0 });
    if (!from.ok) return from;
    const there = timingOf(song).sections.filter((s) => s.name === name && s.fromTick === from.value);
    const gone = there.flatMap((s) => s.marks);
    const to = remove ? from : tickOfPlace(song, { bar: lastBar + 1, beat: 1, tick: 0 }, 'settings.lastBar');
    if (!to.ok) return to;
    if (!remove && to.value <= from.value) return refused({ code: 'settings-invalid', where: { field: 'settings.lastBar' }, expected: `bar ${bar} or one behind it`, found: `${lastBar}` });
    // A marker of that name where the section begins becomes its beginning.
    const plain = timingOf(song).markers.filter((m) => m.text === name && m.atTick === from.value);
    const come = remove ? [] : sectionMarks({ name, fromTick: from.value, toTick: to.value, travels });
    const edited = editMarks(song, [...gone, ...(remove ? [] : plain)], come, { kind: 'section' });
    if (!edited.ok) return edited;
    const { changes } = edited.value;
    const skipped = changes.length === 0 ? [{ why: remove ? 'No section of that name begins there.' : 'It stands there already.' }] : [];
    const counted = changes.map((c) => ({ ...c, counts: { section: Math.max(1, Math.round((c.counts.section ?? 0) / 2)) } }));
    return ok({ song: edited.value.song, report: { changes: counted, skipped } });
  },
  describe: ({ name, bar, lastBar, remove }) => (remove ? `Took out the section “${name}” at bar ${bar}` : `Made the section “${name}” of bars ${bar} to ${lastBar}`),
  examples: [{ says: 'Four bars', settings: {} }, { says: 'A chorus', settings: { name: 'Chorus', bar: 1, lastBar: 2 } }],
});
