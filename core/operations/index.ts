import type { Operation } from './operation.ts';
import { controllersSettle } from './controllers-settle/operation.ts';
import { controllersThin } from './controllers-thin/operation.ts';
import { eventsDelete } from './events-delete/operation.ts';
import { eventsKeepNotes } from './events-keep-notes/operation.ts';
import { eventsRemove } from './events-remove/operation.ts';
import { notesHumanise } from './notes-humanise/operation.ts';
import { notesLengths } from './notes-lengths/operation.ts';
import { notesQuantise } from './notes-quantise/operation.ts';
import { notesRepair } from './notes-repair/operation.ts';
import { notesTranspose } from './notes-transpose/operation.ts';
import { songName } from './song-name/operation.ts';
import { timingTidy } from './timing-tidy/operation.ts';
import { tracksChannel } from './tracks-channel/operation.ts';
import { tracksRemove } from './tracks-remove/operation.ts';
import { tracksRename } from './tracks-rename/operation.ts';
import { tracksReorder } from './tracks-reorder/operation.ts';
import { tracksSplitByChannel } from './tracks-split-by-channel/operation.ts';
import { velocityAccent } from './velocity-accent/operation.ts';
import { velocityRandomise } from './velocity-randomise/operation.ts';
import { velocitySet } from './velocity-set/operation.ts';
import { velocityWiden } from './velocity-widen/operation.ts';

/** Every operation there is. Adding one is a folder and a line here; ids never vanish. */
export const operations: readonly Operation[] = [
  songName, tracksRename, tracksReorder, tracksRemove, tracksSplitByChannel, tracksChannel, timingTidy,
  eventsDelete, eventsKeepNotes, eventsRemove, controllersThin, controllersSettle,
  velocitySet, velocityWiden, velocityRandomise, velocityAccent, notesTranspose, notesQuantise, notesLengths, notesHumanise, notesRepair,
];

const byId = new Map(operations.map((operation) => [operation.id as string, operation]));

export const findOperation = (id: string): Operation | undefined => byId.get(id);
