import { isEmpty } from '../../../edit/empty.ts';
import { kindOf } from '../../../edit/event-kinds.ts';
import { hasLane } from '../../../edit/excerpt/excerpt.ts';
import { pickEvents } from '../../../smf/event-builder.ts';
import { META, meta, SYSEX, SYSEX_PACKET, type Events } from '../../../smf/events.ts';
import { meantType } from '../../../smf/own-events.ts';
import { withEvents, withParked, type Song, type Track } from '../../../song/song.ts';
import { mapKindsOf, mapWords } from './map-kinds.ts';
import type { BringIn, Take } from './settings.ts';

/**
 * The tracks of a song as parts for another: without tempo, meters, keys, markers and what else is that
 * song's own, and without what is not taken.
 */
export interface Parts {
  readonly tracks: readonly Track[];
  /** Tracks that held nothing else. */
  readonly empty: readonly Track[];
  /** What of the song's own stays there, by kind. */
  readonly left: ReadonlyMap<string, number>;
  /** What of the parts was not asked for, by kind. */
  readonly leftOut: ReadonlyMap<string, number>;
}

const mixing: ReadonlySet<number> = new Set([7, 8, 10, 39, 40, 42, 91, 92, 93, 94, 95]);
const textMetas: ReadonlySet<number> = new Set([meta.text, meta.sequencerSpecific]);

export function partsOf(
  song: Song,
  chosen: readonly Track[],
  { take, map, tracks: which }: Pick<BringIn, 'take' | 'map' | 'tracks'>,
  idle: ReadonlySet<string>,
): Parts {
  const all = which === 'all';
  const tracks: Track[] = [];
  const empty: Track[] = [];
  const left = new Map<string, number>();
  const leftOut = new Map<string, number>();
  const add = (to: Map<string, number>, word: string): void =>
    void to.set(word, (to.get(word) ?? 0) + 1);
  const kindAt = mapKindsOf(song);
  for (const track of chosen) {
    const isSongs = (i: number): boolean => {
      if (track.events.status[i] !== META) return false;
      const kind = kindAt(track, i);
      const copyright = track === song.tracks[0] && track.events.data1[i] === meta.copyright;
      if (kind ? map[kind] === 'none' : copyright) add(left, kind ? mapWords[kind] : 'copyright');
      return kind !== undefined || copyright;
    };
    const isTaken = (i: number): boolean => {
      const taken = comes(track.events, i, take);
      if (!taken) add(leftOut, kindOf(track.events, i) ?? 'other');
      return taken;
    };
    const part = partOf(track, (i) => !isSongs(i) && isTaken(i));
    if (idle.has(track.id) || (all ? saysNothing(part.events) : isEmpty(part.events)))
      empty.push(track);
    else tracks.push(part);
  }
  return { tracks, empty, left, leftOut };
}

/** Nothing that is played, sung or read: of all tracks of a file, one that holds no more is not worth a track. */
const saysNothing = (events: Events): boolean =>
  events.status.every((status, i) => status === META && !spoken.has(meantType(events, i)));
const spoken: ReadonlySet<number> = new Set([meta.lyric, meta.text]);

/** Whether a row comes in with its part. */
function comes(events: Events, i: number, take: Take): boolean {
  const status = events.status[i]!;
  if (status === META) {
    const type = meantType(events, i);
    return type === meta.lyric ? take.lyrics : take.texts || !textMetas.has(type);
  }
  if (status === SYSEX || status === SYSEX_PACKET) return take.exclusive;
  const kind = status >> 4;
  if (kind === 8 || kind === 9) return true;
  if (kind === 0xc) return take.programs;
  if (kind !== 0xb) return take.controllers;
  const number = events.data1[i]!;
  if (number === 0 || number === 32) return take.programs;
  return mixing.has(number) ? take.mix : take.controllers;
}

/** The track with the rows that come in; the very track where all of them do. */
function partOf(track: Track, isIn: (row: number) => boolean): Track {
  const { events } = track;
  // Each row is asked about once: who asks counts what stays.
  let first = 0;
  while (first < events.count && isIn(first)) first++;
  if (first === events.count) return track;
  const rows = Array.from({ length: first }, (_, i) => i);
  for (let i = first + 1; i < events.count; i++) if (isIn(i)) rows.push(i);
  const part = withEvents(track, pickEvents(events, rows));
  return track.parked ? withParked(part, track.parked.filter(hasLane(part.events))) : part;
}
