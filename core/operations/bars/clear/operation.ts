import { z } from 'zod';
import { arrange } from '../../../edit/arrange/arrange.ts';
import { barWords, edgesSetting, inBars, toTheEnd } from '../../../edit/arrange/in-bars.ts';
import { defineOperation } from '../../operation.ts';

export const barsClear = defineOperation({
  id: 'bars.clear',
  version: 1,
  title: 'Clear bars',
  summary:
    'Takes out what is played in bars and leaves them empty. Tempo, meter, markers and sections stay; what follows sounds as it did.',
  group: 'bars',
  scope: 'bars',
  settings: z.strictObject({ edges: edgesSetting }),
  apply(song, { edges }, scope) {
    const within = inBars(song, scope);
    if (!within.ok) return within;
    const { from, to, bars, tracks } = within.value;
    const parts = toTheEnd([{ from: 1, to: from }], bars);
    const rest = to > bars ? [] : [{ from: to, to: Infinity }];
    return arrange(song, [...parts, { empty: to - from }, ...rest], {
      tracks,
      edges,
      mapStays: true,
      lengthStays: true,
    });
  },
  describe: (_settings, _report, scope) => `Cleared ${barWords(scope)}`,
  examples: [
    { says: 'Bars 2 and 3', settings: {}, scope: { tracks: 'all', bars: { from: 2, to: 3 } } },
  ],
});
