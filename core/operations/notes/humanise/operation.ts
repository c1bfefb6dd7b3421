import { z } from 'zod';
import { secondsToTicks, tempoMap, ticksToSeconds } from '../../../timing/tempo-map.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { bell, chanceFrom } from '../../../edit/chance.ts';
import { defineOperation } from '../../operation.ts';
import { retimeNotes } from '../../../edit/retime.ts';
import { counted, inTracks, rewriteTracks, totalOf } from '../../../edit/rewrite.ts';

export const notesHumanise = defineOperation({
  id: 'notes.humanise',
  version: 1,
  title: 'Humanise',
  summary:
    'Moves notes a little early or late by chance, at most by so many milliseconds or ticks; the same seed always gives the same result.',
  group: 'notes',
  scope: 'events',
  takesRows: true,
  settings: z.strictObject({
    spread: z.int().min(1).max(100).default(10).meta({ title: 'Spread', unit: 'early or late' }),
    unit: z.enum(['ms', 'ticks']).default('ms').meta({ title: 'Counted in' }),
    chords: z.boolean().default(true).meta({
      title: 'Chords stay together',
      description: 'Notes that began together move together.',
    }),
    seed: z.int().min(0).max(999_999).default(1).meta({ title: 'Seed' }),
  }),
  apply(song, { spread, unit, chords, seed }, scope) {
    const map = tempoMap(timingOf(song).tempos, song.division);
    let track = 0;
    return rewriteTracks(song, scope, (events, span) => {
      const chance = chanceFrom(seed * 2003 + track++);
      let tick = -1;
      // What moves together: all that begins on a tick, or of it the notes of one key.
      const moves = new Map<number, number>();
      return retimeNotes(events, span, ({ from, to }, row) => {
        if (from !== tick) moves.clear();
        tick = from;
        const what = chords ? 0 : ((events.status[row]! & 15) << 7) | events.data1[row]!;
        const move = moves.get(what) ?? spread * bell(chance);
        moves.set(what, move);
        const moved =
          unit === 'ticks'
            ? from + Math.round(move)
            : secondsToTicks(map, ticksToSeconds(map, from) + move / 1000);
        return { from: moved, to: to + moved - from };
      });
    });
  },
  describe: ({ spread, unit }, report) =>
    `Humanised ${counted(totalOf(report), 'note')} ${inTracks(report)} by up to ${spread} ${unit}`,
  examples: [
    { says: 'A human touch', settings: {} },
    { says: 'Looser, note by note', settings: { spread: 25, chords: false, seed: 4 } },
  ],
});
