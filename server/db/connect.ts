import { Sequelize } from 'sequelize';
import { defineModels } from './models.ts';
import { migrate } from './migrations.ts';

/** A connection with tables up to date. */
export async function connect(url: string): Promise<Sequelize> {
  const sequelize = new Sequelize(url, { dialect: 'postgres', logging: false, pool: { max: 10, acquire: 20_000 } });
  await sequelize.authenticate();
  defineModels(sequelize);
  await migrate(sequelize);
  return sequelize;
}
