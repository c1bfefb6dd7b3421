import { payloadOf, type Events } from '../../smf/events.ts';
import type { Song, Track } from '../../song/song.ts';
import { EventSum, isOfFile } from './reading/event-sum.ts';
import { kindOf } from './reading/event-kind.ts';
import { isAnchor, readKeptMark } from './reading/own-words.ts';

/**
 * Whether the song as it is sent holds all of the song but what is parked or kept: track by track, and of
 * tracks of drums that were split every note once, with all else in each.
 */
export function verifySent(
  source: Song,
  sent: Song,
  parents: ReadonlyMap<string, string>,
): string[] {
  const children = new Map<string, Track[]>();
  for (const track of sent.tracks) {
    const of = parents.get(track.id) ?? track.id;
    children.set(of, [...(children.get(of) ?? []), track]);
  }
  return source.tracks.flatMap((track, place) => {
    const there = children.get(track.id) ?? [];
    const isSame = there.length === 1 && there[0]!.events === track.events && !track.parked?.length;
    if (isSame) return [];
    const [only, ...others] = there;
    const isWhole =
      only !== undefined &&
      (others.length === 0 ? holdsAll(track, only.events) : isSplit(track, there));
    return isWhole ? [] : [`track ${place + 1} does not hold what it sends`];
  });
}

function holdsAll(track: Track, there: Events): boolean {
  const parked = isParked(track);
  return sumOf(track.events, (row) => !parked(row)).isSame(sumOf(there, () => true));
}

/**
 * Notes are shared out, and what is for the whole instrument is in one of the tracks; every other message is in
 * each.
 */
function isSplit(track: Track, there: readonly Track[]): boolean {
  const parked = isParked(track);
  const isShared = (events: Events, row: number): boolean =>
    events.status[row]! >> 4 <= 9 || kindOf(events, row) === 'exclusive';
  const isElse = (events: Events, row: number): boolean =>
    events.status[row]! >> 4 > 10 && events.status[row]! < 0xf0;
  const { events } = track;
  const shared = new EventSum();
  for (const { events: some } of there)
    for (let row = 0; row < some.count; row++) if (isShared(some, row)) shared.addRow(some, row);
  const rest = sumOf(events, (row) => isElse(events, row) && !parked(row));
  return (
    sumOf(events, (row) => isShared(events, row)).isSame(shared) &&
    there.every(({ events: some }) => sumOf(some, (row) => isElse(some, row)).isSame(rest))
  );
}

/** Timecode is stated anew for others: `verify-timecode.ts` verifies it. */
function sumOf(events: Events, counts: (row: number) => boolean): EventSum {
  const sum = new EventSum();
  for (let row = 0; row < events.count; row++)
    if (counts(row) && !isOfFile(events, row) && kindOf(events, row) !== 'timecode')
      sum.addRow(events, row);
  return sum;
}

/** Lanes are named by channel, from 0, and by controller number, `bend`, `pressure` or `program`. */
function isParked({ events, parked = [] }: Track): (row: number) => boolean {
  const keys = new Set(parked);
  return (row) => {
    const status = events.status[row]!;
    if (status === 0xff) {
      if (events.data1[row] !== 0x7f) return false;
      const payload = payloadOf(events, row);
      return isAnchor(payload) || readKeptMark(payload) !== undefined;
    }
    if (keys.size === 0 || status >= 0xf0) return false;
    const lane = { 0xb: `${events.data1[row]}`, 0xc: 'program', 0xd: 'pressure', 0xe: 'bend' }[
      status >> 4
    ];
    const isLane = lane !== undefined && (status >> 4 !== 0xb || events.data1[row]! < 120);
    return isLane && keys.has(`${status & 15}:${lane}`);
  };
}
