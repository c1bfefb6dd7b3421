import { endTick } from '../../smf/events.ts';
import type { Song } from '../../song/song.ts';
import { timingOf } from '../../song/timing-of.ts';
import { tempoAt, tempoMap } from '../../timing/tempo-map.ts';
import { firstNote, type Part } from '../part/piece.ts';
import type { Wanted } from '../settings.ts';
import { endsOfNotes, notesAndMessages } from './judged-notes.ts';
import { textsAndMap } from './judged-texts.ts';
import type { Judging } from './judging.ts';
import { placesOf } from './places.ts';

/** Differences that are named; more say no more. */
const mostNamed = 20;

/**
 * Holds what leaves against the song it is a part of, event for event, under the settings alone: by an
 * independent model of what is heard (what each channel has in force at each note) and of what is read
 * (texts, map, lengths). Gives what the settings do not explain, which is nothing unless this program errs.
 *
 * @param song what the part is of, as it is sent @param leaving the part before it is laid out in a file
 */
export function judged(song: Song, part: Part, wanted: Wanted, leaving: Song): string[] {
  const span = wholeSpan(song, part, wanted);
  const ends = leaving.tracks.reduce((most, t) => Math.max(most, endTick(t.events)), 0);
  const judging: Judging = {
    song,
    part,
    wanted,
    leaving,
    places: placesOf(song, span, wanted, ends),
  };
  const found = [
    ...notesAndMessages(judging),
    ...endsOfNotes(judging),
    ...textsAndMap(judging),
    ...mapAtStart(judging),
    ...lengths(judging, ends),
  ];
  return found.slice(0, mostNamed);
}

/** Where a part begins and ends in the song: with its first note, where that is asked for. */
export function wholeSpan(song: Song, part: Part, { form }: Wanted): { from: number; to: number } {
  const span = part.span ?? { from: 0, to: Infinity };
  if (form.start === 'in its place') return span;
  const first = song.tracks.reduce(
    (least, t) =>
      part.tracks === undefined || part.tracks.has(t.id)
        ? Math.min(least, firstNote(t.events, span))
        : least,
    Infinity,
  );
  return first === Infinity ? span : { ...span, from: first };
}

/** The tempo that is in force at the beginning. */
function mapAtStart({ song, wanted, leaving, places }: Judging): string[] {
  const { form, take } = wanted;
  if (!take.tempo || form.tempo !== 'as it is' || form.steps || song.division.kind === 'smpte')
    return [];
  const { tempos } = timingOf(song);
  const { from } = places.span;
  const there = tempoAt(tempoMap(tempos, song.division), from);
  const here = tempoAt(tempoMap(timingOf(leaving).tempos, leaving.division), 0);
  // In a coarse resolution a tempo that follows at once falls on the same tick.
  const near = tempos.some(
    (t) => t.tempo === here && t.atTick > from && places.at(t.atTick, 0) <= places.most,
  );
  return there === here || near ? [] : [`begins at tempo ${here} instead of ${there}`];
}

/** How long it is: as long as its bars, and what rings over them where that is kept. */
function lengths({ part, wanted, leaving, places }: Judging, ends: number): string[] {
  const { to } = places.span;
  if (leaving.tracks.length === 0) return ['has no track'];
  if (to === Infinity || wanted.form.end === 'at the bar') return [];
  const expected = places.at(to, places.times - 1);
  const longer = wanted.edges.notes === 'keep' || part.tracks?.size === 0;
  if (ends < expected - places.most - 0.5 || (!longer && ends > expected + places.most + 1.5))
    return [`ends at tick ${ends} instead of ${expected}`];
  return [];
}
