import { z } from 'zod';
import { familyNames, percussionChannel } from '../../../instruments/general-midi.ts';
import { refused, ok, type Result } from '../../../problems/problems.ts';
import type { Shown } from '../../../units/shown.ts';
import {
  channelsOf,
  hasMapTrack,
  playsChannel,
  trackName,
  type Song,
  type Track,
} from '../../../song/song.ts';

/**
 * Which tracks a step of a recipe is for, said so that it fits any song: all, those of the drum channel,
 * all others that play, tracks by name, or by the families of their first programs.
 */
export const meaningSchema = z
  .union([
    z.enum(['all', 'drums', 'pitched']),
    z.strictObject({ named: z.array(z.string().min(1).max(200)).min(1).max(200) }),
    z.strictObject({ families: z.array(z.enum(familyNames)).min(1).max(16) }),
  ])
  .meta({ title: 'Tracks', description: 'all, drums, pitched, or tracks by name or by family.' });

export type Meaning = Shown<z.infer<typeof meaningSchema>>;

const isDrums = (t: Track): boolean => channelsOf(t.events).includes(percussionChannel);

function familyOfTrack(t: Track): string | undefined {
  const at = t.events.status.findIndex((s) => s >> 4 === 0xc && (s & 15) !== percussionChannel);
  return at === -1 ? undefined : familyNames[t.events.data1[at]! >> 3];
}

/**
 * The tracks that are meant, of those given. Names that no track has are refused: a recipe for a part that
 * is missing is no small thing.
 */
export function tracksMeant(
  song: Song,
  among: readonly Track[],
  meaning: Meaning,
  field: string,
): Result<readonly Track[]> {
  if (meaning === 'all') return ok(among);
  if (meaning === 'drums') return ok(among.filter(isDrums));
  if (meaning === 'pitched')
    return ok(
      among.filter(
        (t) =>
          playsChannel(t.events) && !isDrums(t) && !(hasMapTrack(song) && t === song.tracks[0]),
      ),
    );
  if ('families' in meaning)
    return ok(among.filter((t) => (meaning.families as string[]).includes(familyOfTrack(t) ?? '')));
  const key = (name: string): string => name.trim().toLowerCase();
  const names = new Map(among.map((t) => [t.id, key(trackName(t, song.encoding))]));
  const missing = meaning.named.filter((name) => ![...names.values()].includes(key(name)));
  if (missing.length > 0)
    return refused({ code: 'recipe-tracks-missing', where: { field }, names: missing });
  const wanted = new Set(meaning.named.map(key));
  return ok(among.filter((t) => wanted.has(names.get(t.id)!)));
}

/** The meaning that fits tracks of a song: what a step was taken on, said for other songs. */
export function meaningOf(
  song: { readonly tracks: readonly { readonly id: string; readonly name: string }[] },
  scope: 'all' | readonly string[],
  nameThen: ReadonlyMap<string, string>,
): Meaning {
  if (scope === 'all') return 'all';
  const names = scope
    .map((id) => song.tracks.find((t) => t.id === id)?.name || nameThen.get(id) || '')
    .filter((name) => name !== '');
  return names.length === 0 ? 'all' : { named: [...new Set(names)] };
}
