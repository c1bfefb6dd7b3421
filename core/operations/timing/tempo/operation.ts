import { z } from 'zod';
import { ok, refused } from '../../../problems/problems.ts';
import { meta } from '../../../smf/events.ts';
import { meterAt, meterMap } from '../../../timing/meter-map.ts';
import { notatedBeat } from '../../../timing/notated-beat.ts';
import { fastestBpm, slowestBpm } from '../../../units/units.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { defineOperation } from '../../operation.ts';
import { editMap, musicSetting, tempoEvent, withMusic } from '../../../edit/edit-map.ts';
import { placeSettings, tickOfPlace } from '../../../edit/place-setting.ts';

export const timingTempo = defineOperation({
  id: 'timing.tempo',
  version: 2,
  title: 'Set a tempo',
  summary:
    'Puts a tempo at a place, or takes the one there out. The music keeps its bars and sounds faster or slower, or keeps its seconds and moves over the bars.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    ...placeSettings,
    bpm: z.number().min(slowestBpm).max(fastestBpm).nullable().default(120).meta({
      title: 'Tempo',
      unit: 'BPM',
      description: 'Empty takes the tempo that stands there out.',
    }),
    of: z.enum(['quarter', 'beat', 'dotted quarter', 'note of the meter']).default('quarter').meta({
      title: 'Counted in',
      description:
        'Beat: as the meter there is counted, a dotted quarter in 6/8. Note of the meter: an eighth there.',
    }),
    music: musicSetting,
  }),
  /** Of version 1 a beat was the note of the meter. */
  upgrade: (settings) =>
    settings.of === 'beat' ? { ...settings, of: 'note of the meter' } : settings,
  apply(song, { bpm, of, music, ...place }) {
    const at = tickOfPlace(song, place);
    if (!at.ok) return at;
    const meter = meterAt(meterMap(timingOf(song).meters, song.division), at.value);
    const quarters = {
      quarter: 1,
      beat: notatedBeat(meter).quarters,
      'dotted quarter': 1.5,
      'note of the meter': 4 / meter.denominator,
    }[of];
    const tempo = bpm === null ? undefined : Math.round(60_000_000 / (bpm * quarters));
    if (tempo !== undefined && (tempo < 1 || tempo > 0xffffff))
      return refused({
        code: 'settings-invalid',
        where: { field: 'settings.bpm' },
        expected: '3.576 to 60,000,000 quarter notes a minute',
        found: `${bpm! * quarters}`,
      });
    const edited = editMap(
      song,
      (type, tick) => type === meta.tempo && tick === at.value,
      tempo === undefined ? [] : [tempoEvent(at.value, tempo)],
      'tempo',
    );
    if (edited.changes.length === 0)
      return ok({
        song,
        report: {
          changes: [],
          skipped: [
            {
              why:
                tempo === undefined
                  ? 'There is no tempo at that place.'
                  : 'That tempo stands there already.',
            },
          ],
        },
      });
    const { song: after, changes, ...moved } = withMusic(song, edited, music);
    return ok({ song: after, report: { changes, skipped: [] }, ...moved });
  },
  describe: ({ bpm, bar, beat, music }) =>
    `${bpm === null ? 'Took the tempo out' : `Set ${bpm} BPM`} at bar ${bar}${beat > 1 ? `, beat ${beat}` : ''}${music === 'keeps its seconds' ? '; the music kept its seconds' : ''}`,
  examples: [
    { says: '96 at the beginning', settings: { bpm: 96 } },
    {
      says: 'A tempo in bar 2 while the music stays where it sounds',
      settings: { bar: 2, bpm: 90, music: 'keeps its seconds' },
    },
  ],
});
