import type { Readable } from 'node:stream';
import { crc32 } from 'node:zlib';
import yauzl, { type Entry, type ZipFile } from 'yauzl';
import type { Problem } from '#core/problems/problems.ts';
import { Refusal } from './refusal.ts';

/** A file in an archive, by the last part of its name. */
export interface PackedFile {
  readonly name: string;
  readonly path: string;
  /** Bytes when it is unpacked. */
  readonly size: number;
  /** Unpacks it, whole. */
  bytes(): Promise<Buffer>;
  /** What was wrong when it was last unpacked, though it could be. */
  problems(): readonly Problem[];
}

export interface Archive {
  readonly files: readonly PackedFile[];
  /** Of all its files when they are unpacked. */
  readonly unpackedBytes: number;
  close(): void;
}

export interface ArchiveLimits {
  readonly mostFiles: number;
  /** Of one file when it is unpacked. */
  readonly mostFileBytes: number;
  /** Of all files together when they are unpacked. */
  readonly maxUnpackedBytes: number;
}

/** A file that unpacks to so many times its size is made to fill a disk. */
const mostRatio = 500;
/** Entries for each file: folders, and what systems put beside files. An archive of more is not read. */
const maxEntriesPerFile = 4;

/** Folders, and what systems put beside files. */
const isPlain = (name: string): boolean =>
  !name.endsWith('/') && !/(^|\/)(__MACOSX\/|\.)/.test(name);

/**
 * Opens a zip archive, its folders as deep as they are. Refused where it cannot be read, holds nothing or too
 * much, where a name leads out of it, or where files overlap. Nothing is unpacked before it is asked for.
 */
export async function openArchive(
  path: string,
  file: string,
  limits: ArchiveLimits,
): Promise<Archive> {
  const unreadable = (why: string): Refusal =>
    new Refusal({ code: 'archive-unreadable', where: { file }, why });
  const zip = await opened(path).catch((error: Error) => {
    throw unreadable(inWords(error));
  });
  try {
    if (zip.entryCount > (limits.mostFiles + 1) * maxEntriesPerFile)
      throw tooMany(file, limits.mostFiles);
    const entries = (
      await entriesOf(zip).catch((error: Error) => {
        throw unreadable(inWords(error));
      })
    ).filter(({ fileName }) => isPlain(fileName));
    if (entries.length === 0) throw unreadable('no files in it');
    if (entries.length > limits.mostFiles) throw tooMany(file, limits.mostFiles);
    const overlap = findOverlap(entries);
    if (overlap) throw unreadable(`files that overlap: ${overlap.join(' and ')}`);
    const unpackedBytes = entries.reduce((sum, entry) => sum + entry.uncompressedSize, 0);
    if (unpackedBytes > limits.maxUnpackedBytes)
      throw new Refusal({
        code: 'archive-too-large',
        where: { file },
        maxBytes: limits.maxUnpackedBytes,
        bytes: unpackedBytes,
      });
    const files = entries.map((entry) => packedFile(zip, entry, limits.mostFileBytes));
    return { files, unpackedBytes, close: () => zip.close() };
  } catch (error) {
    zip.close();
    throw error;
  }
}

/** What the library found, so that it can stand in a sentence. */
const inWords = ({ message }: Error): string =>
  /central directory/i.test(message)
    ? 'no end of an archive: it is cut short, or is none'
    : /unsupported compression method/i.test(message)
      ? 'a file that is packed in another way than zip’s usual ones'
      : message.replace(/\.$/, '');

const tooMany = (file: string, most: number): Refusal =>
  new Refusal({ code: 'files-too-many', where: { file }, most });

const opened = (path: string): Promise<ZipFile> =>
  new Promise((resolve, reject) =>
    yauzl.open(
      path,
      { lazyEntries: true, autoClose: false, strictFileNames: false },
      (error, zip) => (error ? reject(error) : resolve(zip)),
    ),
  );

function entriesOf(zip: ZipFile): Promise<Entry[]> {
  return new Promise((resolve, reject) => {
    const entries: Entry[] = [];
    zip.on('entry', (entry: Entry) => {
      entries.push(entry);
      zip.readEntry();
    });
    zip.once('end', () => resolve(entries));
    zip.once('error', reject);
    zip.readEntry();
  });
}

/** A local header without name and extra fields, in bytes (PKWARE APPNOTE 4.3.7). */
const localHeaderBytes = 30;

/** Two files that share bytes of the archive, by name: one body for many files unpacks to any size. */
function findOverlap(entries: readonly Entry[]): readonly [string, string] | undefined {
  const byPlace = [...entries].sort(
    (a, b) => a.relativeOffsetOfLocalHeader - b.relativeOffsetOfLocalHeader,
  );
  for (const [n, entry] of byPlace.entries()) {
    const next = byPlace[n + 1];
    const { relativeOffsetOfLocalHeader: from, compressedSize, fileName } = entry;
    if (next && next.relativeOffsetOfLocalHeader < from + localHeaderBytes + compressedSize)
      return [fileName, next.fileName];
  }
  return undefined;
}

function packedFile(zip: ZipFile, entry: Entry, maxBytes: number): PackedFile {
  const name = entry.fileName.split('/').at(-1)!;
  let problems: readonly Problem[] = [];
  return {
    name,
    path: entry.fileName,
    size: entry.uncompressedSize,
    async bytes() {
      const bytes = await unpacked(zip, entry, name, maxBytes);
      problems =
        crc32(bytes) === entry.crc32 ? [] : [{ code: 'checksum-wrong', where: { file: name } }];
      return bytes;
    },
    problems: () => problems,
  };
}

async function unpacked(
  zip: ZipFile,
  entry: Entry,
  file: string,
  mostBytes: number,
): Promise<Buffer> {
  const { uncompressedSize, compressedSize } = entry;
  if (uncompressedSize > mostBytes)
    throw new Refusal({
      code: 'file-too-large',
      where: { file },
      mostBytes,
      setting: 'SATCHEL_MAX_MB',
    });
  if (uncompressedSize > 1_048_576 && uncompressedSize > compressedSize * mostRatio)
    throw new Refusal({
      code: 'archive-unreadable',
      where: { file },
      why: `a file that unpacks to more than ${mostRatio} times its size`,
    });
  if (entry.isEncrypted())
    throw new Refusal({
      code: 'archive-unreadable',
      where: { file },
      why: 'a file with a password',
    });
  try {
    // The library ends a stream that gives more or less than was stated.
    const parts: Buffer[] = [];
    for await (const part of await streamOf(zip, entry)) parts.push(part as Buffer);
    return Buffer.concat(parts);
  } catch (error) {
    const why = error instanceof Error ? inWords(error) : 'a broken file';
    throw new Refusal({ code: 'archive-unreadable', where: { file }, why });
  }
}

const streamOf = (zip: ZipFile, entry: Entry): Promise<Readable> =>
  new Promise((resolve, reject) =>
    zip.openReadStream(entry, (error, stream) => (error ? reject(error) : resolve(stream))),
  );
