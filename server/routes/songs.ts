import { say } from '#core/problems/sentences.ts';
import type { ApiError } from '#contracts/errors.ts';
import type { SongRow } from '#contracts/songs.ts';
import type { Handlers } from '../answering.ts';
import type { Services } from '../services.ts';
import { Refusal, need } from '../refusal.ts';
import { takings, type Taken } from '../satchel-in.ts';
import { beginSchema, begunFile } from '#core/work/begin.ts';
import { jsonBody } from '../body.ts';
import { sendFile } from '../send-file.ts';
import { fileProblems, nameRefusal, placed, uploads, type ReceivedFile } from '../upload.ts';
import { purgeAt } from '../store/keeping.ts';
import { listedRow, songRow, songView } from '../views.ts';
import type { SongAt } from '../store/song-store.ts';

type SongHandlers = Pick<
  Handlers,
  'bringIn' | 'listSongs' | 'getSong' | 'getOriginal' | 'removeSong' | 'restoreSong' | 'tagSong'
>;

/** Songs as a whole: they come in, are listed and shown, go and come back. */
export function songHandlers(services: Services): SongHandlers {
  const { config, songs, views, pool } = services;
  const receive = uploads(config);

  const row = async (at: SongAt): Promise<SongRow> =>
    songRow(at, (await songs.sizes([at.record.original])).get(at.record.original) ?? 0);

  /** One file into songs; the problems are those that were mended. */
  async function takeFile(file: ReceivedFile): Promise<Taken> {
    const refusal = nameRefusal(file.name);
    if (refusal) throw refusal;
    const bytes = await file.bytes();
    const intake = need(
      placed(await pool.run('readFile', { bytes: new Uint8Array(bytes), fileName: file.name }), {
        file: file.name,
      }),
    );
    const reading = intake.problems.map((p) =>
      say({ ...p, where: { file: file.name, ...p.where } }),
    );
    const ids = await songs.take(intake, { name: file.name, bytes }, reading);
    for (const [n, { first, split }] of intake.songs.entries())
      views.made(
        ids[n]!,
        split ? 1 : 0,
        split ? { ...split, facts: [...first.facts, ...split.facts] } : first,
      );
    return { ids, problems: [...fileProblems(file), ...reading] };
  }

  /** All that can be taken is; refused only where nothing can. */
  async function takeFiles(
    files: readonly ReceivedFile[],
  ): Promise<{ songs: SongRow[]; problems: ApiError[] }> {
    if (files.length === 0) throw new Refusal({ code: 'file-missing', where: { field: 'file' } });
    const uploaded = { songs: [] as SongRow[], problems: [] as ApiError[] };
    let refusal: Refusal | undefined;
    for (const take of await takings(services, files, takeFile)) {
      try {
        const { ids, problems } = await take();
        for (const id of ids) uploaded.songs.push(await row(await songs.find(id)));
        uploaded.problems.push(...problems);
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
        refusal ??= error;
        uploaded.problems.push(error.body);
      }
    }
    if (refusal && uploaded.songs.length === 0) throw refusal;
    return uploaded;
  }

  return {
    async bringIn({ request, response }) {
      if (request.is('application/json')) {
        const begin = jsonBody(request, beginSchema);
        const bytes = Buffer.from(need(begunFile(begin)));
        return takeFiles([{ name: `${begin.title}.mid`, bytes: async () => bytes }]);
      }
      const { files, done } = await receive(request, response);
      return takeFiles(files).finally(done);
    },

    async listSongs({ query }) {
      const { songs: page, total } = await songs.list(query);
      return {
        songs: page.map((s) => listedRow(s, config.keepRemovedDays)),
        total,
        keepRemovedDays: config.keepRemovedDays,
      };
    },

    async getSong({ params }) {
      const at = await songs.find(params.id);
      const [sizes, { undo, redo }, shown] = await Promise.all([
        songs.sizes([at.record.original]),
        songs.neighbours(at.record),
        views.show(at),
      ]);
      return songView(at, shown, { bytes: sizes.get(at.record.original) ?? 0 }, undo, redo);
    },

    async getOriginal({ params, response }) {
      const record = await songs.record(params.id);
      return sendFile(response, record.fileName, await songs.original(record.original));
    },

    async removeSong({ params }) {
      const removedAt = await songs.remove(params.id);
      return {
        removedAt: removedAt.toISOString(),
        purgeAt: purgeAt(removedAt, config.keepRemovedDays)?.toISOString() ?? null,
      };
    },

    async tagSong({ params, body }) {
      return { tags: await songs.tag(params.id, body.tags) };
    },

    async restoreSong({ params }) {
      await songs.restore(params.id);
      return row(await songs.find(params.id));
    },
  };
}
