import { z } from 'zod';
import { ok, refused, type Result } from '../../problems/problems.ts';
import { META, meta } from '../../smf/events.ts';
import { meantType } from '../../song/own-events.ts';
import { trackLabel, withEvents, type Song, type Track } from '../../song/song.ts';
import { barTick, meterMap } from '../../timing/meter-map.ts';
import { shiftedBy } from '../../timing/time-map.ts';
import { timingOf } from '../../timing/timing.ts';
import { editMarks } from '../shared/edit-marks.ts';
import { sortedByTick } from '../shared/retime.ts';
import { defineOperation, emptyReport, type Applied, type Change } from '../operation.ts';
import { timingSection } from '../timing-section/operation.ts';

/** What names a track or sets up the song stands at the very beginning and stays there. */
const setsUp: ReadonlySet<number> = new Set([meta.sequenceNumber, meta.trackName, meta.instrumentName, meta.copyright, meta.port, meta.channelPrefix, meta.smpteOffset]);

export const timingLeadIn = defineOperation({
  id: 'timing.lead-in',
  version: 1,
  title: 'Add, drop or mark a lead-in',
  summary: 'Puts empty bars before the music, in the meter and tempo it begins with, takes bars away that nothing sounds in, or only marks the bars that are there. Programs and volumes at the beginning stay there.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({
    bars: z.int().min(-1000).max(1000).default(1).meta({ title: 'Bars', description: 'Below zero: dropped. A bar in which a note sounds is never dropped.' }),
    mark: z.enum(['no', 'as a section', 'and add none']).default('no').meta({ title: 'Mark them', description: 'As a section named Lead-in; “and add none” marks bars that stand there already.' }),
  }),
  apply(song, { bars, mark }, scope) {
    if (mark === 'and add none' && bars <= 0) return nothing(song, 'There are no bars to mark.');
    const moved: Result<Applied> = mark === 'and add none' ? ok({ song, report: emptyReport }) : moveMusic(song, bars);
    if (!moved.ok || mark === 'no' || bars <= 0) return moved;
    const marked = timingSection.apply(moved.value.song, { name: 'Lead-in', bar: 1, beat: 1, lastBar: bars, travels: true, remove: false }, scope);
    if (!marked.ok) return marked;
    return ok({ song: marked.value.song, report: { changes: [...moved.value.report.changes, ...marked.value.report.changes], skipped: marked.value.report.skipped }, ...(moved.value.moves ? { moves: moved.value.moves } : {}) });
  },
  describe: ({ bars, mark }) => (mark === 'and add none' ? `Marked ${bars} ${bars === 1 ? 'bar' : 'bars'} as the lead-in` : bars > 0 ? `Added ${bars} ${bars === 1 ? 'bar' : 'bars'} before the music` : `Dropped ${-bars} ${bars === -1 ? 'bar' : 'bars'} before the music`),
  examples: [{ says: 'One bar', settings: {} }, { says: 'The first bar is the lead-in', settings: { mark: 'and add none' } }],
});

const nothing = (song: Song, why: string): Result<Applied> => ok({ song, report: { changes: [], skipped: [{ why }] } });

/** The music moved by so many bars: later behind empty ones, or earlier where bars are dropped. */
function moveMusic(whole: Song, bars: number): Result<Applied> {
  if (bars === 0) return nothing(whole, 'No bars to add or drop.');
  const map = meterMap(timingOf(whole).meters, whole.division);
  // What is added are whole bars, also where another meter cuts the first one short.
  const by = bars > 0 ? Math.ceil(map[0]!.barTicks * bars - 1e-9) : -barTick(map, 1 - bars);
  // A section of dropped bars alone goes with them.
  const gone = timingOf(whole).sections.filter((s) => s.toTick <= -by);
  const left = editMarks(whole, gone.flatMap((s) => s.marks), [], { kind: 'section' });
  if (!left.ok) return left;
  const { song } = left.value;
  const first = song.tracks.reduce((tick, { events }) => Math.min(tick, firstNote(events.status, events.data2, events.atTick)), Infinity);
  if (by < 0 && first < -by) return refused({ code: 'settings-invalid', where: { field: 'settings.bars' }, expected: 'bars in which nothing sounds', found: 'a note in them' });
  const changes: Change[] = [];
  const tracks = song.tracks.map((track): Track => {
    const { events } = track;
    const atTick = events.atTick.slice();
    let moved = 0;
    for (let i = 0; i < events.count; i++) {
      // At the beginning stands how the song is set up: it holds from there on whatever comes before the music.
      const atStart = events.atTick[i] === 0 && (events.status[i] === META ? setsUp.has(meantType(events, i)) || [meta.tempo, meta.timeSignature, meta.keySignature].includes(events.data1[i]! as never) : events.status[i]! >= 0xb0);
      if (atStart && i < events.count - 1) continue;
      const to = Math.max(0, atTick[i]! + by);
      if (to === atTick[i]) continue;
      atTick[i] = to;
      moved++;
    }
    if (moved === 0) return track;
    changes.push({ track: track.id, name: trackLabel(song, track), did: 'changed', counts: { event: moved } });
    return withEvents(track, sortedByTick(events, atTick, new Int8Array(events.count)));
  });
  const after = changes.length === 0 ? song : { ...song, tracks };
  return ok({ song: after, report: { changes, skipped: changes.length === 0 ? [{ why: 'There is nothing to move.' }] : [] }, moves: { song: shiftedBy(by) } });
}

function firstNote(status: Uint8Array, data2: Uint8Array, atTick: Float64Array): number {
  for (let i = 0; i < status.length; i++) if (status[i]! >> 4 === 9 && data2[i] !== 0) return atTick[i]!;
  return Infinity;
}
