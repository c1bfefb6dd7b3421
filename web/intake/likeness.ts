import type { SongView } from '#contracts/songs.ts';
import { givingTracks, type Held } from './bring-model.ts';

type Part = Held['tracks'][number];
type Song = Pick<SongView, 'tracks' | 'timing' | 'division'>;

const plainName = (name: string): string => name.trim().toLowerCase().replace(/\s+/g, ' ');

/**
 * Tracks of the song that parts of a source belong onto: those of the same name, else the only one on the same channel with the same program,
 * else the only one that plays much the same. Where two parts would go onto one track, the first does.
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
  match((a, b) => playAlike({ track: a, of: held }, { track: b, of: song }));
  return onto;
}

/** How far two parts may differ and still be taken for the same one: in their number of notes, their range, and the places where they play. */
const alikeFrom = { notes: 0.7, range: 0.7, places: 0.6 };
/** Fewer notes than these could be anybody's. */
const fewNotes = 4;

/** A part, and the song that it is of. */
interface In {
  readonly track: Part;
  readonly of: Pick<Song, 'timing' | 'division'>;
}

/** Whether two parts are of one kind, with as many notes in much the same range at much the same places of their songs. */
function playAlike(one: In, other: In): boolean {
  const [a, b] = [one.track, other.track];
  if (Math.min(a.notes, b.notes) < fewNotes || (a.channel === 10) !== (b.channel === 10))
    return false;
  const notes = Math.min(a.notes, b.notes) / Math.max(a.notes, b.notes);
  return (
    notes >= alikeFrom.notes &&
    sharedRange(a.pitch!, b.pitch!) >= alikeFrom.range &&
    sharedPlaces(one, other) >= alikeFrom.places
  );
}

type Range = NonNullable<Part['pitch']>;

/** Of the keys between the lowest and highest of both the part that both reach over. */
const sharedRange = (a: Range, b: Range): number =>
  (Math.min(a.highest, b.highest) - Math.max(a.lowest, b.lowest) + 1) /
  (Math.max(a.highest, b.highest) - Math.min(a.lowest, b.lowest) + 1);

const samples = 64;

/** Of places of the shorter song at which either of them plays the part at which both do. */
function sharedPlaces(one: In, other: In): number {
  const length = Math.min(
    quarters(one.of, one.of.timing.endTick),
    quarters(other.of, other.of.timing.endTick),
  );
  let [both, either] = [0, 0];
  for (let n = 0; n < samples; n++) {
    const playing = [one, other].filter((part) =>
      playsAt(part, ((n + 0.5) / samples) * length),
    ).length;
    if (playing === 2) both++;
    if (playing > 0) either++;
  }
  return both / Math.max(1, either);
}

/** Ticks in quarter notes; of a song that counts frames, in frames, which agree with no quarters. */
const quarters = ({ division }: In['of'], ticks: number): number =>
  division.kind === 'ppq' ? ticks / division.ticksPerQuarter : ticks / division.ticksPerFrame;

function playsAt({ track, of }: In, quarter: number): boolean {
  const cell = of.timing.cellTicks.findLastIndex((tick) => quarters(of, tick) <= quarter);
  return (track.activity[cell] ?? 0) > 0;
}
