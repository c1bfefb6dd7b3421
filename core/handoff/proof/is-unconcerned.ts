import { payloadOf } from '../../smf/events.ts';
import type { Song } from '../../song/song.ts';
import type { Wanted } from '../settings.ts';
import { isTextRow, kindOf } from './reading/event-kind.ts';
import { mayLeave, touchesNothing } from './reading/leaving.ts';
import { readSongMap } from './reading/song-map.ts';

/**
 * Whether the settings ask for nothing that would change any event of a song: then its very tracks may
 * leave, and nothing need be compared. One look at each event where they ask for anything.
 */
export function isUnconcerned(song: Song, { take, form }: Wanted): boolean {
  if (!isFormPlain(song, form)) return false;
  const asksNames = form.longestName !== null || form.longestMark !== null;
  const isKaraoke = form.format === 'karaoke';
  if (touchesNothing(take) && form.text === 'as they are' && !asksNames && !isKaraoke) return true;
  if (take.channels !== 'as they are') return false;
  const leaves = mayLeave(take);
  const { sectionAt } = readSongMap(song);
  return song.tracks.every(({ events }, n) => {
    for (let row = 0; row < events.count; row++) {
      const isSection = events.status[row] === 0xff && sectionAt(n, row) !== undefined;
      if (isSection ? !take.sections : !leaves(events, row)) return false;
      if (events.status[row] !== 0xff) continue;
      const kind = kindOf(events, row);
      const isMark = kind === 'marker' || kind === 'cue point';
      if (isMark && take.markers !== 'as they are') return false;
      if (kind === 'lyric' && isKaraoke) return false;
      if (!isTextRow(events, row)) continue;
      const text = payloadOf(events, row);
      if (form.text !== 'as they are' && text.some((byte) => byte > 0x7f)) return false;
      const longest = isMark ? form.longestMark : form.longestName;
      if (longest !== null && text.length > longest) return false;
    }
    return true;
  });
}

function isFormPlain(song: Song, form: Wanted['form']): boolean {
  const isResolution =
    form.ppq === null ||
    (song.division.kind === 'ppq' && song.division.ticksPerQuarter === form.ppq);
  const isTempo =
    song.division.kind === 'smpte' || (form.tempo === 'as it is' && form.steps === null);
  return isResolution && isTempo && form.end === 'as it is' && form.start === 'in its place';
}
