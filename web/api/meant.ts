import type { SongView } from '#contracts/songs.ts';
import { namesSources } from '#core/operations/sources.ts';
import type { Asked, Meant } from '../desk/meant.ts';
import { outlineOf, theDesk } from '../desk/the-desk.ts';
import { mostEvents } from './preview.ts';

/** The events that findings are about; undefined where the song is too large to look for them beside the page. */
export async function meantOf(
  song: SongView,
  findings: readonly Asked[],
): Promise<Meant | undefined> {
  const events = song.tracks.reduce((sum, t) => sum + t.events, 0);
  const here = findings.filter(
    (f) => !namesSources((f.step?.settings ?? {}) as Record<string, unknown>),
  );
  if (events > mostEvents || here.length === 0) return undefined;
  return theDesk().meant(outlineOf(song), here);
}
