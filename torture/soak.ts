import http from 'node:http';
import { readFileSync } from 'node:fs';
import type { JobDetail, JobSummary } from '@isola/contract';
import { entryOf, stepsOn } from './steps.ts';
import { chance, percentile, TorturedServer, wait } from './TorturedServer.ts';

export interface Soaked {
  readonly steps: number;
  /** ms from sending a step to its answer. */
  readonly middle: number;
  readonly p99: number;
  readonly slowest: number;
  /** ms, in the middle, of the first step of a job, for which its design is worked out from its file. */
  readonly first: number;
  /** Changes of jobs that windows heard of. */
  readonly heard: number;
  /** Steps that were kept as a branch, since others had touched the same. */
  readonly asides: number;
  /** Of the server and all its processes after the first and in the last quarter of the time, MB. */
  readonly megabytes: readonly [early: number, late: number];
  readonly faults: readonly string[];
}

export interface Soak {
  readonly people: number;
  /** On how many jobs they work together; as many as people: each on one of their own. */
  readonly jobs: number;
  readonly seconds: number;
  /** So often (ms) each makes a step. */
  readonly pause: number;
  readonly processes: number;
}

const FILE = 'demo/birch.csv';

/**
 * People at work: each has the events of the server open and makes steps as a digitizer does. Those on one job work on objects of their own, and now and
 * then on one that all of them touch. In the end every step that was acknowledged has to be in its job once, and the journals without a gap.
 */
export async function soak({ people, jobs: jobCount, seconds, pause, processes }: Soak): Promise<Soaked> {
  const server = await TorturedServer.onNewDatabase('isola_torture');
  await server.start(undefined, { PROCESSES: String(processes) });
  const file = readFileSync(FILE);
  const jobs: JobSummary[] = [];
  for (let k = 0; k < jobCount; k++) jobs.push((await server.upload<JobSummary>(file, 'birch.csv')).body);
  for (const job of jobs) while ((await fetch(`${server.url}/api/jobs/${job.id}/base`)).status === 202) await wait(50);
  const { operations, objects } = stepsOn(FILE, Math.ceil((2 * seconds * 1000) / pause) + 5);
  const took: number[] = [];
  const faults = new Set<string>();
  const acknowledged = new Map<string, string[]>(jobs.map(({ id }) => [id, []]));
  // The first step of each brings its design into hand; how long that takes is told by itself.
  const cold: number[] = [];
  if (jobCount === people)
    for (const { id } of jobs) {
      const [start, entry] = [performance.now(), entryOf(operations[0]!)];
      await server.post(`/jobs/${id}/journal`, { baseVersion: 0, entries: [entry], own: [] });
      acknowledged.get(id)!.push(entry.id);
      cold.push(performance.now() - start);
    }
  let [heard, asides, isOver] = [0, 0, false];
  const closes = Array.from({ length: people }, (_, k) => listen(server.url, jobs[k % jobCount]!.id, () => heard++));
  const begun = Date.now();
  const megabytes: [number, number] = [0, 0];
  const looking = setInterval(() => {
    const share = (Date.now() - begun) / (seconds * 1000);
    if (share < 0.25) megabytes[0] = Math.max(megabytes[0], server.megabytes);
    if (share > 0.75) megabytes[1] = Math.max(megabytes[1], server.megabytes);
  }, 500);

  const send = async (job: string, body: object): Promise<{ status: number; body: JobSummary }> => {
    const start = performance.now();
    const answer = await server.post<JobSummary>(`/jobs/${job}/journal`, body);
    took.push(performance.now() - start);
    return answer;
  };

  /** One person on a job of their own. */
  async function alone(job: string, k: number): Promise<void> {
    await wait((pause * k) / people);
    for (let n = 1; !isOver && n < operations.length; n++) {
      const start = Date.now();
      const entry = entryOf(operations[n]!);
      const { status } = await send(job, { baseVersion: n, entries: [entry], own: [] });
      if (status === 200) acknowledged.get(job)!.push(entry.id);
      else return void faults.add(`a step was answered with ${status}`);
      await wait(Math.max(0, pause - (Date.now() - start)));
    }
  }

  /** One of several on a job: what others did is taken up now and then, as a page does when it is told of it. */
  async function together(job: string, k: number): Promise<void> {
    const random = chance(k + 1);
    const mine = objects[k % objects.length]!;
    let seen = 0;
    let own: string[] = [];
    await wait((pause * k) / people);
    for (let n = 0; !isOver; n++) {
      const start = Date.now();
      const object = random() < 0.1 ? objects[0]! : mine;
      const entry = entryOf({ id: 'rename-object', object, name: `Person ${k}, ${n}` });
      const body = { baseVersion: seen, entries: [entry], own };
      let { status, body: answer } = await send(job, body);
      if (status === 409) {
        asides++;
        ({ status, body: answer } = await server.post<JobSummary>(`/jobs/${job}/journal`, { ...body, isAside: true }));
      } else own = [...own, entry.id];
      if (status === 200) acknowledged.get(job)!.push(entry.id);
      else faults.add(`a step was answered with ${status}`);
      if (random() < 0.5 && status === 200) [seen, own] = [answer.version, []];
      await wait(Math.max(0, pause - (Date.now() - start)));
    }
  }

  const working = Array.from({ length: people }, (_, k) =>
    jobCount === people ? alone(jobs[k]!.id, k) : together(jobs[k % jobCount]!.id, k),
  );
  await wait(seconds * 1000);
  isOver = true;
  await Promise.all(working);
  clearInterval(looking);
  for (const close of closes) close();
  for (const job of jobs) {
    const { journal, version } = (await server.ask<JobDetail>(`/jobs/${job.id}?from=start`)).body;
    const ids = journal.map(({ entry }) => entry.id);
    const wanted = acknowledged.get(job.id)!;
    if (new Set(ids).size !== ids.length) faults.add('a step is there twice');
    if (!wanted.every((id) => ids.includes(id))) faults.add('a step that was acknowledged is not there');
    if (journal.some(({ seq }, k) => seq !== k + 1) || version !== journal.length) faults.add('a journal has a gap');
  }
  if (server.log.includes('Error')) faults.add(`in the log: ${server.log.slice(0, 300)}`);
  await server.kill();
  return {
    ...{ steps: took.length, middle: percentile(took, 0.5), p99: percentile(took, 0.99), slowest: Math.max(...took) },
    ...{ first: percentile(cold, 0.5), heard, asides, megabytes, faults: [...faults] },
  };
}

/** A window that hears what is changed of a job; gives what closes it. */
function listen(url: string, job: string, hear: () => void): () => void {
  const request = http.get(`${url}/api/events?job=${job}`, (response) => {
    response.on('data', (data: Buffer) => {
      if (data.includes('event: job')) hear();
    });
    response.on('error', () => undefined);
  });
  request.on('error', () => undefined);
  return () => request.destroy();
}
