import { z } from 'zod';
import { ok } from '../../problems/problems.ts';
import { meta } from '../../smf/events.ts';
import { withinSteps, type FewSteps, type TimePoint } from '../../timing/few-steps.ts';
import { gradualRuns } from '../../timing/gradual-runs.ts';
import { shredsIn } from '../../timing/shreds.ts';
import { effective, tempoMap, ticksToSeconds } from '../../timing/tempo-map.ts';
import { timingOf } from '../../timing/timing.ts';
import { defineOperation } from '../operation.ts';
import { editMap, tempoEvent } from '../shared/edit-map.ts';

export const timingThinTempo = defineOperation({
  id: 'timing.thin-tempo',
  version: 1,
  title: 'Thin shredded tempo changes',
  summary: 'Gradual changes that arrive as hundreds of tempo events become one change again, in as few steps as keep every place within a stated error; single tempos stay.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    error: z.number().min(0.05).max(100).default(1).meta({ title: 'Largest error', unit: 'ms' }),
    most: z.int().min(1).max(5000).default(200).meta({ title: 'At most so many steps a change' }),
  }),
  apply(song, { error, most }) {
    const none = { changes: [], skipped: [{ why: 'No gradual change is written in more steps than it needs.' }] };
    if (song.division.kind === 'smpte') return ok({ song, report: none });
    const ppq = song.division.ticksPerQuarter;
    const tempos = effective(timingOf(song).tempos);
    const map = tempoMap(tempos, song.division);
    const gone = new Set<number>();
    const added: { atTick: number; tempo: number }[] = [];
    const said: string[] = [];
    const thin = (first: number, last: number, { steps, error: off }: FewSteps, words: string): void => {
      if (steps.length + 1 >= last - first + 1) return;
      for (let i = first; i <= last; i++) gone.add(tempos[i]!.atTick);
      // The tempo it arrives at stays as it was stated.
      added.push(...steps, tempos[last]!);
      said.push(`${(last - first + 1).toLocaleString('en')} tempo events became ${steps.length + 1}${words}, at most ${(off * 1000).toFixed(2)} ms off`);
    };
    for (const { first, last } of shredsIn(tempos, ppq)) {
      const line = tempos.slice(first, last + 1).map((p): TimePoint => ({ atTick: p.atTick, seconds: ticksToSeconds(map, p.atTick) }));
      const run = gradualRuns(tempos.slice(first, last + 1), ppq).find((r) => r.last - r.first >= last - first - 1);
      const words = run ? `: one gradual change from ${bpmOf(run.from)} to ${bpmOf(run.to)} BPM, which they followed within ${(run.deviation * 1000).toFixed(2)} ms` : '';
      thin(first, last, withinSteps(line, ppq, error / 1000, most), words);
    }
    if (added.length === 0) return ok({ song, report: none });
    const edited = editMap(song, (type, tick) => type === meta.tempo && gone.has(tick), added.map((s) => tempoEvent(s.atTick, s.tempo)), 'tempo');
    const changes = edited.changes.map((c, i) => (i === 0 ? { ...c, detail: said.join('; ') } : c));
    return ok({ song: edited.song, report: { changes, skipped: [] } });
  },
  describe: (_, { changes }) => `Thinned tempo changes: ${changes[0]?.detail ?? 'none'}`,
  examples: [{ says: 'Within a millisecond', settings: {} }],
});

const bpmOf = (bpm: number): number => Math.round(bpm * 100) / 100;
