import { createHash } from 'node:crypto';
import { pipeline } from 'node:stream/promises';
import type { ClipView } from '#contracts/shelf.ts';
import type { Handlers } from '../answering.ts';
import type { ClipRecord } from '../db/models.ts';
import { need, Refusal } from '../refusal.ts';
import type { Services } from '../services.ts';
import { clipReader } from '../clip-reader.ts';
import { shelfZip } from '../shelf-zip.ts';
import { uploads } from '../upload.ts';

type ShelfHandlers = Pick<
  Handlers,
  | 'listClips'
  | 'addClips'
  | 'getShelfFile'
  | 'cutClip'
  | 'changeClip'
  | 'removeClip'
  | 'restoreClip'
  | 'listFolders'
  | 'moveFolder'
>;

const view = (clip: ClipRecord): ClipView => ({
  ...{ id: clip.id, sha256: clip.sha256, part: clip.part, folder: clip.folder, name: clip.name },
  ...{ tags: clip.tags, kind: clip.kind, bars: clip.bars, meter: clip.meter, bpm: clip.bpm },
  ...{ key: clip.key, notes: clip.notes, drums: clip.drums },
  program: clip.program === null ? null : clip.program + 1,
  addedAt: clip.addedAt.toISOString(),
});

/** Clips: files that are kept, with what is known of them, in folders. */
export function shelfHandlers({
  config,
  songs,
  sources,
  shelf,
  facts,
  pool,
}: Services): ShelfHandlers {
  // A shelf comes in whole.
  const receive = uploads({ ...config, mostFilesInArchive: 20_000 });

  const readAll = clipReader(pool, sources);

  return {
    async listClips({ query }) {
      const [{ clips, total }, meters] = await Promise.all([shelf.list(query), shelf.meters()]);
      return { total, clips: clips.map(view), meters };
    },

    async addClips({ query, request, response }) {
      const { files, done } = await receive(request, response);
      try {
        const { clips, problems } = await readAll(files, query.folder);
        const { added, twins } = await shelf.add(clips);
        return { clips: added.map(view), twins, problems };
      } finally {
        await done();
      }
    },

    async getShelfFile({ query: { folder }, response }) {
      const clips = await shelf.all(folder);
      response.type('application/zip');
      response.attachment(`${folder.split('/').at(-1) || 'Shelf'}.zip`);
      await pipeline(
        shelfZip(clips, (sha256) => sources.bytesOf(sha256)),
        response,
      );
      return 'file';
    },

    async cutClip({ body: { song, tracks, bars, name, folder } }) {
      const { manifest } = (await songs.find(song)).revision;
      const [blobs, known] = await Promise.all([
        songs.readBlobs(manifest),
        facts.known(manifest.tracks.map((t) => t.blob)),
      ]);
      const cut = need(
        await pool.run('cut', { manifest, blobs, known, which: { tracks, bars }, name }),
      );
      const bytes = Buffer.from(cut.bytes);
      const sha256 = createHash('sha256').update(bytes).digest('hex');
      await sources.keep(sha256, bytes);
      const { added } = await shelf.add([
        { sha256, part: 1, folder, name, facts: cut.facts, tags: [] },
      ]);
      if (!added[0]) throw new Refusal({ code: 'clip-twin', where: { field: 'folder' }, name });
      return view(added[0]);
    },

    changeClip: async ({ params: { id }, body }) => view(await shelf.change(id, body as never)),

    async removeClip({ params: { id } }) {
      await shelf.setRemoved(id, true);
    },

    restoreClip: async ({ params: { id } }) => view(await shelf.setRemoved(id, false)),

    listFolders: async () => ({ folders: await shelf.folders() }),

    async moveFolder({ body: { from, to } }) {
      await shelf.moveFolder(from, to);
      return { folders: await shelf.folders() };
    },
  };
}
