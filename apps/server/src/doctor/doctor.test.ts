import { beforeAll, describe, expect, test } from '@jest/globals';
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import type { JobSummary } from '@isola/contract';
import { answer, AppUnderTest, HERON, step } from '../testing/AppUnderTest.ts';
import { examineJob } from './examineJob.ts';

const ROOT = path.resolve(import.meta.dirname, '../../../..');
const DATABASE = 'isola_doctor_test';
const app = new AppUnderTest(DATABASE);

const examine = async ({ id }: Pick<JobSummary, 'id'>) => examineJob(app.models, (await app.models.Job.findByPk(id))!);

/** Changes what is stored behind the back of all that guards it. */
async function tamper(table: string, statement: string): Promise<void> {
  await app.models.sequelize.query(`alter table ${table} disable trigger user; ${statement}; alter table ${table} enable trigger user`);
}

/** A job with some steps, an undo and a kept revision. */
async function worked(): Promise<JobSummary> {
  const job = await app.takeIn(HERON, 'heron.csv');
  while ((await app.request('GET', `/api/jobs/${job.id}/base`)).status === 202);
  const spec = { id: 'rename-object' as const, object: 'o1', name: 'the wing' };
  const entries = [step('a'), { id: crypto.randomUUID(), kind: 'do' as const, name: 'rename', operation: spec }, step('b')];
  await answer(app.append(job, 0, entries), 200);
  await answer(app.append(job, 3, [{ id: crypto.randomUUID(), kind: 'undo', step: entries[2]!.id }]), 200);
  await answer(app.request('POST', `/api/jobs/${job.id}/revisions`, { baseVersion: 4, name: 'Kept' }), 201);
  return job;
}

describe('the doctor', () => {
  test('finds a job sound that was worked on, and says what was changed behind the back of the server', async () => {
    const [job, untouched] = [await worked(), await app.takeIn(HERON, 'heron.csv')];
    expect(await examine(job)).toEqual({ steps: 4, problems: [] });
    const where = `where job_id = '${job.id}'`;
    await tamper('journal_entries', `update journal_entries set entry = jsonb_set(entry, '{name}', '"another name"') ${where} and seq = 2`);
    expect((await examine(job)).problems).toEqual(['step 2 or one before it was changed after it was stored']);
    await tamper('journal_entries', `update journal_entries set entry = jsonb_set(entry, '{name}', '"rename"') ${where} and seq = 2`);
    expect((await examine(job)).problems).toEqual([]);
    await tamper('journal_entries', `update journal_entries set program_hash = 'other' ${where} and seq = 3`);
    await app.models.sequelize.query(`update jobs set now = jsonb_set(now, '{stitches}', '7') where id = '${job.id}'`);
    await tamper(
      'revisions',
      `update revisions set program = '\\x${gzipSync('command,x,y\nstitch,0,0\nend,,').toString('hex')}' ${where} and number = 2`,
    );
    expect((await examine(job)).problems).toEqual([
      'step 3 leads to another program than when it was made',
      'its figures are not those that were stored',
      'revision 2 is not what its steps lead to',
    ]);
    const other = gzipSync('command,x,y\nstitch,0,0\nend,,').toString('hex');
    await tamper('job_files', `update job_files set bytes = '\\x${other}' ${where}`);
    expect((await examine(job)).problems[0]).toBe('its file is not the one that was taken in');
    await tamper('job_files', `update job_files set bytes = '\\x00' ${where}`);
    expect((await examine(job)).problems).toEqual(['its file cannot be unpacked']);
    const { bytes } = (await app.models.JobFile.findByPk(untouched.id))!;
    await tamper('job_files', `update job_files set bytes = '\\x${bytes.toString('hex')}' ${where}`);
    await app.models.sequelize.query(`update branches set entry_id = null ${where}`);
    await tamper('revisions', `update revisions set entry_id = null ${where}`);
    await tamper('journal_entries', `delete from journal_entries ${where} and seq = 4`);
    const { steps, problems } = await examine(job);
    expect(steps).toBe(3);
    expect(problems).toContain('it says that it is at version 4, and has 3 steps');
    expect(problems).toContain('its branch does not end at its last step');
  });
});

describe('a backup', () => {
  const run = (script: string, ...args: string[]) => {
    const env = { ...process.env, DB_NAME: DATABASE };
    const { status, stdout, stderr } = spawnSync(process.execPath, [path.join(ROOT, 'scripts', script), ...args], {
      env,
      encoding: 'utf8',
    });
    return { status, said: stdout + stderr };
  };
  const folder = mkdtempSync(path.join(tmpdir(), 'isola-backup-'));
  const file = path.join(folder, 'all.dump');
  beforeAll(() => void execFileSync(process.execPath, [path.join(ROOT, 'scripts/db.mjs'), 'start']));

  test('made while the server runs brings everything back under it, and what was there stays beside it', async () => {
    const job = await worked();
    const before = await answer<JobSummary>(app.request('GET', `/api/jobs/${job.id}`), 200);
    const csv = await (await app.request('GET', `/api/jobs/${job.id}/program`)).text();
    expect(run('backup.mjs', file)).toMatchObject({ status: 0, said: expect.stringContaining('Everything is in') });
    expect(run('backup.mjs', file)).toMatchObject({ status: 1, said: expect.stringContaining('is there already') });
    await answer(app.append(job, 4, [step('after the backup')]), 200);
    const other = await app.takeIn(HERON, 'heron.csv');
    const { status, said } = run('restore.mjs', file);
    expect([status, said]).toEqual([0, expect.stringContaining('The backup is in place')]);
    expect(said).toContain('sound');
    // The server goes on; a connection that was cut off is answered as such at most once for each.
    let jobs: readonly JobSummary[] | undefined;
    for (let k = 0; k < 10 && jobs === undefined; k++) {
      const response = await app.request('GET', '/api/jobs');
      if (response.status === 200) jobs = (await response.json()) as JobSummary[];
      else expect(response.status).toBe(503);
    }
    expect(jobs!.map(({ id }) => id)).toEqual([job.id]);
    expect(await answer(app.request('GET', `/api/jobs/${job.id}`), 200)).toEqual(before);
    expect(await (await app.request('GET', `/api/jobs/${job.id}/program`)).text()).toBe(csv);
    // Whoever has the steps from after it hears that the job is elsewhere, and can put them on it.
    await answer(app.append(job, 5, [step('on top')]), 409);
    await answer(app.append(job, 4, [step('on top')]), 200);
    await answer(app.request('GET', `/api/jobs/${other.id}`), 404);
  });

  test('that is damaged or holds jobs that are not as they were stored changes nothing', async () => {
    const job = await worked();
    const damaged = path.join(folder, 'damaged.dump');
    writeFileSync(damaged, readFileSync(file).subarray(0, 5000));
    expect(run('restore.mjs', damaged)).toMatchObject({ status: 1, said: expect.stringContaining('Nothing was changed') });
    expect(run('restore.mjs', path.join(folder, 'none'))).toMatchObject({ status: 2, said: expect.stringContaining('There is no file') });
    await tamper('journal_entries', `update journal_entries set program_hash = 'other' where job_id = '${job.id}' and seq = 1`);
    const odd = path.join(folder, 'odd.dump');
    expect(run('backup.mjs', odd).status).toBe(0);
    expect(run('restore.mjs', odd)).toMatchObject({ status: 1, said: expect.stringContaining('leads to another program') });
    expect((await answer<JobSummary[]>(app.request('GET', '/api/jobs'), 200)).map(({ id }) => id)).toEqual([job.id]);
  });
});
