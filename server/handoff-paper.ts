import { namesBy } from '#core/handoff/names.ts';
import type { Paper } from '#core/handoff/paper.ts';
import type { HandoffRecord } from './db/models.ts';
import { filesOf, slipsOf } from './store/handoff-store.ts';

/** What an archive of a song's files is called. */
export const zipName = (song: string): string =>
  namesBy(
    '{song}',
    [{ song, track: '', nn: '', instrument: '', bpm: '', key: '', section: '', version: '' }],
    '.zip',
  ).names[0]!;

/** What the slip of a handoff is called, without its ending. */
export const paperName = (handoff: HandoffRecord): string =>
  filesOf(handoff).length === 1 ? handoff.slip.file : zipName(handoff.slip.song).slice(0, -4);

/** The paper that goes with a handoff. */
export const paperOf = (handoff: HandoffRecord): Paper => ({
  song: handoff.slip.song,
  revision: handoff.revision,
  at: handoff.createdAt.toISOString().slice(0, 19).replace('T', ' '),
  notes: filesOf(handoff).length === 1 ? [] : (handoff.notes ?? []),
  files: slipsOf(handoff),
});
