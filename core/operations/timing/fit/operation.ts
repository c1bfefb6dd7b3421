import { z } from 'zod';
import { ok, refused, type Result } from '../../../problems/problems.ts';
import { meta } from '../../../smf/events.ts';
import {
  effective,
  tempoAt,
  tempoMap,
  ticksToSeconds,
  type TempoMap,
} from '../../../timing/tempo-map.ts';
import { frameRateNames, framesToSeconds, type FrameRate } from '../../../timing/timecode.ts';
import type { TempoPoint } from '../../../timing/timing.ts';
import type { Song } from '../../../song/song.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { tempoToBpm } from '../../../units/units.ts';
import { defineOperation } from '../../operation.ts';
import { editMap, musicSetting, tempoEvent, withMusic } from '../../../edit/edit-map.ts';
import { placeSettings, tickOfPlace } from '../../../edit/place-setting.ts';

interface Span {
  readonly from: number;
  readonly to: number;
}

/** Seconds that a span of ticks lasts. */
const lasts = (map: TempoMap, { from, to }: Span): number =>
  ticksToSeconds(map, to) - ticksToSeconds(map, from);

function spanOf(song: Song, bar: number, lastBar: number): Result<Span> {
  const start = tickOfPlace(song, { bar, beat: 1, tick: 0 }, 'settings.bar');
  const end = tickOfPlace(song, { bar: lastBar + 1, beat: 1, tick: 0 }, 'settings.lastBar');
  if (!start.ok) return start;
  if (!end.ok) return end;
  if (end.value > start.value) return ok({ from: start.value, to: end.value });
  return refused({
    code: 'settings-invalid',
    where: { field: 'settings.lastBar' },
    expected: `bar ${bar} or one behind it`,
    found: `${lastBar}`,
  });
}

/** The tempo, in microseconds a quarter, at which a span of ticks lasts so long. */
const oneTempo = ({ from, to }: Span, seconds: number, ppq: number): TempoPoint => ({
  atTick: from,
  tempo: Math.round((seconds * 1_000_000 * ppq) / (to - from)),
});

/** The tempos that are there, each as much slower. */
const inProportion = (
  points: readonly TempoPoint[],
  map: TempoMap,
  { from, to }: Span,
  factor: number,
): TempoPoint[] =>
  [
    { atTick: from, tempo: tempoAt(map, from) },
    ...effective(points).filter((p) => p.atTick > from && p.atTick < to),
  ].map((p) => ({ atTick: p.atTick, tempo: Math.round(p.tempo * factor) }));

const units = ['seconds', ...frameRateNames.map((rate) => `frames at ${rate}` as const)] as const;
type Unit = 'seconds' | `frames at ${FrameRate}`;

export const timingFit = defineOperation({
  id: 'timing.fit',
  version: 1,
  title: 'Let bars last so long',
  summary:
    'Solves for the tempo at which a span of bars lasts exactly so many seconds or frames. What follows keeps its tempo.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    bar: placeSettings.bar.meta({ title: 'First bar', row: 'bars' }),
    lastBar: z.int().min(1).max(1_000_000).default(4).meta({ title: 'Last bar', row: 'bars' }),
    length: z.number().positive().max(1_000_000_000).default(10).meta({ title: 'Last together' }),
    unit: z
      .enum(units as readonly [Unit, ...Unit[]])
      .default('seconds')
      .meta({ title: 'Counted in' }),
    way: z.enum(['one tempo', 'all of them faster or slower']).default('one tempo').meta({
      title: 'With',
      description: 'One tempo throughout, or the tempos that are there, in the same proportion.',
    }),
    music: musicSetting,
  }),
  apply(song, { bar, lastBar, length, unit, way, music }) {
    if (song.division.kind === 'smpte')
      return refused({
        code: 'settings-invalid',
        where: { field: 'settings' },
        expected: 'a song in ticks a quarter note',
        found: 'one in frames, which obeys no tempo',
      });
    const found = spanOf(song, bar, lastBar);
    if (!found.ok) return found;
    const span = found.value;
    const seconds =
      unit === 'seconds'
        ? length
        : framesToSeconds(length, unit.slice('frames at '.length) as FrameRate);
    const points = timingOf(song).tempos;
    const map = tempoMap(points, song.division);
    const factor = seconds / lasts(map, span);
    const meant =
      way === 'one tempo'
        ? [oneTempo(span, seconds, song.division.ticksPerQuarter)]
        : inProportion(points, map, span, factor);
    const beyond = meant.find(({ tempo }) => tempo < 1 || tempo > 0xffffff);
    if (beyond)
      return refused({
        code: 'settings-invalid',
        where: { field: 'settings.length' },
        expected: 'a length whose tempo the file can state, 3.576 to 60,000,000 BPM',
        found: `${Math.round(tempoToBpm(Math.max(beyond.tempo, 0.001)) * 1000) / 1000} BPM`,
      });
    const after = { atTick: span.to, tempo: tempoAt(map, span.to) };
    const edited = editMap(
      song,
      (type, tick) => type === meta.tempo && tick >= span.from && tick <= span.to,
      [...meant, after].map((p) => tempoEvent(p.atTick, p.tempo)),
      'tempo',
    );
    const now = tempoMap(timingOf(edited.song).tempos, song.division);
    const off = Math.abs(lasts(now, span) - seconds);
    const how =
      way === 'one tempo'
        ? `${Math.round(tempoToBpm(meant[0]!.tempo) * 1000) / 1000} BPM`
        : `all tempos times ${Math.round(1e5 / factor) / 1e5}`;
    const moved = withMusic(
      song,
      edited,
      music,
      `${how}; ${off < 5e-7 ? 'exact' : `${(off * 1000).toFixed(3)} ms off, since tempos are whole microseconds`}`,
    );
    const { song: done, changes, ...rest } = moved;
    const skipped = changes.length === 0 ? [{ why: 'They last so long already.' }] : [];
    return ok({ song: done, report: { changes, skipped }, ...rest });
  },
  describe: ({ bar, lastBar, length, unit }, { changes }) =>
    `Let bars ${bar} to ${lastBar} last ${length} ${unit}${changes[0]?.detail ? `: ${changes[0].detail}` : ''}`,
  examples: [
    { says: 'Four bars in ten seconds', settings: {} },
    {
      says: 'Two bars in 75 frames, in proportion',
      settings: {
        lastBar: 2,
        length: 75,
        unit: 'frames at 25',
        way: 'all of them faster or slower',
      },
    },
  ],
});
