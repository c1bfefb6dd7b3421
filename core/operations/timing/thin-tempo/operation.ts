import { z } from 'zod';
import { ok } from '../../../problems/problems.ts';
import { meta } from '../../../smf/events.ts';
import { effective, greatestDistance, tempoMap } from '../../../timing/tempo-map.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { boundText } from '../../../units/bounds.ts';
import { defineOperation } from '../../operation.ts';
import { editMap, tempoEvent } from '../../../edit/edit-map.ts';
import { thinned } from './thinned.ts';

/** Milliseconds that whole microseconds of a tempo may add to an error, over all steps of a change. */
const rounding = 0.001;

export const timingThinTempo = defineOperation({
  id: 'timing.thin-tempo',
  version: 2,
  title: 'Thin shredded tempo changes',
  summary:
    'Gradual changes that arrive as hundreds of tempo events become one change again, in as few steps as keep every tick within a stated error of where it was; single tempos stay.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    error: z.number().min(0.05).max(100).default(1).meta({ title: 'Largest error', unit: 'ms' }),
    most: z
      .int()
      .min(1)
      .max(5000)
      .default(5000)
      .meta({ title: 'At most so many steps a change, even if the error grows' }),
  }),
  apply(song, { error, most }) {
    const none = {
      changes: [],
      skipped: [{ why: 'No gradual change is written in more steps than it needs.' }],
    };
    if (song.division.kind === 'smpte') return ok({ song, report: none });
    const tempos = effective(timingOf(song).tempos);
    const changes = thinned(tempos, song.division.ticksPerQuarter, (error - rounding) / 1000, most);
    if (changes.length === 0) return ok({ song, report: none });
    const gone = new Set<number>();
    // One tempo a tick: where one change follows another, what begins counts.
    const added = new Map<number, number>();
    for (const { first, last, steps } of changes) {
      for (let i = first; i <= last; i++) gone.add(tempos[i]!.atTick);
      // The tempo it arrives at stays as it was stated.
      for (const { atTick, tempo } of [...steps, tempos[last]!]) added.set(atTick, tempo);
    }
    const edited = editMap(
      song,
      (type, tick) => type === meta.tempo && gone.has(tick),
      [...added].map(([atTick, tempo]) => tempoEvent(atTick, tempo)),
      'tempo',
    );
    const furthest =
      greatestDistance(
        tempoMap(tempos, song.division),
        tempoMap(timingOf(edited.song).tempos, song.division),
      ) * 1000;
    const beyond = furthest > error ? `, since so few steps hold no ${error} ms` : '';
    const said = changes.map(
      (c) =>
        `${(c.last - c.first + 1).toLocaleString('en')} tempo events became ${c.steps.length + 1}${c.words}`,
    );
    const detail = `${said.join('; ')}; nowhere more than ${boundText(furthest)} ms off${beyond}`;
    return ok({
      song: edited.song,
      report: {
        changes: edited.changes.map((c, i) => (i === 0 ? { ...c, detail } : c)),
        skipped: [],
      },
    });
  },
  describe: (_, { changes }) => `Thinned tempo changes: ${changes[0]?.detail ?? 'none'}`,
  examples: [{ says: 'Within a millisecond', settings: {} }],
});
