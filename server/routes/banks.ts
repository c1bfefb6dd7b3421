import { existsSync, statSync } from 'node:fs';
import type { Handlers } from '../answering.ts';
import { Refusal } from '../refusal.ts';
import type { Services } from '../services.ts';
import { nameRefusal, uploads } from '../upload.ts';

type BankHandlers = Pick<
  Handlers,
  'getSounds' | 'listBanks' | 'addBank' | 'getBank' | 'removeBank'
>;

/** What songs are heard with: the sounds that come along, and banks of one's own. */
export function bankHandlers({ config, banks }: Services): BankHandlers {
  // As large as there is room for.
  const receive = uploads({ ...config, mostFileBytes: Infinity, mostFilesAtOnce: 1 });
  const send = (response: Parameters<Handlers['getBank']>[0]['response'], file: string): 'file' => {
    response.sendFile(file, {
      // Whatever a folder above it is called: the path is ours.
      dotfiles: 'allow',
      headers: {
        'Content-Type': 'application/octet-stream',
        'Cache-Control': 'private, max-age=86400',
      },
    });
    return 'file';
  };

  return {
    async getSounds({ response }) {
      if (!existsSync(config.soundsFile))
        throw new Refusal({ code: 'sounds-missing', where: { file: config.soundsFile } });
      return send(response, config.soundsFile);
    },

    listBanks: async () => ({
      banks: await banks.list(),
      along: existsSync(config.soundsFile) ? { bytes: statSync(config.soundsFile).size } : null,
    }),

    async addBank({ request, response }) {
      const { files, done } = await receive(request, response);
      try {
        const [file] = files;
        if (!file) throw new Refusal({ code: 'file-missing', where: { field: 'file' } });
        const refusal = nameRefusal(file.name);
        if (refusal) throw refusal;
        if (file.at === undefined)
          throw new Refusal({
            code: 'bank-unreadable',
            where: { file: file.name },
            expected: 'a sound bank by itself',
            found: 'a zip archive',
          });
        return await banks.add(file.at, file.name);
      } finally {
        await done();
      }
    },

    getBank: async ({ params: { sha256 }, response }) => send(response, banks.fileOf(sha256)),

    async removeBank({ params: { sha256 } }) {
      await banks.remove(sha256);
    },
  };
}
