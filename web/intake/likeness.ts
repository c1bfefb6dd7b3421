import type { SongView } from '#contracts/songs.ts';
import { givingTracks, type Held } from './bring-model.ts';

type Part = Held['tracks'][number];
type Song = Pick<SongView, 'tracks' | 'timing' | 'division'>;

const plainName = (name: string): string => name.trim().toLowerCase().replace(/\s+/g, ' ');

/**
 * Tracks of the song that parts of a source belong onto: those of the same name, else the only one on the
 * same channel with the same program, else the only one that plays much the same. Where two parts would go
 * onto one track, the first does.
 */
export function likenesses(song: Song, held: Held): Record<string, string> {
  const onto: Record<string, string> = {};
  const free = new Set(song.tracks.filter((t) => t.notes > 0).map((t) => t.id));
  const match = (like: (part: Part, there: Song['tracks'][number]) => boolean) => {
    for (const part of givingTracks(held)) {
      if (onto[part.id]) continue;
      const found = song.tracks.filter((there) => free.has(there.id) && like(part, there));
      if (found.length !== 1) continue;
      onto[part.id] = found[0]!.id;
      free.delete(found[0]!.id);
    }
  };
  match((a, b) => a.name !== '' && plainName(a.name) === plainName(b.name));
  match(
    (a, b) =>
      a.channel !== null &&
      a.channel === b.channel &&
      a.programs[0]?.program === b.programs[0]?.program &&
      a.programs[0]?.bank === b.programs[0]?.bank,
  );
  const length = Math.min(quarters(song, song.timing.endTick), quarters(held, held.timing.endTick));
  match(likeAt(placesIn(song, length), placesIn(held, length)));
  return onto;
}

/**
 * How far two parts may differ and still be taken for the same one: in their number of notes, their range,
 * and the places where they play.
 */
const alikeFrom = { notes: 0.7, range: 0.7, places: 0.6 };
/** Fewer notes than these could be anybody's. */
const fewNotes = 4;

type Range = NonNullable<Part['pitch']>;

/**
 * Whether two parts are of one kind, with as many notes in much the same range at much the same places of
 * their songs.
 */
function likeAt(here: Places, there: Places): (one: Part, other: Part) => boolean {
  return (one, other) => {
    if (Math.min(one.notes, other.notes) < fewNotes) return false;
    if ((one.channel === 10) !== (other.channel === 10)) return false;
    const notes = Math.min(one.notes, other.notes) / Math.max(one.notes, other.notes);
    return (
      notes >= alikeFrom.notes &&
      sharedRange(one.pitch!, other.pitch!) >= alikeFrom.range &&
      sharedPlaces(there(one), here(other)) >= alikeFrom.places
    );
  };
}

/** Of the keys between the lowest and highest of both the part that both reach over. */
const sharedRange = (a: Range, b: Range): number =>
  (Math.min(a.highest, b.highest) - Math.max(a.lowest, b.lowest) + 1) /
  (Math.max(a.highest, b.highest) - Math.min(a.lowest, b.lowest) + 1);

/** Of places at which either of two parts plays the share at which both do. */
function sharedPlaces(a: readonly boolean[], b: readonly boolean[]): number {
  let [both, either] = [0, 0];
  a.forEach((plays, n) => {
    if (plays && b[n]) both++;
    if (plays || b[n]) either++;
  });
  return both / Math.max(1, either);
}

const samples = 64;
type Timed = Pick<Song, 'timing' | 'division'>;
/** Whether a part of a song plays at each of the places that are looked at. */
type Places = (part: Part) => readonly boolean[];

/** Looks at places between the beginning and some quarter notes of a song; at each part once. */
function placesIn(song: Timed, length: number): Places {
  const cells = Array.from({ length: samples }, (_, n) =>
    song.timing.cellTicks.findLastIndex(
      (tick) => quarters(song, tick) <= ((n + 0.5) / samples) * length,
    ),
  );
  const known = new Map<Part, readonly boolean[]>();
  return (part) => {
    const had = known.get(part) ?? cells.map((cell) => (part.activity[cell] ?? 0) > 0);
    known.set(part, had);
    return had;
  };
}

/** Ticks in quarter notes; of a song that counts frames, in frames, which agree with no quarters. */
const quarters = ({ division }: Timed, ticks: number): number =>
  division.kind === 'ppq' ? ticks / division.ticksPerQuarter : ticks / division.ticksPerFrame;
