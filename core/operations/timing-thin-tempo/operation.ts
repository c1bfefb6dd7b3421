import { z } from 'zod';
import { ok } from '../../problems/problems.ts';
import { meta } from '../../smf/events.ts';
import { recognised } from '../../timing/coarseness.ts';
import { withinSteps, type FewSteps, type TimePoint } from '../../timing/few-steps.ts';
import { gradualRuns } from '../../timing/gradual-runs.ts';
import { gradualSteps } from '../../timing/gradual-steps.ts';
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
    // One tempo a tick: where one change follows another, what begins counts.
    const added = new Map<number, number>();
    const said: string[] = [];
    const thin = (first: number, last: number, { steps, error: off }: FewSteps, words: string): void => {
      if (steps.length + 1 >= last - first + 1) return;
      for (let i = first; i <= last; i++) gone.add(tempos[i]!.atTick);
      // The tempo it arrives at stays as it was stated.
      for (const { atTick, tempo } of [...steps, tempos[last]!]) added.set(atTick, tempo);
      said.push(`${(last - first + 1).toLocaleString('en')} tempo events became ${steps.length + 1}${words}, at most ${(off * 1000).toFixed(2)} ms off`);
    };
    const lineOf = (first: number, last: number): TimePoint[] => tempos.slice(first, last + 1).map((p) => ({ atTick: p.atTick, seconds: ticksToSeconds(map, p.atTick) }));
    const runs = gradualRuns(tempos, ppq);
    for (const shred of shredsIn(tempos, ppq)) {
      const run = runs.find((r) => r.first <= shred.first + 1 && r.last >= shred.last - 1);
      // A change arrives at the tempo behind its last shred.
      const [first, last] = run ? [Math.min(run.first, shred.first), Math.max(run.last, shred.last)] : [shred.first, shred.last];
      const words = run ? `: one gradual change from ${bpmOf(run.from)} to ${bpmOf(run.to)} BPM, which they followed within ${(run.deviation * 1000).toFixed(2)} ms` : '';
      thin(first, last, withinSteps(lineOf(first, last), ppq, error / 1000, most), words);
    }
    // Changes in few steps already, for a receiver that takes fewer still or less exact ones.
    for (const run of runs) {
      if (tempos.slice(run.first + 1, run.last).some((p) => gone.has(p.atTick))) continue;
      // What is near a closed form keeps to it, however often it is thinned; what is not keeps to its steps.
      const made = run.deviation <= recognised ? gradualSteps(run, run.fromTick, run.toTick, ppq, { error: error / 1000, most }) : withinSteps(lineOf(run.first, run.last), ppq, error / 1000, most);
      if (run.last - run.first <= most && made.steps.length > (run.last - run.first) * worthwhile) continue;
      thin(run.first, run.last, made, `: the change from ${bpmOf(run.from)} to ${bpmOf(run.to)} BPM`);
    }
    if (added.size === 0) return ok({ song, report: none });
    const edited = editMap(song, (type, tick) => type === meta.tempo && gone.has(tick), [...added].map(([atTick, tempo]) => tempoEvent(atTick, tempo)), 'tempo');
    const changes = edited.changes.map((c, i) => (i === 0 ? { ...c, detail: said.join('; ') } : c));
    return ok({ song: edited.song, report: { changes, skipped: [] } });
  },
  describe: (_, { changes }) => `Thinned tempo changes: ${changes[0]?.detail ?? 'none'}`,
  examples: [{ says: 'Within a millisecond', settings: {} }],
});

/** Steps of a change that is in few already are drawn anew where a fifth of them is saved. */
const worthwhile = 0.8;

const bpmOf = (bpm: number): number => Math.round(bpm * 100) / 100;
