import { familyNames } from '../instruments/general-midi.ts';
import { soundName } from '../instruments/sounds.ts';
import type { Events } from '../smf/events.ts';
import { notesOf } from '../song/notes.ts';
import { trackName, type Song } from '../song/song.ts';
import { quarterTicks } from '../timing/meter-map.ts';
import { featuresOf, placed, vectorOf, type Features } from './features.ts';
import { weights } from './model.ts';
import { reasons } from './reasons.ts';
import { saidBy, type Said } from './said.ts';
import { drumsClass, roleOf, typicalProgram, type Role } from './roles.ts';

/** What may play a part, how sure that is (0–1), and why, in a musician's words. */
export interface Guess {
  readonly drums: boolean;
  /** From 0; of drums the kit. */
  readonly program: number;
  readonly family: string;
  readonly name: string;
  readonly sure: number;
  readonly why: readonly string[];
}

export interface GuessedTrack {
  readonly id: string;
  /** What it does among the others; undefined where it has no notes. */
  readonly role: Role | undefined;
  /** The three likeliest, best first; none where there are no notes. */
  readonly guesses: readonly Guess[];
}

/** How much each counts against what the notes tell. */
const trusts = { name: 0.8, channel: 0.97, program: 0.6, firstProgram: 0.2 };

/**
 * What may play each track of a song, by its name, its channel and program, its notes and its place among
 * the others.
 */
export function guessesOf(song: Song): GuessedTrack[] {
  const quarter = quarterTicks(song.division);
  const parts = song.tracks.flatMap(({ events }) => featuresOf(events, quarter) ?? []);
  const byTrack = new Map<Events, Features>();
  const playing = song.tracks.filter(({ events }) => notesOf(events).count > 0);
  const isKit = new Set(
    parts.filter((part, n) => saidBy(playing[n]!.events, '').onDrums || part.kickSnareHat > 0.5),
  );
  placed(parts, (part) => isKit.has(part)).forEach((part, n) =>
    byTrack.set(playing[n]!.events, part),
  );
  return song.tracks.map((track) => {
    const features = byTrack.get(track.events);
    if (!features) return { id: track.id, role: undefined, guesses: [] };
    const said = saidBy(track.events, trackName(track, song.encoding));
    return { id: track.id, ...guessed(features, said) };
  });
}

/** What may play one part. */
export function guessed(features: Features, said: Said): Omit<GuessedTrack, 'id'> {
  const chances = weighed(chancesOf(vectorOf(features)), said);
  const order = [...chances.keys()].sort((a, b) => chances[b]! - chances[a]!);
  const guesses = order.slice(0, 3).map((family): Guess => {
    const drums = family === drumsClass;
    const program = programOf(family, features, said);
    return {
      drums,
      program,
      family: drums ? 'Drums' : familyNames[family]!,
      name: soundName({ program, bank: null }, drums),
      sure: Math.round(chances[family]! * 100) / 100,
      why: reasons(family, features, said),
    };
  });
  return { role: roleOf(chances, guesses[0]!.program), guesses };
}

function chancesOf(vector: readonly number[]): number[] {
  const scores = weights.map((row) =>
    vector.reduce((sum, value, n) => sum + value * row[n]!, row[vector.length]!),
  );
  const most = Math.max(...scores);
  const all = scores.map((score) => Math.exp(score - most));
  const sum = all.reduce((a, b) => a + b);
  return all.map((value) => value / sum);
}

/**
 * What the notes tell, with what else is said of the part: a name beats the notes, a channel of drums
 * nearly settles it.
 */
function weighed(chances: readonly number[], { named, onDrums, program }: Said): number[] {
  const towards = (now: readonly number[], family: number, trust: number): number[] =>
    now.map((chance, n) => chance * (1 - trust) + (n === family ? trust : 0));
  let now = [...chances];
  if (program !== undefined && !onDrums)
    now = towards(now, program >> 3, program === 0 ? trusts.firstProgram : trusts.program);
  if (named) now = towards(now, named.drums ? drumsClass : named.program >> 3, trusts.name);
  if (onDrums) now = towards(now, drumsClass, trusts.channel);
  return now;
}

/**
 * The instrument of a family that is meant: the one that is named, else the one that is said, else the
 * usual one of that range.
 */
function programOf(family: number, features: Features, { named, program }: Said): number {
  if (family === drumsClass) return 0;
  if (named && !named.drums && named.program >> 3 === family) return named.program;
  if (program !== undefined && program >> 3 === family) return program;
  return typicalProgram(family, features);
}
