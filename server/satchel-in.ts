import { schemaFaultWords } from '#core/problems/schema-fault.ts';
import { satchelVersion } from '#core/work/kept-song.ts';
import { satchelSchema } from '#core/work/satchel.ts';
import type { ApiError } from '#contracts/errors.ts';
import { Refusal, need } from './refusal.ts';
import type { Services } from './services.ts';
import { placed, readList, type ReceivedFile } from './upload.ts';

/** A satchel among files that came in. */
export interface ReceivedSatchel {
  /** The MIDI files of the handoff. */
  readonly files: readonly ReceivedFile[];
  /** The song as it is kept, where it came along. */
  readonly song: ReceivedFile | undefined;
  /** Everything in it, also what nobody takes. */
  readonly all: readonly ReceivedFile[];
}

/** Songs that came of something that was taken. */
export interface Taken {
  readonly ids: string[];
  readonly problems: ApiError[];
}

/**
 * What is taken one by one: each file; of a satchel the song as it is kept, or else the files of its handoff,
 * and nothing of what lies beside them.
 */
export async function takings(
  services: Pick<Services, 'songs' | 'pool'>,
  files: readonly ReceivedFile[],
  takeFile: (file: ReceivedFile) => Promise<Taken>,
): Promise<(() => Promise<Taken>)[]> {
  const satchels = await satchelsAmong(files);
  const packed = new Set(satchels.flatMap((s) => s.all));
  return [
    ...satchels.flatMap((s) =>
      s.song
        ? [async () => ({ ids: [await takeKeptSong(services, s)], problems: [] })]
        : s.files.map((file) => () => takeFile(file)),
    ),
    ...files.filter((f) => !packed.has(f)).map((file) => () => takeFile(file)),
  ];
}

const listName = 'satchel.json';

/** The satchels among files, by their lists. Refused where a list is none, or of a newer version. */
async function satchelsAmong(files: readonly ReceivedFile[]): Promise<ReceivedSatchel[]> {
  const lists = files.filter((f) => f.path !== undefined && f.name === listName);
  const satchels: ReceivedSatchel[] = [];
  // One list at a time, so that no more than one is in memory.
  for (const list of lists) satchels.push(await satchelOf(list, files));
  return satchels;
}

async function satchelOf(
  list: ReceivedFile,
  files: readonly ReceivedFile[],
): Promise<ReceivedSatchel> {
  const above = list.path!.slice(0, -listName.length);
  const given = parsed(await readList(list));
  const said = satchelSchema.safeParse(given);
  if (!said.success) throw unreadable(list.path!, schemaFaultWords('satchel', said.error, given));
  const { version } = said.data;
  if (version > satchelVersion)
    throw new Refusal({
      code: 'satchel-newer',
      where: { file: list.path! },
      version,
      known: satchelVersion,
    });
  const all = files.filter((f) => f.path?.startsWith(above));
  const at = (path: string) => all.find((f) => f.path === `${above}${path}`);
  return {
    all,
    song: at('song/song.json'),
    files: all.filter((f) => f.path!.startsWith(`${above}files/`)),
  };
}

const unreadable = (file: string, why: string): Refusal =>
  new Refusal({ code: 'satchel-unreadable', where: { file }, why });

/** Takes the song of a satchel in as it is kept, once everything of it is checked. */
async function takeKeptSong(
  { songs, pool }: Pick<Services, 'songs' | 'pool'>,
  { song, all }: ReceivedSatchel,
): Promise<string> {
  const folder = song!.path!.slice(0, -'song.json'.length);
  const piece = async (name: string): Promise<Uint8Array> => {
    const file = all.find((f) => f.path === `${folder}${name}`);
    if (!file) throw unreadable(song!.path!, `${name} is missing`);
    return new Uint8Array(await file.bytes());
  };
  const list = await piece('song.json');
  const packed = await piece('blobs.bin');
  const original = await piece('original');
  const opened = need(
    placed(await pool.run('openSatchel', { list, packed, original }), {
      file: song!.path!,
    }) as Awaited<ReturnType<typeof pool.run<'openSatchel'>>>,
  );
  return songs.takeSatchel(opened, Buffer.from(original));
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
