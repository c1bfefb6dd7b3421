import { Op, type Transaction } from 'sequelize';
import { Blob } from '../db/models.ts';
import type { Blobs } from '#core/work/ports.ts';
import { insertOnce } from './insert-once.ts';

const mostCachedBytes = 256 * 1048576;

/** Blobs by hash. They never change, so those read lately are kept at hand; nothing depends on it. */
export class BlobStore {
  private readonly cache = new Map<string, Uint8Array>();
  private cachedBytes = 0;

  async read(hashes: Iterable<string>): Promise<Blobs> {
    const found: Blobs = new Map();
    const missing: string[] = [];
    for (const hash of new Set(hashes)) {
      const bytes = this.cache.get(hash);
      if (bytes) found.set(hash, this.remember(hash, bytes));
      else missing.push(hash);
    }
    if (missing.length > 0) {
      const rows = await Blob.findAll({ where: { sha256: { [Op.in]: missing } }, raw: true });
      for (const row of rows) found.set(row.sha256, this.remember(row.sha256, shared(row.bytes)));
    }
    return found;
  }

  /** Writes blobs within the transaction of what names them; those that are there already stay. */
  async write(blobs: Blobs, transaction: Transaction): Promise<void> {
    // In order of their hashes, so that two transactions with the same new blobs wait for each other
    // instead of locking up.
    const rows = [...blobs]
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([sha256, bytes]) => ({ sha256, bytes }));
    for (let at = 0; at < rows.length; at += 100)
      await insertOnce(Blob.sequelize!, 'blobs', rows.slice(at, at + 100), transaction);
  }

  /** Keeps blobs at hand that were written: who made them is likely to ask for them next. */
  keep(blobs: Blobs): void {
    for (const [hash, bytes] of blobs)
      if (!this.cache.has(hash)) this.remember(hash, shared(bytes));
  }

  private remember(hash: string, bytes: Uint8Array): Uint8Array {
    if (this.cache.delete(hash)) this.cachedBytes -= bytes.length;
    this.cache.set(hash, bytes);
    this.cachedBytes += bytes.length;
    for (const [oldest, old] of this.cache) {
      if (this.cachedBytes <= mostCachedBytes) break;
      this.cache.delete(oldest);
      this.cachedBytes -= old.length;
    }
    return bytes;
  }
}

/** A copy in memory that threads share, so that handing it to one costs nothing however long it is. */
function shared(buffer: Uint8Array): Uint8Array {
  const bytes = new Uint8Array(new SharedArrayBuffer(buffer.length));
  bytes.set(buffer);
  return bytes;
}
