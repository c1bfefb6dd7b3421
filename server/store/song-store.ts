import { randomUUID } from 'node:crypto';
import { Op, type Sequelize, type Transaction } from 'sequelize';
import type { SongListQuery } from '#contracts/songs.ts';
import { sourcesOf } from '#core/operations/run.ts';
import type { ProblemText } from '#core/problems/problems.ts';
import { LeftAlone, Original, Revision, SongRecord, Step } from '../db/models.ts';
import { Refusal } from '../refusal.ts';
import type { Intake, NewSong } from '#core/work/intake.ts';
import type { Blobs } from '#core/work/ports.ts';
import type { Manifest } from '#core/work/manifest.ts';
import { blobsOf } from '#core/work/revision.ts';
import type { OpenedSatchel } from '#core/work/satchel.ts';
import type { MadeRevision, StepTaken } from '#core/work/step.ts';
import { KeptLately } from '#core/work/kept-lately.ts';
import { isId } from './ids.ts';
import { insertOnce } from './insert-once.ts';
import {
  again,
  back,
  moveHead,
  parentsOf,
  straightTo,
  wayTo,
  type Moved,
  type Way,
} from './moving-head.ts';
import { noteSources, noteUses, shareLock } from './keeping.ts';
import { listSongs, type ListedSong } from './song-list.ts';
import type { BlobStore } from './blob-store.ts';

/** A song with the revision it is at. */
export interface SongAt {
  readonly record: SongRecord;
  readonly revision: Revision;
}

/** Tracks of the revisions that are kept at hand. */
const mostRecentTracks = 50_000;

/** Songs, their revisions and steps. Every change is one transaction; nothing is ever overwritten. */
export class SongStore {
  private readonly sequelize: Sequelize;
  private readonly recent = new KeptLately<Revision>(
    mostRecentTracks,
    ({ manifest }) => manifest.tracks.length + 1,
  );
  readonly blobs: BlobStore;

  constructor(sequelize: Sequelize, blobs: BlobStore) {
    this.sequelize = sequelize;
    this.blobs = blobs;
  }

  /** Whether the database answers. */
  async ping(): Promise<void> {
    await this.sequelize.query('SELECT 1');
  }

  /** Stores what one file gave: the original, its songs and their first revisions, all or nothing. */
  async take(
    intake: Intake,
    file: { name: string; bytes: Buffer },
    reading: ProblemText[],
  ): Promise<string[]> {
    return this.sequelize.transaction(async (transaction) => {
      await shareLock(this.sequelize, transaction);
      const received = { sha256: intake.sha256, bytes: file.bytes };
      await insertOnce(this.sequelize, 'originals', [received], transaction);
      await this.blobs.write(intake.blobs, transaction);
      const ids: string[] = [];
      for (const song of intake.songs)
        ids.push(await storeSong(song, intake.sha256, file.name, reading, transaction));
      return ids;
    });
  }

  /** Stores a song out of a satchel, with its history; a song of its own, whatever else is here. */
  async takeSatchel({ song, blobs, made }: OpenedSatchel, original: Buffer): Promise<string> {
    return this.sequelize.transaction(async (transaction) => {
      await shareLock(this.sequelize, transaction);
      const received = { sha256: song.original, bytes: original };
      await insertOnce(this.sequelize, 'originals', [received], transaction);
      await this.blobs.write(blobs, transaction);
      return storeKept(song, made, [...blobs.keys()], transaction);
    });
  }

  /** What is noted of a song, without its revision. */
  async record(id: string): Promise<SongRecord> {
    const record = isId(id) ? await SongRecord.findOne({ where: { id, removedAt: null } }) : null;
    if (!record) throw new Refusal({ code: 'song-unknown', where: { id: id.slice(0, 100) } });
    return record;
  }

  async find(id: string): Promise<SongAt> {
    const record = await this.record(id);
    return { record, revision: await this.revision(id, record.head) };
  }

  list(query: SongListQuery): Promise<{ songs: ListedSong[]; total: number }> {
    return listSongs(this.sequelize, query);
  }

  /** A revision, which nobody ever changes: those used lately are kept at hand. */
  async revision(songId: string, number: number): Promise<Revision> {
    const key = `${songId} ${number}`;
    const revision =
      this.recent.get(key) ??
      (await Revision.findOne({ where: { songId, number }, rejectOnEmpty: true }));
    this.recent.set(key, revision);
    return revision;
  }

  readBlobs(...manifests: Manifest[]): Promise<Blobs> {
    return this.blobs.read(manifests.flatMap(blobsOf));
  }

  async blob(sha256: string): Promise<Uint8Array | undefined> {
    return (await this.blobs.read([sha256])).get(sha256);
  }

  /** Adds a revision made from `base`, if the song is still at it, with its step and blobs. Gives its number. */
  async addStep(
    songId: string,
    base: number,
    {
      manifest,
      view,
      step,
      blobs,
    }: Pick<StepTaken, 'manifest' | 'view' | 'step'> & { blobs: Blobs },
  ): Promise<number> {
    const made = await this.sequelize.transaction(async (transaction) => {
      await shareLock(this.sequelize, transaction);
      await lockedAt(songId, base, transaction);
      await this.blobs.write(blobs, transaction);
      await noteUses(songId, blobs.keys(), transaction);
      await noteSources(songId, sourcesOf(step), transaction);
      const number =
        1 + (await Revision.max<number, Revision>('number', { where: { songId }, transaction }));
      const { depth } = await Revision.findOne({
        where: { songId, number: base },
        attributes: ['depth'],
        transaction,
        rejectOnEmpty: true,
      });
      const revision = Revision.build({
        songId,
        number,
        parent: base,
        depth: depth + 1,
        overview: view.overview,
        manifest,
      });
      await revision.save({ transaction, returning: false });
      await Step.create({ songId, revision: number, ...step }, { transaction, returning: false });
      await SongRecord.update(
        { head: number, title: manifest.title },
        { where: { id: songId }, transaction },
      );
      return revision;
    });
    this.blobs.keep(blobs);
    this.recent.set(`${songId} ${made.number}`, made);
    return made.number;
  }

  /** Moves the head to the revision before it. */
  undo(songId: string, expected: number | undefined): Promise<Moved> {
    return this.move(songId, expected, back(songId));
  }

  /** Moves the head to the newest revision that was made from it. */
  redo(songId: string, expected: number | undefined): Promise<Moved> {
    return this.move(songId, expected, again(songId));
  }

  /** Moves the head to any revision there ever was; what it leaves stays where it is. */
  goTo(songId: string, to: number, expected: number | undefined): Promise<Moved> {
    return this.move(songId, expected, straightTo(songId, to));
  }

  private move(songId: string, expected: number | undefined, choose: Way): Promise<Moved> {
    return this.sequelize.transaction(async (transaction) =>
      moveHead(songId, await lockedAt(songId, expected, transaction), choose, transaction),
    );
  }

  /** What undo would take back and redo would do again, in words; null where there is none. */
  async neighbours({
    id: songId,
    head,
  }: SongRecord): Promise<{ undo: string | null; redo: string | null }> {
    const [undone, next] = await Promise.all([
      Step.findOne({ where: { songId, revision: head }, attributes: ['described'] }),
      Revision.findOne({
        where: { songId, parent: head },
        order: [['number', 'DESC']],
        attributes: ['number'],
      }),
    ]);
    const redone =
      next &&
      (await Step.findOne({ where: { songId, revision: next.number }, attributes: ['described'] }));
    return { undo: undone?.described ?? null, redo: redone?.described ?? null };
  }

  /** The revision before a step, and the one that it made. */
  async aroundStep(songId: string, number: number): Promise<[Revision, Revision]> {
    await this.record(songId);
    const after = number > 0 ? await Revision.findOne({ where: { songId, number } }) : undefined;
    if (!after || after.parent === null)
      throw new Refusal({ code: 'revision-unknown', where: { id: songId }, given: number });
    return [await this.revision(songId, after.parent), after];
  }

  /** All steps ever taken, oldest first, and the way from the first revision to the head. */
  async history(
    record: SongRecord,
  ): Promise<{ steps: Step[]; parents: Map<number, number | null> }> {
    const [steps, parents] = await Promise.all([
      Step.findAll({ where: { songId: record.id }, order: [['revision', 'ASC']] }),
      parentsOf(record.id),
    ]);
    return { steps, parents };
  }

  /** What each step did, in words, by the revision it made; and the ways between revisions. */
  async stepWords({ id: songId }: SongRecord): Promise<{
    words: Map<number, string>;
    parents: Map<number, number | null>;
  }> {
    const [steps, parents] = await Promise.all([
      Step.findAll({ where: { songId }, attributes: ['revision', 'described'], raw: true }),
      parentsOf(songId),
    ]);
    return { words: new Map(steps.map((s) => [s.revision, s.described])), parents };
  }

  /** The song as it was read, and as it came in: split by channel where the split at intake is still in force. */
  async before(record: SongRecord): Promise<{ asRead: Manifest; received: Manifest }> {
    const split = await Step.findOne({
      where: { songId: record.id, revision: 1, operation: 'tracks.split-by-channel' },
      attributes: ['revision'],
    });
    const inForce = split !== null && wayTo(await parentsOf(record.id), record.head).includes(1);
    const { manifest: asRead } = await this.revision(record.id, 0);
    return { asRead, received: inForce ? (await this.revision(record.id, 1)).manifest : asRead };
  }

  /** Notes how many findings are open in the revision a song is at: the list of songs tells it. */
  async noteLooked(record: SongRecord, openFindings: number): Promise<void> {
    const { id, head: lookedAt } = record;
    if (record.lookedAt === lookedAt && record.openFindings === openFindings) return;
    // Looking touches nothing.
    await SongRecord.update({ lookedAt, openFindings }, { where: { id }, silent: true });
  }

  async tag(id: string, tags: readonly string[]): Promise<string[]> {
    await this.record(id);
    const once = [...new Set(tags)];
    await SongRecord.update({ tags: once }, { where: { id }, silent: true });
    return once;
  }

  /** Keys of the findings that are left alone. */
  async leftAlone(songId: string): Promise<ReadonlySet<string>> {
    const rows = await LeftAlone.findAll({ where: { songId }, raw: true });
    return new Set(rows.map((r) => r.key));
  }

  async leave(songId: string, key: string, leftAlone: boolean): Promise<void> {
    if (leftAlone)
      await LeftAlone.bulkCreate([{ songId, key }], { ignoreDuplicates: true, returning: false });
    else await LeftAlone.destroy({ where: { songId, key } });
  }

  /** Sizes in bytes of originals, by hash. */
  async sizes(hashes: readonly string[]): Promise<Map<string, number>> {
    const rows = await Original.findAll({
      where: { sha256: { [Op.in]: [...new Set(hashes)] } },
      attributes: ['sha256', 'size'],
      raw: true,
    });
    return new Map(rows.map((r) => [r.sha256, r.size]));
  }

  async original(sha256: string): Promise<Buffer> {
    return (await Original.findByPk(sha256, { rejectOnEmpty: true })).bytes;
  }

  /** Removes a song; gives when. It can be restored until it is purged. */
  async remove(id: string): Promise<Date> {
    const removedAt = new Date();
    const [changed] = isId(id)
      ? await SongRecord.update({ removedAt }, { where: { id, removedAt: null } })
      : [0];
    if (changed === 0) throw new Refusal({ code: 'song-unknown', where: { id: id.slice(0, 100) } });
    return removedAt;
  }

  async restore(id: string): Promise<void> {
    const [found] = isId(id)
      ? await SongRecord.update({ removedAt: null }, { where: { id } })
      : [0];
    if (found === 0) throw new Refusal({ code: 'song-unknown', where: { id: id.slice(0, 100) } });
  }
}

/** Locks the song for this transaction and makes sure that nobody changed it since `expected`. */
async function lockedAt(
  songId: string,
  expected: number | undefined,
  transaction: Transaction,
): Promise<number> {
  const record = await SongRecord.findOne({
    where: { id: songId, removedAt: null },
    lock: transaction.LOCK.UPDATE,
    transaction,
  });
  if (!record) throw new Refusal({ code: 'song-unknown', where: { id: songId } });
  if (expected !== undefined && record.head !== expected)
    throw new Refusal({
      code: 'revision-stale',
      where: { id: songId, field: 'revision' },
      given: expected,
      head: record.head,
    });
  return record.head;
}

async function storeSong(
  song: NewSong,
  original: string,
  fileName: string,
  reading: ProblemText[],
  transaction: Transaction,
): Promise<string> {
  const id = randomUUID();
  const { first, split } = song;
  await SongRecord.create(
    {
      id,
      original,
      title: (split ?? first).manifest.title,
      fileName,
      reading,
      head: split ? 1 : 0,
      removedAt: null,
    },
    { transaction },
  );
  await storeRevision(id, 0, first, transaction);
  if (split) {
    await storeRevision(id, 1, split, transaction);
    await Step.create(
      { songId: id, revision: 1, ...split.step },
      { transaction, returning: false },
    );
  }
  await noteUses(
    id,
    [...blobsOf(first.manifest), ...(split ? blobsOf(split.manifest) : [])],
    transaction,
  );
  return id;
}

/** A song as it was kept elsewhere. Where it was read with faults is no longer known. */
async function storeKept(
  song: OpenedSatchel['song'],
  made: OpenedSatchel['made'],
  blobs: readonly string[],
  transaction: Transaction,
): Promise<string> {
  const id = randomUUID();
  const at = song.revisions.findIndex((r) => r.number === song.head);
  await SongRecord.create(
    {
      id,
      original: song.original,
      title: made[at]!.manifest.title,
      fileName: song.fileName,
      reading: [],
      head: song.head,
      removedAt: null,
    },
    { transaction },
  );
  const depths = new Map<number, number>();
  for (const [n, { number, parent }] of song.revisions.entries()) {
    const depth = parent === null ? 0 : depths.get(parent)! + 1;
    depths.set(number, depth);
    const { manifest, view } = made[n]!;
    await Revision.create(
      { songId: id, number, parent, depth, overview: view.overview, manifest },
      { transaction, returning: false },
    );
  }
  await Step.bulkCreate(
    song.steps.map(({ at: taken, ...step }) => ({
      songId: id,
      ...(step as unknown as StepTaken['step'] & { revision: number }),
      createdAt: new Date(taken),
    })),
    { transaction, returning: false },
  );
  await LeftAlone.bulkCreate(
    song.leftAlone.map((key) => ({ songId: id, key })),
    { ignoreDuplicates: true, transaction, returning: false },
  );
  await noteUses(id, blobs, transaction);
  return id;
}

async function storeRevision(
  songId: string,
  number: number,
  { manifest, view }: MadeRevision,
  transaction: Transaction,
): Promise<void> {
  await Revision.create(
    {
      songId,
      number,
      parent: number === 0 ? null : number - 1,
      depth: number,
      overview: view.overview,
      manifest,
    },
    { transaction, returning: false },
  );
}
