import fc from 'fast-check';
import { expect, it } from 'vitest';
import { scaleRuns } from '../../../tests/support/scale.ts';
import type { SongView } from '#contracts/songs.ts';
import { runStep } from '#core/operations/run.ts';
import { summariseSong } from '#core/song/song-summary.ts';
import type { Song } from '#core/song/song.ts';
import { meta, metaEvent } from '#core/smf/events.ts';
import { meterMap } from '#core/timing/meter-map.ts';
import { timingOf } from '#core/song/timing-of.ts';
import { songOf } from '../../../tests/support/songs.ts';
import { mappedSong } from '../../../tests/support/map-steps.ts';
import { temposOf } from '../../api/runs.ts';
import { mapRows, type MapRow } from './map-rows.ts';

const rowsOf = (song: Song): MapRow[] => {
  const view = {
    division: song.division,
    tracks: [{ id: 't1', name: '' }],
    timing: summariseSong(song).timing,
  } as unknown as SongView;
  return mapRows(
    view,
    meterMap(timingOf(song).meters, song.division),
    temposOf(timingOf(song).tempos, 96),
  );
};
const named = (rows: readonly MapRow[]): string[] =>
  rows.map((r) => `${r.kind} ${r.atTick} ${r.says}`).sort();
/**
 * What a row that is taken out has nothing to do with. Tempos are said in the beat of their meter, and some
 * are ends of gradual changes.
 */
const still = (rows: readonly MapRow[], { kind }: MapRow): MapRow[] =>
  rows.filter(
    (r) => r.kind !== kind && (!['meter', 'gradual change'].includes(kind) || r.kind !== 'tempo'),
  );

it('every row of the table can be taken out, and nothing goes with it', () => {
  fc.assert(
    fc.property(mappedSong, (song) => {
      const rows = rowsOf(song);
      for (const row of rows) {
        // Where a meter goes and bars are kept, ticks are others: see core/edit/keep-bars.test.ts.
        const beats = row.kind === 'meter' ? { music: 'keeps its beats' } : {};
        const taken = runStep(song, {
          operation: row.remove.operation,
          settings: { ...row.remove.settings, ...beats },
        });
        if (!taken.ok)
          throw new Error(`${row.kind} at ${row.atTick}: ${JSON.stringify(taken.problem)}`);
        const after = rowsOf(taken.value.song);
        expect([row.kind, row.atTick, taken.value.report.changes.length > 0]).toEqual([
          row.kind,
          row.atTick,
          true,
        ]);
        expect(
          after.some(
            (r) =>
              r.kind === row.kind &&
              r.atTick === row.atTick &&
              r.says === row.says &&
              row.kind !== 'tempo',
          ),
        ).toBe(named(rows).filter((n) => n === `${row.kind} ${row.atTick} ${row.says}`).length > 1);
        if (row.kind !== 'tempo') expect(named(still(after, row))).toEqual(named(still(rows, row)));
      }
    }),
    { seed: 95, numRuns: scaleRuns(60) },
  );
});

// 200 beats: no meter of these songs has them, so none says again what is in force.
it('every meter and key of the table can be changed where it stands', () => {
  fc.assert(
    fc.property(mappedSong, (song) => {
      for (const row of rowsOf(song)) {
        if (!row.edit) continue;
        const settings =
          row.kind === 'meter'
            ? { ...row.edit.settings, numerator: 200 }
            : { ...row.edit.settings, sharps: row.edit.settings.sharps === 3 ? 2 : 3 };
        const taken = runStep(song, { operation: row.edit.operation, settings });
        if (!taken.ok) throw new Error(JSON.stringify(taken.problem));
        const its = rowsOf(taken.value.song)
          .filter((r) => r.kind === row.kind && r.atTick === row.atTick)
          .map((r) => r.says);
        expect(its).toHaveLength(1);
        expect(its[0]).not.toBe(row.says);
      }
    }),
    { seed: 96, numRuns: scaleRuns(60) },
  );
});

it('a meter that says another click than its beats has its row, also where the meter is in force (SMF 1.0)', () => {
  const meter = (tick: number, ...said: number[]) =>
    metaEvent(tick, meta.timeSignature, Uint8Array.of(...said));
  const rows = rowsOf(
    songOf([
      meter(0, 4, 2, 48, 8),
      meter(384, 4, 2, 24, 4),
      meter(768, 6, 3, 36, 8),
      meter(1152, 6, 3, 24, 8),
      metaEvent(2000, meta.endOfTrack),
    ]),
  ).filter((r) => r.kind === 'meter');
  expect(rows.map((r) => [r.atTick, r.says, r.beside])).toEqual([
    [0, '4/4', 'clicks every 48 MIDI clocks'],
    [384, '4/4', 'clicks every 24 MIDI clocks, 4 thirty-seconds a quarter'],
    [768, '6/8', undefined],
  ]);
});
