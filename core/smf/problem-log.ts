import type { ReadingProblem, Where } from '../problems/problems.ts';

/** Listed at most; the rest is counted. A damaged file can hold a problem every other byte. */
const mostListed = 200;

/** Collects what was wrong with a file. `place` fills in the chunk or track that is being read. */
export class ProblemLog {
  private readonly list: ReadingProblem[] = [];
  private left = 0;

  add(problem: ReadingProblem): void {
    if (this.list.length < mostListed) this.list.push(problem);
    else this.left++;
  }

  problems(): ReadingProblem[] {
    return this.left === 0
      ? this.list
      : [...this.list, { code: 'more-problems', where: {}, left: this.left }];
  }
}

/**
 * How much may be spent on finding the way back in a damaged file: so many passes over its bytes, whatever
 * it claims.
 */
export class Effort {
  private left: number;

  constructor(bytes: number) {
    this.left = 1_000_000 + bytes * 8;
  }

  /** Counts bytes that are gone over; false once there is no more to spend. */
  spend(bytes: number): boolean {
    this.left -= bytes;
    return this.left > 0;
  }
}

const signsOfDamage: ReadonlySet<string> = new Set([
  'status-missing',
  'length-too-long',
  'delta-too-long',
  'status-not-in-files',
]);
/** A file that ends too soon has it as well, and nothing may have happened before. */
const signOfAnEnd = 'event-cut';

/** The log as one track sees it: repeated small faults are told once, with how often they come. */
export class TrackLog {
  /** False once the track's bytes are not what a strict writer may send on. */
  sound = true;
  /** True once they show that something happened to them: no writer makes such. */
  damaged = false;
  /** True where its last event does not fit. */
  torn = false;
  private highByte: { where: Where; value: number; times: number } | undefined;
  private afterMeta: { where: Where; times: number } | undefined;

  readonly effort: Effort;
  private readonly log: ProblemLog;
  private readonly track: number;

  constructor(log: ProblemLog, track: number, effort: Effort) {
    this.log = log;
    this.track = track;
    this.effort = effort;
  }

  at(byte: number): Where {
    return { chunk: 'MTrk', track: this.track, byte };
  }

  /** A fault in how the bytes are framed: told, and the track will be written anew. */
  unsound(problem: ReadingProblem): void {
    this.sound = false;
    if (signsOfDamage.has(problem.code)) this.damaged = true;
    if (problem.code === signOfAnEnd) this.torn = true;
    this.log.add(problem);
  }

  /** Something odd that the format can carry: told, the bytes may stay. */
  odd(problem: ReadingProblem): void {
    this.log.add(problem);
  }

  highDataByte(byte: number, value: number): void {
    this.sound = false;
    this.damaged = true;
    if (this.highByte) this.highByte.times++;
    else this.highByte = { where: this.at(byte), value, times: 1 };
  }

  runningStatusAfterMeta(byte: number): void {
    this.sound = false;
    if (this.afterMeta) this.afterMeta.times++;
    else this.afterMeta = { where: this.at(byte), times: 1 };
  }

  close(): void {
    if (this.highByte) this.log.add({ code: 'data-byte-high', ...this.highByte });
    if (this.afterMeta) this.log.add({ code: 'running-status-after-meta', ...this.afterMeta });
  }
}
