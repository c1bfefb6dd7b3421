import { z } from 'zod';
import { ok, type Result } from '../../../problems/problems.ts';
import { percussionChannel } from '../../../instruments/general-midi.ts';
import { eventsFrom } from '../../../smf/event-builder.ts';
import { channelEvent, meta, metaEvent, type EventValue } from '../../../smf/events.ts';
import { encodeFor } from '../../../smf/text-encode.ts';
import { trackId, type Song, type Track } from '../../../song/song.ts';
import { clicksOf, mostClicks, type ClickKind } from '../../../timing/click.ts';
import { barTick, meterMap } from '../../../timing/meter-map.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { plainName } from '../../../edit/plain-text.ts';
import { withTracks } from '../../../edit/track-list.ts';
import { defineOperation, type Applied } from '../../operation.ts';
import { moveMusic } from '../../../edit/move-music.ts';

const key = z.int().min(0).max(127);
const velocities: Readonly<Record<ClickKind, number>> = { bar: 112, beat: 88, between: 56 };

const nothing = (song: Song, why: string): Result<Applied> =>
  ok({ song, report: { changes: [], skipped: [{ why }] } });

export const timingClick = defineOperation({
  id: 'timing.click',
  version: 1,
  title: 'Make a click track',
  summary:
    'Adds a track that clicks the bars and beats of the meter map on the drum channel, to the end of the song or for a count-in alone.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    name: plainName('Name').default('Click'),
    bar: key.default(76).meta({ title: 'Bar', unit: 'drum key; 76 is the high wood block' }),
    beat: key.default(77).meta({ title: 'Beat', unit: 'drum key' }),
    between: key.default(77).meta({ title: 'Between', unit: 'drum key' }),
    division: z
      .int()
      .min(1)
      .max(8)
      .default(1)
      .meta({ title: 'Clicks a beat', description: '2 also clicks between the beats, softer.' }),
    byThrees: z.enum(['every eighth', 'every dotted quarter']).default('every eighth').meta({
      title: 'In 6/8 and its like',
      description: 'Where eighths, or sixteenths, come by threes.',
    }),
    countIn: z.int().min(0).max(16).default(0).meta({
      title: 'Count-in',
      unit: 'bars',
      description: 'So many bars are put before the music and clicked.',
    }),
    until: z
      .enum(['the end of the song', 'the end of the count-in'])
      .default('the end of the song')
      .meta({ title: 'Until' }),
  }),
  apply(whole, { name, bar, beat, between, division, byThrees, countIn, until }) {
    if (timingOf(whole).endTick === 0)
      return nothing(whole, 'The song has no length yet; set one first.');
    const counted: Result<Applied> =
      countIn === 0
        ? ok({ song: whole, report: { changes: [], skipped: [] } })
        : moveMusic(whole, countIn);
    if (!counted.ok) return counted;
    const { song, report } = counted.value;
    const { meters, endTick } = timingOf(song);
    const end =
      until === 'the end of the song'
        ? endTick
        : countIn === 0
          ? 0
          : barTick(meterMap(meters, song.division), countIn + 1);
    if (end === 0) return nothing(whole, 'There is no count-in to click.');
    const clicks = clicksOf(
      meters,
      song.division,
      end,
      division,
      byThrees === 'every dotted quarter',
    );
    if (!clicks)
      return nothing(
        whole,
        `The song takes more than ${mostClicks.toLocaleString('en')} clicks; set its length first.`,
      );
    const keys: Readonly<Record<ClickKind, number>> = { bar, beat, between };
    const notes = clicks.flatMap(({ atTick, untilTick, kind }): EventValue[] => {
      const from = Math.round(atTick);
      const off = Math.max(from + 1, Math.round((atTick + untilTick) / 2));
      return [
        channelEvent(from, 0x90 | percussionChannel, keys[kind], velocities[kind]),
        channelEvent(off, 0x80 | percussionChannel, keys[kind], 64),
      ];
    });
    const events = eventsFrom([
      metaEvent(0, meta.trackName, encodeFor(name, song.encoding)),
      ...notes,
      metaEvent(endTick, meta.endOfTrack),
    ]);
    const track: Track = { id: trackId(song.nextTrack), events };
    const made = withTracks(song, [...song.tracks, track], song.nextTrack + 1);
    return ok({
      song: made,
      report: {
        changes: [
          ...report.changes,
          { track: track.id, name, did: 'added', counts: { note: clicks.length } },
        ],
        skipped: [],
      },
      ...(counted.value.moves ? { moves: counted.value.moves } : {}),
    });
  },
  describe: ({ countIn }, { changes }) =>
    `Made a click track of ${changes.at(-1)?.counts.note?.toLocaleString('en') ?? 0} clicks${countIn > 0 ? `, with ${countIn === 1 ? 'a bar' : `${countIn} bars`} of count-in` : ''}`,
  examples: [
    { says: 'Bars and beats', settings: {} },
    { says: 'Eighths between', settings: { division: 2 } },
    { says: 'Dotted quarters in 6/8', settings: { byThrees: 'every dotted quarter' } },
    { says: 'Two bars of count-in', settings: { countIn: 2, until: 'the end of the count-in' } },
  ],
});
