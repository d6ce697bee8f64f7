import { readFileSync } from 'node:fs';
import http from 'node:http';
import { Readable } from 'node:stream';
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
  const large = uploads === 0 ? undefined : await bodyOf(largeFile());
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
  const uploading = Promise.all(Array.from({ length: uploads }, () => send(server.url, large!)));
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

interface Body {
  readonly type: string;
  readonly bytes: Buffer;
}

/** A file as a form, made before anything is measured: making it would hold up who measures. */
async function bodyOf(bytes: Uint8Array): Promise<Body> {
  const form = new FormData();
  form.set('file', new File([new Uint8Array(bytes)], 'large.csv'));
  const whole = new Response(form);
  return { type: whole.headers.get('content-type')!, bytes: Buffer.from(await whole.arrayBuffer()) };
}

function send(url: string, { type, bytes }: Body): Promise<number> {
  return new Promise((resolve, reject) => {
    const headers = { 'Content-Type': type, 'Content-Length': bytes.length };
    const request = http.request(`${url}/api/jobs`, { method: 'POST', headers }, (response) => {
      response.resume();
      response.once('end', () => resolve(response.statusCode!));
    });
    request.once('error', reject);
    Readable.from(piecesOf(bytes)).pipe(request);
  });
}

function* piecesOf(bytes: Buffer): Generator<Buffer> {
  for (let at = 0; at < bytes.length; at += 65_536) yield bytes.subarray(at, at + 65_536);
}

/** 2,000,000 rows, two layers of a field of 1 m, as short as they can be said: just under the largest file. */
function largeFile(): Uint8Array {
  const rows = Array.from({ length: 1_999_990 }, (_, k) => {
    const [row, at] = [Math.floor(k / 1000), k % 1000];
    return `stitch,${row % 2 === 0 ? at : 999 - at},${row % 1000}`;
  });
  return new TextEncoder().encode(['command,x,y', ...rows, 'end,,'].join('\n'));
}
