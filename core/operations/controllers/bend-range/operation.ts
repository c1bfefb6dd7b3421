import { z } from 'zod';
import { eventsFrom } from '../../../smf/event-builder.ts';
import { channelEvent, type EventValue } from '../../../smf/events.ts';
import { mergeEvents } from '../../../smf/merge.ts';
import { channelsOf } from '../../../song/song.ts';
import { countKinds } from '../../../edit/event-kinds.ts';
import { inTracks, rewriteTracks } from '../../../edit/rewrite.ts';
import { statesBendRange } from '../../../edit/bend-range.ts';
import { defineOperation } from '../../operation.ts';

export const controllersBendRange = defineOperation({
  id: 'controllers.bend-range',
  version: 1,
  title: 'State the bend range',
  summary:
    'Says at the beginning how many semitones a full pitch bend is (registered parameter 0), so that bends sound alike everywhere.',
  group: 'controllers',
  scope: 'tracks',
  settings: z.strictObject({
    semitones: z.int().min(1).max(24).default(2).meta({
      title: 'Semitones',
      description: '2 is what instruments assume where nothing is said.',
    }),
  }),
  apply(song, { semitones }, scope) {
    return rewriteTracks(song, scope, (events) => {
      const channels = channelsOf(events).filter((c) =>
        events.status.some((s) => s === (0xe0 | c)),
      );
      if (channels.length === 0) return { left: 'It has no pitch bend.' };
      const unsaid = channels.filter((c) => !statesBendRange(events, c));
      if (unsaid.length === 0) return { left: 'It states its bend range already.' };
      // RPN 0 chosen, the range entered, and no parameter left chosen: later data entry then changes
      // nothing (MIDI 1.0, registered parameters).
      const said = unsaid.flatMap((c): EventValue[] =>
        [
          [101, 0],
          [100, 0],
          [6, semitones],
          [38, 0],
          [101, 127],
          [100, 127],
        ].map(([number, value]) => channelEvent(0, 0xb0 | c, number!, value!)),
      );
      const added = eventsFrom(said);
      return { events: mergeEvents([added, events]), counts: countKinds(added) };
    });
  },
  describe: ({ semitones }, report) =>
    `Stated a bend range of ${semitones} semitones ${inTracks(report)}`,
  examples: [{ says: 'Two semitones', settings: {} }],
});
