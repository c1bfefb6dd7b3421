import { ok, refused, type Result } from '../problems/problems.ts';
import { META, meta } from '../smf/events.ts';
import { meantType } from '../smf/own-events.ts';
import { trackLabel, withEvents, type Song, type Track } from '../song/song.ts';
import { barTick, meterMap } from '../timing/meter-map.ts';
import { shiftedBy } from '../timing/time-map.ts';
import { timingOf } from '../song/timing-of.ts';
import { editMarks } from './edit-marks.ts';
import { sortedByTick } from './retime.ts';
import { withTimecodeMoved } from './timecode-moved.ts';
import type { Applied, Change } from './report.ts';

/** What names a track or sets up the song stands at the very beginning and stays there. */
const setsUp: ReadonlySet<number> = new Set([
  meta.sequenceNumber,
  meta.trackName,
  meta.instrumentName,
  meta.copyright,
  meta.port,
  meta.channelPrefix,
  meta.smpteOffset,
]);

const nothing = (song: Song, why: string): Result<Applied> =>
  ok({ song, report: { changes: [], skipped: [{ why }] } });

/** The music moved by so many bars: later behind empty ones, or earlier where bars are dropped. */
export function moveMusic(whole: Song, bars: number): Result<Applied> {
  if (bars === 0) return nothing(whole, 'No bars to add or drop.');
  const map = meterMap(timingOf(whole).meters, whole.division);
  // What is added are whole bars, also where another meter cuts the first one short.
  const by = bars > 0 ? Math.ceil(map[0]!.barTicks * bars - 1e-9) : -barTick(map, 1 - bars);
  // A section of dropped bars alone goes with them.
  const gone = timingOf(whole).sections.filter((s) => s.toTick <= -by);
  const left = editMarks(
    whole,
    gone.flatMap((s) => s.marks),
    [],
    { kind: 'section' },
  );
  if (!left.ok) return left;
  const { song } = left.value;
  const first = song.tracks.reduce(
    (tick, { events }) => Math.min(tick, firstNote(events.status, events.data2, events.atTick)),
    Infinity,
  );
  if (by < 0 && first < -by)
    return refused({
      code: 'settings-invalid',
      where: { field: 'settings.bars' },
      expected: 'bars in which nothing sounds',
      found: 'a note in them',
    });
  const changes: Change[] = [];
  const tracks = song.tracks.map((track): Track => {
    const { events } = track;
    const atTick = events.atTick.slice();
    let moved = 0;
    for (let i = 0; i < events.count; i++) {
      // At the beginning stands how the song is set up: it holds from there on whatever comes before the music.
      const atStart =
        events.atTick[i] === 0 &&
        (events.status[i] === META
          ? setsUp.has(meantType(events, i)) ||
            [meta.tempo, meta.timeSignature, meta.keySignature].includes(events.data1[i]! as never)
          : events.status[i]! >= 0xb0);
      if (atStart && i < events.count - 1) continue;
      const to = Math.max(0, atTick[i]! + by);
      if (to === atTick[i]) continue;
      atTick[i] = to;
      moved++;
    }
    if (moved === 0) return track;
    changes.push({
      track: track.id,
      name: trackLabel(song, track),
      did: 'changed',
      counts: { event: moved },
    });
    return withEvents(track, sortedByTick(events, atTick, new Int8Array(events.count)));
  });
  const moved = changes.length === 0 ? song : { ...song, tracks };
  const stated = withTimecodeMoved(song, moved, by);
  return ok({
    song: stated.song,
    report: {
      changes,
      skipped: changes.length === 0 ? [{ why: 'There is nothing to move.' }] : [],
      ...(stated.said ? { told: [stated.said] } : {}),
    },
    moves: { song: shiftedBy(by) },
  });
}

function firstNote(status: Uint8Array, data2: Uint8Array, atTick: Float64Array): number {
  for (let i = 0; i < status.length; i++)
    if (status[i]! >> 4 === 9 && data2[i] !== 0) return atTick[i]!;
  return Infinity;
}
