import { Readable } from 'node:stream';
import { ZipFile } from 'yazl';
import { paperHtml } from '#core/handoff/paper-html.ts';
import { paperText } from '#core/handoff/paper.ts';
import { satchelVersion, type KeptSong } from '#core/work/kept-song.ts';
import type { SatchelList } from '#core/work/satchel.ts';
import { blobsOf } from '#core/work/revision.ts';
import type { HandoffRecord } from './db/models.ts';
import { need } from './refusal.ts';
import { paperOf } from './handoff-paper.ts';
import type { Services } from './services.ts';
import { filesOf } from './store/handoff-store.ts';

/**
 * A handoff with all that goes along: its files, the map alone, the click, the marks as a list, the slip; and,
 * where that is wanted, the song as it is kept. `docs/satchel.md` describes the layout.
 */
export async function satchelZip(
  services: Pick<Services, 'songs' | 'handoffs' | 'pool'>,
  handoff: HandoffRecord,
  withSong: boolean,
): Promise<NodeJS.ReadableStream> {
  const { songs, handoffs, pool } = services;
  const zip = new ZipFile();
  const mtime = handoff.createdAt;
  const add = (bytes: Uint8Array | string, name: string): void =>
    zip.addBuffer(Buffer.from(bytes as Uint8Array), name, { mtime });
  const files = filesOf(handoff);
  const list: SatchelList = {
    satchel: 'Amber Satchel',
    version: satchelVersion,
    song: handoff.slip.song,
    files: files.map(({ name, bytes, sha256 }) => ({ name, bytes, sha256 })),
  };
  add(JSON.stringify(list, null, 1), 'satchel.json');
  const { manifest } = await songs.revision(handoff.songId, handoff.revision);
  const along = need(
    await pool.run('beside', { manifest, blobs: await songs.readBlobs(manifest) }),
  );
  for (const file of files)
    zip.addReadStreamLazy(`files/${file.name}`, { mtime }, (give) => {
      handoffs.bytes(file).then(
        (bytes) => give(null, Readable.from([Buffer.from(bytes)])),
        (error: Error) => give(error, Readable.from([])),
      );
    });
  add(along.map, 'map.mid');
  add(along.marks, 'map.csv');
  if (along.click) add(along.click, 'click.wav');
  const paper = paperOf(handoff);
  add(paperHtml(paper), 'slip.html');
  add(paperText(paper), 'slip.txt');
  if (withSong) await addSong(services, handoff, add);
  zip.end();
  return zip.outputStream;
}

/** The song with everything up to the revision that was handed off. */
async function addSong(
  { songs }: Pick<Services, 'songs'>,
  { songId, revision: head }: HandoffRecord,
  add: (bytes: Uint8Array | string, name: string) => void,
): Promise<void> {
  const record = await songs.record(songId);
  const { steps, parents } = await songs.history(record);
  const numbers = [...parents.keys()].filter((n) => n <= head).sort((a, b) => a - b);
  const revisions: KeptSong['revisions'] = [];
  for (const number of numbers) {
    const { manifest } = await songs.revision(songId, number);
    revisions.push({ number, parent: parents.get(number) ?? null, manifest: manifest as never });
  }
  const blobs = await songs.blobs.read(
    new Set(revisions.flatMap((r) => blobsOf(r.manifest as never))),
  );
  let from = 0;
  const pieces = [...blobs].map(([sha256, bytes]) => {
    const piece = { sha256, from, bytes: bytes.length };
    from += bytes.length;
    return piece;
  });
  const kept: KeptSong = {
    version: satchelVersion,
    title: record.title,
    fileName: record.fileName,
    original: record.original,
    head,
    revisions,
    steps: steps
      .filter((s) => s.revision <= head)
      .map((s) => ({
        revision: s.revision,
        at: s.createdAt.toISOString(),
        operation: s.operation,
        version: s.version,
        settings: s.settings,
        scope: s.scope as never,
        described: s.described,
        report: s.report as never,
        moves: s.moves as never,
      })),
    leftAlone: [...(await songs.leftAlone(songId))],
    blobs: pieces,
  };
  add(JSON.stringify(kept), 'song/song.json');
  add(Buffer.concat([...blobs.values()]), 'song/blobs.bin');
  add(await songs.original(record.original), 'song/original');
}
