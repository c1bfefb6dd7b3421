import { alongInstruments } from '#core/instruments/along/along.ts';
import type { InstrumentDefinition } from '#core/instruments/definition.ts';
import { laidOver } from '#core/instruments/midnam/read.ts';
import { deviceOf, writeMidnam } from '#core/instruments/midnam/write.ts';
import type { InstrumentView } from '#contracts/instruments.ts';
import type { Handlers } from '../answering.ts';
import type { InstrumentRecord } from '../db/models.ts';
import { need, Refusal } from '../refusal.ts';
import { sendFile } from '../send-file.ts';
import type { Services } from '../services.ts';
import { unknownInstrument } from '../store/instrument-store.ts';
import { fileProblems, placed, uploads } from '../upload.ts';

const view = ({ id, definition }: InstrumentRecord): InstrumentView => ({
  id,
  along: false,
  definition,
});
const along: readonly InstrumentView[] = alongInstruments.map((a) => ({ ...a, along: true }));

/** Instruments: those that come along, and one's own. They are given to parts as steps of a song. */
export function instrumentHandlers({
  config,
  instruments,
  pool,
}: Services): Pick<
  Handlers,
  | 'listInstruments'
  | 'addInstruments'
  | 'readInstruments'
  | 'writeInstruments'
  | 'changeInstrument'
  | 'removeInstrument'
  | 'restoreInstrument'
> {
  const receive = uploads(config);
  const all = async (): Promise<InstrumentView[]> => [
    ...(await instruments.list()).map(view),
    ...along,
  ];

  return {
    listInstruments: async () => ({ instruments: await all() }),

    async addInstruments({ body }) {
      const given = 'instruments' in body ? body.instruments : [body];
      return { instruments: (await instruments.add(given)).map(view) };
    },

    async readInstruments({ request, response }) {
      const { files, done } = await receive(request, response);
      try {
        if (files.length === 0)
          throw new Refusal({ code: 'file-missing', where: { field: 'file' } });
        const own = (await instruments.list()).map(view);
        const read = [];
        const told: string[] = [];
        for (const file of files) {
          const bytes = new Uint8Array(await file.bytes());
          const found = need(placed(await pool.run('readInstruments', bytes), { file: file.name }));
          told.push(
            ...found.told,
            ...fileProblems(file).map((p) => `${file.name}: ${p.message}. ${p.remedy}`),
          );
          read.push(...found.instruments.map((d) => over(d, own)));
        }
        return { instruments: read, told };
      } finally {
        await done();
      }
    },

    async writeInstruments({ query: { ids, format }, response }) {
      const known = await all();
      const asked = ids?.split(',').map((id) => {
        const found = known.find((k) => k.id === id);
        if (!found) throw unknownInstrument(id);
        return found;
      });
      const definitions = (asked ?? known.filter((k) => !k.along)).map((k) => k.definition);
      const { name, bytes } = fileOf(definitions, format);
      return sendFile(response, name, bytes, { kept: 'now', type: 'application/octet-stream' });
    },

    changeInstrument: async ({ params, body }) => view(await instruments.change(params.id, body)),

    async removeInstrument({ params }) {
      await instruments.setRemoved(params.id, true);
    },

    restoreInstrument: async ({ params }) => view(await instruments.setRemoved(params.id, false)),
  };
}

/** A definition that was read, laid over the one of the same name and device that is there already. */
function over(
  definition: InstrumentDefinition,
  own: readonly InstrumentView[],
): { definition: InstrumentDefinition; over: string | null } {
  const there = own.find(
    (o) => o.definition.name === definition.name && deviceOf(o.definition) === deviceOf(definition),
  );
  return there
    ? { definition: laidOver(there.definition, definition), over: there.id }
    : { definition, over: null };
}

/** A file of definitions. */
function fileOf(
  definitions: readonly InstrumentDefinition[],
  format: 'json' | 'midnam',
): { name: string; bytes: Uint8Array } {
  const encoded = (text: string): Uint8Array => new TextEncoder().encode(text);
  if (format === 'json') {
    const text = JSON.stringify({ instruments: definitions }, null, 2);
    return { name: 'instruments.json', bytes: encoded(`${text}\n`) };
  }
  const devices = [...new Set(definitions.map(deviceOf))];
  if (devices.length > 1) throw new Refusal({ code: 'instruments-of-several', where: {}, devices });
  return {
    name: 'instruments.midnam',
    bytes: encoded(writeMidnam(definitions)),
  };
}
