import { guessesOf } from '../../../guessing/guess.ts';
import { familyNames, percussionChannel } from '../../../instruments/general-midi.ts';
import { refused, ok, type Result } from '../../../problems/problems.ts';
import {
  channelsOf,
  hasMapTrack,
  playsChannel,
  trackName,
  type Song,
  type Track,
} from '../../../song/song.ts';
import type { Meaning } from './meaning.ts';

const isDrums = (t: Track): boolean => channelsOf(t.events).includes(percussionChannel);

/** The first program of a part, from 0; drums have none that names an instrument. */
function firstProgram({ events }: Track): number | undefined {
  const at = events.status.findIndex((s) => s >> 4 === 0xc && (s & 15) !== percussionChannel);
  return at === -1 ? undefined : events.data1[at]!;
}

/**
 * The tracks that are meant, of those given, in a song that the recipe found as `before`: by it numbers
 * count, roles are judged, and programs are told that an earlier step took out. Names and numbers that no
 * track has are refused: a recipe for a part that is missing is no small thing.
 */
export function tracksMeant(
  song: Song,
  among: readonly Track[],
  meaning: Meaning,
  field: string,
  before: Song = song,
): Result<readonly Track[]> {
  if (meaning === 'all') return ok(among);
  if (meaning === 'drums') return ok(among.filter(isDrums));
  if (meaning === 'pitched') return ok(among.filter((t) => isPitched(song, t)));
  if ('named' in meaning) return namedTracks(song, among, meaning.named, field);
  if ('numbered' in meaning) return numberedTracks(before, among, meaning.numbered, field);
  if ('roles' in meaning) return ok(tracksOfRoles(song, among, meaning.roles, before));
  const had = new Map(before.tracks.map((t) => [t.id, t]));
  const programOf = (t: Track): number | undefined =>
    firstProgram(t) ?? (had.has(t.id) ? firstProgram(had.get(t.id)!) : undefined);
  const isMeant =
    'programs' in meaning
      ? (program: number) => meaning.programs.includes(program + 1)
      : (program: number) => meaning.families.includes(familyNames[program >> 3]!);
  return ok(
    among.filter((t) => {
      const program = programOf(t);
      return program !== undefined && isMeant(program);
    }),
  );
}

const isPitched = (song: Song, t: Track): boolean =>
  playsChannel(t.events) && !isDrums(t) && !(hasMapTrack(song) && t === song.tracks[0]);

function namedTracks(
  song: Song,
  among: readonly Track[],
  names: readonly string[],
  field: string,
): Result<readonly Track[]> {
  const key = (name: string): string => name.trim().toLowerCase();
  const has = new Map(among.map((t) => [t.id, key(trackName(t, song.encoding))]));
  const known = new Set(has.values());
  const missing = names.filter((name) => !known.has(key(name)));
  if (missing.length > 0)
    return refused({ code: 'recipe-tracks-missing', where: { field }, names: missing });
  const wanted = new Set(names.map(key));
  return ok(among.filter((t) => wanted.has(has.get(t.id)!)));
}

function numberedTracks(
  before: Song,
  among: readonly Track[],
  numbers: readonly number[],
  field: string,
): Result<readonly Track[]> {
  const missing = numbers.filter((n) => n > before.tracks.length);
  if (missing.length > 0)
    return refused({
      code: 'recipe-tracks-missing',
      where: { field },
      names: missing.map((n) => `track ${n}`),
    });
  const wanted = new Set(numbers.map((n) => before.tracks[n - 1]!.id));
  return ok(among.filter((t) => wanted.has(t.id)));
}

/** Tracks that steps of the recipe added are judged as they are now, all others as they came. */
function tracksOfRoles(
  song: Song,
  among: readonly Track[],
  roles: readonly string[],
  before: Song,
): readonly Track[] {
  const had = new Set(before.tracks.map((t) => t.id));
  const judged = [
    ...guessesOf(before),
    ...(among.every((t) => had.has(t.id)) ? [] : guessesOf(song).filter((g) => !had.has(g.id))),
  ];
  const meant = new Set(judged.flatMap((g) => (g.role && roles.includes(g.role) ? [g.id] : [])));
  return among.filter((t) => meant.has(t.id));
}
