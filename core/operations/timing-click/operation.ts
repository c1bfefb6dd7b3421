import { z } from 'zod';
import { ok } from '../../problems/problems.ts';
import { percussionChannel } from '../../instruments/general-midi.ts';
import { eventsFrom } from '../../smf/event-builder.ts';
import { channelEvent, meta, metaEvent, type EventValue } from '../../smf/events.ts';
import { encodeText } from '../../smf/text.ts';
import { trackId, type Track } from '../../song/song.ts';
import { barTick, barsUntil, meterAt, meterMap } from '../../timing/meter-map.ts';
import { timingOf } from '../../timing/timing.ts';
import { plainName } from '../shared/plain-text.ts';
import { withTracks } from '../shared/track-list.ts';
import { defineOperation } from '../operation.ts';

const key = z.int().min(0).max(127);

/** Hours of music; more is a song with a stray event far behind its end. */
const mostClicks = 40_000;

export const timingClick = defineOperation({
  id: 'timing.click',
  version: 1,
  title: 'Make a click track',
  summary: 'Adds a track that clicks the bars and beats of the meter map on the drum channel, to the end of the song.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    name: plainName('Name').default('Click'),
    bar: key.default(76).meta({ title: 'Bar', unit: 'drum key; 76 is the high wood block' }),
    beat: key.default(77).meta({ title: 'Beat', unit: 'drum key' }),
    division: z.int().min(1).max(8).default(1).meta({ title: 'Clicks a beat', description: '2 also clicks between the beats, softer.' }),
  }),
  apply(song, { name, bar: barKey, beat: beatKey, division }) {
    const timing = timingOf(song);
    const map = meterMap(timing.meters, song.division);
    const bars = Math.min(100_000, barsUntil(map, timing.endTick));
    if (timing.endTick === 0) return ok({ song, report: { changes: [], skipped: [{ why: 'The song has no length yet; set one first.' }] } });
    const notes: EventValue[] = [];
    const click = (at: number, until: number, note: number, velocity: number): void => {
      const from = Math.round(at);
      notes.push(channelEvent(from, 0x90 | percussionChannel, note, velocity), channelEvent(Math.max(from + 1, Math.round(at + (until - at) / 2)), 0x80 | percussionChannel, note, 64));
    };
    for (let bar = 1; bar <= bars && notes.length <= 2 * mostClicks; bar++) {
      const [from, to] = [barTick(map, bar), Math.min(barTick(map, bar + 1), timing.endTick)];
      const { beatTicks } = meterAt(map, from);
      for (let n = 0; from + (n * beatTicks) / division < to - 0.5; n++) {
        if (notes.length > 2 * mostClicks) break;
        const at = from + (n * beatTicks) / division;
        click(at, at + beatTicks / division, n === 0 ? barKey : beatKey, n === 0 ? 112 : n % division === 0 ? 88 : 56);
      }
    }
    if (notes.length > 2 * mostClicks) return ok({ song, report: { changes: [], skipped: [{ why: `The song takes more than ${mostClicks.toLocaleString('en')} clicks; set its length first.` }] } });
    const events = eventsFrom([metaEvent(0, meta.trackName, encodeText(name)), ...notes, metaEvent(timing.endTick, meta.endOfTrack)]);
    const track: Track = { id: trackId(song.nextTrack), events };
    const made = withTracks(song, [...song.tracks, track], song.nextTrack + 1);
    return ok({ song: made, report: { changes: [{ track: track.id, name, did: 'added', counts: { note: notes.length / 2 } }], skipped: [] } });
  },
  describe: (_, { changes }) => `Made a click track of ${changes[0]?.counts.note?.toLocaleString('en') ?? 0} clicks`,
  examples: [{ says: 'Bars and beats', settings: {} }, { says: 'Eighths between', settings: { division: 2 } }],
});
