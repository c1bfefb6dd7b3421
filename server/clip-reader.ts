import { createHash } from 'node:crypto';
import type { ApiError } from '#contracts/errors.ts';
import { need, Refusal } from './refusal.ts';
import { isShelfFile, saidOfClips } from './shelf-zip.ts';
import type { NewClip } from './store/shelf-store.ts';
import type { Services } from './services.ts';
import { fileProblems, nameRefusal, placed, type ReceivedFile } from './upload.ts';

/** A file's folders within the one it is put into, and its own name. */
function placeOf(folder: string, path: string): { folder: string; file: string } {
  const parts = path.split('/').filter((p) => p.trim() !== '' && p !== '.');
  if (parts.includes('..'))
    throw new Refusal({
      code: 'file-name-invalid',
      where: { file: path },
      why: 'a way out of its folder',
    });
  const file = parts.pop() ?? '';
  return { folder: [folder, ...parts].filter(Boolean).join('/'), file };
}

/** Reads files as clips, and keeps them: all that can be read is; refused only where nothing can. */
export function clipReader(
  pool: Services['pool'],
  sources: Services['sources'],
): (
  files: readonly ReceivedFile[],
  folder: string,
) => Promise<{ clips: NewClip[]; problems: ApiError[] }> {
  /** The clips of a file: one for each song in it. */
  async function clipsOf(
    sent: ReceivedFile,
    into: string,
    said: Awaited<ReturnType<typeof saidOfClips>>,
  ): Promise<NewClip[]> {
    const { folder, file } = placeOf(into, sent.path ?? sent.name);
    const refusal = nameRefusal(file);
    if (refusal) throw refusal;
    const bytes = new Uint8Array(await sent.bytes());
    const sha256 = createHash('sha256').update(bytes).digest('hex');
    const found = need(placed(await pool.run('clips', { bytes, fileName: file }), { file }));
    await sources.keep(sha256, Buffer.from(bytes.buffer));
    return found.map(({ name, facts }, n): NewClip => {
      const part = n + 1;
      const known = said(sent.path ?? sent.name, part);
      const { kind = facts.kind, bars = facts.bars } = known ?? {};
      return {
        ...{ sha256, part, folder, name: known?.name ?? name },
        facts: { ...facts, kind, bars },
        tags: known?.tags ?? [],
      };
    });
  }

  return async function readAll(
    files: readonly ReceivedFile[],
    folder: string,
  ): Promise<{ clips: NewClip[]; problems: ApiError[] }> {
    if (files.length === 0) throw new Refusal({ code: 'file-missing', where: { field: 'file' } });
    const said = await saidOfClips(files);
    const clips: NewClip[] = [];
    const refusals: Refusal[] = [];
    const problems: ApiError[] = [];
    for (const file of files.filter((f) => !isShelfFile(f))) {
      try {
        clips.push(...(await clipsOf(file, folder, said)));
        problems.push(...fileProblems(file));
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
        refusals.push(error);
      }
    }
    if (refusals[0] && clips.length === 0) throw refusals[0];
    return { clips, problems: [...refusals.map((r) => r.body), ...problems] };
  };
}
