import type { Song, Track } from '../../../song/song.ts';
import type { Change, Report } from '../../operation.ts';

/** A song on its way, and what was done to it. */
export interface Given {
  readonly song: Song;
  readonly changes: readonly Change[];
  readonly skipped: Report['skipped'];
}

export const skip = (given: Given, track: Track, name: string, why: string): Given => ({
  ...given,
  skipped: [...given.skipped, { track: track.id, name, why }],
});
