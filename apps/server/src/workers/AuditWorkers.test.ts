import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { AuditWorkers } from './AuditWorkers.ts';

let dir = '';
beforeAll(() => {
  dir = mkdtempSync(path.join(tmpdir(), 'isola-workers-'));
});
afterAll(() => rmSync(dir, { recursive: true }));

/** A worker that notes that it began and stays, or ends at once where its first turn is to fail. */
function script(name: string, body: string): { file: string; begun: () => number[] } {
  const [file, log] = [path.join(dir, `${name}.mjs`), path.join(dir, `${name}.log`)];
  writeFileSync(log, '');
  writeFileSync(
    file,
    `import { appendFileSync, readFileSync } from 'node:fs';\nconst log = ${JSON.stringify(log)};\nappendFileSync(log, process.pid + '\\n');\n${body}`,
  );
  return { file, begun: () => readFileSync(log, 'utf8').split('\n').filter(Boolean).map(Number) };
}
const stays = 'setInterval(() => undefined, 1000);';

async function until(isSo: () => boolean): Promise<void> {
  while (!isSo()) await new Promise((resolve) => setTimeout(resolve, 50));
}
const isAlive = (pid: number): boolean => {
  try {
    return process.kill(pid, 0);
  } catch {
    return false;
  }
};

describe('workers of audits beside a server', () => {
  test('are as many as were asked for, and one that is killed is started again', async () => {
    const { file, begun } = script('stays', stays);
    const workers = new AuditWorkers(file, 2);
    await until(() => begun().length === 2);
    const [first, second] = begun() as [number, number];
    process.kill(first, 'SIGKILL');
    await until(() => begun().length === 3);
    expect([isAlive(first), isAlive(second), isAlive(begun()[2]!)]).toEqual([false, true, true]);
    await workers.close();
    expect(begun().filter(isAlive)).toEqual([]);
    // Nobody starts again after the server ended.
    await new Promise((resolve) => setTimeout(resolve, 2500));
    expect(begun()).toHaveLength(3);
  });

  test('may be none at all: others run elsewhere', async () => {
    const { file, begun } = script('none', stays);
    const workers = new AuditWorkers(file, 0);
    await workers.close();
    expect(begun()).toEqual([]);
  });

  test('that end at once do not take the machine: each waits before it begins anew', async () => {
    const { file, begun } = script('ends', 'process.exit(3);');
    const workers = new AuditWorkers(file, 1);
    await new Promise((resolve) => setTimeout(resolve, 2600));
    expect(begun().length).toBeLessThanOrEqual(2);
    await workers.close();
  });
});
