import type { Operation } from './operation.ts';
import { songName } from './song-name/operation.ts';
import { tracksRemove } from './tracks-remove/operation.ts';
import { tracksRename } from './tracks-rename/operation.ts';
import { tracksReorder } from './tracks-reorder/operation.ts';
import { tracksSplitByChannel } from './tracks-split-by-channel/operation.ts';

/** Every operation there is. Adding one is a folder and a line here; ids never vanish. */
export const operations: readonly Operation[] = [songName, tracksRename, tracksReorder, tracksRemove, tracksSplitByChannel];

const byId = new Map(operations.map((operation) => [operation.id as string, operation]));

export const findOperation = (id: string): Operation | undefined => byId.get(id);
