import { z } from 'zod';
import { arrange } from '../../../edit/arrange/arrange.ts';
import { barWords, edgesSetting, inBars, toTheEnd } from '../../../edit/arrange/in-bars.ts';
import { refused } from '../../../problems/problems.ts';
import { defineOperation } from '../../operation.ts';

export const barsCut = defineOperation({
  id: 'bars.cut',
  version: 1,
  title: 'Cut bars out',
  summary:
    'Takes bars out and closes up: what follows comes where they were, with tempo, meter, markers and all that is set, so that every bar left sounds as it did.',
  group: 'bars',
  scope: 'bars',
  settings: z.strictObject({ edges: edgesSetting }),
  apply(song, { edges }, scope) {
    const within = inBars(song, scope);
    if (!within.ok) return within;
    const { from, to, bars, tracks } = within.value;
    if (from === 1 && to > bars && tracks.length === song.tracks.length)
      return refused({
        code: 'settings-invalid',
        where: { field: 'scope.bars' },
        expected: 'a bar that is left',
        found: 'every bar of the song',
      });
    const parts = toTheEnd(
      [
        { from: 1, to: from },
        { from: to, to: Infinity },
      ],
      bars,
    );
    return arrange(song, parts, { tracks, edges });
  },
  describe: (_settings, _report, scope) => `Cut out ${barWords(scope)} and closed up`,
  examples: [
    { says: 'The second bar', settings: {}, scope: { tracks: 'all', bars: { from: 2, to: 2 } } },
  ],
});
