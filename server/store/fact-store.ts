import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import type { Fact, FactKind } from '#core/work/facts.ts';
import type { KnownTracks } from '#core/work/ports.ts';
import { KeptLately } from '#core/work/kept-lately.ts';
import { shareLock } from './keeping.ts';
import { storable } from './storable.ts';

const mostCachedBytes = 64 * 1048576;

/**
 * What was worked out of blobs, beside them. Facts of other code than this server's count as missing: a
 * rule that was changed never shows what it found before. Those used lately are kept at hand.
 */
export class FactStore {
  private readonly sequelize: Sequelize;
  private readonly code: string;
  private readonly cache = new KeptLately<{ readonly fact: Fact; readonly bytes: number }>(
    mostCachedBytes,
    ({ bytes }) => bytes,
  );
  private readonly underway = new Set<Promise<void>>();
  private readonly onError: (error: unknown) => void;

  /**
   * @param code names the code that works facts out @param onError is told where facts could not be kept,
   * of which nobody else hears
   */
  constructor(sequelize: Sequelize, code: string, onError: (error: unknown) => void) {
    this.sequelize = sequelize;
    this.code = code;
    this.onError = onError;
  }

  /** The facts of a kind that are known of blobs, by blob. */
  async read<K extends FactKind>(
    kind: K,
    blobs: Iterable<string>,
  ): Promise<Map<string, Fact & { kind: K }>> {
    const found = new Map<string, Fact & { kind: K }>();
    const missing: string[] = [];
    for (const blob of new Set(blobs)) {
      const known = this.cache.get(`${kind} ${blob}`);
      if (known) found.set(blob, known.fact as Fact & { kind: K });
      else missing.push(blob);
    }
    for (let at = 0; at < missing.length; at += 5000) {
      const rows = await this.sequelize.query<Fact & { kind: K; bytes: number }>(
        'SELECT sha256 AS blob, kind, depends, value, octet_length(value::text) AS bytes FROM facts WHERE kind = :kind AND code = :code AND sha256 IN (:hashes)',
        {
          replacements: { kind, code: this.code, hashes: missing.slice(at, at + 5000) },
          type: QueryTypes.SELECT,
        },
      );
      for (const { bytes, ...row } of rows) {
        const fact = row as unknown as Fact & { kind: K };
        this.remember(fact, bytes);
        found.set(fact.blob, fact);
      }
    }
    return found;
  }

  /** What a step needs to know of the tracks of these blobs. */
  async known(blobs: Iterable<string>): Promise<KnownTracks> {
    return new Map(
      [...(await this.read('track', blobs))].map(([blob, { value }]) => [
        blob,
        { facts: value.facts, notes: value.content.notes },
      ]),
    );
  }

  /**
   * Keeps facts, the newest of each kind: at hand at once, in the database as soon as may be, for which
   * nobody waits. Those of blobs that are not stored, or no more, are let go; where there is no room,
   * nothing is lost but time.
   */
  keep(facts: readonly Fact[]): void {
    if (facts.length === 0) return;
    for (const fact of facts) this.remember(fact, JSON.stringify(fact.value).length);
    const newest = [...new Map(facts.map((fact) => [`${fact.kind} ${fact.blob}`, fact])).values()];
    const written = this.sequelize
      .transaction((transaction) => this.store(newest, transaction))
      .catch(this.onError)
      .finally(() => this.underway.delete(written));
    this.underway.add(written);
  }

  /** When everything that is being kept is in the database, or is given up. */
  async settled(): Promise<void> {
    await Promise.all(this.underway);
  }

  private async store(facts: readonly Fact[], transaction: Transaction): Promise<void> {
    await shareLock(this.sequelize, transaction);
    const rows = facts.map(({ blob, kind, depends, value }) => ({
      sha256: blob,
      kind,
      depends,
      value: JSON.stringify(storable(value)),
    }));
    rows.sort((a, b) => (a.sha256 + a.kind < b.sha256 + b.kind ? -1 : 1));
    for (let at = 0; at < rows.length; at += 500) {
      await this.sequelize.query(
        `INSERT INTO facts (sha256, kind, code, depends, value)
          SELECT given.sha256, given.kind, :code, given.depends, given.value::jsonb FROM jsonb_to_recordset(:rows::jsonb) AS given(sha256 text, kind text, depends text, value text)
          WHERE EXISTS (SELECT FROM blobs b WHERE b.sha256 = given.sha256)
          ON CONFLICT (sha256, kind) DO UPDATE SET code = excluded.code, depends = excluded.depends, value = excluded.value`,
        {
          replacements: { code: this.code, rows: JSON.stringify(rows.slice(at, at + 500)) },
          type: QueryTypes.INSERT,
          transaction,
        },
      );
    }
  }

  private remember(fact: Fact, bytes: number): void {
    this.cache.set(`${fact.kind} ${fact.blob}`, { fact, bytes });
  }
}
