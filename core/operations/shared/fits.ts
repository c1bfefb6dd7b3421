import { refused, type Problem } from '../../problems/problems.ts';
import { fitsFormat } from '../../smf/write.ts';
import { trackLabel, type Song } from '../../song/song.ts';

/** Why a file could not hold the song; undefined where it can. Times between two events have 28 bits (SMF 1.0). */
export function cannotHold(song: Song): { ok: false; problem: Problem } | undefined {
  const track = song.tracks.find((t) => !fitsFormat(t.events));
  return track && refused({ code: 'format-cannot-hold', where: { field: 'settings' }, why: `more than 268,435,455 ticks between two events of ${trackLabel(song, track)}`, remedy: 'Choose a smaller value; nothing was done.' });
}
