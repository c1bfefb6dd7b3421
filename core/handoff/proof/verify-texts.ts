import { payloadOf, type Events } from '../../smf/events.ts';
import type { Song } from '../../song/song.ts';
import type { Leaving } from '../take-settings.ts';
import { TickLists, type Difference } from './compare-ticks.ts';
import { isChosen, type PartCase } from './part-case.ts';
import { isTextRow, kindOf, type EventKind } from './reading/event-kind.ts';
import { matchesPattern, patternIn, type LoosePattern } from './reading/letters.ts';
import { mayLeave, payloadHex } from './reading/leaving.ts';
import { readStrictly, readText } from './reading/read-text.ts';
import { isChordText, readSongMap } from './reading/song-map.ts';
import { outlineTrack } from './reading/track-outline.ts';
import { isWordsTrack } from './verify-words.ts';

/** Verified by what holds (tempo), as one (timecode), or part of the file itself. */
const verifiedElsewhere: ReadonlySet<EventKind> = new Set(['timecode', 'end of track', 'bridge']);
/** Said once of a track or song, however its bars are cut. */
const setsUp: ReadonlySet<EventKind> = new Set([
  'sequence number',
  'copyright',
  'track name',
  'instrument name',
  'device name',
  'channel prefix',
  'port',
]);
const ofSong: ReadonlySet<EventKind> = new Set([
  'tempo',
  'meter',
  'key signature',
  'marker',
  'cue point',
  'copyright',
]);

/** A meta event as it has to read, or reads. */
interface Line {
  readonly owner: string;
  /** It belongs to the song, and goes with every part of it. */
  readonly isOfSong: boolean;
  readonly kind: EventKind;
  readonly said: string;
  /** What stands in its place where letters are lacking. */
  readonly pattern?: LoosePattern;
}

/** Names, texts, lyrics, marks, meters, keys and what else metas say, between the ends of the part. */
export function verifyTexts(of: PartCase): Difference[] {
  const lines = new LineReader(of);
  const [expected, found] = [new LineLists(), new LineLists()];
  expectLines(of, lines, expected);
  for (const { events, id } of of.leaving.tracks) {
    if (isWordsTrack(of, id)) continue;
    for (let row = 0; row < events.count; row++) {
      const line = lines.readFound(events, row, id);
      if (line) found.add(line, events.atTick[row]!);
    }
  }
  return [
    ...withoutLoose(expected, found, of).filter((d) => !isAllowed(of, d)),
    ...verifyShortNames(of),
  ];
}

function expectLines(of: PartCase, lines: LineReader, expected: LineLists): void {
  const { song, wanted, places } = of;
  const { from, to } = places.span;
  const leaves = mayLeave(wanted.take);
  const { sectionAt } = readSongMap(song);
  for (const [n, track] of song.tracks.entries()) {
    const { events, id } = track;
    const chosen = isChosen(of, track);
    if (!chosen && !outlineTrack(events).saysOfSong) continue;
    for (let row = 0; row < events.count; row++) {
      const section = events.status[row] === 0xff ? sectionAt(n, row) : undefined;
      if (section) {
        if (!wanted.take.sections || section.fromTick < from || section.toTick > to) continue;
      } else if (!leaves(events, row)) continue;
      const line = lines.read(events, row, id);
      if (!line || (!chosen && !line.isOfSong)) continue;
      const tick = events.atTick[row]!;
      const isOnce = setsUp.has(line.kind);
      if (!section && (tick >= to || (!isOnce && tick < from))) continue;
      for (let time = 0; time < (isOnce ? 1 : places.times); time++)
        expected.add(line, places.at(Math.max(from, tick), time));
    }
  }
}

/** Whether all bars leave once, with their ticks and tempos: then nothing is stated anew. */
const isUncut = ({ part, places, wanted }: PartCase): boolean =>
  part.span === undefined &&
  part.tracks?.size !== 0 &&
  places.span.from === 0 &&
  places.times === 1 &&
  places.reach === 0 &&
  wanted.form.tempo === 'as it is' &&
  wanted.form.steps === null;

/** The kind that marks leave as. */
const marksAs: Readonly<Partial<Record<Leaving['markers'], EventKind>>> = {
  markers: 'marker',
  'cue points': 'cue point',
  texts: 'text',
};

/** Reads rows as they have to leave, or as they left. */
class LineReader {
  private readonly of: PartCase;

  constructor(of: PartCase) {
    this.of = of;
  }

  /** A row of the song as it has to leave; undefined of what is verified elsewhere. */
  read(events: Events, row: number, id: string): Line | undefined {
    return this.readAs(events, row, { id, isFound: false });
  }

  /** A row of the file. */
  readFound(events: Events, row: number, id: string): Line | undefined {
    return this.readAs(events, row, { id, isFound: true });
  }

  private readAs(
    events: Events,
    row: number,
    { id, isFound }: { id: string; isFound: boolean },
  ): Line | undefined {
    if (events.status[row] !== 0xff) return undefined;
    const { take, form } = this.of.wanted;
    const is = kindOf(events, row);
    if (verifiedElsewhere.has(is) || (is === 'tempo' && !isUncut(this.of))) return undefined;
    if (is === 'lyric' && form.format === 'karaoke' && this.isWorded()) return undefined;
    if (is === 'channel prefix' && take.channels !== 'as they are') return undefined;
    if (is === 'meter' && form.tempo === 'one, as it sounds') return undefined;
    const isMark = is === 'marker' || is === 'cue point';
    const kind = (isMark && !isFound && marksAs[take.markers]) || is;
    const isOfSong = ofSong.has(is) || isChordText(events, row);
    // Marks that leave as texts cannot be told from other texts.
    const isShared = isOfSong || (kind === 'text' && take.markers === 'texts');
    return {
      owner: isShared ? 'song' : id,
      isOfSong,
      kind,
      ...this.say(events, row, { kind, isFound }),
    };
  }

  /** Whether a track of words was made, so that lyrics are read there. */
  private isWorded(): boolean {
    return this.of.leaving.tracks.some((t) => isWordsTrack(this.of, t.id));
  }

  private say(
    events: Events,
    row: number,
    { kind, isFound }: { kind: EventKind; isFound: boolean },
  ): Pick<Line, 'said' | 'pattern'> {
    const { form } = this.of.wanted;
    const payload = payloadOf(events, row);
    const longest = longestOf(kind, form);
    const isPlain = form.text === 'as they are' && longest === null;
    if (isPlain || !isTextRow(events, row)) return { said: payloadHex(events, row) };
    const song = isFound ? this.of.leaving : this.of.song;
    const whole = isFound ? readForm(payload, form.text, song) : readText(payload, song.encoding);
    // Where only ASCII is read a text is one line, but for lyrics.
    const isLine = !isFound && form.text === 'ASCII' && kind !== 'lyric';
    const text = isLine ? inOneLine(whole) : whole;
    // Of what was cut the beginning is verified: the end may tell it from others that are alike.
    const shown = (whole: string): string =>
      longest === null ? whole : beginning(whole, longest, isFound);
    const pattern = isFound ? undefined : patternIn(shown(text), form.text);
    return { said: shown(text.normalize('NFC')), ...(pattern ? { pattern } : {}) };
  }
}

/** A text whose line ends and other controls, if it has any, are blanks between its words. */
function inOneLine(text: string): string {
  const isControl = (s: string): boolean => s < ' ' || s === '\u007f';
  const letters = Array.from(text);
  if (!letters.some(isControl)) return text;
  return letters
    .map((s) => (isControl(s) ? '\n' : s))
    .join('')
    .replace(/\n+/g, ' ')
    .trim();
}

/** The beginning of a text that may be cut; all of it where it was to be and is not. */
function beginning(text: string, longest: number, isFound: boolean): string {
  const letters = Array.from(text);
  if (isFound && letters.length > longest) return `${text}, longer than ${longest} letters`;
  return letters.slice(0, Math.max(0, longest - 5)).join('');
}

const longestOf = (
  kind: EventKind,
  { longestName, longestMark }: PartCase['wanted']['form'],
): number | null =>
  kind === 'track name' || kind === 'instrument name'
    ? longestName
    : kind === 'marker' || kind === 'cue point'
      ? longestMark
      : null;

/** A text of the file as its reader reads it, who knows the encoding that was asked for. */
function readForm(payload: Uint8Array, form: string, song: Song): string {
  const said = payload.filter((byte) => byte !== 0);
  if (form === 'as they are') return readText(said, song.encoding);
  if (form === 'ASCII')
    return said.every((byte) => byte < 0x80) ? String.fromCharCode(...said) : 'bytes beyond ASCII';
  return readStrictly(said, form) ?? `bytes that are not ${form}`;
}

/** Lines with their ticks; what several tracks say alike of the song is said once. */
class LineLists {
  readonly lists = new TickLists();
  readonly patterns = new Map<string, LoosePattern>();
  private readonly seen = new Set<string>();

  add({ owner, kind, said, pattern }: Line, tick: number): void {
    const what = `${kind}: ${said}`;
    if (owner === 'song') {
      const key = `${what} ${Math.round(tick)}`;
      if (this.seen.has(key)) return;
      this.seen.add(key);
    }
    if (pattern) this.patterns.set(`${owner}\n${what}`, pattern);
    this.lists.add(owner, what, tick);
  }
}

/** The differences but texts whose lacking letters were written with others: those answer by their pattern. */
function withoutLoose(expected: LineLists, found: LineLists, { places }: PartCase): Difference[] {
  const all = expected.lists.compare(found.lists, places.reach);
  const left = new Set(all);
  for (const lacking of all) {
    const pattern = expected.patterns.get(`${lacking.owner}\n${lacking.what}`);
    if (lacking.state !== 'lacks' || !pattern) continue;
    const [kind] = lacking.what.split(': ', 1);
    for (const other of left) {
      if (other.state !== 'has' || other.owner !== lacking.owner) continue;
      if (Math.abs(other.tick - lacking.tick) > places.reach + 0.5) continue;
      if (
        !other.what.startsWith(`${kind}: `) ||
        !matchesPattern(other.what.slice(kind!.length + 2), pattern)
      )
        continue;
      left.delete(other);
      left.delete(lacking);
      break;
    }
  }
  return [...left];
}

/**
 * At the ends of a part the meter, key and chord that hold there are stated, and not stated again where they
 * hold already: `verify-map.ts` verifies what holds. A map without a name is called as the song.
 */
function isAllowed(of: PartCase, d: Difference): boolean {
  const { places, part, song } = of;
  if (isUncut(of)) return false;
  if (/^(meter|key signature): /.test(d.what)) return places.isBoundary(d.tick);
  if (/^text: (63|43|chord:)/i.test(d.what) && places.isBoundary(d.tick))
    return d.state === 'has' || d.tick > places.reach + 0.5;
  const isNaming = part.tracks?.size === 0 && d.state === 'has' && d.what.startsWith('track name');
  return isNaming && nameOf(song, d.owner) === undefined;
}

function nameOf(of: Song, id: string): string | undefined {
  const events = of.tracks.find((t) => t.id === id)?.events;
  for (let row = 0; events && row < events.count; row++)
    if (kindOf(events, row) === 'track name') return readText(payloadOf(events, row), of.encoding);
  return undefined;
}

/** Names that are cut are short enough, and two tracks that were called otherwise still are. */
function verifyShortNames({ song, leaving, wanted }: PartCase): Difference[] {
  const longest = wanted.form.longestName;
  if (longest === null) return [];
  const found: Difference[] = [];
  const taken = new Map<string, string>();
  for (const { id } of leaving.tracks) {
    const [was, is] = [nameOf(song, id), nameOf(leaving, id)];
    if (was === undefined || is === undefined) continue;
    const wrong =
      Array.from(is).length > longest ||
      // A number needs room behind at least one letter.
      (longest >= 4 && (taken.get(is) ?? was) !== was && Array.from(was).length > longest);
    if (wrong) found.push({ state: 'has', owner: id, what: `track name: ${is}`, tick: 0 });
    taken.set(is, was);
  }
  return found;
}
