import { readFileSync } from 'node:fs';
import type { JobDetail, JobSummary } from '@isola/contract';
import { DEMO_JOBS } from '../demo/jobs.ts';
import { StatementProxy } from './StatementProxy.ts';
import { chance, databasePort, killDatabase, stepNamed, TorturedServer, wait } from './TorturedServer.ts';

export interface KillCount {
  readonly kills: number;
  readonly acknowledged: number;
  /** What went wrong, in words. */
  readonly faults: readonly string[];
}

/** Kills the server at any moment of its first start, again and again; each time it has to come up with all of the demo, once. */
export async function killAtFirstStart(kills: number, seed = 1): Promise<KillCount> {
  const random = chance(seed);
  const faults: string[] = [];
  let server = await TorturedServer.onNewDatabase('isola_torture', true);
  const starting = performance.now();
  await server.start();
  const usual = performance.now() - starting;
  await server.kill();
  for (let k = 0; k < kills; k++) {
    server = await TorturedServer.onNewDatabase('isola_torture', true);
    // Killed once or several times before it is left in peace.
    for (let again = 0; again < 1 + Math.floor(random() * 3); again++) {
      const started = server.start();
      await wait(random() * usual * 1.1);
      await server.kill();
      await started;
    }
    const state = await server.start();
    if (state !== 'running') faults.push(`did not start after kill ${k + 1}: ${server.log.slice(-300)}`);
    else {
      const { body: jobs } = await server.ask<JobSummary[]>('/jobs');
      if (jobs.length !== DEMO_JOBS.length) faults.push(`${jobs.length} demo jobs instead of ${DEMO_JOBS.length} after kill ${k + 1}`);
    }
    await server.kill();
  }
  return { kills, acknowledged: 0, faults };
}

/** Kills the server right before every statement, or every `each`-th, that it sets up a new database with; each time it has to come up whole. */
export async function killAtStatements(each = 1, hasDemo = true): Promise<KillCount> {
  const wanted = hasDemo ? DEMO_JOBS.length : 0;
  const faults: string[] = [];
  let kills = 0;
  for (let at = 1; ; at += each) {
    const server = await TorturedServer.onNewDatabase('isola_torture', hasDemo);
    let isKilled = false;
    const proxy = new StatementProxy(databasePort(), (count) => {
      if (count === at) {
        isKilled = true;
        void server.kill();
      }
      return count < at;
    });
    const state = await server.start(await proxy.listen());
    await server.kill();
    await proxy.close();
    if (isKilled) kills++;
    const again = isKilled ? await server.start() : state;
    if (again !== 'running') faults.push(`killed before statement ${at} it did not start again: ${server.log.slice(-300)}`);
    else if (isKilled) {
      const { body: jobs } = await server.ask<JobSummary[]>('/jobs');
      if (jobs.length !== wanted) faults.push(`killed before statement ${at} it has ${jobs.length} demo jobs instead of ${wanted}`);
      const { body: shop } = await server.ask<{ fabrics?: readonly object[] }>('/shop');
      if ((shop.fabrics?.length ?? 0) === 0) faults.push(`killed before statement ${at} its shop is empty`);
    }
    await server.kill();
    if (!isKilled) return { kills, acknowledged: 0, faults };
  }
}

/** Kills server or database while editors make steps; what was acknowledged has to be there, once and in order. */
export async function killUnderLoad(kills: number, seed = 2, editors = 4): Promise<KillCount> {
  const random = chance(seed);
  const faults: string[] = [];
  const server = await TorturedServer.onNewDatabase('isola_torture');
  await server.start();
  const file = readFileSync('demo/birch.csv');
  const jobs: { id: string; sent: string[]; acknowledged: Set<string>; version: number }[] = [];
  for (let k = 0; k < editors; k++) {
    const { body } = await server.upload<JobSummary>(file, 'birch.csv');
    jobs.push({ id: body.id, sent: [], acknowledged: new Set(), version: 0 });
  }
  let isOver = false;
  const editing = jobs.map(async (job) => {
    let entry = stepNamed(`${job.id} 0`);
    for (let n = 1; !isOver;) {
      job.sent.push(entry.id);
      const answer = await server
        .post<JobSummary>(`/jobs/${job.id}/journal`, { baseVersion: job.version, entries: [entry] })
        .catch(() => undefined);
      if (answer?.status === 200) {
        job.acknowledged.add(entry.id);
        job.version = answer.body.version;
        entry = stepNamed(`${job.id} ${n++}`);
      } else {
        if (answer !== undefined && answer.status !== 503)
          faults.push(`a step was answered with ${answer.status}: ${JSON.stringify(answer.body)} ${server.log.slice(-1500)}`);
        await wait(30);
      }
    }
  });
  for (let k = 0; k < kills; k++) {
    await wait(150 + random() * 600);
    if (random() < 0.6) {
      await server.kill();
      if ((await server.start()) !== 'running') faults.push(`did not start after kill ${k + 1}: ${server.log.slice(-300)}`);
    } else killDatabase();
  }
  await wait(3000);
  isOver = true;
  await Promise.all(editing);
  for (const job of jobs) {
    const { body } = await server.ask<JobDetail>(`/jobs/${job.id}?from=start`);
    const stored = body.journal.map(({ entry }) => entry.id);
    if (new Set(stored).size < stored.length) faults.push('a step is stored twice');
    const lost = [...job.acknowledged].filter((id) => !stored.includes(id));
    if (lost.length > 0) faults.push(`${lost.length} acknowledged steps are lost`);
    const inOrder = [...new Set(job.sent)].filter((id) => stored.includes(id));
    if (inOrder.join() !== stored.join()) faults.push('steps are stored in another order');
  }
  await server.kill();
  return { kills, acknowledged: jobs.reduce((sum, job) => sum + job.acknowledged.size, 0), faults };
}
