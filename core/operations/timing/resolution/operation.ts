import { z } from 'zod';
import { ok, refused } from '../../../problems/problems.ts';
import { trackLabel, withEvents, type Track } from '../../../song/song.ts';
import { tempoAt, tempoMap } from '../../../timing/tempo-map.ts';
import { finest, keptPlaces } from '../../../timing/resolution.ts';
import { stretchedBy } from '../../../timing/time-map.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { META, meta, type Events } from '../../../smf/events.ts';
import { meantType } from '../../../smf/own-events.ts';
import { keepLengths, keptLengthWords } from '../../../edit/least-length.ts';
import { sortedByTick } from '../../../edit/retime.ts';
import { defineOperation, type Change } from '../../operation.ts';

export const timingResolution = defineOperation({
  id: 'timing.resolution',
  version: 1,
  title: 'Change the resolution',
  summary:
    'Says every place in another number of ticks a quarter note; nothing moves by more than half a new tick, no note that had a length loses it, and the greatest and mean error are told.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    ppq: z.int().min(1).max(finest).default(960).meta({
      title: 'Ticks a quarter note',
      description: '96, 192, 240, 384, 480 and 960 are common.',
    }),
    onFrames: z.boolean().default(false).meta({
      title: 'Bring markers onto frames',
      description:
        'Markers and cue points go to the new tick that is nearest to the frame they stand for, by the timecode of the song.',
    }),
  }),
  apply(song, { ppq, onFrames }) {
    if (song.division.kind === 'smpte')
      return refused({
        code: 'settings-invalid',
        where: { field: 'settings.ppq' },
        expected: 'a song in ticks a quarter note',
        found: 'one in frames',
      });
    const old = song.division.ticksPerQuarter;
    if (old === ppq)
      return ok({
        song,
        report: { changes: [], skipped: [{ why: 'It has that resolution already.' }] },
      });
    const { tempos, timecode } = timingOf(song);
    if (onFrames && !timecode)
      return refused({
        code: 'settings-invalid',
        where: { field: 'settings.onFrames' },
        expected: 'a song with a start timecode',
        found: 'none stated',
      });
    const map = tempoMap(tempos, song.division);
    let [worst, sum, count, kept] = [0, 0, 0, 0];
    const changes: Change[] = [];
    const tracks = song.tracks.map((track): Track => {
      const { events } = track;
      const atTick = new Float64Array(events.count);
      let off = 0;
      for (let i = 0; i < events.count; i++) {
        const framed =
          onFrames && isMark(events, i)
            ? keptPlaces([events.atTick[i]!], map, old, timecode)[0]!.quarters * ppq
            : undefined;
        const exact = framed ?? (events.atTick[i]! * ppq) / old;
        atTick[i] = Math.round(exact);
        const error = (Math.abs(atTick[i]! - exact) / ppq) * tempoAt(map, events.atTick[i]!) * 1e-3;
        if (error > 1e-9) off++;
        worst = Math.max(worst, error);
        sum += error;
        count++;
      }
      if (events.count > 0)
        changes.push({
          track: track.id,
          name: trackLabel(song, track),
          did: 'changed',
          counts: { event: events.count },
          ...(off > 0 ? { detail: `${off.toLocaleString('en')} between two new ticks` } : {}),
        });
      const rank = new Int8Array(events.count);
      const short = keepLengths(events, atTick, rank);
      kept += short;
      // A mark that goes to its frame, and the end of a note that is kept a tick long, may pass what stood beside it.
      return withEvents(
        track,
        onFrames || short > 0 ? sortedByTick(events, atTick, rank) : { ...events, atTick },
      );
    });
    const words = keptLengthWords(kept);
    const error =
      worst < 1e-9
        ? 'every place exact'
        : `at most ${worst.toFixed(3)} ms off, ${(sum / Math.max(1, count)).toFixed(3)} ms on average`;
    const after = { ...song, tracks, division: { kind: 'ppq', ticksPerQuarter: ppq } as const };
    return ok({
      song: after,
      report: {
        changes: changes.map((c, i) =>
          i === 0 ? { ...c, detail: words ? `${error}; ${words}` : error } : c,
        ),
        skipped: [],
      },
      moves: { song: stretchedBy(ppq / old) },
    });
  },
  describe: ({ ppq }, { changes }) =>
    `Changed the resolution to ${ppq} ticks a quarter note: ${changes[0]?.detail ?? ''}`,
  examples: [
    { says: '960', settings: {} },
    { says: 'A coarse one', settings: { ppq: 24 } },
  ],
});

const isMark = (events: Events, i: number): boolean =>
  events.status[i] === META &&
  (meantType(events, i) === meta.marker || meantType(events, i) === meta.cuePoint);
