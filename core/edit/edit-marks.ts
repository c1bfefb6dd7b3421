import { refused, ok, type Result } from '../problems/problems.ts';
import { META, metaEvent, payloadOf, type EventValue } from '../smf/events.ts';
import { decodeText, type TextEncodingName } from '../smf/text.ts';
import { encodeFor } from '../smf/text-encode.ts';
import { meantType, stays, staysEvent, timedEvent } from '../smf/own-events.ts';
import { shownText, type Song } from '../song/song.ts';
import { endText, type Section } from '../timing/sections.ts';
import { timingOf } from '../song/timing-of.ts';
import { markKinds, type Mark, type MarkKind } from '../timing/marks.ts';
import type { Change } from './report.ts';
import { editMap } from './edit-map.ts';

/**
 * The event that says a mark: its own meta where it travels, else one that is kept and not sent. `bytes` is
 * how its text was written.
 */
export function markEvent(
  { atTick, kind, travels }: Omit<Mark, 'track' | 'text'>,
  bytes: Uint8Array,
): EventValue {
  return travels
    ? metaEvent(atTick, markKinds[kind], bytes)
    : staysEvent(atTick, markKinds[kind], bytes);
}

/** The events that say a mark: where it belongs to time, first that. */
export const markEvents = (mark: Omit<Mark, 'track' | 'text'>, bytes: Uint8Array): EventValue[] => [
  ...(mark.seconds === undefined ? [] : [timedEvent(mark.atTick, mark.seconds)]),
  markEvent(mark, bytes),
];

/** A chord of the chord line at a tick, said as it was. */
export const chordLineEvent = (
  { kind, text, travels }: Mark,
  atTick: number,
  encoding: TextEncodingName,
): EventValue => markEvent({ atTick, kind, travels }, encodeFor(text, encoding));

/** The markers that say a section; either of its ends may belong to time. */
export const sectionMarks = ({
  name,
  fromTick,
  toTick,
  travels,
  times = [],
}: Pick<Section, 'name' | 'fromTick' | 'toTick' | 'travels'> & {
  readonly times?: readonly (number | undefined)[];
}): Omit<Mark, 'track'>[] => {
  const at = (end: 0 | 1) => (times[end] === undefined ? {} : { seconds: times[end] });
  return [
    { atTick: fromTick, text: name, kind: 'marker', travels, ...at(0) },
    { atTick: toTick, text: endText(name), kind: 'marker', travels, ...at(1) },
  ];
};

export type MarkGone = Pick<Mark, 'atTick' | 'kind' | 'text'> & {
  readonly track?: string | undefined;
};

const keyOf = (kind: number, atTick: number, text: string): string => `${kind} ${atTick} ${text}`;

/**
 * Takes marks out and puts others in, into `into` or the first track. Refused where a section that was to
 * stay, or one that comes, could not be told from the markers afterwards: two of one name inside each
 * other.
 */
export function editMarks(
  song: Song,
  gone: readonly MarkGone[],
  come: readonly Omit<Mark, 'track'>[],
  { kind = 'marker', into }: { kind?: string; into?: string | undefined } = {},
): Result<{ song: Song; changes: Change[] }> {
  const left = new Map<string, number>();
  for (const g of gone) {
    const key = `${keyOf(markKinds[g.kind], g.atTick, g.text)} ${g.track ?? ''}`;
    left.set(key, (left.get(key) ?? 0) + 1);
  }
  const types = new Set<number>(gone.map((g) => markKinds[g.kind]));
  const ticks = new Set(gone.map((g) => g.atTick));
  const goes = (type: number, atTick: number, text: () => string, track: string): boolean => {
    if (!types.has(type) || !ticks.has(atTick)) return false;
    for (const of of [track, '']) {
      const key = `${keyOf(type, atTick, text())} ${of}`;
      const n = left.get(key) ?? 0;
      if (n > 0) return (left.set(key, n - 1), true);
    }
    return false;
  };
  const asWritten = bytesByText(song, types, ticks);
  const edited = editMap(
    song,
    goes,
    come.flatMap((m) => markEvents(m, asWritten.get(m.text) ?? encodeFor(m.text, song.encoding))),
    kind,
    into,
  );
  const lost = lostSection(song, edited.song, gone, come);
  if (lost)
    return refused({
      code: 'settings-invalid',
      where: { field: 'settings' },
      expected: 'a name that no other section or marker around it has',
      found: lost,
    });
  return ok(edited);
}

/** Texts of marks as their bytes have them: what only moves keeps its encoding, and its length beyond what is shown. */
function bytesByText(
  song: Song,
  types: ReadonlySet<number>,
  ticks: ReadonlySet<number>,
): Map<string, Uint8Array> {
  const found = new Map<string, Uint8Array>();
  if (ticks.size === 0) return found;
  for (const { events } of song.tracks) {
    for (let i = 0; i < events.count; i++) {
      if (
        events.status[i] !== META ||
        !ticks.has(events.atTick[i]!) ||
        !types.has(meantType(events, i))
      )
        continue;
      const bytes = stays(events, i)?.text ?? payloadOf(events, i);
      found.set(shownText(decodeText(bytes, song.encoding)), bytes);
    }
  }
  return found;
}

const spanKey = (name: string, from: number, to: number): string => `${from} ${to} ${name}`;

/** Name of a section that should be there afterwards and is not. */
function lostSection(
  before: Song,
  after: Song,
  gone: readonly MarkGone[],
  come: readonly Omit<Mark, 'track'>[],
): string | undefined {
  const has = new Set(timingOf(after).sections.map((s) => spanKey(s.name, s.fromTick, s.toTick)));
  const out = new Set(gone.map((g) => keyOf(markKinds[g.kind], g.atTick, g.text)));
  const touched = ({ marks }: Section): boolean =>
    marks.some((m) => out.has(keyOf(markKinds[m.kind], m.atTick, m.text)));
  const stayed = timingOf(before).sections.find(
    (s) => !touched(s) && !has.has(spanKey(s.name, s.fromTick, s.toTick)),
  );
  if (stayed) return stayed.name;
  for (const [i, from] of come.entries()) {
    const to = come[i + 1];
    if (
      to &&
      to.text === endText(from.text) &&
      from.text !== '' &&
      !has.has(spanKey(from.text, from.atTick, to.atTick))
    )
      return from.text;
  }
  return undefined;
}

/** A mark's kind as settings name it. */
export const markKindNames = Object.keys(markKinds) as [MarkKind, ...MarkKind[]];
