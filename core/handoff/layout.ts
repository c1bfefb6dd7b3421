import { bridgeWords } from '../song/bridged-song.ts';
import { countBridges } from '../smf/bridges.ts';
import type { AlienChunk, Smf, SmfTrack } from '../smf/smf.ts';
import { hasMapTrack, type Song } from '../song/song.ts';
import { mergedTrack, smfTrack, type Sayable } from './format0.ts';
import { withMendedMetas } from './mended-metas.ts';

/** How the file is to be laid out. */
export interface Layout {
  readonly format: 'as-received' | 0 | 1;
  readonly chunks: boolean;
  /** Everything but the map in one track. */
  readonly oneTrack: boolean;
  readonly sayable: Sayable;
}

/** A file as it is going to be written, and what of the song it cannot say. */
export interface Laid {
  readonly smf: Smf;
  readonly notes: readonly string[];
}

/** The song as one file. `asRead`: the song as its own file was read, whose order on a tick a format 0 file keeps. */
export function layOut(song: Song, asRead: Song, wanted: Layout): Laid {
  const received = wanted.format === 'as-received';
  const one = (received ? song.format : wanted.format) !== 1;
  const { tracks, notes } = one
    ? asOneTrack(song, asRead, wanted.sayable)
    : wanted.oneTrack
      ? behindTheMap(song, asRead, wanted.sayable)
      : { tracks: song.tracks.map(smfTrack), notes: [] };
  const mended = withMendedMetas(tracks);
  const chunks = chunksOf(song, tracks.length, wanted);
  const { division, headerExtra } = song;
  const smf: Smf = {
    format: one ? 0 : 1,
    division,
    headerExtra,
    tracks: mended.tracks,
    alienChunks: chunks.sent,
    ...(received && song.wrapper ? { wrapper: song.wrapper } : {}),
  };
  return {
    smf,
    notes: [
      ...notes,
      ...bridgeNotes(smf),
      ...mended.notes,
      ...chunks.notes,
      ...wrapperNotes(song, smf),
    ],
  };
}

interface Tracks {
  readonly tracks: readonly SmfTrack[];
  readonly notes: readonly string[];
}

function asOneTrack(song: Song, asRead: Song, sayable: Sayable, called?: string): Tracks {
  const { track, notes } = mergedTrack(song, asRead, sayable, called);
  return { tracks: [track], notes };
}

function behindTheMap(song: Song, asRead: Song, sayable: Sayable): Tracks {
  if (!hasMapTrack(song)) return asOneTrack(song, asRead, sayable);
  const [map, ...parts] = song.tracks;
  const one = asOneTrack({ ...song, tracks: parts }, asRead, sayable, 'One track');
  return { tracks: [smfTrack(map!), ...one.tracks], notes: one.notes };
}

/**
 * Chunks of other kinds: in their places as received, else last, where the fewest readers stumble over
 * them; or not at all.
 */
function chunksOf(
  { alienChunks }: Song,
  tracks: number,
  { format, chunks }: Layout,
): { sent: readonly AlienChunk[]; notes: string[] } {
  if (alienChunks.length === 0) return { sent: [], notes: [] };
  const named = [...new Set(alienChunks.map((c) => c.id))].slice(0, 10).join(', ');
  if (!chunks)
    return {
      sent: [],
      notes: [`Chunks of other kinds were left out: ${alienChunks.length} (${named}).`],
    };
  if (format !== 'as-received')
    return {
      sent: alienChunks.map((c) => ({ ...c, beforeTrack: tracks })),
      notes: [`Chunks of other kinds stand last: ${alienChunks.length} (${named}).`],
    };
  return {
    sent: alienChunks.map((c) => ({ ...c, beforeTrack: Math.min(c.beforeTrack, tracks) })),
    notes: [],
  };
}

/** Waits that no file can say at once are bridged: said track by track. */
const bridgeNotes = ({ tracks }: Smf): string[] =>
  tracks.flatMap(({ events }, place) => {
    const n = countBridges(events);
    return n > 0 ? [`Track ${place + 1}: ${bridgeWords(n)}.`] : [];
  });

const wrapperNotes = (song: Song, smf: Smf): string[] =>
  song.wrapper && !smf.wrapper
    ? [
        'The RIFF wrapper and what else was in it were left out, since another format was asked for.',
      ]
    : [];
