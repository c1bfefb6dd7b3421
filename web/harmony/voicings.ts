import type { ToldChordView, ToldKeyView } from '#contracts/harmony.ts';
import type { SongView, TrackView } from '#contracts/songs.ts';
import { inForceAt } from '#core/harmony/in-force.ts';
import type { Chord } from '#core/harmony/chord.ts';
import { pitchedNotes } from '#core/harmony/pitched-notes.ts';
import { readChord } from '#core/harmony/read-chord.ts';
import { plainKey, type KeySpelling } from '#core/harmony/spelling.ts';
import { groupsOf, isVoicing, voicingOf } from '#core/harmony/voicings.ts';
import type { Events } from '#core/smf/events.ts';
import { barTick, quarterTicks, type MeterMap } from '#core/timing/meter-map.ts';
import type { Bars } from '../state/scope.ts';

/** A voicing as it is listed; `name` is undefined where its notes are no usual chord. */
export interface ShownVoicing {
  readonly atTick: number;
  readonly keys: readonly number[];
  readonly name: string | undefined;
  readonly sure: number;
  readonly degrees: readonly string[];
  readonly others: readonly { readonly name: string; readonly sure: number }[];
}

/** What is known of the chords and keys around notes. */
export interface Around {
  readonly told: readonly ToldChordView[];
  readonly keys: readonly ToldKeyView[];
}

/** What keys at a tick are called, with what is told around them. */
export function voicingAt(
  keys: readonly number[],
  tick: number,
  around: Around,
): Omit<ShownVoicing, 'atTick'> {
  const sorted = [...new Set(keys)].sort((a, b) => a - b);
  const { names, degrees } = voicingOf(
    sorted,
    spellingAt(around.keys, tick),
    chordAt(around.told, tick),
  );
  const [best, ...others] = names;
  return {
    keys: sorted,
    name: best?.name,
    sure: best?.sure ?? 0,
    degrees,
    others: others.slice(0, 3),
  };
}

const spellingAt = (keys: readonly ToldKeyView[], tick: number): KeySpelling =>
  keys.findLast((k) => k.fromTick <= tick) ?? keys[0] ?? plainKey;

function chordAt(told: readonly ToldChordView[], tick: number): Chord | undefined {
  const chord = inForceAt(told, tick);
  return chord && chord.toTick > tick ? readChord(chord.name)?.chord : undefined;
}

/** The voicings of a part, in the bars of the scope. */
export function voicingsOf(
  song: SongView,
  part: TrackView,
  events: Events,
  { meters, bars, ...around }: Around & { meters: MeterMap; bars: Bars | undefined },
): ShownVoicing[] {
  const quarter = quarterTicks(song.division);
  const track = { id: part.id, events };
  const { key } = pitchedNotes(track, quarter);
  const span = bars
    ? { from: barTick(meters, bars.from), to: barTick(meters, bars.to + 1) }
    : { from: 0, to: Infinity };
  return groupsOf(track, quarter, span).flatMap(({ atTick, notes }) => {
    const keys = notes.map((n) => key[n]!);
    return isVoicing(keys) ? [{ atTick, ...voicingAt(keys, atTick, around) }] : [];
  });
}

/** How many chords of three notes and more a part has. */
export const chordsIn = (song: SongView, part: TrackView, events: Events): number =>
  groupsOf({ id: part.id, events }, quarterTicks(song.division)).filter((g) => g.notes.length > 2)
    .length;
