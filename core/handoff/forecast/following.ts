import type { Song, Track } from '../../song/song.ts';
import type { Planned } from '../handoff.ts';
import { marksOfSections } from '../part/taken.ts';
import type { Limits } from '../receiver/receiver.ts';
import type { Wanted } from '../settings.ts';
import { arrivalOf, type Arrival } from './arrival.ts';
import { Contents } from './atoms-of.ts';
import { better, notAsked, same } from './outcome.ts';

/**
 * What becomes of every event of a song on its way through the files of a handoff to a receiver: in the file
 * where it fares best. Files are followed one by one, see `followed.ts`.
 */
export class Following {
  private readonly song: Song;
  private readonly wanted: Wanted;
  private readonly limits: Limits;
  private readonly parents: ReadonlyMap<string, string>;
  private readonly contents = new Contents();
  private readonly isSection: (track: Track, row: number) => boolean;
  /** By track and row. */
  readonly outcomes: readonly Int32Array[];
  /** Tracks that are in some file, by their places. */
  readonly chosen = new Set<number>();
  /** Notes that arrive and stand nowhere in the song. */
  more = 0;
  readonly worst = { rounding: 0, places: 0, time: 0 };

  /** @param song as it is sent */
  constructor(song: Song, { wanted, plan }: Pick<Planned, 'wanted' | 'plan'>, limits: Limits) {
    this.song = song;
    this.wanted = wanted;
    this.parents = plan.parents;
    this.limits = limits;
    this.isSection = marksOfSections(song);
    this.outcomes = song.tracks.map((t) => new Int32Array(t.events.count).fill(notAsked));
  }

  private asItIs: Arrival | undefined;
  /** What would become of an event if the song were sent as it is, in a form that is opened. */
  sentAsItIs(track: number, row: number): number {
    this.asItIs ??= arrivalOf(
      this.song,
      { format: this.limits.formats[0]!, merged: false, tracks: 1, begins: 500_000 },
      { ...this.limits, resolutions: [], frames: true, tracks: null },
    );
    return this.asItIs.tracks[track]?.[row] ?? same;
  }

  /** What the files are followed by. */
  get known() {
    const { song, wanted, limits, parents, contents, isSection } = this;
    return { song, wanted, limits, parents, contents, isSection };
  }

  note(track: number, row: number, outcome: number): void {
    const outcomes = this.outcomes[track]!;
    const had = outcomes[row]!;
    outcomes[row] = had === notAsked ? outcome : better(had, outcome);
  }
}
