import type { Song, Track } from '../../song/song.ts';
import type { TickSpan } from '../../song/scope.ts';
import { barsUntil, barTick, meterMap, positionAt } from '../../timing/meter-map.ts';
import type { PlannedFile } from '../plan.ts';
import type { Wanted } from '../settings.ts';
import { readKeptMark } from './reading/own-words.ts';
import { kindOf, type EventKind } from './reading/event-kind.ts';
import { pairNotes } from './reading/pair-notes.ts';
import { leadsWithMap, readSongMap, type SectionMark } from './reading/song-map.ts';
import { payloadOf } from '../../smf/events.ts';

/** What a handoff is divided into, and the song it is divided from. */
export interface PlanCase {
  /** As it is here, with what is kept and not sent. */
  readonly source: Song;
  /** As it is sent, its drums split where that was asked for. */
  readonly sent: Song;
  /** By the id of a track that was split off a track of drums, that track's. */
  readonly parents: ReadonlyMap<string, string>;
  readonly files: readonly PlannedFile[];
  readonly wanted: Wanted;
}

/** A file that there has to be, or may be. */
interface ExpectedFile {
  readonly tracks: readonly string[] | 'all';
  readonly span: TickSpan | undefined;
  /** It must be there; else only those may that something rings into. */
  readonly must: boolean;
  /** It has to be as long as the song. */
  readonly isFull: boolean;
}

/**
 * Whether a handoff is divided as was asked: a file for each track, group, drum, section or track of a
 * section that plays, with just those tracks and bars, and no other file.
 */
export function verifyPlan(of: PlanCase): string[] {
  const expected = expectFiles(of);
  const left = [...of.files];
  const differences: string[] = [];
  for (const file of expected) {
    const at = left.findIndex(
      (planned) => keyOf(planned.tracks, planned.span) === keyOf(file.tracks, file.span),
    );
    if (at < 0) {
      if (file.must) differences.push(`no file holds ${fileWords(of, file.tracks, file.span)}`);
      continue;
    }
    const [planned] = left.splice(at, 1);
    const { from } = file.span ?? { from: 0 };
    const long = readSongMap(of.sent).lastTick - from;
    if (file.isFull && (planned!.length ?? 0) < long)
      differences.push(`${planned!.name} is shorter than the song`);
  }
  for (const { name, tracks, span } of left)
    differences.push(`${name} holds ${fileWords(of, tracks, span)}, which was not asked for`);
  const names = of.files.map((f) => f.name.toLowerCase());
  if (new Set(names).size < names.length) differences.push('two files have one name');
  return differences;
}

const keyOf = (tracks: Iterable<string> | 'all' | undefined, span: TickSpan | undefined): string =>
  `${tracks === undefined || tracks === 'all' ? 'all' : [...tracks].sort().join()} ${span?.from ?? 0} ${span?.to ?? Infinity}`;

function fileWords(
  { sent }: PlanCase,
  tracks: Iterable<string> | 'all' | undefined,
  span: TickSpan | undefined,
): string {
  const places = [...(tracks === undefined || tracks === 'all' ? [] : tracks)].map(
    (id) => sent.tracks.findIndex((t) => t.id === id) + 1,
  );
  const which = places.length === 0 ? 'the song' : `track ${places.join(', ')}`;
  return span ? `${which} from tick ${span.from} to ${span.to}` : which;
}

function expectFiles(of: PlanCase): ExpectedFile[] {
  const { sent, wanted } = of;
  const chosen = chosenIn(of);
  const base = baseSpan(of, chosen);
  const isOpen = base === undefined || base.to === Infinity;
  const mapTrack = leadsWithMap(sent) ? sent.tracks[0] : undefined;
  const single = (span: TickSpan | undefined): ExpectedFile[] =>
    sent.tracks
      .filter((t) => t !== mapTrack && chosen(t.id) && (wanted.divide !== 'drums' || isDrum(of, t)))
      // What has no notes has a file where it was chosen.
      .filter((t) => !isAll(of) || firstNoteTick(t) < Infinity)
      .flatMap((t) => playing([t], [t.id], span, span === undefined || span.to === Infinity));
  const playing = (
    tracks: readonly Track[],
    ids: readonly string[] | 'all',
    span: TickSpan | undefined,
    isFull: boolean,
  ): ExpectedFile[] => {
    const how = tracks.map((t) => playsIn(t, span ?? { from: 0, to: Infinity }, wanted));
    const best = how.includes('must') ? 'must' : how.includes('may') ? 'may' : 'no';
    return best === 'no' ? [] : [{ tracks: ids, span, must: best === 'must', isFull }];
  };
  const ofChosen = isAll(of)
    ? ('all' as const)
    : sent.tracks.filter((t) => chosen(t.id)).map((t) => t.id);
  const chosenTracks = sent.tracks.filter((t) => chosen(t.id));
  switch (wanted.divide) {
    case 'whole':
      return [{ tracks: ofChosen, span: base, must: true, isFull: false }];
    case 'map':
      return [{ tracks: [], span: base, must: true, isFull: isOpen }];
    case 'tracks':
    case 'drums':
      return single(base);
    case 'groups':
      return wanted.groups.flatMap((group) => {
        const ids = group.tracks.flatMap((id) => splitOf(of, id));
        const tracks = sent.tracks.filter((t) => ids.includes(t.id));
        return playing(tracks, ids, base, isOpen);
      });
    case 'sections':
    case 'sections-tracks':
      return readSections(of.source)
        .map(({ fromTick, toTick }) => ({ from: fromTick, to: toTick }))
        .filter(({ from }) => from >= (base?.from ?? 0) && from < (base?.to ?? Infinity))
        .flatMap((span) =>
          wanted.divide === 'sections'
            ? playing(chosenTracks, ofChosen, span, false)
            : single(span),
        );
  }
}

/** The tracks that a track of drums was split into, in the song's order; itself where it was not. */
const splitOf = ({ sent, parents }: PlanCase, id: string): string[] =>
  sent.tracks.filter((t) => t.id === id || parents.get(t.id) === id).map((t) => t.id);

/** Drums are on the tenth channel (General MIDI). */
const isDrum = ({ parents, sent }: PlanCase, track: Track): boolean => {
  const root = parents.get(track.id) ?? track.id;
  return sent.tracks.some(
    ({ id, events }) =>
      (id === root || parents.get(id) === root) &&
      Array.from(events.status).some((s) => s < 0xf0 && (s & 15) === 9),
  );
};

const askedTracks = ({ wanted }: PlanCase): readonly string[] | 'all' =>
  wanted.divide === 'groups'
    ? wanted.groups.flatMap((g) => g.tracks)
    : (wanted.tracks ?? wanted.scope?.tracks ?? 'all');
const isAll = (of: PlanCase): boolean => askedTracks(of) === 'all';

function chosenIn(of: PlanCase): (id: string) => boolean {
  const asked = askedTracks(of);
  if (asked === 'all') return () => true;
  const ids = new Set(asked.flatMap((id) => splitOf(of, id)));
  return (id) => ids.has(id);
}

/** The bars that leave, in ticks; undefined where the song leaves from beginning to end. */
function baseSpan(
  { sent, wanted }: PlanCase,
  chosen: (id: string) => boolean,
): TickSpan | undefined {
  const { meters, lastTick } = readSongMap(sent);
  const map = meterMap(meters, sent.division);
  const bars = barsUntil(map, lastTick);
  const asked = wanted.scope?.bars;
  if (asked)
    return { from: barTick(map, asked.from), to: barTick(map, Math.min(asked.to, bars) + 1) };
  let from = 0;
  const bySections = wanted.divide === 'sections' || wanted.divide === 'sections-tracks';
  if (!wanted.edges.leadIn && !bySections) {
    const first = sent.tracks
      .filter((t) => chosen(t.id))
      .reduce((least, t) => Math.min(least, firstNoteTick(t)), Infinity);
    if (first < Infinity) from = barTick(map, positionAt(map, first).bar);
  }
  if (wanted.repeat > 1) return { from, to: barTick(map, bars + 1) };
  return from > 0 ? { from, to: Infinity } : undefined;
}

function firstNoteTick({ events }: Track): number {
  for (let row = 0; row < events.count; row++)
    if (kindOf(events, row) === 'note on') return events.atTick[row]!;
  return Infinity;
}

/** Says what a track is, not what it plays. */
const aboutTrack: ReadonlySet<EventKind> = new Set([
  'copyright',
  'track name',
  'instrument name',
  'program name',
  'device name',
]);

/**
 * Whether something of a track is heard in a span: of one with notes a note, of others anything that says
 * more than what the track is. `may`: something lets go of a note there that perhaps began before.
 */
function playsIn(
  { events }: Track,
  { from, to }: TickSpan,
  { edges }: Wanted,
): 'must' | 'may' | 'no' {
  const notes = pairNotes(events);
  const tick = (row: number): number => events.atTick[row]!;
  const isIn = (row: number): boolean => tick(row) >= from && tick(row) < to;
  if (notes.on.some(isIn)) return 'must';
  if (notes.count > 0) {
    if (edges.notes !== 'again') return 'no';
    const ringsIn = (on: number, n: number): boolean =>
      tick(on) < from && notes.off[n]! >= 0 && tick(notes.off[n]!) > from;
    if (notes.on.some(ringsIn)) return 'must';
    for (let row = notes.on[0]!; row < events.count; row++)
      if (kindOf(events, row) === 'note off' && tick(row) > from) return 'may';
    return 'no';
  }
  for (let row = 0; row < events.count; row++) {
    if (!isIn(row)) continue;
    const kind = kindOf(events, row);
    if (events.status[row]! !== 0xff && kind !== 'note off') return 'must';
    const type = events.data1[row]!;
    if (events.status[row] === 0xff && type > 0 && type < 0x20 && !aboutTrack.has(kind))
      return 'must';
  }
  return 'no';
}

/** Sections, those that are kept here among them. */
export function readSections(source: Song): SectionMark[] {
  const asSent: Song = { ...source, tracks: source.tracks.map(withKeptMarks) };
  const { sectionAt } = readSongMap(asSent);
  const sections = new Set<SectionMark>();
  for (const [n, { events }] of asSent.tracks.entries())
    for (let row = 0; row < events.count; row++) {
      const section = events.status[row] === 0xff ? sectionAt(n, row) : undefined;
      if (section) sections.add(section);
    }
  return [...sections];
}

/** Marks that are kept and not sent, as the marks that they stand for: sections are named by either. */
function withKeptMarks(track: Track): Track {
  const { events } = track;
  let data1: Uint8Array | undefined;
  const { pool } = events;
  let start: Uint32Array | undefined;
  for (let row = 0; row < events.count; row++) {
    if (events.status[row] !== 0xff || events.data1[row] !== 0x7f) continue;
    const kept = readKeptMark(payloadOf(events, row));
    if (!kept) continue;
    data1 ??= events.data1.slice();
    start ??= pool.start.slice();
    data1[row] = kept.type;
    const n = events.payload[row]!;
    start[n] = pool.end[n]! - kept.text.length;
  }
  if (!data1 || !start) return track;
  const { body, facts, ...rest } = track;
  return { ...rest, events: { ...events, data1, pool: { ...pool, start } } };
}
