import { z } from 'zod';
import { ok } from '../../../problems/problems.ts';
import { meta } from '../../../smf/events.ts';
import type { Song } from '../../../song/song.ts';
import { barTick, cutBar, meterMap, positionAt } from '../../../timing/meter-map.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { defineOperation } from '../../operation.ts';
import { barsOrBeats, beyondSetting, editMap, meterEvent } from '../../../edit/edit-map.ts';
import { musicOf, withMeters } from '../../../edit/meter-music.ts';
import { placeSettings, tickOfPlace } from '../../../edit/place-setting.ts';

export const timingMeter = defineOperation({
  id: 'timing.meter',
  version: 2,
  title: 'Set a meter',
  summary:
    'Puts a meter at a bar, or takes the one there out. What is behind it keeps its bars, or keeps its beats while the bar lines move. Inside a bar it cuts that bar short.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    ...placeSettings,
    numerator: z.int().min(1).max(255).default(4).meta({ title: 'Beats' }),
    denominator: z
      .enum(['1', '2', '4', '8', '16', '32', '64', '128'])
      .default('4')
      .meta({ title: 'Of' }),
    remove: z.boolean().default(false).meta({ title: 'Take it out instead' }),
    music: barsOrBeats,
    beyond: beyondSetting,
  }),
  // Version 1 knew beats alone.
  upgrade: (settings) => ({ ...settings, music: 'keeps its beats' }),
  apply(song, { bar, beat, tick, numerator, denominator, remove, music, beyond }) {
    const at = tickOfPlace(song, { bar, beat, tick });
    if (!at.ok) return at;
    const edited = editMap(
      song,
      (type, its) => type === meta.timeSignature && its === at.value,
      remove ? [] : [meterEvent(at.value, numerator, Number(denominator))],
      'meter',
    );
    const skipped =
      edited.changes.length === 0
        ? [
            {
              why: remove ? 'There is no meter at that place.' : 'That meter stands there already.',
            },
          ]
        : [];
    const said = remove ? undefined : cutShort(edited.song, at.value);
    const before = meterMap(timingOf(song).meters, song.division);
    // Inside a bar there is no bar to keep.
    const kept =
      barTick(before, positionAt(before, at.value).bar) === at.value
        ? musicOf(song, music)
        : 'keeps its beats';
    const done = withMeters(song, edited, { music: kept, beyond });
    const changes = said
      ? done.changes.map((c, i) =>
          i === 0 ? { ...c, detail: [said, c.detail].filter(Boolean).join('; ') } : c,
        )
      : done.changes;
    return ok({
      song: done.song,
      report: { changes, skipped, ...(done.told.length > 0 ? { told: done.told } : {}) },
      ...(done.moves ? { moves: done.moves } : {}),
    });
  },
  describe: ({ bar, numerator, denominator, remove }) =>
    remove ? `Took the meter out at bar ${bar}` : `Set ${numerator}/${denominator} at bar ${bar}`,
  examples: [
    { says: 'A waltz', settings: { numerator: 3 } },
    { says: '7/8 in bar 2', settings: { bar: 2, numerator: 7, denominator: '8' } },
    {
      says: '3/4 from bar 2 on, and what begins on a bar line goes on doing so',
      settings: { bar: 2, numerator: 3, music: 'keeps its bars' },
    },
    {
      says: 'The same, and the bar lines move over music that stays where it sounds',
      settings: { bar: 2, numerator: 3, music: 'keeps its beats' },
    },
  ],
});

/** A meter that begins inside a bar cuts it short: which, and how much of it is left. */
function cutShort(song: Song, tick: number): string | undefined {
  const cut = cutBar(meterMap(timingOf(song).meters, song.division), tick);
  return cut && `bar ${cut.bar} is cut short: ${cut.beats} of its ${cut.of} beats are left`;
}
