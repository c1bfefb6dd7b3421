import type { ReadingProblem } from '../problems/problems.ts';
import type { Division } from './division.ts';
import type { Events } from './events.ts';
import type { RiffWrapper } from './riff.ts';

/** A standard MIDI file, whole. */
export interface Smf {
  readonly format: 0 | 1 | 2;
  readonly division: Division;
  /** Header bytes beyond the usual six, kept. */
  readonly headerExtra: Uint8Array;
  readonly tracks: readonly SmfTrack[];
  readonly alienChunks: readonly AlienChunk[];
  readonly wrapper?: RiffWrapper;
}

export interface SmfTrack {
  readonly events: Events;
  /** The chunk's very bytes where a strict writer may send them on; absent where reading had to mend them. */
  readonly body?: Uint8Array;
}

/** A chunk of unknown kind and where it stood: before the track with this index. */
export interface AlienChunk {
  readonly beforeTrack: number;
  readonly id: string;
  readonly body: Uint8Array;
}

export interface SmfReading {
  readonly smf: Smf;
  readonly problems: readonly ReadingProblem[];
}
