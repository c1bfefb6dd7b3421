import { featuresOf, placed, type Features } from '#core/guessing/features.ts';
import { guessed } from '#core/guessing/guess.ts';
import { roleOf } from '#core/guessing/roles.ts';
import { familyNames, percussionChannel } from '#core/instruments/general-midi.ts';
import { notesOf } from '#core/song/notes.ts';
import { trackName, type Song } from '#core/song/song.ts';
import { namedIn } from '#core/instruments/names.ts';
import { quarterTicks } from '#core/timing/meter-map.ts';

/** A part with what plays it: a family from 0, or 16 for drums. */
interface Known {
  readonly features: Features;
  readonly is: number;
  /** From 0. */ readonly program: number;
  readonly name: string;
}

const drums = familyNames.length;
const called = (family: number): string => familyNames[family] ?? 'Drums';

/** Parts of which it is known what plays them: those on the drum channel, and those with one program alone. */
function knownIn(song: Song): Known[] {
  const found = song.tracks.flatMap(({ events, ...track }): Known[] => {
    const features = featuresOf(events, quarterTicks(song.division));
    if (!features) return [];
    const { on } = notesOf(events);
    const name = trackName({ ...track, events }, song.encoding);
    if ((events.status[on[0]!]! & 15) === percussionChannel)
      return [{ features, is: drums, program: 0, name }];
    const programs = new Set<number>();
    for (let i = 0; i < events.count; i++)
      if (events.status[i]! >> 4 === 0xc) programs.add(events.data1[i]!);
    const [program] = programs;
    return programs.size === 1 ? [{ features, is: program! >> 3, program: program!, name }] : [];
  });
  const all = placed(
    found.map((f) => f.features),
    (f) => f.kickSnareHat > 0.5,
  );
  return found.map((known, n) => ({ ...known, features: all[n]! }));
}

const percent = (n: number, of: number): string =>
  of === 0 ? '–' : `${((100 * n) / of).toFixed(1)} % of ${of}`;

/**
 * Hides names, channels and programs of the parts of songs and compares what is guessed of their notes with
 * what plays them; then names alone.
 */
export function tellGuesses(songs: readonly Song[], print: (line: string) => void): void {
  const parts = songs.flatMap(knownIn).map((known) => {
    const told = guessed(known.features, { named: undefined, onDrums: false, program: undefined });
    const families = told.guesses
      .map((g) => familyNames.indexOf(g.family as never))
      .map((n) => (n === -1 ? drums : n));
    const oneOf = (n: number): number[] =>
      Array.from({ length: drums + 1 }, (_, c) => (c === n ? 1 : 0));
    return {
      ...known,
      families,
      role: told.role,
      isRole: roleOf(oneOf(known.is), known.program),
      sure: told.guesses[0]!.sure,
    };
  });
  const first = parts.filter((p) => p.families[0] === p.is).length;
  const three = parts.filter((p) => p.families.includes(p.is)).length;
  print(
    `${parts.length} parts, by their notes alone: family first ${percent(first, parts.length)}, among three ${percent(three, parts.length)}`,
  );
  const kits = parts.filter((p) => p.is === drums);
  const saidKits = parts.filter((p) => p.families[0] === drums);
  const basses = parts.filter((p) => p.is === 4);
  print(
    `drums found ${percent(kits.filter((p) => p.families[0] === drums).length, kits.length)}, right ${percent(saidKits.filter((p) => p.is === drums).length, saidKits.length)}`,
  );
  print(`bass found ${percent(basses.filter((p) => p.families[0] === 4).length, basses.length)}`);
  print(`role first ${percent(parts.filter((p) => p.role === p.isRole).length, parts.length)}`);
  const certain = parts.filter((p) => p.sure > 0.7);
  print(
    `where it is surer than 0.7: right ${percent(certain.filter((p) => p.families[0] === p.is).length, certain.length)}`,
  );
  for (let family = 0; family <= drums; family++) {
    const own = parts.filter((p) => p.is === family);
    if (own.length > 0)
      print(
        `  ${called(family).padEnd(22)} first ${percent(own.filter((p) => p.families[0] === family).length, own.length)}, among three ${percent(own.filter((p) => p.families.includes(family)).length, own.length)}`,
      );
  }
  const confused = new Map<string, number>();
  for (const p of parts)
    if (p.families[0] !== p.is) {
      const words = `${called(p.is)} taken for ${called(p.families[0]!)}`;
      confused.set(words, (confused.get(words) ?? 0) + 1);
    }
  for (const [words, n] of [...confused].sort((a, b) => b[1] - a[1]).slice(0, 8))
    print(`  ${n} ${words}`);
  const named = parts.flatMap((p) =>
    ((n) => (n ? [{ p, is: n.drums ? drums : n.program >> 3 }] : []))(namedIn(p.name)),
  );
  print(
    `names alone speak for ${percent(named.length, parts.length)}: right ${percent(named.filter(({ p, is }) => p.is === is).length, named.length)}`,
  );
}
