import { z } from 'zod';
import { makeSection } from '../../../edit/make-section.ts';
import { defineOperation } from '../../operation.ts';
import { placeSettings } from '../../../edit/place-setting.ts';
import { plainName } from '../../../edit/plain-text.ts';

export const timingSection = defineOperation({
  id: 'timing.section',
  version: 1,
  title: 'Make a section',
  summary:
    'Names a span of bars. Sections may overlap. In a file each is a marker with its name and a second one, “(end)” behind the name, where it ends.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    name: plainName('Name').default('Section'),
    bar: placeSettings.bar,
    beat: placeSettings.beat,
    lastBar: z
      .int()
      .min(1)
      .max(1_000_000)
      .default(4)
      .meta({ title: 'Last bar', row: 'place', description: 'It belongs to the section whole.' }),
    travels: z.boolean().default(true).meta({ title: 'It is sent' }),
    remove: z.boolean().default(false).meta({
      title: 'Take it out instead',
      description: 'The section of that name that begins there.',
    }),
  }),
  apply: makeSection,
  describe: ({ name, bar, lastBar, remove }) =>
    remove
      ? `Took out the section “${name}” at bar ${bar}`
      : `Made the section “${name}” of bars ${bar} to ${lastBar}`,
  examples: [
    { says: 'Four bars', settings: {} },
    { says: 'A chorus', settings: { name: 'Chorus', bar: 1, lastBar: 2 } },
  ],
});
