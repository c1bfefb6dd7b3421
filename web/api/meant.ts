import type { SongView } from '#contracts/songs.ts';
import { namesSources } from '#core/operations/sources.ts';
import type { Meant } from '../desk/meant.ts';
import { outlineOf, theDesk } from '../desk/the-desk.ts';
import { mostEvents } from './preview.ts';
import type { StepAsked } from './queries.ts';

/** The events that steps would change; undefined where the song is too large to look for them beside the page. */
export async function meantOf(
  song: SongView,
  steps: readonly StepAsked[],
): Promise<Meant | undefined> {
  const events = song.tracks.reduce((sum, t) => sum + t.events, 0);
  const here = steps.filter((s) => !namesSources(s.settings ?? {}));
  if (events > mostEvents || here.length === 0) return undefined;
  return theDesk().meant(outlineOf(song), here);
}
