import { payloadOf, type Events } from '../../../smf/events.ts';
import type { Song } from '../../../song/song.ts';
import type { Meter, TempoPoint } from '../../../timing/timing.ts';
import { kindOf } from './event-kind.ts';
import { readLabel } from './read-text.ts';
import { outlineTrack } from './track-outline.ts';

/** A row that says a mark of a section. */
export interface SectionMark {
  readonly name: string;
  readonly fromTick: number;
  readonly toTick: number;
}

/** What a song says of its time, read from its events: on one tick the last holds, by the order of the tracks. */
export interface SongMap {
  readonly tempos: readonly TempoPoint[];
  readonly meters: readonly Meter[];
  readonly keys: readonly { readonly atTick: number; readonly said: string }[];
  /** The section whose mark a row is; undefined of every other row. */
  sectionAt(track: number, row: number): SectionMark | undefined;
  readonly lastTick: number;
}

const knownMaps = new WeakMap<Song, SongMap>();

export function readSongMap(song: Song): SongMap {
  const known = knownMaps.get(song);
  if (known) return known;
  const map = gatherMap(song);
  knownMaps.set(song, map);
  return map;
}

interface NamedMark {
  readonly track: number;
  readonly row: number;
  readonly atTick: number;
  readonly text: string;
}

function gatherMap(song: Song): SongMap {
  const tempos: TempoPoint[] = [];
  const meters: Meter[] = [];
  const keys: { atTick: number; said: string }[] = [];
  const marks: NamedMark[] = [];
  for (const [track, { events }] of song.tracks.entries()) {
    if (!outlineTrack(events).saysOfSong) continue;
    for (let row = 0; row < events.count; row++) {
      if (events.status[row] !== 0xff) continue;
      const atTick = events.atTick[row]!;
      const kind = kindOf(events, row);
      const payload = payloadOf(events, row);
      if (kind === 'tempo') tempos.push(...readTempo(payload, atTick));
      else if (kind === 'meter') meters.push(...readMeter(payload, atTick));
      else if (kind === 'key signature' && payload.length > 0)
        keys.push({ atTick, said: `${payload[0]} ${payload[1] === 1 ? 1 : 0}` });
      else if (kind === 'marker' && events.data1[row] === 6)
        marks.push({ track, row, atTick, text: readLabel(payload, song.encoding) });
    }
  }
  const inOrder = <T extends { atTick: number }>(list: T[]): T[] =>
    list.sort((a, b) => a.atTick - b.atTick);
  const sections = pairSections(inOrder(marks));
  return {
    tempos: inOrder(tempos),
    meters: inOrder(meters),
    keys: inOrder(keys),
    sectionAt: (track, row) => sections.get(`${track} ${row}`),
    lastTick: song.tracks.reduce((most, t) => Math.max(most, outlineTrack(t.events).lastTick), 0),
  };
}

/** Three bytes, microseconds a quarter; more are cut, and 0 is none (SMF 1.0). */
const readTempo = (b: Uint8Array, atTick: number): TempoPoint[] =>
  b.length >= 3 && (b[0]! | b[1]! | b[2]!) !== 0
    ? [{ atTick, tempo: b[0]! * 65536 + b[1]! * 256 + b[2]! }]
    : [];

/** Numerator and power of two; what gives no bar is none (SMF 1.0). */
const readMeter = (b: Uint8Array, atTick: number): Meter[] =>
  b.length >= 2 && b[0]! > 0 && b[1]! < 8
    ? [{ atTick, numerator: b[0]!, denominator: 2 ** b[1]! }]
    : [];

const ending = ' (end)';

/**
 * Sections by the rows of their two marks: "X (end)" ends the nearest open "X" before it; on one tick ends
 * come first.
 */
function pairSections(marks: readonly NamedMark[]): Map<string, SectionMark> {
  const isEnd = ({ text }: NamedMark): boolean => text.length > 6 && text.endsWith(ending);
  const open = new Map<string, NamedMark[]>();
  const found = new Map<string, SectionMark>();
  const ordered = [...marks.map((mark, n) => ({ mark, n, late: isEnd(mark) ? 0 : 1 }))].sort(
    (a, b) => a.mark.atTick - b.mark.atTick || a.late - b.late || a.n - b.n,
  );
  for (const { mark } of ordered) {
    if (!isEnd(mark)) {
      open.set(mark.text, [...(open.get(mark.text) ?? []), mark]);
      continue;
    }
    const waiting = open.get(mark.text.slice(0, -ending.length)) ?? [];
    const from = waiting.at(-1);
    if (!from || from.atTick >= mark.atTick) continue;
    waiting.pop();
    const span = { name: from.text, fromTick: from.atTick, toTick: mark.atTick };
    for (const { track, row } of [from, mark]) found.set(`${track} ${row}`, span);
  }
  return found;
}

/** A text of the chord line: it begins with `chord:` and belongs to the whole song. */
export function isChordText(events: Events, row: number): boolean {
  if (events.status[row] !== 0xff || events.data1[row] !== 1) return false;
  const said = String.fromCharCode(...payloadOf(events, row).subarray(0, 6));
  return said.toLowerCase() === 'chord:';
}

/** Whether the first track holds no music but the song's own facts. */
export const leadsWithMap = ({ tracks }: Pick<Song, 'tracks'>): boolean =>
  tracks.length > 1 && outlineTrack(tracks[0]!.events).channels === 0;
