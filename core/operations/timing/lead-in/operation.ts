import { z } from 'zod';
import { moveMusic } from '../../../edit/move-music.ts';
import { makeSection } from '../../../edit/make-section.ts';
import { ok, type Result } from '../../../problems/problems.ts';
import { defineOperation, emptyReport, type Applied } from '../../operation.ts';

export const timingLeadIn = defineOperation({
  id: 'timing.lead-in',
  version: 1,
  title: 'Add, drop or mark a lead-in',
  summary:
    'Puts empty bars before the music, in the meter and tempo it begins with, takes bars away that nothing sounds in, or only marks the bars that are there. Programs and volumes at the beginning stay there.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    bars: z.int().min(-1000).max(1000).default(1).meta({
      title: 'Bars',
      description: 'Below zero: dropped. A bar in which a note sounds is never dropped.',
    }),
    mark: z.enum(['no', 'as a section', 'and add none']).default('no').meta({
      title: 'Mark them',
      description:
        'As a section named Lead-in; “and add none” marks bars that stand there already.',
    }),
  }),
  apply(song, { bars, mark }) {
    if (mark === 'and add none' && bars <= 0)
      return ok({
        song,
        report: { changes: [], skipped: [{ why: 'There are no bars to mark.' }] },
      });
    const moved: Result<Applied> =
      mark === 'and add none' ? ok({ song, report: emptyReport }) : moveMusic(song, bars);
    if (!moved.ok || mark === 'no' || bars <= 0) return moved;
    const marked = makeSection(moved.value.song, {
      name: 'Lead-in',
      bar: 1,
      beat: 1,
      lastBar: bars,
      travels: true,
      remove: false,
    });
    if (!marked.ok) return marked;
    return ok({
      song: marked.value.song,
      report: {
        changes: [...moved.value.report.changes, ...marked.value.report.changes],
        skipped: marked.value.report.skipped,
      },
      ...(moved.value.moves ? { moves: moved.value.moves } : {}),
    });
  },
  describe: ({ bars, mark }) =>
    mark === 'and add none'
      ? `Marked ${bars} ${bars === 1 ? 'bar' : 'bars'} as the lead-in`
      : bars > 0
        ? `Added ${bars} ${bars === 1 ? 'bar' : 'bars'} before the music`
        : `Dropped ${-bars} ${bars === -1 ? 'bar' : 'bars'} before the music`,
  examples: [
    { says: 'One bar', settings: {} },
    { says: 'The first bar is the lead-in', settings: { mark: 'and add none' } },
  ],
});
