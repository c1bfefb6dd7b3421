import type { StepRequest } from '../operations/run.ts';
import type { Song } from '../song/song.ts';

/**
 * Whether a song is split as it comes in: a format 0 track of many channels, and a pattern of format 2,
 * gets a track for each channel.
 */
export const splitsAtIntake = ({ format, tracks }: Song): boolean =>
  format !== 1 && tracks.length === 1;

export const splitAtIntake: StepRequest = { operation: 'tracks.split-by-channel' };
