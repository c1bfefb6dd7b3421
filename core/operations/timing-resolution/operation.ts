import { z } from 'zod';
import { ok, refused } from '../../problems/problems.ts';
import { trackLabel, withEvents, type Track } from '../../song/song.ts';
import { tempoAt, tempoMap } from '../../timing/tempo-map.ts';
import { timingOf } from '../../timing/timing.ts';
import { cannotHold } from '../shared/fits.ts';
import { defineOperation, type Change } from '../operation.ts';

export const timingResolution = defineOperation({
  id: 'timing.resolution',
  version: 1,
  title: 'Change the resolution',
  summary: 'Says every place in another number of ticks a quarter note; nothing moves by more than half a new tick, and the greatest and mean error are told.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({ ppq: z.int().min(1).max(32_767).default(960).meta({ title: 'Ticks a quarter note', description: '96, 192, 240, 384, 480 and 960 are common.' }) }),
  apply(song, { ppq }) {
    if (song.division.kind === 'smpte') return refused({ code: 'settings-invalid', where: { field: 'settings.ppq' }, expected: 'a song in ticks a quarter note', found: 'one in frames' });
    const old = song.division.ticksPerQuarter;
    if (old === ppq) return ok({ song, report: { changes: [], skipped: [{ why: 'It has that resolution already.' }] } });
    const map = tempoMap(timingOf(song).tempos, song.division);
    let [worst, sum, count] = [0, 0, 0];
    const changes: Change[] = [];
    const tracks = song.tracks.map((track): Track => {
      const { events } = track;
      const atTick = new Float64Array(events.count);
      let off = 0;
      for (let i = 0; i < events.count; i++) {
        const exact = (events.atTick[i]! * ppq) / old;
        atTick[i] = Math.round(exact);
        const error = (Math.abs(atTick[i]! - exact) / ppq) * tempoAt(map, events.atTick[i]!) * 1e-3;
        if (error > 1e-9) off++;
        worst = Math.max(worst, error);
        sum += error;
        count++;
      }
      if (events.count > 0) changes.push({ track: track.id, name: trackLabel(song, track), did: 'changed', counts: { event: events.count }, ...(off > 0 ? { detail: `${off.toLocaleString('en')} between two new ticks` } : {}) });
      return withEvents(track, { ...events, atTick });
    });
    const error = worst < 1e-9 ? 'every place exact' : `at most ${worst.toFixed(3)} ms off, ${(sum / Math.max(1, count)).toFixed(3)} ms on average`;
    const after = { ...song, tracks, division: { kind: 'ppq', ticksPerQuarter: ppq } as const };
    return cannotHold(after) ?? ok({ song: after, report: { changes: changes.map((c, i) => (i === 0 ? { ...c, detail: error } : c)), skipped: [] } });
  },
  describe: ({ ppq }, { changes }) => `Changed the resolution to ${ppq} ticks a quarter note: ${changes[0]?.detail ?? ''}`,
  examples: [{ says: '960', settings: {} }, { says: 'A coarse one', settings: { ppq: 24 } }],
});
