import { guessesOf, type GuessedTrack } from '../guessing/guess.ts';
import { ok, type ReadingProblem, type Result } from '../problems/problems.ts';
import type { Division } from '../smf/division.ts';
import { summariseSong, type SongSummary } from '../song/song-summary.ts';
import type { Ports } from './ports.ts';
import { songsOfFile, type FileBytes } from './sources.ts';

/** What one of the songs in a file holds, before anything of it is taken. */
export interface PartContents extends SongSummary {
  readonly title: string;
  readonly format: 0 | 1 | 2;
  readonly division: Division;
  readonly guesses: readonly GuessedTrack[];
}

export interface Contents {
  readonly sha256: string;
  readonly parts: readonly PartContents[];
  readonly problems: readonly ReadingProblem[];
}

/** What a file holds; refused where it cannot be read. */
export function contents(file: FileBytes, { sha256 }: Pick<Ports, 'sha256'>): Result<Contents> {
  const read = songsOfFile(file);
  if (!read.ok) return read;
  const { songs, problems } = read.value;
  const parts = songs.map((song): PartContents => {
    const { title, format, division } = song;
    return { title, format, division, ...summariseSong(song), guesses: guessesOf(song) };
  });
  return ok({ sha256: sha256(file.bytes), parts, problems });
}
