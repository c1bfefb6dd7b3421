import { Buffer } from 'node:buffer';
import type { ApiError } from '#contracts/errors.ts';
import type { OriginalView } from '#contracts/songs.ts';
import type { Handlers } from '../answering.ts';
import { Refusal, need } from '../refusal.ts';
import type { Services } from '../services.ts';
import { sendFile } from '../send-file.ts';
import { fileProblems, nameRefusal, placed, uploads, type ReceivedFile } from '../upload.ts';
import { originalView } from '../views.ts';

/** Files that are kept for steps to take from, without being songs. */
export function originalHandlers({
  config,
  sources,
  pool,
}: Services): Pick<
  Handlers,
  'addOriginals' | 'getContents' | 'getFile' | 'getFileSource' | 'setFileSource'
> {
  const receive = uploads(config);

  async function keep(file: ReceivedFile): Promise<OriginalView> {
    const refusal = nameRefusal(file.name);
    if (refusal) throw refusal;
    const bytes = new Uint8Array(await file.bytes());
    const task = await pool.run('contents', { bytes, fileName: file.name });
    const held = need(placed(task, { file: file.name }));
    await sources.keep(held.sha256, Buffer.from(bytes.buffer));
    return originalView(held, bytes.length, file.name);
  }

  const unknown = (sha256: string): Refusal =>
    new Refusal({ code: 'original-unknown', where: { id: sha256.slice(0, 100) } });

  async function kept(sha256: string): Promise<Buffer> {
    const bytes = /^[0-9a-f]{64}$/.test(sha256) ? await sources.bytesOf(sha256) : undefined;
    if (!bytes) throw unknown(sha256);
    return bytes;
  }

  return {
    async getFileSource({ params: { sha256 } }) {
      const source = await sources.sourceSaid(sha256);
      if (source === undefined) throw unknown(sha256);
      return { source };
    },

    async setFileSource({ params: { sha256 }, body: { source } }) {
      if (!(await sources.setFileSource(sha256, source))) throw unknown(sha256);
      return { source };
    },

    async addOriginals({ request, response }) {
      const { files, done } = await receive(request, response);
      try {
        if (files.length === 0)
          throw new Refusal({ code: 'file-missing', where: { field: 'file' } });
        const originals: OriginalView[] = [];
        const problems: ApiError[] = [];
        let first: Refusal | undefined;
        for (const file of files) {
          try {
            originals.push(await keep(file));
            problems.push(...fileProblems(file));
          } catch (error) {
            if (!(error instanceof Refusal)) throw error;
            first ??= error;
            problems.push(error.body);
          }
        }
        if (first && originals.length === 0) throw first;
        return { originals, problems };
      } finally {
        await done();
      }
    },

    async getContents({ params: { sha256 } }) {
      const bytes = await kept(sha256);
      const held = need(await pool.run('contents', { bytes: new Uint8Array(bytes), fileName: '' }));
      return originalView(held, bytes.length);
    },

    getFile: async ({ params: { sha256 }, response }) =>
      sendFile(response, `${sha256.slice(0, 12)}.mid`, await kept(sha256)),
  };
}
