import { Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { initial } from './migrations/001-initial.ts';
import { defineModels, type Models } from './models/index.ts';

/** Any number will do, as long as no other program locks by it in the same database. */
const MIGRATION_LOCK = 715_004_117;

/** Connects, brings the schema up to date (one server at a time, under an advisory lock) and gives the models. */
export async function connectDatabase(url: string): Promise<Models> {
  const sequelize = new Sequelize(url, { logging: false, pool: { max: 6, min: 0, idle: 10_000, acquire: 10_000 } });
  const umzug = new Umzug({
    migrations: [initial],
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
  await sequelize.transaction(async (transaction) => {
    await sequelize.query(`select pg_advisory_xact_lock(${MIGRATION_LOCK})`, { transaction });
    await umzug.up();
  });
  return defineModels(sequelize);
}
