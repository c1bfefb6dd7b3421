import type { Track } from '../../song/song.ts';
import type { Edges } from './notes-over-edges.ts';

export interface HowArranged {
  /** Tracks that move; the map moves with them where these are all. */
  readonly tracks: readonly Track[];
  readonly edges: Edges;
  /** The map, markers and sections stay, also where all tracks move. */
  readonly mapStays?: boolean;
  /** No bar comes or goes: tracks end no sooner than they did. */
  readonly lengthStays?: boolean;
}
