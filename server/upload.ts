import { open, readFile, rm } from 'node:fs/promises';
import type { Request, Response } from 'express';
import multer, { MulterError } from 'multer';
import type { ApiError } from '#contracts/errors.ts';
import type { Problem, Where } from '#core/problems/problems.ts';
import { say } from '#core/problems/sentences.ts';
import { openArchive, type Archive } from './archive.ts';
import type { Config } from './config.ts';
import { incomingFolder } from './incoming.ts';
import { Refusal } from './refusal.ts';
import { isNoRoom } from './room.ts';

export interface ReceivedFile {
  readonly name: string;
  /** With its folders, where it has any. */
  readonly path?: string;
  /** Where it was put aside by itself, until the request is done. */
  readonly at?: string;
  /** Bytes that an archive states for it, which is held to that. */
  readonly size?: number;
  /** The bytes, read from where the upload was put aside. */
  bytes(): Promise<Buffer>;
  /** What was wrong with them when they were read, though they could be. */
  problems?(): readonly Problem[];
}

/** The problems of a file that was read, as they are answered. */
export const fileProblems = (file: ReceivedFile): ApiError[] => (file.problems?.() ?? []).map(say);

/** A list in a satchel or a shelf is read whole, on the main thread: it may have so many bytes. */
const maxListBytes = 8 * 1_048_576;

/** The text of a list that came among files. */
export async function readList(file: ReceivedFile): Promise<string> {
  if ((file.size ?? 0) > maxListBytes)
    throw new Refusal({
      code: 'list-too-large',
      where: { file: file.path ?? file.name },
      maxBytes: maxListBytes,
      bytes: file.size!,
    });
  return (await file.bytes()).toString('utf8');
}

/** Takes files in: put aside on disk while they arrive, gone when the request is done. */
export function uploads(
  config: Config,
): (
  request: Request,
  response: Response,
) => Promise<{ files: ReceivedFile[]; done: () => Promise<void> }> {
  const folder = incomingFolder(config);
  const receive = multer({
    dest: folder,
    limits: { fileSize: config.mostFileBytes, files: config.mostFilesAtOnce },
    defParamCharset: 'utf8',
    // Paths are kept in names, so that they can be refused instead of silently changed.
    preservePath: true,
  }).array('file');
  return async (request, response) => {
    if (!request.is('multipart/form-data')) {
      throw new Refusal({
        code: 'content-type-wrong',
        where: { field: 'Content-Type' },
        expected: 'multipart/form-data with files in the field "file"',
        found: request.headers['content-type'] ?? 'none',
      });
    }
    await new Promise<void>((resolve, reject) =>
      receive(request, response, (error: unknown) =>
        error ? reject(refusal(error, config)) : resolve(),
      ),
    );
    const stored = (request.files ?? []) as Express.Multer.File[];
    const archives: Archive[] = [];
    const done = async (): Promise<void> => {
      for (const archive of archives) archive.close();
      await Promise.all(stored.map((f) => rm(f.path, { force: true })));
    };
    try {
      const files: ReceivedFile[] = [];
      let unpackedBytes = 0;
      for (const { originalname: name, path: at } of stored) {
        if (!(await isZip(at))) files.push({ name, at, bytes: () => readFile(at) });
        else {
          const left = config.mostFilesInArchive - files.length;
          const archive = await openArchive(at, name, {
            mostFiles: left,
            mostFileBytes: config.mostFileBytes,
            maxUnpackedBytes: config.maxUnpackedBytes - unpackedBytes,
          });
          archives.push(archive);
          unpackedBytes += archive.unpackedBytes;
          files.push(...archive.files);
        }
      }
      return { files, done };
    } catch (error) {
      await done();
      throw error;
    }
  };
}

/** The signature of a zip archive: of its first file, or of an empty one's end (PKWARE APPNOTE 4.3.7, 4.3.16). */
async function isZip(at: string): Promise<boolean> {
  const file = await open(at);
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(4), 0, 4, 0);
    return bytesRead === 4 && ['504b0304', '504b0506'].includes(buffer.toString('hex'));
  } finally {
    await file.close();
  }
}

function refusal(error: unknown, config: Config): Error {
  if (isNoRoom(error)) return new Refusal({ code: 'no-room', where: { field: 'file' } });
  if (error instanceof MulterError) {
    if (error.code === 'LIMIT_FILE_SIZE')
      return new Refusal({
        code: 'file-too-large',
        where: { field: 'file' },
        mostBytes: config.mostFileBytes,
        setting: 'SATCHEL_MAX_MB',
      });
    if (error.code === 'LIMIT_FILE_COUNT')
      return new Refusal({
        code: 'files-too-many',
        where: { field: 'file' },
        most: config.mostFilesAtOnce,
      });
    if (error.code === 'LIMIT_UNEXPECTED_FILE')
      return new Refusal({ code: 'file-missing', where: { field: 'file' } });
    return new Refusal({ code: 'body-unreadable', where: {}, why: error.message });
  }
  return new Refusal({
    code: 'body-unreadable',
    where: {},
    why: error instanceof Error ? error.message.slice(0, 200) : 'a broken upload',
  });
}

/** Why a file name cannot be used; undefined where it can. */
export function nameFault(name: string): string | undefined {
  if (name.trim() === '') return 'no name';
  if (/[\\/]/.test(name)) return 'a path';
  if (/\p{Cc}/u.test(name)) return 'control characters';
  if (name === '.' || name === '..') return 'only dots';
  if (Buffer.byteLength(name) > 255) return 'more than 255 bytes';
  return undefined;
}

/** The refusal of a file whose name cannot be used. */
export function nameRefusal(name: string): Refusal | undefined {
  const why = nameFault(name);
  const shown = name.replace(/\p{Cc}/gu, '�').slice(0, 100);
  return why === undefined
    ? undefined
    : new Refusal({ code: 'file-name-invalid', where: { file: shown }, why });
}

/** A refusal that says which file it is about. */
export function placed<T>(
  result: { ok: true; value: T } | { ok: false; problem: Problem },
  where: Where,
): typeof result {
  return result.ok
    ? result
    : { ok: false, problem: { ...result.problem, where: { ...where, ...result.problem.where } } };
}
