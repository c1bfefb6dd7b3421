import { Readable } from 'node:stream';
import { ZipFile } from 'yazl';
import { trimEnd } from '#core/units/trim-ends.ts';
import { shelfFileName, shelfFileSchema, type ShelfFile } from '#contracts/shelf-file.ts';
import { schemaFault } from '#core/problems/schema-fault.ts';
import type { ClipRecord } from './db/models.ts';
import { Refusal } from './refusal.ts';
import { readList, type ReceivedFile } from './upload.ts';

/** Characters that no system takes in a name. */
const unsafe = /[<>:"\\|?*\p{Cc}]/gu;
const safe = (name: string): string => trimEnd(name.replace(unsafe, '_'), '. ') || '_';

/**
 * Clips as a zip archive: their files in their folders, and `shelf.json` with what is not in them. Files
 * are read as they are written.
 */
export function shelfZip(
  clips: readonly ClipRecord[],
  bytesOf: (sha256: string) => Promise<Buffer | undefined>,
): NodeJS.ReadableStream {
  const zip = new ZipFile();
  const taken = new Set<string>();
  const listed: ShelfFile['clips'] = [];
  for (const { sha256, part, folder, name, kind, tags, bars, addedAt } of clips) {
    const at = [...folder.split('/').filter(Boolean), name].map(safe).join('/');
    const file = freePath(at, taken);
    zip.addReadStreamLazy(file, { mtime: addedAt }, (give) => {
      bytesOf(sha256).then(
        (bytes) => give(null, Readable.from([bytes ?? Buffer.alloc(0)])),
        (error: Error) => give(error, Readable.from([])),
      );
    });
    listed.push({ file, part, name, kind, tags: [...tags], bars });
  }
  const shelf: ShelfFile = { version: 1, clips: listed };
  zip.addBuffer(Buffer.from(JSON.stringify(shelf, null, 1)), shelfFileName);
  zip.end();
  return zip.outputStream;
}

/** A path that no other file has, also where upper and lower case are the same. */
function freePath(path: string, taken: Set<string>): string {
  for (let n = 1; ; n++) {
    const file = `${path}${n === 1 ? '' : ` (${n})`}.mid`;
    if (taken.has(file.toLowerCase())) continue;
    taken.add(file.toLowerCase());
    return file;
  }
}

type Known = ShelfFile['clips'][number];

/** What a zip of a shelf says of its clips, by path and part; nothing where it holds no list. */
export async function saidOfClips(
  files: readonly ReceivedFile[],
): Promise<(path: string, part: number) => Known | undefined> {
  const list = files.find(isShelfFile);
  if (!list) return () => undefined;
  const given = parsed(await readList(list));
  const read = shelfFileSchema.safeParse(given);
  if (!read.success) {
    const fault = schemaFault('shelf', read.error, given);
    throw new Refusal({ ...fault, where: { file: shelfFileName, ...fault.where } });
  }
  const above = (list.path ?? '').slice(0, -shelfFileName.length);
  const known = new Map(read.data.clips.map((c) => [`${above}${c.file} ${c.part}`, c]));
  return (path, part) => known.get(`${path} ${part}`);
}

export const isShelfFile = ({ name, path }: ReceivedFile): boolean =>
  path !== undefined && name === shelfFileName;

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
