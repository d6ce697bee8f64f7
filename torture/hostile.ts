import { readFileSync } from 'node:fs';
import type { JobSummary } from '@isola/contract';
import { mutator } from './mutate.ts';
import { chance, stepNamed, TorturedServer } from './TorturedServer.ts';

export interface HostileCount {
  readonly requests: number;
  readonly byStatus: Readonly<Record<number, number>>;
  /** ms. */
  readonly slowest: number;
  readonly faults: readonly string[];
}

const SLOW = 10_000;

/** Files and bodies changed by chance: bytes turned, cut, doubled and spliced. No 500, no crash, nothing over ten seconds. */
export async function sendHostile(requests: number, seed = 3, lanes = 4): Promise<HostileCount> {
  const random = chance(seed);
  const pick = <T>(from: readonly T[]): T => from[Math.floor(random() * from.length)]!;
  const files = ['heron.csv', 'birch.csv', 'kettle.csv'].map((name) => readFileSync(`demo/${name}`).subarray(0, 12_000));
  const svg =
    Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="60mm" viewBox="0 0 80 60"><g transform="translate(4 5) scale(0.5)">
    <path d="M0 0L10 10C20 20 30 5 60 -7Q1 2 3 4Z" stroke="#ff0000"/><rect x="1" y="2" width="30" height="4"/><polyline points="1,2 3,4 5,6" stroke="red"/></g></svg>`);
  const server = await TorturedServer.onNewDatabase('isola_torture');
  await server.start();
  const { body: job } = await server.upload<JobSummary>(files[1]!, 'birch.csv');
  const byStatus: Record<number, number> = {};
  const faults: string[] = [];
  let slowest = 0;
  let left = requests;
  const mutate = mutator(random);
  const bodies = (): [at: string, method: string, body: string] => {
    const step = JSON.stringify({ baseVersion: 0, entries: [stepNamed('x')] });
    return pick([
      [`/jobs/${job.id}/journal`, 'POST', step],
      [`/jobs/${job.id}`, 'PATCH', JSON.stringify({ detailsVersion: 0, name: 'n', customer: 'c', due: '2026-12-01' })],
      [`/jobs/${job.id}/revisions`, 'POST', JSON.stringify({ baseVersion: 0, name: 'r', note: 'n' })],
      ['/shop/fabrics/twill', 'PUT', JSON.stringify({ id: 'twill', name: 'twill', mass: 200, stretch: 2 })],
    ]);
  };
  const one = async (): Promise<void> => {
    const start = performance.now();
    let status = 0;
    let said = '';
    try {
      if (random() < 0.7) {
        const bytes = mutate(random() < 0.5 ? svg : pick(files));
        const answer = await server.upload(bytes, pick(['a.csv', 'b.svg', 'c', 'd.json', '\u{1f9f5}.csv']));
        ({ status } = answer);
        said = JSON.stringify(answer.body);
      } else {
        const [at, method, body] = bodies();
        const type = pick(['application/json', 'text/plain', 'multipart/form-data; boundary=x', '']);
        const headers: Record<string, string> = type === '' ? {} : { 'Content-Type': type };
        const answer = await server.ask(at, { method, headers, body: new Uint8Array(mutate(Buffer.from(body))) });
        ({ status } = answer);
        said = JSON.stringify(answer.body);
      }
    } catch (error) {
      faults.push(`no answer: ${String(error)} ${error instanceof Error && error.cause instanceof Error ? error.cause.message : ''}`);
    }
    const took = performance.now() - start;
    slowest = Math.max(slowest, took);
    byStatus[status] = (byStatus[status] ?? 0) + 1;
    if (status === 500) faults.push(`500: ${said.slice(0, 200)}`);
    if (took > SLOW) faults.push(`${took.toFixed(0)} ms`);
  };
  await Promise.all(
    Array.from({ length: lanes }, async () => {
      while (left-- > 0) await one();
    }),
  );
  if (server.log.includes('Error')) faults.push(`in the log: ${server.log.slice(0, 300)}`);
  await server.kill();
  return { requests, byStatus, slowest, faults: [...new Set(faults)] };
}

/** Single files that once ended or held up the server: each has to be answered soon, whatever it is told. */
export async function sendWorst(): Promise<Readonly<Record<string, string>>> {
  const server = await TorturedServer.onNewDatabase('isola_torture');
  await server.start();
  const svg = (inner: string, size = 'width="80mm" height="60mm" viewBox="0 0 80 60"'): Uint8Array =>
    new TextEncoder().encode(`<svg xmlns="http://www.w3.org/2000/svg" ${size}>${inner}</svg>`);
  const far = `<path stroke="red" d="M0 0${'C90000 90000 -90000 -90000 1 1'.repeat(900)}"/>`;
  const zigzag = [
    'command,x,y',
    ...Array.from({ length: 400_000 }, (_, k) => `stitch,${k % 2 === 0 ? -1000 : 1000},${(k / 200 - 1000).toFixed(2)}`),
    'end,,',
  ];
  const worst: Record<string, Uint8Array> = {
    'control points 90 m away, 28 kB': svg(far),
    'a length of 50,000 digits': svg('<path d="M0 0L1 1" stroke="red"/>', `width="${'9'.repeat(50_000)}x" height="1" viewBox="0 0 1 1"`),
    'a length of 200,000 digits': svg('<path d="M0 0L1 1" stroke="red"/>', `width="${'9'.repeat(200_000)}x" height="1" viewBox="0 0 1 1"`),
    'a number of 1,500,000 digits in a row of stitches': new TextEncoder().encode(`command,x,y\nstitch,${'1'.repeat(1_500_000)}x,0\n`),
    'elements 50,000 deep, each turned': svg('<g transform="rotate(1)">'.repeat(50_000)),
    'a zigzag of 400,000 stitches over 2 m': new TextEncoder().encode(zigzag.join('\n')),
  };
  const table: Record<string, string> = {};
  for (const [name, bytes] of Object.entries(worst)) {
    const start = performance.now();
    let most = 0;
    const looking = setInterval(() => (most = Math.max(most, server.megabytes)), 50);
    const answer = await server.upload<{ detail?: string }>(
      bytes,
      name.startsWith('a zigzag') || name.startsWith('a number') ? 'a.csv' : 'a.svg',
    );
    clearInterval(looking);
    table[name] = `${answer.status} in ${((performance.now() - start) / 1000).toFixed(1)} s, ${most.toFixed(0)} MB of all processes`;
  }
  await server.kill();
  return table;
}
