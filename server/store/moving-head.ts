import type { Transaction } from 'sequelize';
import { composedMoves, inverseMoves, type Moves } from '#core/timing/time-map.ts';
import { Revision, SongRecord, Step } from '../db/models.ts';
import { Refusal } from '../refusal.ts';

/** Where undo, redo or going there led, what it was about, and how time moved by it. */
export interface Moved {
  readonly revision: number;
  readonly described: string;
  readonly moves?: Moves;
}

/** Revisions whose steps are taken back, and then those whose steps are taken again, on the way to another. */
interface Led {
  readonly to: number;
  readonly back: readonly number[];
  readonly again: readonly number[];
  /** The step that is spoken of; 0 for the song as it came in. */
  readonly about: number;
}

export type Way = (head: number, transaction: Transaction) => Promise<Led>;

/** To the revision before. */
export const back =
  (songId: string): Way =>
  async (head, transaction) => {
    const at = await Revision.findOne({
      where: { songId, number: head },
      attributes: ['parent'],
      transaction,
      rejectOnEmpty: true,
    });
    if (at.parent === null) throw new Refusal({ code: 'nothing-to-undo', where: { id: songId } });
    return { to: at.parent, back: [head], again: [], about: head };
  };

/** To the newest revision that was made from this one. */
export const again =
  (songId: string): Way =>
  async (head, transaction) => {
    const next = await Revision.findOne({
      where: { songId, parent: head },
      order: [['number', 'DESC']],
      attributes: ['number'],
      transaction,
    });
    if (!next) throw new Refusal({ code: 'nothing-to-redo', where: { id: songId } });
    return { to: next.number, back: [], again: [next.number], about: next.number };
  };

/** To any revision: back to where both ways part, and on from there. */
export const straightTo =
  (songId: string, to: number): Way =>
  async (head, transaction) => {
    const parents = await parentsOf(songId, transaction);
    if (!parents.has(to))
      throw new Refusal({ code: 'revision-unknown', where: { id: songId }, given: to });
    const [from, there] = [wayTo(parents, head), wayTo(parents, to)];
    const common = new Set(there);
    const parted = from.find((revision) => common.has(revision));
    return {
      to,
      back: from.slice(0, from.indexOf(parted!)),
      again: there.slice(0, there.indexOf(parted!)).reverse(),
      about: to,
    };
  };

/** Moves the head of a song that is locked. */
export async function moveHead(
  songId: string,
  head: number,
  choose: Way,
  transaction: Transaction,
): Promise<Moved> {
  const led = await choose(head, transaction);
  const { overview } = await Revision.findOne({
    where: { songId, number: led.to },
    attributes: ['overview'],
    transaction,
    rejectOnEmpty: true,
  });
  await SongRecord.update(
    { head: led.to, title: overview.title },
    { where: { id: songId }, transaction },
  );
  const steps = await Step.findAll({
    where: { songId, revision: [...led.back, ...led.again, led.about] },
    attributes: ['revision', 'described', 'moves'],
    transaction,
  });
  const step = new Map(steps.map((s) => [s.revision, s]));
  let moves: Moves | undefined;
  for (const revision of led.back) {
    const its = step.get(revision)?.moves;
    if (its) moves = composedMoves(moves, inverseMoves(its));
  }
  for (const revision of led.again)
    moves = composedMoves(moves, step.get(revision)?.moves ?? undefined);
  const described = step.get(led.about)?.described ?? 'as received';
  return { revision: led.to, described, ...(moves ? { moves } : {}) };
}

export async function parentsOf(
  songId: string,
  transaction?: Transaction,
): Promise<Map<number, number | null>> {
  const revisions = await Revision.findAll({
    where: { songId },
    attributes: ['number', 'parent'],
    ...(transaction ? { transaction } : {}),
  });
  return new Map(revisions.map((r) => [r.number, r.parent]));
}

/** Revisions from `head` back to the first. */
export function wayTo(parents: ReadonlyMap<number, number | null>, head: number): number[] {
  const way: number[] = [];
  for (
    let at: number | null | undefined = head;
    at !== null && at !== undefined;
    at = parents.get(at)
  )
    way.push(at);
  return way;
}
