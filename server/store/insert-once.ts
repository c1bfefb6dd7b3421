import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';

/** Columns of the tables that hold bytes by their hash. */
const tables = { blobs: ['sha256', 'bytes'], originals: ['sha256', 'bytes', 'size'] } as const;

/**
 * Puts bytes in under their hashes; those that are there already stay. The bytes are parameters: written into the
 * statement each would be two characters, in several copies of it.
 */
export async function insertOnce(
  sequelize: Sequelize,
  table: keyof typeof tables,
  rows: readonly { readonly sha256: string; readonly bytes: Uint8Array }[],
  transaction: Transaction,
): Promise<void> {
  if (rows.length === 0) return;
  const columns = tables[table];
  const places = rows.map(
    (_, row) => `(${columns.map((_, n) => `$${row * columns.length + n + 1}`).join(', ')})`,
  );
  await sequelize.query(
    `INSERT INTO ${table} (${columns.join(', ')}) VALUES ${places.join(', ')} ON CONFLICT DO NOTHING`,
    {
      bind: rows.flatMap(({ sha256, bytes }) => {
        const buffer = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length);
        return table === 'blobs' ? [sha256, buffer] : [sha256, buffer, bytes.length];
      }),
      type: QueryTypes.INSERT,
      transaction,
    },
  );
}
