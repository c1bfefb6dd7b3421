import type { Song, Track } from '../../../song/song.ts';
import type { Planned } from '../../handoff.ts';
import { readSongMap } from '../../proof/reading/song-map.ts';
import type { Limits } from '../../receiver/receiver.ts';
import type { Wanted } from '../../settings.ts';
import { arrivalOf, type Arrival, type FindKeySwitches } from './arrival.ts';
import { Contents } from './atoms-of.ts';
import { better, isLost, lossOf, notAsked, same, type Loss } from './outcome.ts';
import { findRestatements } from './restatements.ts';

const restated: ReadonlySet<Loss> = new Set(['tempo', 'meters', 'keys']);

/**
 * What becomes of every event of a song on its way through the files of a handoff to a receiver: in the file
 * where it fares best. Files are followed one by one, see `followed.ts`.
 */
export class Following {
  private readonly song: Song;
  private readonly wanted: Wanted;
  private readonly limits: Limits;
  private readonly findKeySwitches: FindKeySwitches;
  private readonly parents: ReadonlyMap<string, string>;
  private readonly contents: Contents;
  private readonly isSection: (track: Track, row: number) => boolean;
  /** By track and row. */
  readonly outcomes: readonly Int32Array[];
  /** Tracks that are in some file, by their places. */
  readonly chosen = new Set<number>();
  /** Notes that arrive and stand nowhere in the song. */
  more = 0;
  /** Files that are not opened. */
  unopened = 0;
  readonly worst = { rounding: 0, places: 0, time: 0 };

  /** @param song as it is sent */
  constructor(
    song: Song,
    { wanted, plan }: Pick<Planned, 'wanted' | 'plan'>,
    limits: Limits,
    findKeySwitches: FindKeySwitches,
  ) {
    this.findKeySwitches = findKeySwitches;
    this.song = song;
    this.wanted = wanted;
    this.parents = plan.parents;
    this.contents = new Contents(wanted.form.format === 'karaoke');
    this.limits = limits;
    const places = new Map(song.tracks.map((track, n) => [track, n]));
    const { sectionAt } = readSongMap(song);
    this.isSection = (track, row) => sectionAt(places.get(track) ?? -1, row) !== undefined;
    this.outcomes = song.tracks.map((t) => new Int32Array(t.events.count).fill(notAsked));
  }

  private asItIs: Arrival | undefined;
  /** What would become of an event if the song were sent as it is, in a form that is opened. */
  sentAsItIs(track: number, row: number): number {
    this.asItIs ??= arrivalOf(
      this.song,
      { format: this.limits.formats[0]!, merged: false, tracks: 1, begins: 500_000 },
      { ...this.limits, resolutions: [], frames: true, tracks: null },
      this.findKeySwitches,
    );
    return this.asItIs.tracks[track]?.[row] ?? same;
  }

  /** What the files are followed by. */
  get known() {
    const { song, wanted, limits, parents, contents, isSection, findKeySwitches } = this;
    return { song, wanted, limits, parents, contents, isSection, findKeySwitches };
  }

  note(track: number, row: number, outcome: number): void {
    const outcomes = this.outcomes[track]!;
    const had = outcomes[row]!;
    const real = this.losesNothing(track, row, outcome) ? same : outcome;
    outcomes[row] = had === notAsked ? real : better(had, real);
  }

  private isRestatement: ReturnType<typeof findRestatements> | undefined;
  /** Whether what is lost repeats only what holds there without it. */
  private losesNothing(track: number, row: number, outcome: number): boolean {
    if (!isLost(outcome) || !restated.has(lossOf(outcome))) return false;
    this.isRestatement ??= findRestatements(this.song);
    return this.isRestatement(track, row);
  }
}
