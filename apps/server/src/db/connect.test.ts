import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import path from 'node:path';
import { defaultTarget, type Figures } from '@isola/core';
import { QueryTypes, Sequelize } from 'sequelize';
import { chainOf, chainStart } from '../services/chain.ts';
import { connectDatabase } from './connect.ts';
import { initial } from './migrations/001-initial.ts';
import type { Migration } from './migrations/migration.ts';

const ROOT = path.resolve(import.meta.dirname, '../../../..');
let url = '';
/** The same as the server's role. */
let serverUrl = '';
const open: Sequelize[] = [];

beforeEach(async () => {
  const {
    start,
    url: urlOf,
    SERVER,
  } = (await import(path.join(ROOT, 'scripts/db.mjs'))) as {
    start: (options: { quiet: boolean; databases: string[] }) => Promise<string>;
    url: (database: string, role: string) => string;
    SERVER: string;
  };
  url = (await start({ quiet: true, databases: ['isola_migrations'] })).replace(/\/[^/]*$/, '/isola_migrations');
  serverUrl = urlOf('isola_migrations', SERVER);
  const bare = raw();
  await bare.query('drop schema public cascade; drop schema if exists pgboss cascade; create schema public');
}, 120_000);
afterEach(() => Promise.all(open.splice(0).map((connection) => connection.close())));

function raw(): Sequelize {
  const connection = new Sequelize(url, { logging: false });
  open.push(connection);
  return connection;
}

async function namesIn(connection: Sequelize, query: string): Promise<string[]> {
  return (await connection.query<{ name: string }>(query, { type: QueryTypes.SELECT })).map(({ name }) => name);
}

const tables = (connection: Sequelize) =>
  namesIn(connection, `select table_name as name from information_schema.tables where table_schema = 'public' order by 1`);

describe('the schema', () => {
  test('of a database from the first version is brought up, with all that is in it', async () => {
    const old = raw();
    await old.query('create table migrations (name varchar(255) primary key)');
    await old.transaction(async (transaction) => {
      await initial.up(old.getQueryInterface(), transaction);
      await old.query(`insert into migrations values ('001-initial')`, { transaction });
    });
    const figures = `'{}'::jsonb`;
    await old.query(
      `insert into jobs (id, name, file_name, file_kind, initial_target, target, before, now, findings)
       values ('00000000-0000-4000-8000-000000000001', 'Old', 'old.csv', 'csv', ${figures}, ${figures}, ${figures}, ${figures}, ${figures})`,
    );
    const id = '00000000-0000-4000-8000-000000000001';
    for (const k of [1, 2])
      await old.query(
        `insert into journal_entries (job_id, seq, entry_id, entry) values ('${id}', ${k}, '00000000-0000-4000-8000-00000000001${k}', '{}')`,
      );
    await old.query(
      `insert into revisions (job_id, number, version, name, figures, program) values ('${id}', 1, 1, 'Kept', ${figures}, '')`,
    );
    const models = await connectDatabase(url);
    open.push(models.sequelize);
    const [job] = await models.Job.findAll();
    // Each entry follows the one before it, and what was kept points to the entry that it was kept at.
    const entries = await models.JournalEntry.findAll({ order: ['seq'] });
    expect(entries.map((e) => e.parent)).toEqual([null, entries[0]!.entryId]);
    // And is chained to it; which programs they led to is not known.
    const first = chainOf(chainStart(''), {});
    expect(entries.map((e) => [e.chain, e.programHash])).toEqual([
      [first, null],
      [chainOf(first, {}), null],
    ]);
    expect((await models.Branch.findAll()).map(({ name, entryId }) => [name, entryId])).toEqual([['main', entries[1]!.entryId]]);
    expect((await models.Revision.findOne())!.entryId).toBe(entries[0]!.entryId);
    await expect(models.JournalEntry.update({ parent: null }, { where: { jobId: id } })).rejects.toThrow(/never changed/);
    expect([job!.name, job!.rulebook, await models.JobBase.count()]).toEqual(['Old', 1, 0]);
    expect(await namesIn(models.sequelize, 'select name from migrations order by 1')).toEqual([
      '001-initial',
      '002-bases',
      '003-history',
      '004-snapshots',
      '005-request-keys',
      '006-trail',
      '007-releases',
      '008-shop-changes',
      '009-audits',
      '010-given-names',
      '011-sew-outs',
      '012-board',
      '013-practice',
      '014-people',
      '015-happenings',
      '016-presence',
      '017-job-lists',
      '018-words',
    ]);
  });

  test('is made once, however many servers start at one time, and a second start finds nothing to do', async () => {
    const all = await Promise.all([connectDatabase(url), connectDatabase(url), connectDatabase(url)]);
    open.push(...all.map(({ sequelize }) => sequelize));
    expect(await tables(all[0].sequelize)).toEqual([
      'audit_files',
      'audits',
      'board',
      'branches',
      'given_names',
      'happenings',
      'invitations',
      'job_bases',
      'job_files',
      'jobs',
      'journal_entries',
      'marks',
      'migrations',
      'people',
      'practices',
      'presences',
      'rate_limits',
      'revisions',
      'sessions',
      'sew_out_photos',
      'sew_outs',
      'shop_changes',
      'shop_records',
      'sign_offs',
      'snapshots',
    ]);
    const again = await connectDatabase(url);
    open.push(again.sequelize);
    expect(await namesIn(again.sequelize, 'select name from migrations')).toHaveLength(18);
  });

  test('belongs to another role than the server works as, which can add to history and neither change nor remove it', async () => {
    const { sequelize, ...models } = await connectDatabase(serverUrl, { ownerUrl: url });
    open.push(sequelize);
    const [id, entryId] = ['00000000-0000-4000-8000-000000000001', '00000000-0000-4000-8000-000000000011'];
    const figures = {} as Figures;
    await models.Job.create({
      ...{ id, name: 'A', customer: '', due: null, fileName: 'a.csv', fileKind: 'csv', warnings: [], stage: 'taken-in' },
      ...{ initialTarget: defaultTarget(), target: defaultTarget(), before: figures, now: figures, findings: { stop: 0, fix: 0, note: 0 } },
      ...{ version: 1, detailsVersion: 0, rulebook: 1 },
    });
    await models.JobFile.create({ jobId: id, sha256: 'a', bytes: Buffer.from('a'), isPacked: false });
    const entry = { id: entryId, kind: 'undo' as const };
    await models.JournalEntry.create({ jobId: id, seq: 1, entryId, entry, chain: 'c' });
    const may = (statement: string): Promise<string> =>
      sequelize.query(statement).then(
        () => 'done',
        (error: Error) => error.message,
      );
    for (const statement of [
      'alter table journal_entries disable trigger keep_journal',
      `update journal_entries set entry = '{}'`,
      'delete from journal_entries',
      'delete from job_files',
      'truncate jobs cascade',
      'drop table revisions',
      'set session_replication_role = replica',
      'delete from migrations',
      'delete from happenings',
      `update happenings set who = 'nobody'`,
    ])
      expect([statement, await may(statement)]).toEqual([statement, expect.stringMatching(/permission denied|must be owner/)]);
    // Neither can the owner, without taking the guard away first; with its job it goes.
    await expect(raw().query(`update journal_entries set entry = '{}'`)).rejects.toThrow(/never changed/);
    expect(await may('delete from jobs')).toBe('done');
    expect([await models.JournalEntry.count(), await models.JobFile.count()]).toEqual([0, 0]);
  });

  test('a step that fails in its midst leaves nothing of itself, and is said', async () => {
    const halfway: Migration = {
      name: '002-halfway',
      async up(queries, transaction) {
        await queries.createTable('half', { id: 'integer' }, { transaction });
        throw new Error('the power went');
      },
    };
    await expect(connectDatabase(url, { migrations: [initial, halfway] })).rejects.toThrow(/the power went/);
    const after = raw();
    expect(await tables(after)).not.toContain('half');
    expect(await namesIn(after, 'select name from migrations')).toEqual(['001-initial']);
    const models = await connectDatabase(url);
    open.push(models.sequelize);
    expect(await tables(models.sequelize)).toContain('job_bases');
  });
});
