import { pipeline } from 'node:stream/promises';
import type { Response } from 'express';
import { handoffSettings } from '#core/handoff/settings.ts';
import { paperText } from '#core/handoff/paper.ts';
import { paperHtml } from '#core/handoff/paper-html.ts';
import type { HandoffProgress, HandoffView } from '#contracts/handoffs.ts';
import type { Handlers } from '../answering.ts';
import { understood } from '../body.ts';
import { paperName, paperOf, zipName } from '../handoff-paper.ts';
import { filesZip } from '../handoff-zip.ts';
import { doneSince } from '../done-since.ts';
import { loose, made, previewed } from '../made-handoffs.ts';
import { settingsAt } from '../receiver-settings.ts';
import { satchelZip } from '../satchel-zip.ts';
import { goneAway } from '../gone-away.ts';
import { Refusal } from '../refusal.ts';
import { sendFile } from '../send-file.ts';
import type { Services } from '../services.ts';
import { filesOf } from '../store/handoff-store.ts';
import type { SongAt } from '../store/song-store.ts';
import { handoffView } from '../views.ts';

type HandoffHandlers = Pick<
  Handlers,
  | 'handOff'
  | 'listHandoffs'
  | 'getHandoff'
  | 'getHandoffFile'
  | 'getHandoffFiles'
  | 'getSlip'
  | 'getSlipPage'
  | 'getSatchel'
  | 'getOut'
>;

const ndjson = 'application/x-ndjson';

/** What leaves: files for the other side, with their slips. */
export function handoffHandlers(services: Services): HandoffHandlers {
  const { songs, handoffs } = services;

  /** The song as its head is, if that is the revision that was looked at. */
  async function headOf(id: string, revision: number | undefined): Promise<SongAt> {
    const at = await songs.find(id);
    const { head } = at.record;
    if (revision !== undefined && revision !== head)
      throw new Refusal({
        code: 'revision-stale',
        where: { id, field: 'revision' },
        given: revision,
        head,
      });
    return at;
  }

  return {
    async handOff({ params, body, request, response }) {
      const { revision, preview: only, forecast, receiver, ...said } = body;
      const at = await headOf(params.id, revision);
      const signal = goneAway(response);
      const settings =
        receiver === undefined
          ? { settings: said, receiver: {} }
          : await settingsAt(services, at, receiver, request.body as object);
      if (only) {
        const answer = await previewed(services, at, settings, { signal, forecast });
        response.status(200).json(answer);
        return answer;
      }
      if (request.accepts(['application/json', ndjson]) !== ndjson)
        return made(services, at, settings, { signal, progress: () => {} });
      const say = lines(response);
      const progress = (made: number, of: number): void => say({ made, of });
      const handoff = await made(services, at, settings, { signal, progress });
      say({ handoff });
      response.end();
      return handoff;
    },

    listHandoffs: ({ params }) => listed(services, params.id),

    async getHandoff({ params }) {
      return handoffView(await handoffs.find(params.id));
    },

    async getHandoffFile({ params: { id, name }, response }) {
      return sendFile(response, name, await handoffs.file(id, name));
    },

    async getHandoffFiles({ params, response }) {
      const handoff = await handoffs.find(params.id);
      const files = filesOf(handoff);
      return sendZip(response, zipName(handoff.slip.song), files, handoff.createdAt, (n) =>
        handoffs.bytes(files[n]!),
      );
    },

    async getSlip({ params, response }) {
      const handoff = await handoffs.find(params.id);
      response.attachment(`${paperName(handoff)} slip.txt`);
      response.type('text/plain').send(paperText(paperOf(handoff)));
      return 'file';
    },

    async getSlipPage({ params, response }) {
      const handoff = await handoffs.find(params.id);
      // The page is all there is to it, its looks with it; nothing is fetched or run.
      response.setHeader(
        'Content-Security-Policy',
        "default-src 'none'; style-src 'unsafe-inline'",
      );
      response.type('text/html').send(paperHtml(paperOf(handoff)));
      return 'file';
    },

    async getSatchel({ params, query, response }) {
      const handoff = await handoffs.find(params.id);
      const withSong = query.song ?? String(handoff.receiver?.packed === 'satchel with the song');
      response.attachment(`${zipName(handoff.slip.song).slice(0, -4)} satchel.zip`);
      response.type('application/zip');
      await pipeline(await satchelZip(services, handoff, withSong === 'true'), response);
      return 'file';
    },

    async getOut({ params, query, response }) {
      const settings = understood(handoffSettings, parsed(query.settings), 'settings');
      const at = await headOf(params.id, query.revision);
      const { names, bytes, done } = await loose(services, at, settings, goneAway(response));
      // An archive asks for its files in their order, each once.
      const next = async (): Promise<Uint8Array> => (await bytes.next()).value!.bytes;
      try {
        const called = outName(params.name);
        if (names.length === 1)
          return sendFile(response, `${called}.mid`, await next(), { kept: 'now' });
        const files = names.map((name) => ({ name }));
        return await sendZip(response, `${called}.zip`, files, new Date(), next);
      } finally {
        await done();
      }
    },
  };
}

/** What was handed off of a song, and what was done to it since. */
async function listed(
  { songs, handoffs }: Services,
  id: string,
): Promise<{ handoffs: HandoffView[] }> {
  const record = await songs.record(id);
  const [list, { words, parents }] = await Promise.all([
    handoffs.list(record.id),
    songs.stepWords(record),
  ]);
  const since = (revision: number): string[] => doneSince(revision, record.head, parents, words);
  return { handoffs: list.map((h) => ({ ...handoffView(h), since: since(h.revision) })) };
}

/** Answers line by line, each sent at once; until the first it may still be refused as any request. */
function lines(response: Response): (line: HandoffProgress) => void {
  return (line) => {
    if (!response.headersSent) response.status(201).type(ndjson);
    response.write(`${JSON.stringify(line)}\n`);
  };
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return text;
  }
}

/** The name that an address gives its file, whatever it is, without the ending that the file has anyway. */
const outName = (name: string): string => zipName(name.replace(/\.(mid|zip)$/i, '')).slice(0, -4);

async function sendZip(
  response: Response,
  name: string,
  files: readonly { readonly name: string }[],
  at: Date,
  bytesOf: (n: number) => Promise<Uint8Array>,
): Promise<'file'> {
  response.attachment(name);
  response.type('application/zip');
  await pipeline(filesZip(files, at, bytesOf), response);
  return 'file';
}
