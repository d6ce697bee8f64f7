import { readFileSync } from 'node:fs';
import type { JobSummary } from '@isola/contract';
import { percentile, stepNamed, TorturedServer, wait } from './TorturedServer.ts';

export interface Load {
  readonly steps: number;
  /** ms. */
  readonly middle: number;
  readonly p99: number;
  readonly slowest: number;
  /** Of the server and all its processes, MB. */
  readonly megabytes: number;
  readonly uploads: readonly number[];
  readonly faults: readonly string[];
}

/** Editors of as many jobs, each a step every `pause` ms for `seconds`, while large files may be taken in. */
export async function edit(editors: number, seconds: number, uploads: number, pause: number): Promise<Load> {
  const server = await TorturedServer.onNewDatabase('isola_torture');
  await server.start();
  const file = readFileSync('demo/birch.csv');
  const jobs: JobSummary[] = [];
  for (let k = 0; k < editors; k++) jobs.push((await server.upload<JobSummary>(file, 'birch.csv')).body);
  for (const job of jobs) while ((await fetch(`${server.url}/api/jobs/${job.id}/base`)).status === 202) await wait(50);
  // The first step of each brings its design into hand.
  for (const job of jobs) await server.post(`/jobs/${job.id}/journal`, { baseVersion: 0, entries: [stepNamed('first')] });
  const took: number[] = [];
  const faults: string[] = [];
  let megabytes = 0;
  let isOver = false;
  const looking = setInterval(() => (megabytes = Math.max(megabytes, server.megabytes)), 100);
  const editing = jobs.map(async (job, k) => {
    await wait((pause * k) / editors);
    for (let version = 1; !isOver; version++) {
      const start = performance.now();
      const { status } = await server.post(`/jobs/${job.id}/journal`, { baseVersion: version, entries: [stepNamed(`${version}`)] });
      took.push(performance.now() - start);
      if (status !== 200) faults.push(`a step was answered with ${status}`);
      await wait(Math.max(0, pause - (performance.now() - start)));
    }
  });
  const large = uploads === 0 ? undefined : largeFile();
  const uploading = Promise.all(Array.from({ length: uploads }, async () => (await server.upload(large!, 'large.csv')).status));
  const [statuses] = await Promise.all([uploading, wait(seconds * 1000)]);
  isOver = true;
  await Promise.all(editing);
  clearInterval(looking);
  await server.kill();
  return {
    ...{ steps: took.length, middle: percentile(took, 0.5), p99: percentile(took, 0.99), slowest: Math.max(...took) },
    ...{ megabytes, uploads: statuses, faults: [...new Set(faults)] },
  };
}

/** 2,000,000 rows in rows of a field, as short as they can be said. */
function largeFile(): Uint8Array {
  const rows = Array.from({ length: 1_999_990 }, (_, k) => {
    const [row, at] = [Math.floor(k / 1000), k % 1000];
    return `stitch,${((row % 2 === 0 ? at : 999 - at) / 2 - 250).toFixed(1)},${(row / 5 - 200).toFixed(1)}`;
  });
  return new TextEncoder().encode(['command,x,y', ...rows, 'end,,'].join('\n'));
}
