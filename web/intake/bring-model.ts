import type { GuessesView } from '#contracts/guesses.ts';
import type { OriginalView, SongView } from '#contracts/songs.ts';
import type { BringIn, MapKind } from '#core/operations/tracks/bring-in/settings.ts';
import type { NamedSource } from '#core/operations/sources.ts';
import { mapsOf } from '#core/song/maps.ts';
import { barTick, positionAt } from '#core/timing/meter-map.ts';
import { secondsToTicks, ticksToSeconds } from '#core/timing/tempo-map.ts';
import type { StepAsked } from '../api/queries.ts';
import { count } from '../components/text.ts';
import { isFlat } from '../drawing/glyphs.ts';
import { usualChoices } from './choices.ts';
import { usualMusic } from './music-choice.tsx';

/** What a file or another song holds, as far as taking from it goes. */
export type Held = Pick<
  OriginalView['parts'][number],
  'title' | 'division' | 'divisionText' | 'notes' | 'mapTrack' | 'timing' | 'tracks'
> & {
  /** What may play its tracks, where that is known. */
  readonly guesses?: GuessesView['tracks'];
};
type Into = Pick<SongView, 'division' | 'timing' | 'tracks' | 'notes'>;

/** The tracks of a song that parts can be laid onto, by id and name. */
export const tracksOf = ({
  tracks,
  mapTrack,
}: Pick<SongView, 'tracks' | 'mapTrack'>): (readonly [id: string, name: string])[] =>
  tracks.flatMap((t, n) =>
    mapTrack && n === 0 ? [] : [[t.id, t.name || `track ${n + 1}`] as const],
  );

/** What is to be taken of one source, and how. */
export interface Wanted {
  readonly tracks: readonly string[];
  /** First and last bar of it; null for all. */
  readonly bars: BringIn['bars'];
  readonly edges: BringIn['edges'];
  readonly at: BringIn['at'];
  readonly keep: BringIn['keep'];
  readonly take: BringIn['take'];
  readonly map: BringIn['map'];
  readonly music: BringIn['music'];
  readonly beyond: BringIn['beyond'];
  /** By track of the source: the track that it is laid onto. */
  readonly onto: Readonly<Record<string, string>>;
  readonly how: BringIn['onto'][number]['how'];
}

const kindsOf: readonly MapKind[] = ['tempos', 'meters', 'keys', 'markers', 'sections', 'timecode'];

/** How many of each kind of the map a source has. */
export function mapCounts({ timing }: Pick<Held, 'timing'>): Record<MapKind, number> {
  const { tempoCount, meters, keys, markers, cuePoints, sections, startTimecode } = timing;
  return {
    tempos: tempoCount,
    meters: meters.length,
    keys: keys.length,
    markers: markers.length + cuePoints.length,
    sections: sections.length,
    timecode: startTimecode === undefined ? 0 : 1,
  };
}

/** Tracks that have anything to give: not those that hold the song's own facts alone, or a name. */
export const givingTracks = ({ tracks, mapTrack }: Held): Held['tracks'] =>
  tracks.filter((t, n) => gives(t) && !(mapTrack && n === 0 && t.counts.lyrics === 0));

const gives = ({ notes, controllers, counts }: Held['tracks'][number]): boolean =>
  notes + controllers.length + counts.pitchBend + counts.pressure + counts.programChanges > 0 ||
  counts.systemExclusive + counts.lyrics + counts.texts > 0;

/** Whether one of the two counts in frames, and has no bars to keep. */
export const countsFrames = (song: Pick<Into, 'division'>, held: Pick<Held, 'division'>): boolean =>
  song.division.kind === 'smpte' || held.division.kind === 'smpte';

/**
 * What is proposed: everything that plays, at the bar of the scope or its own. Where the song has no music yet,
 * of the map too what the song does not say itself: what was typed stays.
 */
export function proposed(
  song: Into,
  held: Held,
  {
    from,
    tracks,
    bars = null,
    isFirst = true,
  }: {
    from?: number | undefined;
    tracks?: readonly string[] | undefined;
    bars?: BringIn['bars'] | undefined;
    /** Of several that come in at once the first gives the map. */
    isFirst?: boolean | undefined;
  },
): Wanted {
  const frames = countsFrames(song, held);
  const counts = mapCounts(held);
  const said = mapCounts(song);
  const isEmpty = song.notes === 0 && !frames && isFirst;
  // A song that says no meter is in 4/4: who typed no tempo either typed none.
  const [meter, ...meters] = song.timing.meters;
  const isPlain = meters.length === 0 && meter?.numerator === 4 && meter.denominator === 4;
  if (said.tempos === 0 && isPlain) said.meters = 0;
  const isTaken = (kind: MapKind): boolean => isEmpty && counts[kind] > 0 && said[kind] === 0;
  const giving = givingTracks(held).map((t) => t.id);
  return {
    ...usualChoices,
    keep: frames ? 'seconds' : usualChoices.keep,
    tracks: tracks ? giving.filter((id) => tracks.includes(id)) : giving,
    bars,
    edges: 'with their beginning',
    at: from === undefined || from === 1 ? { own: true } : { bar: from },
    map: Object.fromEntries(
      kindsOf.map((kind) => [kind, isTaken(kind) ? 'replace' : 'none']),
    ) as BringIn['map'],
    ...usualMusic,
    onto: {},
  };
}

/** What is chosen for one file, put to another: all but which of its tracks, and where they go. */
export const alike = (
  wanted: Wanted,
  { take, keep, how, map, music, beyond }: Wanted,
  held: Held,
): Wanted => {
  const counts = mapCounts(held);
  const own = Object.fromEntries(
    kindsOf.map((kind) => [kind, counts[kind] > 0 ? map[kind] : 'none']),
  ) as BringIn['map'];
  return { ...wanted, take, keep, how, music, beyond, map: own };
};

/** The settings of the step that takes it. */
export function settingsOf(
  source: unknown,
  wanted: Wanted,
  giving: number,
): Record<string, unknown> {
  const { tracks, onto, how, ...rest } = wanted;
  return {
    source,
    ...rest,
    tracks: tracks.length === 0 ? 'none' : tracks.length === giving ? 'all' : [...tracks],
    onto: tracks.flatMap((track) => (onto[track] ? [{ track, to: onto[track], how }] : [])),
  };
}

/** One file is a step; several are a recipe that is run once, so that one undo takes all of them back. */
export function stepOf(
  sources: readonly { source: NamedSource; wanted: Wanted; held: Held }[],
): StepAsked | undefined {
  const some = sources.filter(
    ({ wanted }) =>
      wanted.tracks.length > 0 || Object.values(wanted.map).some((way) => way !== 'none'),
  );
  const scope = { tracks: 'all' as const };
  const giving = (held: Held): number => givingTracks(held).length;
  const [only] = some;
  if (!only) return undefined;
  if (some.length === 1)
    return {
      operation: 'tracks.bring-in',
      settings: settingsOf(only.source, only.wanted, giving(only.held)),
      scope,
    };
  return {
    operation: 'recipe.run',
    settings: {
      name: `Bring in ${count(some.length, 'file')}`,
      steps: some.map(({ wanted, held }, n) => ({
        operation: 'tracks.bring-in',
        settings: settingsOf({ blank: `File ${n + 1}` }, wanted, giving(held)),
      })),
      sources: Object.fromEntries(some.map(({ source }, n) => [`File ${n + 1}`, source])),
    },
    scope,
  };
}

/** Where a source lands: ticks of the song. */
export interface Lands {
  readonly begins: number;
  readonly ends: number;
  /** Ticks of the source that are taken, the last not included. */
  readonly taken: { readonly from: number; readonly to: number };
  /** Of a tick of the source. */
  at(tick: number): number;
}

export function landsIn(
  song: Into,
  held: Held,
  { at, keep, bars }: Pick<Wanted, 'at' | 'keep' | 'bars'>,
): Lands {
  const [to, from] = [mapsOf(song), mapsOf(held)];
  const taken = ticksOf(held, bars);
  const begins = barTick(to.meters, 'bar' in at ? at.bar : (bars?.from ?? 1));
  const ratio =
    song.division.kind === 'ppq' && held.division.kind === 'ppq'
      ? song.division.ticksPerQuarter / held.division.ticksPerQuarter
      : undefined;
  const sounds = ticksToSeconds(to.tempo, begins) - ticksToSeconds(from.tempo, taken.from);
  const lands = (tick: number): number =>
    keep === 'bars' && ratio !== undefined
      ? begins + (tick - taken.from) * ratio
      : secondsToTicks(to.tempo, sounds + ticksToSeconds(from.tempo, tick));
  return { begins, ends: lands(taken.to), taken, at: lands };
}

/** The ticks of some bars of a source, or of all of it. */
function ticksOf(held: Held, bars: Wanted['bars']): Lands['taken'] {
  const { endTick, bars: all } = held.timing;
  if (!bars) return { from: 0, to: endTick };
  const { meters } = mapsOf(held);
  return {
    from: barTick(meters, bars.from),
    to: bars.to >= all ? endTick : barTick(meters, bars.to + 1),
  };
}

/** The first bar that begins at or behind the end of a source, and so many bars more. */
export function barBehind(song: Into, held: Held, wanted: Wanted, gap: number): number {
  const end = Math.round(landsIn(song, held, wanted).ends);
  return positionAt(mapsOf(song).meters, Math.max(0, end - 1)).bar + 1 + gap;
}

/** In plain words, what will not translate well into this song. */
export function whatToKnow(song: Into, held: Held): string[] {
  const parts = held.tracks.filter((t) => t.notes > 0);
  const unnamed = parts.filter((t) => t.name === '').length;
  const flat = parts.filter(isFlat).length;
  const changing = parts.filter(changesInside).length;
  const channels = new Set(parts.flatMap((t) => t.channels));
  const busy = new Set(song.tracks.filter((t) => t.notes > 0).flatMap((t) => t.channels));
  const melodic = [...channels].filter((c) => c !== 10).length;
  const free = 15 - [...busy].filter((c) => c !== 10).length;
  return [
    parts.length === 0 && 'It holds no notes.',
    unnamed > 0 && `${count(unnamed, 'part has', 'parts have')} no name.`,
    flat > 0 && `${count(flat, 'part has', 'parts have')} one velocity throughout.`,
    parts.length > 1 && channels.size === 1 && `All parts are on channel ${[...channels][0]}.`,
    changing > 0 && `Programs change inside ${count(changing, 'part')}.`,
    busy.size > 0 &&
      melodic > free &&
      `It needs ${count(melodic, 'channel')}, and ${free} are free here.`,
    clash('tempo', tempoWords(song), tempoWords(held)),
    clash('meter', meterWords(song), meterWords(held)),
    inexact(song, held),
  ].filter((words) => typeof words === 'string');
}

/** Whether another program than the first is called for on any of its channels. */
const changesInside = ({ programs }: Held['tracks'][number]): boolean =>
  programs.some((p, n) =>
    programs.slice(0, n).some((o) => o.channel === p.channel && o.program !== p.program),
  );

const clash = (what: string, here: string, there: string): string | false =>
  here !== there && `Its ${what} is ${there}, here it is ${here}.`;

const tempoWords = ({ timing }: Pick<Held, 'timing'>): string => {
  const bpms = timing.tempos.map((t) => t.bpm);
  const [low, high] = [Math.min(...bpms), Math.max(...bpms)].map((n) => Math.round(n * 100) / 100);
  return bpms.length === 0 ? '120 BPM' : low === high ? `${low} BPM` : `${low} to ${high} BPM`;
};

const meterWords = ({ timing }: Pick<Held, 'timing'>): string =>
  [...new Set(timing.meters.map((m) => `${m.numerator}/${m.denominator}`))]
    .slice(0, 4)
    .join(', ') || '4/4';

/**
 * Where ticks of the source are none of the song's: how far the farthest may be from its place, half a tick
 * at the slowest tempo.
 */
function inexact(song: Into, held: Held): string | false {
  if (song.division.kind !== 'ppq' || held.division.kind !== 'ppq') return false;
  const [to, from] = [song.division.ticksPerQuarter, held.division.ticksPerQuarter];
  if (to % from === 0) return false;
  const slowest = Math.min(120, ...song.timing.tempos.map((t) => t.bpm));
  const milliseconds = 60_000 / slowest / to / 2;
  return `Its ${from} ticks a quarter are ${to} here: places move by at most ${milliseconds.toFixed(2)} ms.`;
}
