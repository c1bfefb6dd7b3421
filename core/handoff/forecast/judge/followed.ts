import { ticksPerSecond } from '../../../smf/division.ts';
import type { Events } from '../../../smf/events.ts';
import type { TickSpan } from '../../../song/scope.ts';
import type { Song, Track } from '../../../song/song.ts';
import type { Part } from '../../part/piece.ts';
import { isChosen } from '../../proof/part-case.ts';
import { readSongMap } from '../../proof/reading/song-map.ts';
import { outlineTrack } from '../../proof/reading/track-outline.ts';
import { findSpan, placesOf } from '../../proof/places.ts';
import type { Limits } from '../../receiver/receiver.ts';
import { arrivalOf, lossOfRow, type Arrival, type Opened } from './arrival.ts';
import { isAboutTrack, isAnywhere, isOfMap, sungWord, textAt } from './atoms-of.ts';
import { displacedIn, type Displaced } from './displaced.ts';
import { metasIn, offOf, sameRow } from './event-rows.ts';
import type { Following } from './following.ts';
import { bit, isLost, lossOf, lost, same, type Loss } from './outcome.ts';
import { byKey, exactPairs, grouped, nearestPairs, type Atom } from './pairs.ts';

/** One file of a handoff, before it is laid out. */
export interface FollowedFile {
  readonly part: Part;
  readonly song: Song;
  readonly laid: Opened;
}

/** Follows every event of a song through one of its files to who opens it. */
export function followFile(all: Following, file: FollowedFile): void {
  const arrival = arrivalOf(file.song, file.laid, all.known.limits, all.known.findKeySwitches);
  if (!arrival.opened) all.unopened++;
  new Followed(all, file, arrival).follow();
}

type Known = Following['known'];

/** The following of one file. */
class Followed {
  private readonly all: Following;
  private readonly known: Known;
  private readonly file: FollowedFile;
  private readonly part: Part;
  private readonly arrival: Arrival;
  private readonly span: TickSpan;
  private readonly displaced: Displaced;
  private readonly at: (tick: number) => number;
  /** Ticks that an event may be moved by and still be the same. */
  private readonly reach: number;

  constructor(all: Following, file: FollowedFile, arrival: Arrival) {
    this.all = all;
    this.known = all.known;
    this.file = file;
    this.arrival = arrival;
    const { song, wanted } = this.known;
    this.part = this.ofSong(file.part);
    this.span = findSpan(song, this.part, wanted);
    const places = placesOf(song, this.span, wanted, 0);
    this.at = (tick) => places.at(tick, 0);
    this.reach = barTicks(file.song);
    this.displaced = displacedIn(song, this.span, file.song, arrival.tempo);
  }

  follow(): void {
    const { song } = this.known;
    const { part } = this;
    const chosen = song.tracks.map((track) => isChosen({ song, part }, track));
    for (const [n, is] of chosen.entries()) if (is) this.all.chosen.add(n);
    const found = new Map<string, number[]>();
    for (const n of this.file.song.tracks.keys()) {
      const of = this.parentOf(n);
      found.set(of, [...(found.get(of) ?? []), n]);
    }
    const left = song.tracks.map((track, n) => {
      const places = found.get(track.id) ?? [];
      found.delete(track.id);
      return chosen[n] ? this.track(track, n, places) : undefined;
    });
    this.elsewhere(left, [...found.values()].flat());
    this.map(chosen);
    const { worst } = this.displaced;
    for (const kind of ['rounding', 'places', 'time'] as const)
      this.all.worst[kind] = Math.max(this.all.worst[kind], worst[kind]);
  }

  /** A part with the tracks of the song that those of its drums are of. */
  private ofSong(part: Part): Part {
    const { parents } = this.known;
    const { tracks } = part;
    return tracks === undefined || parents.size === 0
      ? part
      : { ...part, tracks: new Set([...tracks].map((id) => parents.get(id) ?? id)) };
  }

  private parentOf(place: number): string {
    const { id } = this.file.song.tracks[place]!;
    return this.known.parents.get(id) ?? id;
  }

  /** What of a track does not stand in the tracks of the file that it became. */
  private track(track: Track, n: number, places: readonly number[]): Rest | undefined {
    const [place, ...more] = places;
    const there = place === undefined ? undefined : this.file.song.tracks[place]!;
    if (there?.events === track.events && more.length === 0 && this.isWhole()) {
      this.asItIs(track.events, n, place!);
      return undefined;
    }
    // A file of one drum has not all of its track.
    const some = this.file.part.tracks !== undefined && this.known.parents.size > 0;
    const expected = this.expected(track, n);
    const atoms = places.flatMap((p) => this.found(this.file.song.tracks[p]!.events, p));
    const exact = exactPairs(expected, atoms);
    for (const [e, f] of exact.pairs) this.answered(e, f, this.waysOf(track, f));
    const missing = some ? exact.missing.filter(this.inFileOf(track, atoms)) : exact.missing;
    return { missing, more: exact.more };
  }

  private waysOf({ id }: Track, { track }: Atom): number {
    return this.file.song.tracks[track]!.id === id ? 0 : bit.elsewhere;
  }

  /** Whether a file of some drums is one in which an event of a track would stand. */
  private inFileOf(track: Track, atoms: readonly Atom[]): (expected: Atom) => boolean {
    const keys = new Set<number>();
    for (const f of atoms)
      if (this.isNote(f)) keys.add(this.file.song.tracks[f.track]!.events.data1[f.row]!);
    const { events } = track;
    return ({ row }) => events.status[row]! >> 4 !== 9 || keys.has(events.data1[row]!);
  }

  private isWhole(): boolean {
    const { from, to } = this.span;
    return from === 0 && to === Infinity && this.file.song.division === this.known.song.division;
  }

  /** A track that is in the file as it is in the song. */
  private asItIs(events: Events, n: number, place: number): void {
    const rows = this.arrival.tracks[place];
    const drifts = this.drifts();
    for (let row = 0; row < events.count; row++) {
      const loss = lossOfRow(events, row);
      if (loss === undefined || isOfMap(loss)) continue;
      let outcome = this.arrival.opened ? (rows?.[row] ?? same) : lost('files', true);
      if (drifts && !isLost(outcome)) {
        const tick = events.atTick[row]!;
        outcome |= this.displaced.bits(tick, tick);
      }
      this.all.note(n, row, outcome);
    }
  }

  private driftsAtAll: boolean | undefined;
  /** Whether the receiver plays the file at other tempos than the song's. */
  private drifts(): boolean {
    if (this.driftsAtAll !== undefined) return this.driftsAtAll;
    const { song } = this.known;
    const here = displacedIn(song, this.span, this.file.song, this.arrival.tempo);
    const last = readSongMap(song).lastTick;
    const ticks = [last, ...this.arrival.tempo.ticks, ...tempoTicks(song)];
    return (this.driftsAtAll = ticks.some((tick) => here.bits(tick, tick) !== same));
  }

  /** Rows of a track that are asked for, with the place that each has to stand at. */
  private expected(track: Track, n: number): Atom[] {
    const { events } = track;
    const { song, contents, wanted } = this.known;
    const channels = wanted.take.channels === 'as they are';
    const { from, to } = this.span;
    const atoms: Atom[] = [];
    for (let row = 0; row < events.count; row++) {
      const loss = lossOfRow(events, row);
      if (loss === undefined || isOfMap(loss)) continue;
      const tick = events.atTick[row]!;
      if (tick >= to || (tick < from && !isAboutTrack(loss))) continue;
      const says = contents.of(events, row, song.encoding, channels);
      atoms.push({ track: n, row, says, at: this.at(Math.max(from, tick)) });
    }
    return atoms;
  }

  private found(events: Events, place: number): Atom[] {
    const { contents, wanted } = this.known;
    const channels = wanted.take.channels === 'as they are';
    const atoms: Atom[] = [];
    for (let row = 0; row < events.count; row++) {
      const loss = lossOfRow(events, row);
      if (loss === undefined || isOfMap(loss)) continue;
      const says = contents.of(events, row, this.file.song.encoding, channels);
      atoms.push({ track: place, row, says, at: events.atTick[row]! });
    }
    return atoms;
  }

  /** An event of the song and the one of the file that it became. */
  private answered(expected: Atom, found: Atom, ways = 0): void {
    const { song } = this.known;
    const events = song.tracks[expected.track]!.events;
    const arrived = this.arrived(found);
    if (isLost(arrived)) {
      // Marks that leave as texts are missed as marks.
      const isMark = lossOf(arrived) === 'texts' && lossOfRow(events, expected.row) === 'markers';
      const outcome = isMark ? this.whyMissing(expected, 'markers') : arrived;
      return this.all.note(expected.track, expected.row, outcome);
    }
    const tick = Math.max(this.span.from, events.atTick[expected.row]!);
    const there = this.file.song.tracks[found.track]!.events;
    const outcome =
      arrived |
      ways |
      (isAnywhere(lossOfRow(events, expected.row)!) ? 0 : this.displaced.bits(tick, found.at)) |
      this.changes(events, expected.row, there, found.row);
    this.all.note(expected.track, expected.row, outcome);
  }

  private arrived({ track, row }: Atom): number {
    return this.arrival.opened ? (this.arrival.tracks[track]?.[row] ?? same) : lost('files', true);
  }

  /** In what an event differs from the one that it became, beside its place. */
  private changes(events: Events, row: number, there: Events, at: number): number {
    const [was, is] = [events.status[row]!, there.status[at]!];
    if (was >= 0xf0) return this.textChanges(events, row, there, at);
    let ways = (was & 15) === (is & 15) ? 0 : bit.channels;
    const same1 = events.data1[row] === there.data1[at];
    const same2 = events.data2[row] === there.data2[at];
    if (was >> 4 !== 9) return ways | (same1 && same2 ? 0 : bit.value);
    if (!same1) ways |= bit.pitches;
    if (!same2) ways |= bit.velocities;
    return ways | this.lengthChange(events, row, there, at);
  }

  private lengthChange(events: Events, row: number, there: Events, at: number): number {
    const [off, end] = [offOf(events, row), offOf(there, at)];
    if (off === -1 || end === -1) return 0;
    const wanted = this.at(events.atTick[off]!);
    // Where its end lies between ticks, both of its ends may be rounded; else a tick is a difference.
    const between = Math.abs(wanted - Math.round(wanted)) > 1e-6;
    return Math.abs(there.atTick[end]! - wanted) > (between ? 1.5 : 0.01) ? bit.lengths : 0;
  }

  private textChanges(events: Events, row: number, there: Events, at: number): number {
    const [was, is] = [
      textAt(events, row, this.known.song.encoding),
      textAt(there, at, this.file.song.encoding),
    ];
    if (was === undefined || is === undefined)
      return lossOfRow(events, row) === 'timecode' || sameRow(events, row, there, at)
        ? 0
        : bit.value;
    const isSung = this.sings() && lossOfRow(events, row) === 'lyrics';
    if (isSung && sungWord(was) === sungWord(is)) return 0;
    const form = isSung || events.data1[row] === there.data1[at] ? 0 : bit.form;
    if (was === is) return form;
    const { longestName, longestMark, text } = this.known.wanted.form;
    if (longestName !== null || longestMark !== null) return form | bit.cut;
    return form | (text === 'as they are' ? bit.value : bit.letters);
  }

  /**
   * What is left of tracks, whatever track it went to; then what stands there changed; and what is not there.
   * @param strangers tracks of the file that the song does not have
   */
  private elsewhere(left: readonly (Rest | undefined)[], strangers: readonly number[]): void {
    const found = strangers.flatMap((n) => this.found(this.file.song.tracks[n]!.events, n));
    const missing = left.flatMap((rest) => rest?.missing ?? []);
    const more = left.flatMap((rest) => rest?.more.filter((f) => this.isOwn(f)) ?? []);
    const exact = exactPairs(missing, [...found, ...more]);
    // Words of a karaoke file have a track of their own: that is what such a file is.
    for (const [e, f] of exact.pairs)
      this.answered(e, f, this.sings() && this.isLyric(e) ? 0 : bit.elsewhere);
    const byGroup = grouped(exact, (atom, isFound) => this.groupOf(atom, isFound));
    for (const { expected, found: had } of byGroup) {
      const pairing = this.isNotes(expected, had)
        ? byKey(expected, had, this.keyOf, this.reach)
        : nearestPairs(expected, had, this.reach);
      for (const [e, f] of pairing.pairs)
        this.answered(e, f, this.waysOf(this.known.song.tracks[e.track]!, f));
      for (const e of pairing.missing) this.missing(e);
      if (this.arrival.opened) this.all.more += pairing.more.filter((f) => this.isNote(f)).length;
    }
  }

  private sings = (): boolean => this.known.wanted.form.format === 'karaoke';

  private isLyric({ track, row }: Atom): boolean {
    return lossOfRow(this.known.song.tracks[track]!.events, row) === 'lyrics';
  }

  /** Statements at the ends of a part are there for what is not chosen. */
  private isOwn(f: Atom): boolean {
    return this.isNote(f) || this.span.from === 0 || f.at > 0;
  }

  private isNote({ track, row }: Atom): boolean {
    return this.file.song.tracks[track]!.events.status[row]! >> 4 === 9;
  }

  private isNotes(expected: readonly Atom[], found: readonly Atom[]): boolean {
    const [first] = expected;
    if (first === undefined) return found.length > 0 && this.isNote(found[0]!);
    return this.known.song.tracks[first.track]!.events.status[first.row]! >> 4 === 9;
  }

  private readonly keyOf = ({ track, row }: Atom, isFound: boolean): number =>
    (isFound ? this.file.song : this.known.song).tracks[track]!.events.data1[row]!;

  /** What may have become each other: the same kind in the same track. */
  private groupOf({ track, row }: Atom, isFound: boolean): string {
    const { events } = (isFound ? this.file.song : this.known.song).tracks[track]!;
    const id = isFound ? this.parentOf(track) : this.known.song.tracks[track]!.id;
    const loss = lossOfRow(events, row)!;
    const status = events.status[row]!;
    const number = status >> 4 === 0xb ? events.data1[row] : status >= 0xf0 ? 0 : status >> 4;
    return `${id} ${loss} ${number}`;
  }

  private missing({ track, row }: Atom): void {
    const { song } = this.known;
    const { events } = song.tracks[track]!;
    this.all.note(track, row, this.whyMissing({ track, row }, lossOfRow(events, row)!));
  }

  /** The file lacks it. Where the receiver would not take it, that is why. */
  private whyMissing({ track, row }: Pick<Atom, 'track' | 'row'>, loss: Loss): number {
    if (!this.arrival.opened) return lost('files', true);
    return lost(loss, isLost(this.all.sentAsItIs(track, row)));
  }

  /** What belongs to the song is in the file wherever it stands, and once for all tracks that say it. */
  private map(chosen: readonly boolean[]): void {
    const { song, contents, isSection, limits } = this.known;
    const { from, to } = this.span;
    const expected = new Map<Loss, Atom[]>();
    song.tracks.forEach((track, n) => {
      if (!chosen[n] && !outlineTrack(track.events).saysOfSong) return;
      const { events } = track;
      for (const row of metasIn(events)) {
        const loss = lossOfRow(events, row);
        if (loss === undefined || !isOfMap(loss) || (loss === 'copyright' && !chosen[n])) continue;
        const tick = events.atTick[row]!;
        if (tick >= to || (tick < from && !isAnywhere(loss)) || (loss === 'timecode' && from > 0))
          continue;
        const at = isAnywhere(loss) ? 0 : this.at(tick);
        put(expected, loss, {
          track: n,
          row,
          says: contents.of(events, row, song.encoding, true),
          at,
        });
      }
    });
    const found = new Map<Loss, Atom[]>();
    this.file.song.tracks.forEach(({ events }, n) => {
      for (const row of metasIn(events)) {
        const loss = lossOfRow(events, row);
        if (loss === undefined || !(isOfMap(loss) || loss === 'texts')) continue;
        // Marks may leave as texts.
        const kind = loss === 'texts' ? 'markers' : loss;
        if (loss === 'texts' && this.known.wanted.take.markers !== 'texts') continue;
        const at = isAnywhere(loss) ? 0 : events.atTick[row]!;
        put(found, kind, {
          track: n,
          row,
          says: contents.of(events, row, this.file.song.encoding, true),
          at,
        });
      }
    });
    for (const [loss, atoms] of expected) {
      const exact = exactPairs(atoms, found.get(loss) ?? [], { once: true });
      for (const [e, f] of exact.pairs) this.answered(e, f, this.asMark(e, limits, isSection));
      const stated = exact.more.filter((f) => from === 0 || f.at > 0);
      const changed = nearestPairs(
        exact.missing,
        loss === 'tempo' ? stated.filter((f) => f.at === 0) : stated,
        this.reach,
      );
      for (const [e, f] of changed.pairs) this.answered(e, f, this.asMark(e, limits, isSection));
      for (const e of changed.missing) this.missingOfMap(e, loss);
    }
  }

  /** Marks of sections are only marks to who knows no sections. */
  private asMark(
    { track, row }: Atom,
    { sections }: Limits,
    isSection: Known['isSection'],
  ): number {
    return !sections && isSection(this.known.song.tracks[track]!, row) ? bit.form : 0;
  }

  private missingOfMap(atom: Atom, loss: Loss): void {
    const { song, isSection } = this.known;
    const section = loss === 'markers' && isSection(song.tracks[atom.track]!, atom.row);
    this.all.note(atom.track, atom.row, this.whyMissing(atom, section ? 'sections' : loss));
  }
}

/** What is left of a track of the song and of the file. */
interface Rest {
  readonly missing: readonly Atom[];
  readonly more: readonly Atom[];
}

function put(lists: Map<Loss, Atom[]>, loss: Loss, atom: Atom): void {
  const list = lists.get(loss);
  if (list) list.push(atom);
  else lists.set(loss, [atom]);
}

/** A bar of four quarters, in ticks of a file. */
const barTicks = ({ division }: Song): number =>
  division.kind === 'ppq' ? 4 * division.ticksPerQuarter : 2 * ticksPerSecond(division);

const tempoTicks = (song: Song): number[] => readSongMap(song).tempos.map((p) => p.atTick);
