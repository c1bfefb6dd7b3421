import type { Song, Track } from '../../song/song.ts';
import type { Wanted } from '../settings.ts';
import { kindOf } from './reading/event-kind.ts';

const percussion = 9;

/**
 * Whether each drum is on a track of its own where that was asked for, and none was moved where it was not. A
 * track with notes on other channels than the tenth is no track of drums (General MIDI).
 */
export function verifyDrums(
  source: Song,
  sent: Song,
  parents: ReadonlyMap<string, string>,
  { divide, form }: Wanted,
): string[] {
  const isAsked = divide === 'drums' || form.drums === 'each its own track';
  const places = new Map(source.tracks.map(({ id }, place) => [id, place + 1]));
  const differences: string[] = [];
  for (const track of sent.tracks) {
    const place = places.get(parents.get(track.id) ?? track.id);
    if (place === undefined) differences.push(`a track is sent that the song does not have`);
    else if (!isAsked && !places.has(track.id))
      differences.push(`the drums of track ${place} were split, which was not asked for`);
    else if (isAsked && drumKeys(track).size > 1)
      differences.push(`track ${place} leaves with several drums on one track`);
  }
  return differences;
}

/** The keys that a track of drums plays; none where it plays anything else. */
function drumKeys({ events }: Track): Set<number> {
  const keys = new Set<number>();
  for (let row = 0; row < events.count; row++) {
    if (kindOf(events, row) !== 'note on') continue;
    if ((events.status[row]! & 15) !== percussion) return new Set();
    keys.add(events.data1[row]!);
  }
  return keys;
}
