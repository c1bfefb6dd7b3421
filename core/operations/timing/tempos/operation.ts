import { z } from 'zod';
import { ok, refused } from '../../../problems/problems.ts';
import { meta, type EventValue } from '../../../smf/events.ts';
import { gradualSteps } from '../../../timing/gradual-steps.ts';
import { shapes } from '../../../timing/gradual.ts';
import { fastestBpm, slowestBpm } from '../../../units/units.ts';
import { boundText } from '../../../units/bounds.ts';
import { defineOperation } from '../../operation.ts';
import { editMap, musicSetting, tempoEvent, withMusic } from '../../../edit/edit-map.ts';

const tick = z.int().min(0).max(1_000_000_000_000);
const bpm = z.number().min(slowestBpm).max(fastestBpm);
const span = z.strictObject({ from: tick, to: tick });

export const timingTempos = defineOperation({
  id: 'timing.tempos',
  version: 1,
  title: 'Draw the tempo map by hand',
  summary: 'Takes the tempos of some stretches out and puts points and gradual changes in.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    clear: z
      .array(span)
      .max(1000)
      .default([])
      .meta({ title: 'Stretches cleared', description: 'Ticks, both ends included.' }),
    points: z
      .array(z.strictObject({ atTick: tick, tempo: z.int().min(1).max(0xffffff) }))
      .max(5000)
      .default([])
      .meta({ title: 'Points', unit: 'microseconds a quarter' }),
    changes: z
      .array(
        z.strictObject({
          fromTick: tick,
          toTick: tick,
          from: bpm,
          to: bpm,
          shape: z.enum(shapes).default('over beats'),
        }),
      )
      .max(1000)
      .default([])
      .meta({ title: 'Gradual changes', unit: 'BPM of the quarter' }),
    error: z.number().min(0.05).max(100).default(1).meta({ title: 'Largest error', unit: 'ms' }),
    most: z.int().min(1).max(5000).default(200).meta({ title: 'At most so many steps a change' }),
    music: musicSetting,
  }),
  byHand: true,
  apply(song, { clear, points, changes: drawn, error, most, music }) {
    if (song.division.kind === 'smpte')
      return refused({
        code: 'settings-invalid',
        where: { field: 'settings' },
        expected: 'a song in ticks a quarter note',
        found: 'one in frames, which obeys no tempo',
      });
    const ppq = song.division.ticksPerQuarter;
    const added: EventValue[] = points.map((p) => tempoEvent(p.atTick, p.tempo));
    const at = new Set(points.map((p) => p.atTick));
    let worst = 0;
    let steps = 0;
    for (const { fromTick, toTick, ...change } of drawn) {
      if (toTick <= fromTick)
        return refused({
          code: 'settings-invalid',
          where: { field: 'settings.changes' },
          expected: 'a change that ends behind its beginning',
          found: `ticks ${fromTick} to ${toTick}`,
        });
      const made = gradualSteps(change, fromTick, toTick, ppq, { error: error / 1000, most });
      worst = Math.max(worst, made.error);
      steps += made.steps.length;
      added.push(...made.steps.map((s) => tempoEvent(s.atTick, s.tempo)));
      for (const s of made.steps) at.add(s.atTick);
      // Where another tempo is drawn at its end, that one counts.
      if (!at.has(toTick) && !drawn.some((d) => d.fromTick === toTick))
        added.push(tempoEvent(toTick, Math.round(60_000_000 / change.to)));
    }
    const goes = (type: number, tickOf: number): boolean =>
      type === meta.tempo &&
      (at.has(tickOf) ||
        clear.some((c) => tickOf >= c.from && tickOf <= c.to) ||
        drawn.some((d) => tickOf >= d.fromTick && tickOf <= d.toTick));
    const {
      song: after,
      changes: edits,
      ...moved
    } = withMusic(
      song,
      editMap(song, goes, added, 'tempo'),
      music,
      drawn.length > 0 ? `${steps} steps, at most ${boundText(worst * 1000)} ms off` : undefined,
    );
    return ok({
      song: after,
      report: {
        changes: edits,
        skipped: edits.length === 0 ? [{ why: 'It stands there already.' }] : [],
      },
      ...moved,
    });
  },
  describe: ({ points, changes }, report) => {
    const said = [
      points.length > 0 &&
        (points.length === 1
          ? `${Math.round(6e10 / points[0]!.tempo) / 1000} BPM`
          : `${points.length} tempos`),
      ...changes.slice(0, 2).map((c) => `a change from ${round(c.from)} to ${round(c.to)} BPM`),
    ].filter(Boolean);
    return said.length === 0
      ? `Took ${report.changes.reduce((n, c) => n + (c.counts.tempo ?? 0), 0)} tempo events out`
      : `Drew ${said.join(' and ')} in the tempo map`;
  },
  examples: [
    { says: 'A point', settings: { points: [{ atTick: 0, tempo: 500_000 }] } },
    {
      says: 'A change over the first beats',
      settings: { changes: [{ fromTick: 0, toTick: 400, from: 100, to: 80 }] },
    },
  ],
});

const round = (bpm: number): number => Math.round(bpm * 100) / 100;
