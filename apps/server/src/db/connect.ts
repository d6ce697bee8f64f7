import { QueryTypes, Sequelize } from 'sequelize';
import { Umzug } from 'umzug';
import { initial } from './migrations/001-initial.ts';
import { bases } from './migrations/002-bases.ts';
import { history } from './migrations/003-history.ts';
import { snapshots } from './migrations/004-snapshots.ts';
import { requestKeys } from './migrations/005-request-keys.ts';
import type { Migration } from './migrations/migration.ts';
import { defineModels, type Models } from './models/index.ts';

/** Any number will do, as long as no other program locks by it in the same database. */
const MIGRATION_LOCK = 715_004_117;

/** In the order in which they are made. */
const MIGRATIONS: readonly Migration[] = [initial, bases, history, snapshots, requestKeys];

/** Connects, brings the schema up to date (one server at a time, under an advisory lock) and gives the models. */
export async function connectDatabase(url: string, migrations = MIGRATIONS): Promise<Models> {
  const sequelize = new Sequelize(url, {
    logging: false,
    pool: { max: 6, min: 0, idle: 10_000, acquire: 10_000 },
    // A statement that hangs, a row that somebody holds and a database that went silent end as errors.
    dialectOptions: {
      statement_timeout: 30_000,
      lock_timeout: 10_000,
      idle_in_transaction_session_timeout: 60_000,
      connectionTimeoutMillis: 5000,
      query_timeout: 35_000,
    },
  });
  const umzug = new Umzug({
    migrations: migrations.map(({ name, ...migration }) => ({
      name,
      // What was done and that it was done are one transaction, so that a server killed between them finds no half of it.
      up: () =>
        sequelize.transaction(async (transaction) => {
          await migration.up(sequelize.getQueryInterface(), transaction);
          await sequelize.query('insert into migrations (name) values (:name)', { replacements: { name }, transaction });
        }),
    })),
    storage: {
      async executed(): Promise<string[]> {
        await sequelize.query('create table if not exists migrations (name varchar(255) primary key)');
        const rows = await sequelize.query<{ name: string }>('select name from migrations', { type: QueryTypes.SELECT });
        return rows.map(({ name }) => name);
      },
      logMigration: () => Promise.resolve(),
      unlogMigration: () => Promise.reject(new Error('migrations go forward only')),
    },
    logger: undefined,
  });
  await sequelize.transaction(async (transaction) => {
    await sequelize.query(`select pg_advisory_xact_lock(${MIGRATION_LOCK})`, { transaction });
    await umzug.up();
  });
  return defineModels(sequelize);
}
