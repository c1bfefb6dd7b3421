import { ConnectionError, DatabaseError, Sequelize } from 'sequelize';
import { defineModels } from './models.ts';
import { migrate } from './migrations.ts';

/** A connection with tables up to date. */
export async function connect(url: string): Promise<Sequelize> {
  const sequelize = new Sequelize(url, {
    dialect: 'postgres',
    logging: false,
    pool: { max: 10, acquire: 20_000 },
  });
  await sequelize.authenticate();
  defineModels(sequelize);
  await migrate(sequelize);
  return sequelize;
}

/**
 * SQLSTATE classes 08 (connection) and 57P (operator intervention): the database went away; the request was
 * at no fault.
 */
const connectionStates = /^(08|57P)/;

/** Whether an error says that the connection to the database was lost, and nothing else. */
export function isConnectionLoss(error: unknown): boolean {
  if (error instanceof ConnectionError) return true;
  const cause = error instanceof DatabaseError ? error.parent : error;
  if (!(cause instanceof Error)) return false;
  const code = 'code' in cause ? String(cause.code) : '';
  return (
    connectionStates.test(code) ||
    /^(ECONNRESET|ECONNREFUSED|EPIPE)$/.test(code) ||
    /Connection terminated|not queryable/.test(cause.message)
  );
}
