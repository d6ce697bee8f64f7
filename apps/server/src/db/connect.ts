import { QueryTypes, Sequelize } from 'sequelize';
import { Umzug } from 'umzug';
import { initial } from './migrations/001-initial.ts';
import { bases } from './migrations/002-bases.ts';
import { history } from './migrations/003-history.ts';
import { snapshots } from './migrations/004-snapshots.ts';
import { requestKeys } from './migrations/005-request-keys.ts';
import { trail } from './migrations/006-trail.ts';
import { releases } from './migrations/007-releases.ts';
import { shopChanges } from './migrations/008-shop-changes.ts';
import { audits } from './migrations/009-audits.ts';
import { givenNames } from './migrations/010-given-names.ts';
import { sewOuts } from './migrations/011-sew-outs.ts';
import { board } from './migrations/012-board.ts';
import { practice } from './migrations/013-practice.ts';
import { people } from './migrations/014-people.ts';
import { happenings } from './migrations/015-happenings.ts';
import { presence } from './migrations/016-presence.ts';
import { jobLists } from './migrations/017-job-lists.ts';
import { words } from './migrations/018-words.ts';
import type { Migration } from './migrations/migration.ts';
import { grantsOfQueue, prepareQueue } from './queue.ts';
import { defineModels, type Models } from './models/index.ts';

/** Any number will do, as long as no other program locks by it in the same database. */
const MIGRATION_LOCK = 715_004_117;

/** In the order in which they are made. */
const MIGRATIONS: readonly Migration[] = [
  initial,
  bases,
  history,
  snapshots,
  requestKeys,
  trail,
  releases,
  shopChanges,
  audits,
  givenNames,
  sewOuts,
  board,
  practice,
  people,
  happenings,
  presence,
  jobLists,
  words,
];

export interface ConnectOptions {
  /** Of the role that owns the tables and brings them up to date, where that is another one than the server works as. */
  readonly ownerUrl?: string | undefined;
  readonly migrations?: readonly Migration[];
}

/** Brings the schema up to date (one server at a time, under an advisory lock), connects and gives the models. */
export async function connectDatabase(url: string, { ownerUrl, migrations = MIGRATIONS }: ConnectOptions = {}): Promise<Models> {
  const owner = connect(ownerUrl ?? url);
  try {
    await migrate(owner, migrations);
    // One server at a time: the queue's tables would lock each other out.
    await owner.transaction(async (transaction) => {
      await owner.query(`select pg_advisory_xact_lock(${MIGRATION_LOCK})`, { transaction });
      await prepareQueue(ownerUrl ?? url);
    });
    if (ownerUrl === undefined) return defineModels(owner);
    await owner.transaction(async (transaction) => {
      await owner.query(`select pg_advisory_xact_lock(${MIGRATION_LOCK})`, { transaction });
      await owner.query(grantsFor(decodeURIComponent(new URL(url).username)), { transaction });
    });
  } catch (error) {
    await owner.close();
    throw error;
  }
  await owner.close();
  return defineModels(connect(url));
}

/** Connects to a database that a server has brought up to date, as a worker beside it does. */
export function openDatabase(url: string): Models {
  return defineModels(connect(url));
}

function connect(url: string): Sequelize {
  return new Sequelize(url, {
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
}

/**
 * What the server may do to the tables, which belong to another role: history (files, bases, entries, revisions) is added to and read, and goes only
 * with its whole job, which the database sees to itself. Neither can it switch off what guards that.
 */
function grantsFor(role: string): string {
  const name = `"${role.replaceAll('"', '""')}"`;
  return `
    grant usage on schema public to ${name};
    revoke all on all tables in schema public from ${name};
    grant select on all tables in schema public to ${name};
    grant insert on jobs, job_files, job_bases, snapshots, journal_entries, branches, revisions, sign_offs, shop_records, shop_changes, marks, audits, audit_files, given_names, sew_outs, sew_out_photos, board, practices, people, sessions, invitations, rate_limits, happenings, presences to ${name};
    grant update on jobs, snapshots, branches, shop_records, audits, audit_files, sew_outs, sew_out_photos, board, practices, people, sessions, invitations, rate_limits, presences to ${name};
    grant delete on jobs, shop_records, audits, given_names, sew_out_photos, sessions, invitations, rate_limits, presences to ${name};
    ${grantsOfQueue(name)}`;
}

/** Makes the steps of the schema that were not made yet. */
async function migrate(sequelize: Sequelize, migrations: readonly Migration[]): Promise<void> {
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
}
