import { ok, refused, type Result } from '../problems/problems.ts';
import { META } from '../smf/events.ts';
import { hasMapTrack, trackLabel, type Song, type Track } from '../song/song.ts';
import type { TickSpan } from '../song/scope.ts';
import { timingOf } from '../song/timing-of.ts';
import { barTick, barsUntil, meterMap, positionAt } from '../timing/meter-map.ts';
import type { Section } from '../timing/sections.ts';
import { firstNote, type Part } from './part/piece.ts';
import type { Wanted } from './settings.ts';

/** A file before it has a name. */
export interface Cut extends Part {
  readonly track?: string;
  readonly section?: string;
}

export const nothing = (why: string, remedy: string): Result<never> =>
  refused({ code: 'handoff-nothing', where: { field: 'divide' }, why, remedy });

export interface Base {
  readonly span?: TickSpan;
  readonly notes: readonly string[];
}

/** Sections say themselves where they begin. */
const bySection = ({ divide }: Pick<Wanted, 'divide'>): boolean =>
  divide === 'sections' || divide === 'sections-tracks';

/** The bars that leave; the song from its beginning to its end where that is all of it. */
export function leavingBars(
  song: Song,
  wanted: Wanted,
  chosen: ReadonlySet<string> | 'all',
): Result<Base> {
  const { scope, edges, repeat } = wanted;
  const { meters: said, endTick } = timingOf(song);
  const meters = meterMap(said, song.division);
  const bars = barsUntil(meters, endTick);
  if (scope?.bars) {
    const { from, to } = scope.bars;
    if (from > bars)
      return refused({ code: 'scope-behind-end', where: { field: 'scope.bars' }, from, bars });
    return ok({
      span: { from: barTick(meters, from), to: barTick(meters, Math.min(to, bars) + 1) },
      notes: [],
    });
  }
  const whole = { from: 0, to: Infinity };
  const first = song.tracks.reduce(
    (least, t) =>
      chosen === 'all' || chosen.has(t.id) ? Math.min(least, firstNote(t.events, whole)) : least,
    Infinity,
  );
  const fromStart = edges.leadIn || bySection(wanted) || first === Infinity;
  const lead = fromStart ? 1 : positionAt(meters, first).bar;
  const span = lead > 1 || repeat > 1 ? { from: barTick(meters, lead), to: Infinity } : undefined;
  return ok({
    ...(span ? { span: repeat > 1 ? { ...span, to: barTick(meters, bars + 1) } : span } : {}),
    notes:
      lead > 1
        ? [`${lead === 2 ? 'The bar' : `The ${lead - 1} bars`} before the music stayed here.`]
        : [],
  });
}

export interface Cutting {
  readonly chosen: ReadonlySet<string> | 'all';
  readonly base: Base;
  readonly drums: ReadonlySet<string>;
  /** Ids of the tracks that a drum track was split into, by its id. */
  readonly parts: ReadonlyMap<string, readonly string[]>;
  /** Also those that are kept here and not sent. */
  readonly sections: readonly Section[];
}

type Cuts = Result<{ cuts: readonly Cut[]; notes: readonly string[] }>;

export function cutsOf(song: Song, wanted: Wanted, cutting: Cutting): Cuts {
  const { base, chosen } = cutting;
  const one: Cut = {
    ...(base.span ? { span: base.span } : {}),
    ...(chosen === 'all' ? {} : { tracks: chosen }),
  };
  switch (wanted.divide) {
    case 'whole':
      if (wanted.scope?.bars && !anyPlays(song, wanted, cutting))
        return nothing('Nothing plays in these bars', 'Choose other bars or tracks.');
      return ok({ cuts: [one], notes: chosen === 'all' ? [] : stayingWords(song, chosen) });
    case 'map':
      return ok({
        cuts: [{ ...one, tracks: new Set<string>(), ...lengthOf(song, base.span) }],
        notes: [],
      });
    case 'groups':
      return byGroups(song, wanted, cutting);
    case 'sections':
      return bySections(song, wanted, cutting, () => ({ cuts: [one], silent: 0 }));
    case 'sections-tracks':
      return bySections(song, wanted, cutting, (span) => {
        const { cuts, silent } = byTracks(song, cutting, wanted, span);
        return { cuts, silent: silent.length };
      });
    case 'tracks':
    case 'drums': {
      const { cuts, silent } = byTracks(song, cutting, wanted, base.span);
      const drums = wanted.divide === 'drums';
      if (cuts.length > 0) return ok({ cuts, notes: silentWords(song, silent) });
      return nothing(
        drums ? 'No drum plays in what was chosen' : 'Nothing plays in what was chosen',
        drums ? 'Choose a track that plays drums on channel 10.' : 'Choose other tracks or bars.',
      );
    }
  }
}

/** Parts that end with the song are as long as it, whatever their tracks hold. */
const lengthOf = (song: Song, span: TickSpan | undefined): Pick<Part, 'length'> =>
  span === undefined || span.to === Infinity
    ? { length: timingOf(song).endTick - (span?.from ?? 0) }
    : {};

/**
 * A file a track: all as long as the longest, so that they lie together where they are loaded. A track without
 * notes has one where it was chosen.
 */
function byTracks(
  song: Song,
  { chosen, drums }: Cutting,
  { divide, edges }: Wanted,
  span: TickSpan | undefined,
): { cuts: Cut[]; silent: Track[] } {
  const map = hasMapTrack(song) ? song.tracks[0] : undefined;
  const wanted = song.tracks.filter(
    (t) =>
      t !== map &&
      (chosen === 'all' || chosen.has(t.id)) &&
      (divide !== 'drums' || drums.has(t.id)),
  );
  const within = span ?? { from: 0, to: Infinity };
  const isAsked = chosen !== 'all';
  const playing = wanted.filter(
    (t) => (isAsked || hasNotes(t)) && playsIn(t, within, edges.notes === 'again'),
  );
  const plays = new Set(playing);
  return {
    cuts: playing.map((t) => ({
      tracks: new Set([t.id]),
      track: trackLabel(song, t),
      ...(span ? { span } : {}),
      ...lengthOf(song, span),
    })),
    silent: wanted.filter((t) => !plays.has(t)),
  };
}

const silentWords = (song: Song, silent: readonly Track[]): string[] =>
  silent.length === 0
    ? []
    : [`${namedWords(song, silent)}: nothing plays there, so no file was made.`];

function byGroups(song: Song, { groups: asked, edges }: Wanted, { base, parts }: Cutting): Cuts {
  // A drum track that was split stands for its drums.
  const groups = asked.map(({ name, tracks }) => ({
    name: name.trim(),
    tracks: tracks.flatMap((id) => parts.get(id) ?? [id]),
  }));
  const empty = groups.find((g) => g.tracks.length === 0 || g.name === '');
  if (groups.length === 0)
    return nothing('No group is named', 'Name a group and put tracks into it.');
  if (empty)
    return nothing(
      empty.name === '' ? 'A group has no name' : `The group “${empty.name}” holds no track`,
      'Give every group a name and a track.',
    );
  const within = base.span ?? { from: 0, to: Infinity };
  const all = new Map(song.tracks.map((t) => [t.id, t]));
  const plays = (id: string): boolean => playsIn(all.get(id)!, within, edges.notes === 'again');
  const used = groups.filter((g) => g.tracks.some(plays));
  if (used.length === 0)
    return nothing('Nothing plays in what was chosen', 'Choose other tracks or bars.');
  const inGroups = new Set(groups.flatMap((g) => g.tracks));
  return ok({
    cuts: used.map((g) => ({
      tracks: new Set(g.tracks),
      track: g.name,
      ...(base.span ? { span: base.span } : {}),
      ...lengthOf(song, base.span),
    })),
    notes: [
      ...groups
        .filter((g) => !used.includes(g))
        .map((g) => `The group “${g.name}” plays nothing there, so no file was made.`),
      ...stayingWords(song, inGroups),
    ],
  });
}

/** A file or several for each section that begins in the bars that leave. */
function bySections(
  song: Song,
  { edges }: Wanted,
  { base, chosen, sections }: Cutting,
  cutsIn: (span: TickSpan) => { readonly cuts: readonly Cut[]; readonly silent: number },
): Cuts {
  const { from, to } = base.span ?? { from: 0, to: Infinity };
  const inside = sections.filter((s) => s.fromTick >= from && s.fromTick < to);
  if (inside.length === 0)
    return nothing(
      sections.length === 0 ? 'This song has no sections' : 'No section begins in these bars',
      'Name sections on the bar strip first, or divide otherwise.',
    );
  const playing = song.tracks.filter((t) => chosen === 'all' || chosen.has(t.id));
  const notes: string[] = [];
  let silent = 0;
  const cuts = inside.flatMap((s) => {
    const span = { from: s.fromTick, to: s.toTick };
    if (!playing.some((t) => playsIn(t, span, edges.notes === 'again'))) {
      notes.push(`The section “${s.name}” plays nothing, so no file was made.`);
      return [];
    }
    const made = cutsIn(span);
    silent += made.silent;
    return made.cuts.map((cut): Cut => ({ ...cut, span, section: s.name }));
  });
  if (cuts.length === 0) return nothing('Nothing plays in these sections', 'Choose other tracks.');
  return ok({
    cuts,
    notes: [...notes, ...silentInSections(silent), ...betweenWords(song, inside, { from, to })],
  });
}

const silentInSections = (n: number): string[] =>
  n === 0
    ? []
    : [
        `${n === 1 ? 'One file was' : `${n.toLocaleString('en')} files were`} not made: a track plays nothing in a section.`,
      ];

/** Bars that were to leave and lie in none of the sections that do, so that they stay here. */
function betweenWords(song: Song, sections: readonly Section[], { from, to }: TickSpan): string[] {
  const { meters: said, endTick } = timingOf(song);
  const meters = meterMap(said, song.division);
  const end = Math.min(to, endTick);
  let at = from;
  const gaps: string[] = [];
  for (const { fromTick, toTick } of [...sections, { fromTick: end, toTick: end }]) {
    if (fromTick > at) {
      const [first, last] = [positionAt(meters, at).bar, positionAt(meters, fromTick - 1).bar];
      gaps.push(first === last ? `${first}` : `${first} to ${last}`);
    }
    at = Math.max(at, toTick);
  }
  return gaps.length === 0
    ? []
    : [`In none of these sections, and not sent: bars ${gaps.join(', ')}.`];
}

/**
 * Whether anything of a track is heard or read in a span: of a part that has notes a note, else anything
 * that says more than what the track is.
 */
function playsIn({ events }: Track, { from, to }: TickSpan, again: boolean): boolean {
  const { status, data1, data2, atTick, count } = events;
  let notes = false;
  let other = false;
  for (let i = 0; i < count; i++) {
    const s = status[i]!;
    const inside = atTick[i]! >= from && atTick[i]! < to;
    if (s >> 4 === 9 && data2[i] !== 0) {
      if (inside) return true;
      notes = true;
    } else if (s >> 4 === 9 || s >> 4 === 8) {
      // What ends behind the beginning may have begun before it.
      if (again && notes && atTick[i]! > from) return true;
    } else if (inside)
      other ||= s !== META || (data1[i]! > 0x00 && data1[i]! < 0x20 && !aboutTrack.has(data1[i]!));
  }
  return !notes && other;
}

const hasNotes = ({ events: { status, data2 } }: Track): boolean =>
  status.some((s, i) => s >> 4 === 9 && data2[i] !== 0);

const anyPlays = (song: Song, { edges }: Wanted, { chosen, base }: Cutting): boolean =>
  song.tracks.some(
    (t) =>
      (chosen === 'all' || chosen.has(t.id)) && playsIn(t, base.span!, edges.notes === 'again'),
  );

/** Metas that say what a track is. */
const aboutTrack: ReadonlySet<number> = new Set([2, 3, 4, 8, 9]);

/** Names of tracks that are quoted in one sentence. */
const mostNamed = 12;

function namedWords(song: Song, tracks: readonly Track[]): string {
  const names = tracks.slice(0, mostNamed).map((t) => trackLabel(song, t));
  const more = tracks.length - names.length;
  return `${names.join(', ')}${more > 0 ? ` and ${more.toLocaleString('en')} more` : ''}`;
}

function stayingWords(song: Song, leaving: ReadonlySet<string>): string[] {
  const map = hasMapTrack(song) ? song.tracks[0] : undefined;
  const staying = song.tracks.filter((t) => t !== map && !leaving.has(t.id));
  return staying.length === 0 ? [] : [`Not chosen, and not sent: ${namedWords(song, staying)}.`];
}
