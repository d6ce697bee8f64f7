import { readFileSync } from 'node:fs';
import type { JobSummary } from '@isola/contract';
import { Sequelize } from 'sequelize';
import { entryOf, stepsOn } from './steps.ts';
import { db, percentile, TorturedServer, wait } from './TorturedServer.ts';

export interface Listed {
  /** ms, middle and slowest of the times that each was asked. */
  readonly answers: Readonly<Record<string, readonly [middle: number, slowest: number]>>;
  /** Size of the database, GB. */
  readonly gigabytes: number;
  readonly faults: readonly string[];
}

/** Words of made-up customers and jobs. */
const WORDS = ['Saltmarsh', 'Quayside', 'Lantern', 'Harbor', 'Field Club', 'Bakery', 'Ferry', 'Orchard', 'Mill', 'Chapel'];
const TIMES = 21;

/** A shop that has so many jobs of so many steps each: what its list, searches, and a step and an opening of one of them take. */
export async function fillShop(jobs: number, steps: number): Promise<Listed> {
  const server = await TorturedServer.onNewDatabase('isola_torture');
  await server.start();
  const { body: first } = await server.upload<JobSummary>(readFileSync('demo/birch.csv'), 'birch.csv');
  while ((await fetch(`${server.url}/api/jobs/${first.id}/base`)).status === 202) await wait(50);
  const { operations } = stepsOn('demo/birch.csv', steps + TIMES);
  for (const [k, operation] of operations.slice(0, steps).entries())
    await server.post(`/jobs/${first.id}/journal`, { baseVersion: k, entries: [entryOf(operation)] });
  await copyJob(first.id, jobs, steps);
  const answers: Record<string, [number, number]> = {};
  const faults: string[] = [];
  const measure = async (name: string, ask: (time: number) => Promise<{ status: number }>): Promise<void> => {
    const took: number[] = [];
    for (let time = 0; time < TIMES; time++) {
      const start = performance.now();
      const { status } = await ask(time);
      if (status >= 300) faults.push(`${name}: ${status}`);
      took.push(performance.now() - start);
    }
    answers[name] = [percentile(took, 0.5), Math.max(...took)];
  };
  const list = (query: string) => () => server.ask<JobSummary[]>(`/jobs?limit=60${query}`);
  await measure('the list', list(''));
  await measure('the list, further down', list('&offset=5000'));
  await measure('a word of many jobs', list('&search=saltmarsh'));
  await measure('two words', list('&search=ferry%20chapel'));
  await measure('a number of one job', list('&search=order%2077123'));
  await measure('a word of no job', list('&search=zeppelin'));
  await measure('two letters', list('&search=mi'));
  await measure('late ones', list('&search=late'));
  await measure('those that are open', list('&of=open'));
  await measure('the board', list('&of=board'));
  await measure('deleted ones', () => server.ask('/jobs/deleted'));
  await measure('opening a job', () => server.ask(`/jobs/${first.id}`));
  await measure('a step', (time) =>
    server.post(`/jobs/${first.id}/journal`, { baseVersion: steps + time, entries: [entryOf(operations[steps + time]!)] }),
  );
  const connection = new Sequelize(db('url', 'isola_torture'), { logging: false });
  const [[size]] = (await connection.query('select pg_database_size(current_database()) as bytes')) as unknown as [[{ bytes: string }]];
  await connection.close();
  await server.kill();
  return { answers, gigabytes: Number(size.bytes) / 1e9, faults: [...new Set(faults)] };
}

/** Copies a job with its journal within the database, under other names, dates and stages: by far the larger part released. */
async function copyJob(id: string, jobs: number, steps: number): Promise<void> {
  const connection = new Sequelize(db('url', 'isola_torture'), { logging: false });
  const columns = async (table: string, without: readonly string[]): Promise<string[]> => {
    const [rows] = await connection.query(
      `select column_name as name from information_schema.columns where table_name = '${table}' and table_schema = 'public' order by ordinal_position`,
    );
    return (rows as { name: string }[]).map(({ name }) => name).filter((name) => !without.includes(name));
  };
  const kept = await columns('jobs', ['id', 'name', 'customer', 'due', 'stage', 'request_key', 'words', 'place', 'saved_seconds']);
  const quoted = kept.map((name) => `"${name}"`).join(', ');
  const word = (of: string, step: number): string =>
    `(array[${WORDS.map((one) => `'${one}'`).join(', ')}])[1 + (${of} * ${step}) % ${WORDS.length}]`;
  await connection.query(`set session_replication_role = origin`);
  await connection.query(
    `insert into jobs (id, name, customer, due, stage, ${quoted})
     select gen_random_uuid(), ${word('k', 3)} || ' order ' || k, ${word('k', 7)} || ' ' || ${word('k / 10', 1)},
       case when k % 9 = 0 then null else current_date + (k % 1400) - 1300 end,
       case when k % 40 = 0 then 'in-work' else 'released' end, ${quoted}
     from jobs, generate_series(1, ${jobs - 1}) k where id = '${id}'`,
  );
  const entry = await columns('journal_entries', ['job_id', 'entry_id', 'parent']);
  const names = entry.map((name) => `"${name}"`).join(', ');
  await connection.query(
    `insert into journal_entries (job_id, entry_id, ${names})
     select j.id, gen_random_uuid(), ${entry.map((name) => `e."${name}"`).join(', ')}
     from jobs j, journal_entries e where e.job_id = '${id}' and e.seq <= ${steps} and j.id <> '${id}'`,
  );
  // What the database does by itself in a quiet minute.
  await connection.query('vacuum analyze');
  await connection.close();
}
