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

/** A track as the rules see it. Its events and notes are decoded when a rule asks for them; what the song's own rules need to know of it is in `look`. */
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

/** A song as the rules see it; what several of them need is worked out once. A rule of one track is given that track alone. */
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

/** All that the look at a track depends on beside its events: where any of it differs, what was noticed there counts no more. */
export interface LookedOn {
  readonly id: string;
  readonly song: SongContext;
  readonly label: string;
  readonly name: string;
  readonly map: boolean;
  readonly parked: readonly string[];
  /** Ids of the tracks that may sound on its lanes' channels, itself among them; the same list for tracks that share a channel. */
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
  const tracks = song.tracks.map((track, i): LookedTrack => {
    const name = trackName(track, song.encoding);
    const label = labelOf(name, i);
    let look: TrackLook | undefined;
    const looked: LookedTrack = {
      id: track.id,
      track,
      name,
      label,
      map: map && i === 0,
      get notes() {
        return notesOf(track.events);
      },
      get look() {
        if (look) return look;
        const on: LookedOn = {
          id: track.id,
          song: context,
          label,
          name,
          map: looked.map,
          parked: whole.tracks[i]!.parked ?? [],
          heardWith: kept ? heardWith(track) : [],
        };
        look = kept?.get(whole.tracks[i]!, on);
        if (look) return look;
        look = lookAt(
          { ...base, tracks: [looked], parts: looked.notes.count > 0 ? [looked] : [] },
          looked,
        );
        kept?.keep(whole.tracks[i]!, on, look);
        return look;
      },
    };
    return looked;
  });
  return { ...base, tracks, parts: tracks.filter((t) => t.look.notes > 0) };
}

function memoised<K, V>(known: Map<K, V>, key: K, make: (key: K) => V): V {
  const had = known.get(key);
  if (had !== undefined) return had;
  const made = make(key);
  known.set(key, made);
  return made;
}
