import { z } from 'zod';
import { ok, refused } from '../../../problems/problems.ts';
import { meta } from '../../../smf/events.ts';
import { gradualSteps } from '../../../timing/gradual-steps.ts';
import { shapes } from '../../../timing/gradual.ts';
import { boundText } from '../../../units/bounds.ts';
import { defineOperation } from '../../operation.ts';
import { editMap, musicSetting, tempoEvent, withMusic } from '../../../edit/edit-map.ts';
import { placeSettings, tickOfPlace } from '../../../edit/place-setting.ts';

const bpm = z.number().min(4).max(1000);

export const timingRamp = defineOperation({
  id: 'timing.ramp',
  version: 1,
  title: 'Draw a gradual tempo change',
  summary:
    'Writes a rit. or accel. from one tempo to another as so few steps that no place is further off than a stated error, and says what the error is.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    bar: placeSettings.bar,
    beat: placeSettings.beat,
    toBar: z.int().min(1).max(1_000_000).default(5).meta({
      title: 'Up to bar',
      row: 'end',
      description: 'Where it has come to the second tempo.',
    }),
    toBeat: placeSettings.beat.meta({ title: 'Up to beat', row: 'end' }),
    from: bpm.default(100).meta({ title: 'From', unit: 'BPM of the quarter' }),
    to: bpm.default(80).meta({ title: 'To', unit: 'BPM of the quarter' }),
    shape: z.enum(shapes).default('over beats').meta({ title: 'Evenly' }),
    error: z.number().min(0.05).max(100).default(1).meta({ title: 'Largest error', unit: 'ms' }),
    most: z.int().min(1).max(5000).default(200).meta({
      title: 'At most so many steps',
      description: 'What the receiver takes; the error grows where it must.',
    }),
    music: musicSetting,
  }),
  apply(song, { bar, beat, toBar, toBeat, from, to, shape, error, most, music }) {
    if (song.division.kind === 'smpte')
      return refused({
        code: 'settings-invalid',
        where: { field: 'settings' },
        expected: 'a song in ticks a quarter note',
        found: 'one in frames, which obeys no tempo',
      });
    const start = tickOfPlace(song, { bar, beat, tick: 0 });
    if (!start.ok) return start;
    const end = tickOfPlace(song, { bar: toBar, beat: toBeat, tick: 0 }, 'settings.toBeat');
    if (!end.ok) return end;
    if (end.value <= start.value)
      return refused({
        code: 'settings-invalid',
        where: { field: 'settings.toBar' },
        expected: `a place behind ${bar}.${beat}`,
        found: `${toBar}.${toBeat}`,
      });
    const ppq = song.division.ticksPerQuarter;
    const made = gradualSteps({ from, to, shape }, start.value, end.value, ppq, {
      error: error / 1000,
      most,
    });
    const added = [
      ...made.steps.map((s) => tempoEvent(s.atTick, s.tempo)),
      tempoEvent(end.value, Math.round(60_000_000 / to)),
    ];
    const edited = editMap(
      song,
      (type, tick) => type === meta.tempo && tick >= start.value && tick <= end.value,
      added,
      'tempo',
    );
    const {
      song: after,
      changes,
      ...moved
    } = withMusic(
      song,
      edited,
      music,
      `${made.steps.length} steps, at most ${boundText(made.error * 1000)} ms off`,
    );
    return ok({
      song: after,
      report: {
        changes,
        skipped: changes.length === 0 ? [{ why: 'It stands there already.' }] : [],
      },
      ...moved,
    });
  },
  describe: ({ bar, beat, toBar, toBeat, from, to }, { changes }) =>
    `Drew a tempo change from ${from} to ${to} from ${bar}.${beat} to ${toBar}.${toBeat}${changes[0]?.detail ? `: ${changes[0].detail}` : ''}`,
  examples: [
    { says: 'Slower over four bars', settings: {} },
    {
      says: 'A rit. over the second half of a bar',
      settings: { beat: 3, toBar: 2, from: 100, to: 72 },
    },
  ],
});
