import { editMap, meterEvent, tempoEvent, withMusic, type Goes } from '../../../edit/edit-map.ts';
import { musicOf, withMeters } from '../../../edit/meter-music.ts';
import type { Landing } from '../../../edit/landing.ts';
import { ok, refused, type Result } from '../../../problems/problems.ts';
import { inOtherEncoding } from '../../../smf/other-encoding.ts';
import { META, eventAt, meta, type EventValue } from '../../../smf/events.ts';
import { timecodeEvent } from '../../../smf/own-events.ts';
import type { Song } from '../../../song/song.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { factsOf } from '../../../song/track-facts.ts';
import { markKinds } from '../../../timing/marks.ts';
import { offsetEvent } from '../../../timing/start-timecode.ts';
import { defaultTempo } from '../../../timing/tempo-map.ts';
import { timecodeText } from '../../../timing/timecode.ts';
import type { Moves } from '../../../timing/time-map.ts';
import type { Change, Report } from '../../operation.ts';
import { mapKindsOf, mapWords } from './map-kinds.ts';
import { mapKinds, type BringIn, type MapKind } from './settings.ts';

/** A song with the map of another, and what was done. */
export interface WithMap {
  readonly song: Song;
  readonly changes: readonly Change[];
  readonly told: readonly string[];
  readonly skipped: readonly Report['skipped'][number][];
  readonly moves?: Moves;
}

/** Where the source's map lands: its beginning on `atTick`, its ticks where `landing` says. */
export interface MapPlace {
  readonly atTick: number;
  readonly landing: Landing;
}

/** Kinds by the meta event that says them. */
const types = {
  tempos: meta.tempo,
  meters: meta.timeSignature,
  keys: meta.keySignature,
  timecode: meta.smpteOffset,
} as const;
type Timed = keyof typeof types;
const isTimed = (kind: MapKind): kind is Timed => kind in types;

/** Takes what is wanted of a song's map into another. */
export function withMapOf(
  song: Song,
  source: Song,
  { map, music: asked, beyond }: Pick<BringIn, 'map' | 'music' | 'beyond'>,
  place: MapPlace,
): Result<WithMap> {
  const skipped: Report['skipped'][number][] = [];
  const wanted = mapKinds.filter((kind) => {
    if (map[kind] === 'none') return false;
    const stays = isTimed(kind) && map[kind] === 'add' && stands(song, kind);
    if (stays) skipped.push({ why: `This song states its ${kind}, which stay.` });
    return !stays;
  });
  if (wanted.length === 0) return ok({ song, changes: [], told: [], skipped });
  const events = mapEvents(song, source, place);
  let placed = (tick: number): number => tick;
  const put = (into: Song, kinds: readonly MapKind[]): { song: Song; changes: Change[] } =>
    kinds.reduce(
      (done, kind) => {
        const standing = map[kind] === 'add' ? standingIn(done.song, kind) : new Set<string>();
        const come = unsaid(done.song, kind, place.atTick, events.get(kind)!)
          .map((event) => ({ ...event, atTick: placed(event.atTick) }))
          .filter((event) => !standing.has(said(event)));
        const goes = map[kind] === 'add' ? none : goesFrom(done.song, kind, place.atTick);
        const edited = editMap(done.song, goes, come, mapWords[kind]);
        return { song: edited.song, changes: [...done.changes, ...edited.changes] };
      },
      { song: into, changes: [] as Change[] },
    );
  // Meters first: by them all else is placed. Then the music is kept where it sounds over all of its new time;
  // marks come after that, to places of the new map.
  const music = musicOf(song, asked);
  const of = (kinds: readonly MapKind[]): MapKind[] => wanted.filter((k) => kinds.includes(k));
  const metered = withMeters(song, put(song, of(['meters'])), { music, beyond });
  placed = metered.placed;
  const others = put(
    metered.song,
    wanted.filter((k) => isTimed(k) && k !== 'meters'),
  );
  const timed = withMusic(
    song,
    { song: others.song, changes: [...metered.changes, ...others.changes] },
    music === 'keeps its seconds' ? music : 'keeps its bars',
  );
  const marked = put(
    timed.song,
    wanted.filter((kind) => !isTimed(kind)),
  );
  const lost = lostSection(marked.song, wanted.includes('sections') ? source : undefined, place);
  if (lost !== undefined)
    return refused({
      code: 'settings-invalid',
      where: { field: 'settings.map.sections' },
      expected: 'sections with names that no other section or marker around them has',
      found: lost,
    });
  return ok({
    song: marked.song,
    changes: [...timed.changes, ...marked.changes],
    told: metered.told,
    skipped,
    ...((moves) => (moves ? { moves } : {}))(metered.moves ?? timed.moves),
  });
}

/** Whether a song states anything of a kind that counts for all of it. */
const stands = (song: Song, kind: Timed): boolean =>
  ((timing) => (kind === 'timecode' ? timing.timecode !== undefined : timing[kind].length > 0))(
    timingOf(song),
  );

/** The events of a song's map where they land in another, by kind. */
function mapEvents(
  song: Song,
  source: Song,
  { atTick, landing }: MapPlace,
): ReadonlyMap<MapKind, EventValue[]> {
  const found = new Map<MapKind, EventValue[]>(mapKinds.map((kind) => [kind, []]));
  const kindAt = mapKindsOf(source);
  const timing = timingOf(source);
  // What is in force where nothing is stated holds from the place on, too.
  if (atTick > 0 && timing.tempos[0]?.atTick !== 0)
    found.get('tempos')!.push(tempoEvent(atTick, defaultTempo));
  if (atTick > 0 && timing.meters[0]?.atTick !== 0)
    found.get('meters')!.push(meterEvent(atTick, 4, 4));
  for (const track of source.tracks) {
    if (!factsOf(track).timing) continue;
    const events = inOtherEncoding(track.events, source.encoding, song.encoding);
    for (let i = 0; i < events.count; i++) {
      const kind = events.status[i] === META ? kindAt(track, i) : undefined;
      if (!kind || kind === 'timecode') continue;
      const there = Math.round(landing(events.atTick[i]!));
      found.get(kind)!.push({ ...eventAt(events, i), atTick: there });
    }
  }
  if (timing.timecode) {
    const { atTick: stated, frames, rate } = timing.timecode;
    const there = Math.round(landing(stated));
    found
      .get('timecode')!
      .push(
        (there === 0 ? offsetEvent(rate, frames) : undefined) ??
          timecodeEvent(there, rate, timecodeText(Math.round(frames), rate)),
      );
  }
  return found;
}

/** Without a first event that says what is in force there anyway. */
function unsaid(
  song: Song,
  kind: MapKind,
  atTick: number,
  events: readonly EventValue[],
): readonly EventValue[] {
  const [first, second] = events;
  if (atTick === 0 || !first || first.atTick !== atTick || second?.atTick === atTick) return events;
  const { tempos, meters } = timingOf(song);
  const before = <T extends { readonly atTick: number }>(points: readonly T[]): T | undefined =>
    points.filter((p) => p.atTick < atTick).at(-1);
  const inForce =
    kind === 'tempos'
      ? tempoEvent(atTick, before(tempos)?.tempo ?? defaultTempo)
      : kind === 'meters'
        ? ((meter) => meterEvent(atTick, meter?.numerator ?? 4, meter?.denominator ?? 4))(
            before(meters),
          )
        : undefined;
  // Of a meter, the numbers count; the clicks beside them say how it is counted in.
  const length = kind === 'meters' ? 2 : 3;
  const same = inForce?.payload.slice(0, length).join() === first.payload.slice(0, length).join();
  return same ? events.slice(1) : events;
}

const said = ({ atTick, data1, payload }: EventValue): string =>
  `${atTick} ${data1} ${payload.join()}`;

/** What a song says of a kind, as it is said. */
function standingIn(song: Song, kind: MapKind): Set<string> {
  const standing = new Set<string>();
  const kindAt = mapKindsOf(song);
  for (const track of song.tracks) {
    const { events } = track;
    for (let i = 0; i < events.count; i++)
      if (events.status[i] === META && kindAt(track, i) === kind)
        standing.add(said(eventAt(events, i)));
  }
  return standing;
}

const none: Goes = () => false;

/** What of a kind a song has from a tick on; a section goes whole, or stays. The timecode is stated once, wherever. */
function goesFrom(song: Song, kind: MapKind, atTick: number): Goes {
  if (isTimed(kind))
    return (type, tick) => type === types[kind] && (kind === 'timecode' || tick >= atTick);
  const { sections, markers, cuePoints } = timingOf(song);
  const leaving =
    kind === 'sections'
      ? sections.filter((s) => s.fromTick >= atTick).flatMap((s) => s.marks)
      : [...markers, ...cuePoints].filter((m) => m.atTick >= atTick);
  const keys = new Set(leaving.map((m) => `${m.track} ${m.atTick} ${markKinds[m.kind]} ${m.text}`));
  return (type, tick, text, track) =>
    keys.size > 0 &&
    (type === meta.marker || type === meta.cuePoint) &&
    keys.has(`${track} ${tick} ${type} ${text()}`);
}

/** Name of a section that was taken and cannot be told from the markers of the song. */
function lostSection(after: Song, source: Song | undefined, place: MapPlace): string | undefined {
  if (!source) return undefined;
  const key = (name: string, from: number, to: number): string => `${from} ${to} ${name}`;
  const has = new Set(timingOf(after).sections.map((s) => key(s.name, s.fromTick, s.toTick)));
  const at = (tick: number): number => Math.round(place.landing(tick));
  return timingOf(source).sections.find((s) => !has.has(key(s.name, at(s.fromTick), at(s.toTick))))
    ?.name;
}
