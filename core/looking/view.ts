import type { InstrumentDefinition } from '../instruments/definition.ts';
import type { Division } from '../smf/division.ts';
import { heardOn } from '../edit/heard.ts';
import { sentSong } from '../song/lanes.ts';
import { notesOf, type Notes } from '../song/notes.ts';
import { hasMapTrack, labelOf, trackName, type Song, type Track } from '../song/song.ts';
import { factsOf } from '../song/track-facts.ts';
import { positionAt, meterMap, quarterTicks, type MeterMap } from '../timing/meter-map.ts';
import { tempoMap, ticksToSeconds } from '../timing/tempo-map.ts';
import { timingOf } from '../song/timing-of.ts';
import { channelsIn } from '../units/channel-bits.ts';
import type { Meter, TempoPoint, Timing } from '../timing/timing.ts';
import type { TrackLook } from './track-look.ts';

/** Parts of songs of more tracks are not held against each other. */
const mostCompared = 128;

/** Whether parts of a song are looked for in larger parts, see `rules/doubled.ts`. */
export const comparesParts = ({ tracks }: Song): boolean => tracks.length <= mostCompared;

/**
 * A track as the rules see it. Its events and notes are decoded when a rule asks for them; what the song's
 * own rules need to know of it is in `look`.
 */
export interface LookedTrack {
  readonly id: string;
  readonly track: Track;
  /** Its name, '' where it has none. */
  readonly name: string;
  /** What it is called in sentences. */
  readonly label: string;
  readonly notes: Notes;
  readonly map: boolean;
  readonly look: TrackLook;
}

/**
 * A song as the rules see it; what several of them need is worked out once. A rule of one track is given
 * that track alone.
 */
export interface LookedSong {
  readonly song: Song;
  readonly tracks: readonly LookedTrack[];
  /** Those with notes. */
  readonly parts: readonly LookedTrack[];
  readonly timing: Timing;
  readonly meters: MeterMap;
  barAt(tick: number): number;
  /** Time of a tick. */
  seconds(tick: number): number;
  /** Ticks of a quarter note. */
  readonly quarter: number;
}

/** What a song gives to the look at each of its tracks; one object a song. */
export interface SongContext {
  readonly division: Division;
  readonly meters: readonly Meter[];
  readonly tempos: readonly TempoPoint[];
  /** See `comparesParts`. */
  readonly comparesParts: boolean;
}

/**
 * All that the look at a track depends on beside its events: where any of it differs, what was noticed
 * there counts no more.
 */
export interface LookedOn {
  readonly own: {
    readonly id: string;
    readonly label: string;
    readonly name: string;
    readonly map: boolean;
    readonly parked: readonly string[];
    readonly instrument: InstrumentDefinition | null;
  };
  readonly song: SongContext;
  /**
   * Ids of the tracks that may sound on its lanes' channels, itself among them; the same list for tracks
   * that share a channel.
   */
  readonly heardWith: readonly (readonly string[])[];
}

/** Where looks at tracks are kept from one revision to the next. */
export interface KeptLooks {
  get(track: Track, on: LookedOn): TrackLook | undefined;
  keep(track: Track, on: LookedOn, look: TrackLook): void;
}

/** What is parked is neither played nor sent, so the rules do not see it. */
export function viewOf(
  whole: Song,
  lookAt: (song: LookedSong, t: LookedTrack) => TrackLook,
  kept?: KeptLooks,
): LookedSong {
  const song = sentSong(whole);
  const timing = timingOf(song);
  const meters = meterMap(timing.meters, song.division);
  const tempo = tempoMap(timing.tempos, song.division);
  const map = hasMapTrack(song);
  const context: SongContext = {
    division: song.division,
    meters: timing.meters,
    tempos: timing.tempos,
    comparesParts: comparesParts(song),
  };
  const idsOf = new Map<readonly Track[], readonly string[]>();
  const heardWith = (track: Track): (readonly string[])[] => {
    const { lanes, ports } = factsOf(track);
    return channelsIn(lanes).map((c) =>
      memoised(idsOf, heardOn(song, ports, c), (list) => list.map((t) => t.id)),
    );
  };
  const base = {
    song,
    timing,
    meters,
    barAt: (tick: number) => positionAt(meters, tick).bar,
    seconds: (tick: number) => ticksToSeconds(tempo, tick),
    quarter: quarterTicks(song.division),
  };
  const looked = (of: Track, t: LookedTrack): TrackLook => {
    const { id, label, name, map: isMap } = t;
    const on: LookedOn = {
      own: {
        id,
        label,
        name,
        map: isMap,
        parked: of.parked ?? [],
        instrument: of.instrument ?? null,
      },
      song: context,
      heardWith: kept ? heardWith(t.track) : [],
    };
    const known = kept?.get(of, on);
    if (known) return known;
    const look = lookAt({ ...base, tracks: [t], parts: t.notes.count > 0 ? [t] : [] }, t);
    kept?.keep(of, on, look);
    return look;
  };
  const tracks = song.tracks.map((track, i) => {
    const name = trackName(track, song.encoding);
    return new Looked(track, name, labelOf(name, i), map && i === 0, (t) =>
      looked(whole.tracks[i]!, t),
    );
  });
  return { ...base, tracks, parts: tracks.filter((t) => t.look.notes > 0) };
}

/** A track whose notes and look are had when they are asked for. */
class Looked implements LookedTrack {
  readonly track: Track;
  readonly name: string;
  readonly label: string;
  readonly map: boolean;
  private readonly lookAt: (t: LookedTrack) => TrackLook;
  private had?: TrackLook;
  private played?: Notes;

  constructor(
    track: Track,
    name: string,
    label: string,
    map: boolean,
    lookAt: (t: LookedTrack) => TrackLook,
  ) {
    this.track = track;
    this.name = name;
    this.label = label;
    this.map = map;
    this.lookAt = lookAt;
  }

  get id(): string {
    return this.track.id;
  }

  get notes(): Notes {
    return (this.played ??= notesOf(this.track.events));
  }

  get look(): TrackLook {
    return (this.had ??= this.lookAt(this));
  }
}

function memoised<K, V>(known: Map<K, V>, key: K, make: (key: K) => V): V {
  const had = known.get(key);
  if (had !== undefined) return had;
  const made = make(key);
  known.set(key, made);
  return made;
}
