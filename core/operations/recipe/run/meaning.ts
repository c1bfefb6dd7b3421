import { z } from 'zod';
import { roleNames } from '../../../guessing/roles.ts';
import { familyNames } from '../../../instruments/general-midi.ts';
import type { Shown } from '../../../units/shown.ts';

/**
 * Which tracks a step of a recipe is for, said so that it fits any song: all, those of the drum channel, all
 * others that play; tracks by name, by their number on the sheet, by their first program or its family, or
 * by what they do among the others. The last four fit songs whose tracks have no names.
 */
export const meaningSchema = z
  .union([
    z.enum(['all', 'drums', 'pitched']),
    z.strictObject({ named: z.array(z.string().min(1).max(200)).min(1).max(200) }),
    z.strictObject({ numbered: z.array(z.int().min(1).max(65_535)).min(1).max(200) }),
    z.strictObject({ programs: z.array(z.int().min(1).max(128)).min(1).max(128) }),
    z.strictObject({ families: z.array(z.enum(familyNames)).min(1).max(16) }),
    z.strictObject({ roles: z.array(z.enum(roleNames)).min(1).max(roleNames.length) }),
  ])
  .meta({
    title: 'Tracks',
    description:
      'all, drums, pitched, or tracks by name, number (from 1), program (1–128), family or role.',
  });

export type Meaning = Shown<z.infer<typeof meaningSchema>>;

/**
 * The meaning that fits tracks of a song: what a step was taken on, said for other songs. Where one of them
 * has no name they are told by their numbers; tracks that are gone and had none can be told by nothing.
 */
export function meaningOf(
  song: { readonly tracks: readonly { readonly id: string; readonly name: string }[] },
  scope: 'all' | readonly string[],
  nameThen: ReadonlyMap<string, string>,
): Meaning | undefined {
  if (scope === 'all') return 'all';
  const places = new Map(song.tracks.map((t, n) => [t.id, n]));
  const names = scope.map((id) => {
    const place = places.get(id);
    return place === undefined ? (nameThen.get(id) ?? '') : song.tracks[place]!.name;
  });
  if (names.every((name) => name !== '')) return { named: [...new Set(names)] };
  const numbers = scope.flatMap((id) => (places.has(id) ? [places.get(id)! + 1] : []));
  return numbers.length === 0 ? undefined : { numbered: numbers };
}
