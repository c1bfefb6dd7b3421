import type { Smf, SmfReading } from '../smf/smf.ts';
import { guessEncoding } from '../smf/text-guess.ts';
import { textPayloads, trackId, type Song, type Track } from './song.ts';

/** File name without its folders and ending: what a song is called until somebody names it. */
export function titleFrom(fileName: string): string {
  const plain = fileName.split(/[\\/]/).at(-1) ?? '';
  return plain.replace(/\.(mid|midi|smf|kar|rmi)$/i, '').trim() || 'Untitled';
}

/** The songs that bytes hold in which several files may stand: numbered where they do. */
export function songsFromSmfs(readings: readonly SmfReading[], fileName: string): Song[] {
  return readings.flatMap(({ smf }, n) => {
    const songs = songsFromSmf(smf, fileName);
    return readings.length === 1
      ? songs
      : songs.map((song) => ({ ...song, title: `${song.title} · file ${n + 1}` }));
  });
}

/** The songs a file holds: one, or one for each pattern of a format 2 file. */
export function songsFromSmf(smf: Smf, fileName: string): Song[] {
  const title = titleFrom(fileName);
  const encoding = guessEncoding(textPayloads(smf.tracks));
  const tracks = smf.tracks.map((track, index): Track => ({ id: trackId(index + 1), ...track }));
  const song: Song = {
    title,
    format: smf.format,
    division: smf.division,
    headerExtra: smf.headerExtra,
    tracks,
    alienChunks: smf.alienChunks,
    encoding,
    nextTrack: tracks.length + 1,
    ...(smf.wrapper ? { wrapper: smf.wrapper } : {}),
  };
  if (smf.format !== 2 || tracks.length === 1) return [song];
  return tracks.map((track, index) => patternSong(song, track, index));
}

function patternSong(whole: Song, track: Track, index: number): Song {
  const alienChunks =
    index === 0
      ? whole.alienChunks.map((chunk) => ({
          ...chunk,
          beforeTrack: Math.min(chunk.beforeTrack, 1),
        }))
      : [];
  return {
    ...whole,
    title: `${whole.title} · pattern ${index + 1}`,
    tracks: [{ ...track, id: trackId(1) }],
    nextTrack: 2,
    alienChunks,
  };
}
