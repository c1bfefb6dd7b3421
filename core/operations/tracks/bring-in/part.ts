import { countKinds } from '../../../edit/event-kinds.ts';
import { isEmpty } from '../../../edit/empty.ts';
import { pickEvents } from '../../../smf/event-builder.ts';
import { META, meta } from '../../../smf/events.ts';
import { meantType } from '../../../smf/own-events.ts';
import { withEvents, type Song, type Track } from '../../../song/song.ts';

/** Metas that are a song's wherever they stand, and stay with it when its parts go elsewhere. */
const ofTheSong: ReadonlySet<number> = new Set([
  meta.tempo,
  meta.timeSignature,
  meta.smpteOffset,
  meta.keySignature,
  meta.marker,
  meta.cuePoint,
]);

/** The tracks of a song as parts for another: without tempo, meters, keys, markers and what else is that song's own. */
export interface Parts {
  readonly tracks: readonly Track[];
  /** Tracks that held nothing else. */
  readonly empty: readonly Track[];
  /** What stays, by kind. */
  readonly left: Readonly<Record<string, number>>;
}

export function partsOf(song: Song, chosen: readonly Track[]): Parts {
  const tracks: Track[] = [];
  const empty: Track[] = [];
  const left: Record<string, number> = {};
  for (const track of chosen) {
    const { part, kinds } = withoutSong(track, track === song.tracks[0]);
    for (const [kind, n] of Object.entries(kinds)) left[kind] = (left[kind] ?? 0) + n;
    if (isEmpty(part.events)) empty.push(track);
    else tracks.push(part);
  }
  return { tracks, empty, left };
}

function withoutSong(track: Track, first: boolean): { part: Track; kinds: Record<string, number> } {
  const { events } = track;
  const [rows, gone]: [number[], number[]] = [[], []];
  for (let i = 0; i < events.count; i++) {
    const type = events.status[i] === META ? meantType(events, i) : -1;
    (ofTheSong.has(type) || (first && type === meta.copyright) ? gone : rows).push(i);
  }
  if (gone.length === 0) return { part: track, kinds: {} };
  return {
    part: withEvents(track, pickEvents(events, rows)),
    kinds: countKinds(pickEvents(events, gone)),
  };
}
