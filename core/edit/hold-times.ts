import type { Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { secondsToTicks, tempoMap, ticksToSeconds, type TempoMap } from '../timing/tempo-map.ts';
import { framesToSeconds } from '../timing/timecode.ts';
import type { Mark } from '../timing/marks.ts';
import { moveOf, placesOf } from '../timing/time-map.ts';
import { editMarks } from './edit-marks.ts';
import type { Applied } from './report.ts';
import { counted } from './rewrite.ts';

/** Time that counts on from an address where the song states one, else from its beginning. */
interface Clock {
  readonly map: TempoMap;
  /** Seconds of the day at the song's beginning; 0 where it states no timecode. */
  readonly begins: number;
  readonly states: boolean;
}

function clockOf(song: Song): Clock {
  const { tempos, timecode } = timingOf(song);
  const map = tempoMap(tempos, song.division);
  const begins = timecode
    ? framesToSeconds(timecode.frames, timecode.rate) - ticksToSeconds(map, timecode.atTick)
    : 0;
  return { map, begins, states: timecode !== undefined };
}

const day = 86_400;

/** How much later a song begins by the clock than another, at most half a day; addresses go on over midnight. */
const later = (before: Clock, after: Clock): number => {
  if (!before.states || !after.states) return 0;
  const by = (after.begins - before.begins) % day;
  return by > day / 2 ? by - day : by < -day / 2 ? by + day : by;
};

/** All marks of a song that belong to time, those of sections among them. */
const timedMarks = (song: Song): Mark[] => {
  const { markers, cuePoints, texts, sections } = timingOf(song);
  return [...markers, ...cuePoints, ...texts, ...sections.flatMap((s) => s.marks)].filter(
    (mark) => mark.seconds !== undefined,
  );
};

/**
 * Puts the marks that belong to time back at their time after a step that moved time: at their address if the
 * song states a timecode before and after, else at their second. Marks that the step took out along with
 * their bars come back, those it took out by themselves do not; of those it repeated one is left. The report
 * says how many stayed, and how many were moved to the song's beginning because it begins after them now.
 */
export function holdTimes(before: Song, applied: Applied): Applied {
  const marks = timedMarks(before);
  if (marks.length === 0) return applied;
  const [was, is] = [clockOf(before), clockOf(applied.song)];
  const by = later(was, is);
  if (!applied.moves && sameMap(was.map, is.map)) return applied;
  const known = new Set(marks.map(identityOf));
  const gone = timedMarks(applied.song).filter((mark) => known.has(identityOf(mark)));
  const there = new Set(gone.map(identityOf));
  const tracks = new Set(applied.song.tracks.map((t) => t.id));
  let early = 0;
  const come = marks
    .filter((mark) => tracks.has(mark.track) && !wasTakenOut(mark, there, applied.moves))
    .map((mark) => {
      const wanted = exactly(mark, was.map) - by;
      if (wanted < -1e-9) early++;
      const seconds = Math.max(0, wanted);
      return { ...mark, seconds, atTick: secondsToTicks(is.map, seconds) };
    });
  const place = (mark: Mark): string => `${mark.track} ${mark.kind} ${mark.atTick} ${mark.text}`;
  const stood = new Set(gone.map(place));
  const held = come.filter((mark) => !stood.has(place(mark))).length;
  let { song } = applied;
  const changes = [...applied.report.changes];
  for (const track of new Set(come.map((mark) => mark.track))) {
    const [its, theirs] = [come, gone].map((list) => list.filter((m) => m.track === track));
    const edited = editMarks(song, theirs!, its!, { into: track });
    if (!edited.ok) continue;
    song = edited.value.song;
    for (const change of edited.value.changes)
      if (!changes.some((c) => c.track === change.track)) changes.push(change);
  }
  const told = [
    ...(applied.report.told ?? []),
    ...(held > 0 || early > 0 ? [words(come.length - early, early, by !== 0)] : []),
  ];
  return {
    ...applied,
    song,
    report: { ...applied.report, changes, ...(told.length > 0 ? { told } : {}) },
  };
}

/** What a mark is known by wherever it stands. */
const identityOf = ({ track, kind, seconds, text }: Mark): string =>
  `${track} ${kind} ${seconds} ${text}`;

/** Whether the step took a mark out, and not only the bars that it stood in. */
const wasTakenOut = (mark: Mark, there: ReadonlySet<string>, moves: Applied['moves']): boolean =>
  !there.has(identityOf(mark)) && placesOf(moveOf(moves, mark.track), mark.atTick).length > 0;

/** The time that a mark was put at, as exactly as it was said, where it still stands there; else that of its tick. */
function exactly({ atTick, seconds }: Mark, map: TempoMap): number {
  const near = Math.abs(secondsToTicks(map, seconds!) - atTick) <= 1;
  return near ? seconds! : ticksToSeconds(map, atTick);
}

const sameMap = (a: TempoMap, b: TempoMap): boolean =>
  a.ticks.length === b.ticks.length &&
  a.scale === b.scale &&
  a.ticks.every((tick, n) => tick === b.ticks[n] && a.tempos[n] === b.tempos[n]);

function words(stay: number, early: number, byAddress: boolean): string {
  const where = byAddress ? 'timecode' : 'time';
  const stays = `${counted(stay, 'mark')} that ${stay === 1 ? 'belongs' : 'belong'} to time ${stay === 1 ? 'stays' : 'stay'} at ${stay === 1 ? 'its' : 'their'} ${where}`;
  return early === 0
    ? `${stays}.`
    : `${stays}; ${early.toLocaleString('en')} before the song’s beginning ${early === 1 ? 'stands' : 'stand'} there now.`;
}
