import { z } from 'zod';
import { ok } from '../../../problems/problems.ts';
import { timingOf } from '../../../song/timing-of.ts';
import type { Mark } from '../../../timing/marks.ts';
import { defineOperation } from '../../operation.ts';
import { editMarks, sectionMarks } from '../../../edit/edit-marks.ts';

export const timingSections = defineOperation({
  id: 'timing.sections',
  version: 1,
  title: 'Make sections of the markers',
  summary:
    'Every marker becomes a section that lasts until the next one, the last until the end of the song.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    of: z.enum(['markers', 'cue points']).default('markers').meta({ title: 'Of' }),
  }),
  apply(song, { of }) {
    const timing = timingOf(song);
    const marks = (of === 'markers' ? timing.markers : timing.cuePoints).filter(
      (m) => m.text !== '',
    );
    // Behind the last place on a tick the next begins; what stands at the very end has no length.
    const spans = marks
      .map((m, i) => {
        const next = marks.slice(i + 1).find(({ atTick }) => atTick > m.atTick);
        return { mark: m, to: next?.atTick ?? timing.endTick, times: [m.seconds, next?.seconds] };
      })
      .filter(({ mark, to }) => to > mark.atTick);
    if (spans.length === 0)
      return ok({
        song,
        report: {
          changes: [],
          skipped: [{ why: `There are no ${of} that a section could begin with.` }],
        },
      });
    const gone: Mark[] = spans.map((s) => s.mark);
    const come = spans.flatMap(({ mark: { text: name, atTick, travels }, to, times }) =>
      sectionMarks({ name, fromTick: atTick, toTick: to, travels, times }),
    );
    const edited = editMarks(song, gone, come, { kind: 'section' });
    if (!edited.ok) return edited;
    const changes = edited.value.changes.map((c) => ({
      ...c,
      counts: { section: Math.ceil((c.counts.section ?? 0) / 2) },
    }));
    return ok({ song: edited.value.song, report: { changes, skipped: [] } });
  },
  describe: (_, { changes }) =>
    `Made ${changes.reduce((most, c) => Math.max(most, c.counts.section ?? 0), 0)} sections of markers`,
  examples: [
    { says: 'All markers', settings: {} },
    { says: 'Cue points', settings: { of: 'cue points' } },
  ],
});
