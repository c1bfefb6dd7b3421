import { z } from 'zod';
import { ok, refused } from '../../../problems/problems.ts';
import { eventsFrom, pickEvents } from '../../../smf/event-builder.ts';
import { ticksPerSecond } from '../../../smf/division.ts';
import { isMeta, meta } from '../../../smf/events.ts';
import { mergeEvents } from '../../../smf/merge.ts';
import { trackLabel, withEvents, type Track } from '../../../song/song.ts';
import { finest } from '../../../timing/resolution.ts';
import { stretchedBy } from '../../../timing/time-map.ts';
import { defineOperation, type Change } from '../../operation.ts';
import { slowestBpm } from '../../../units/units.ts';
import { tempoEvent } from '../../../edit/edit-map.ts';

export const timingToQuarters = defineOperation({
  id: 'timing.to-quarters',
  version: 1,
  title: 'Turn frames into quarter notes',
  summary:
    'A file that counts its ticks in parts of frames gets a tempo and ticks a quarter note; every event stays where it sounds, and the error is told.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    bpm: z.number().min(slowestBpm).max(1000).default(120).meta({
      title: 'Tempo',
      unit: 'BPM of the quarter',
      description: 'What the music is felt in: bars are counted by it.',
    }),
    ppq: z.int().min(1).max(finest).nullable().default(null).meta({
      title: 'Ticks a quarter note',
      description: 'Empty: the smallest that keeps every tick exactly, or 960 where none does.',
    }),
  }),
  apply(song, { bpm, ppq: asked }) {
    if (song.division.kind !== 'smpte')
      return ok({
        song,
        report: {
          changes: [],
          skipped: [{ why: 'Its ticks are parts of quarter notes already.' }],
        },
      });
    const perSecond = ticksPerSecond(song.division);
    const tempo = Math.round(60_000_000 / bpm);
    const ppq = asked ?? exactPpq(perSecond, tempo) ?? 960;
    const scale = (ppq * 1_000_000) / (tempo * perSecond);
    let worst = 0;
    let ignored = 0;
    const changes: Change[] = [];
    const tracks = song.tracks.map((track, index): Track => {
      // Tempos that stood in the file had no effect; now they would have one.
      const rows = Array.from({ length: track.events.count }, (_, i) => i).filter(
        (i) => !isMeta(track.events, i, meta.tempo),
      );
      ignored += track.events.count - rows.length;
      const events =
        rows.length === track.events.count ? track.events : pickEvents(track.events, rows);
      const atTick = new Float64Array(events.count);
      for (let i = 0; i < events.count; i++) {
        const exact = events.atTick[i]! * scale;
        atTick[i] = Math.round(exact);
        worst = Math.max(worst, Math.abs(atTick[i]! - exact));
      }
      changes.push({
        track: track.id,
        name: trackLabel(song, track),
        did: 'changed',
        counts: { event: events.count },
      });
      const moved = { ...events, atTick };
      return withEvents(
        track,
        index === 0 ? mergeEvents([eventsFrom([tempoEvent(0, tempo)]), moved]) : moved,
      );
    });
    const after = { ...song, tracks, division: { kind: 'ppq', ticksPerQuarter: ppq } as const };
    const off = (worst / ppq) * tempo * 1e-3;
    const said = `${ppq} ticks a quarter note, ${off < 1e-6 ? 'every place exact' : `at most ${off.toFixed(3)} ms off`}${ignored > 0 ? `; ${ignored.toLocaleString('en')} tempo events that had no effect were left out` : ''}`;
    if (!Number.isFinite(scale) || scale <= 0)
      return refused({
        code: 'settings-invalid',
        where: { field: 'settings.bpm' },
        expected: 'a tempo',
        found: `${bpm}`,
      });
    return ok({
      song: after,
      report: {
        changes: changes.map((c, i) => (i === 0 ? { ...c, detail: said } : c)),
        skipped: [],
      },
      moves: { song: stretchedBy(scale) },
    });
  },
  describe: ({ bpm }, { changes }) =>
    `Turned frames into quarter notes at ${bpm} BPM: ${changes[0]?.detail ?? ''}`,
  examples: [
    { says: 'At 120 BPM', settings: {} },
    { says: '90 BPM, 960 ticks', settings: { bpm: 90, ppq: 960 } },
  ],
});

/** The smallest resolution in which every tick of so many a second is a whole tick. */
function exactPpq(perSecond: number, tempo: number): number | undefined {
  const ticksAQuarter = (perSecond * tempo) / 1_000_000;
  for (let n = 1; n * ticksAQuarter <= finest && n <= 64; n++) {
    const ppq = n * ticksAQuarter;
    if (ppq >= 24 && Math.abs(ppq - Math.round(ppq)) < 1e-9) return Math.round(ppq);
  }
  return undefined;
}
