import { slipText } from '#core/handoff/slip.ts';
import type { Handlers } from '../answering.ts';
import { Refusal, need } from '../refusal.ts';
import { fileName } from '../file-name.ts';
import { sendFile } from '../send-file.ts';
import type { Services } from '../services.ts';
import { handoffView } from '../views.ts';

/** What leaves: files for the other side, with their slips. */
export function handoffHandlers({
  songs,
  handoffs,
  pool,
}: Services): Pick<Handlers, 'handOff' | 'listHandoffs' | 'getHandoffFile' | 'getSlip'> {
  return {
    async handOff({ params: { id }, body: { revision, ...settings } }) {
      const at = await songs.find(id);
      const { head } = at.record;
      if (revision !== undefined && revision !== head)
        throw new Refusal({
          code: 'revision-stale',
          where: { id, field: 'revision' },
          given: revision,
          head,
        });
      const { manifest } = at.revision;
      const { received, asRead } = await songs.before(at.record);
      const [blobs, original] = await Promise.all([
        songs.readBlobs(manifest, received, asRead),
        songs.original(at.record.original),
      ]);
      const name = fileName(
        manifest.title,
        settings.format === 'as-received' ? at.record.fileName : '.mid',
      );
      const made = need(
        await pool.run('handoff', {
          manifest,
          received,
          asRead,
          blobs,
          settings,
          original: new Uint8Array(original),
          name,
        }),
      );
      return handoffView(await handoffs.add({ songId: id, revision: head, settings }, made));
    },

    async listHandoffs({ params }) {
      const { id } = await songs.record(params.id);
      return { handoffs: (await handoffs.list(id)).map(handoffView) };
    },

    async getHandoffFile({ params: { id, name }, response }) {
      return sendFile(response, name, await handoffs.file(id, name));
    },

    async getSlip({ params, response }) {
      const { slip } = await handoffs.find(params.id);
      response.attachment(`${slip.file} slip.txt`);
      response.type('text/plain').send(slipText(slip));
      return 'file';
    },
  };
}
