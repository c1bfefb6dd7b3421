import { open, rm, type FileHandle } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import path from 'node:path';

/** Bytes that are held before they are put aside on disk. */
const mostHeld = 32 * 1048576;

interface Put {
  readonly name: string;
  readonly length: number;
}

/**
 * Puts many files aside until all of them are there: in memory while they are small, then one behind the
 * other in a file.
 */
export class Spool {
  private readonly file: string;
  private held: { name: string; bytes: Uint8Array }[] = [];
  private heldBytes = 0;
  private readonly put: Put[] = [];
  private handle: FileHandle | undefined;

  constructor(folder: string) {
    this.file = path.join(folder, `handoff-${randomUUID()}`);
  }

  async add(name: string, bytes: Uint8Array): Promise<void> {
    this.held.push({ name, bytes });
    this.heldBytes += bytes.length;
    if (this.heldBytes > mostHeld) await this.toDisk();
  }

  private async toDisk(): Promise<void> {
    this.handle ??= await open(this.file, 'wx+');
    for (const { name, bytes } of this.held) {
      await this.handle.appendFile(bytes);
      this.put.push({ name, length: bytes.length });
    }
    this.held = [];
    this.heldBytes = 0;
  }

  /** What was put aside, in its order, one after another. */
  async *all(): AsyncGenerator<{ name: string; bytes: Uint8Array }> {
    let at = 0;
    for (const { name, length } of this.put) {
      const bytes = new Uint8Array(length);
      await this.handle!.read(bytes, 0, length, at);
      at += length;
      yield { name, bytes };
    }
    yield* this.held;
  }

  /** Nothing is left of it. */
  async done(): Promise<void> {
    await this.handle?.close();
    if (this.handle) await rm(this.file, { force: true });
  }
}
