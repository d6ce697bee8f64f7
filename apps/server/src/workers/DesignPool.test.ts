import { afterEach, describe, expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { defaultTarget } from '@isola/core';
import { DesignPool } from './DesignPool.ts';

const SCRIPT = path.resolve(import.meta.dirname, '../../dist/design.worker.js');
const bytes = new TextEncoder().encode('command,x,y\nstitch,0,0\nstitch,3,0\nend,,\n');
const target = defaultTarget();
let pool: DesignPool;
afterEach(() => pool.close());

describe('worker pool', () => {
  test('answers more tasks than it has workers, each its own', async () => {
    pool = new DesignPool(SCRIPT);
    const files = Array.from({ length: 9 }, (_, k) => new TextEncoder().encode(`command,x,y\n${'stitch,1,2\n'.repeat(k + 1)}end,,\n`));
    const answers = await Promise.all(files.map((file) => pool.run('read', { bytes: file, target })));
    expect(answers.map((a) => ('figures' in a ? a.figures.stitches : -1))).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9]);
  });

  const keep = (reason: string) => ({
    id: crypto.randomUUID(),
    kind: 'do' as const,
    name: 'keep',
    operation: { id: 'keep-finding' as const, places: ['k'], rule: 'r', title: 't', reason },
  });
  const start = { jobId: 'a', version: 0, lastEntryId: null };

  test('a file that does not read is an answer; a journal that does not fit is one too; recognition says how far it is', async () => {
    pool = new DesignPool(SCRIPT);
    const bad = await pool.run('read', { bytes: new Uint8Array(0), target });
    expect('refused' in bad && bad.refused.found).toBe('an empty file');
    const heard: number[] = [];
    const { base, version } = await pool.run('adopt', { bytes, target, entries: [] }, { progress: ({ share }) => heard.push(share) });
    expect([version, heard.length > 2, heard]).toEqual([0, true, [...heard].sort((a, b) => a - b)]);
    const more = [{ id: crypto.randomUUID(), kind: 'undo' as const }];
    expect(await pool.run('derive', { ...start, more })).toBe('state-needed');
    expect(await pool.run('derive', { ...start, more, whole: { bytes, base, entries: [] } })).toEqual({
      refused: 'there is no step to undo',
    });
  });

  test('a worker keeps designs in hand and builds on them; what was refused, or not stored in the end, leaves no trace', async () => {
    pool = new DesignPool(SCRIPT);
    const { base } = await pool.run('adopt', { bytes, target, entries: [] });
    const whole = { bytes, base, entries: [] };
    expect(await pool.run('derive', { ...start, more: [], whole })).toHaveProperty('figures');
    const [mine, other] = [keep('mine'), keep('other')];
    expect(await pool.run('derive', { ...start, more: [mine] })).toHaveProperty('figures');
    // The server did not store it: another window was first, and its step is derived from the same state.
    expect(await pool.run('derive', { ...start, more: [other] })).toHaveProperty('figures');
    const after = { jobId: 'a', version: 1, lastEntryId: other.id };
    expect(await pool.run('write', { ...after, format: 'svg' })).toHaveProperty('content');
    const reopen = { ...keep('x'), operation: { id: 'reopen-finding' as const, places: ['none'] } };
    expect(await pool.run('derive', { ...after, more: [reopen] })).toEqual({ refused: 'nothing was kept at none' });
    expect(await pool.run('derive', { ...after, more: [{ id: crypto.randomUUID(), kind: 'undo' }] })).toHaveProperty('figures');
    expect(await pool.run('derive', { ...after, lastEntryId: crypto.randomUUID(), more: [] })).toBe('state-needed');
  });

  test('what nobody waits for any more is given up, whether it waits or is worked on, and others go on', async () => {
    pool = new DesignPool(SCRIPT);
    const slow = new TextEncoder().encode(`command,x,y\n${'stitch,1,2\nstitch,9,9\n'.repeat(300_000)}end,,\n`);
    const [working, waiting] = [new AbortController(), new AbortController()];
    const first = pool.run('read', { bytes: slow, target }, { signal: working.signal });
    const second = pool.run('read', { bytes: slow, target }, { signal: waiting.signal });
    const third = pool.run('read', { bytes, target });
    waiting.abort();
    await expect(second).rejects.toThrow('given up by who asked');
    working.abort();
    await expect(first).rejects.toThrow('given up by who asked');
    expect(await third).toHaveProperty('figures');
    await expect(pool.run('read', { bytes, target }, { signal: working.signal })).rejects.toThrow('given up');
    // What was done before is not undone by it.
    const late = new AbortController();
    expect(await pool.run('read', { bytes, target }, { signal: late.signal })).toHaveProperty('figures');
    late.abort();
    expect(pool.state.files).toEqual({ waiting: 0, processes: 1 });
  });

  test('what fails in a worker is an error here, and the pool goes on', async () => {
    pool = new DesignPool(SCRIPT);
    const broken = { bytes: new Uint8Array(3), base: new Uint8Array(0), entries: [] };
    await expect(pool.run('derive', { ...start, more: [], whole: broken })).rejects.toThrow(/stored file does not read/);
    expect(await pool.run('read', { bytes, target })).toHaveProperty('figures');
  });

  const slow = new TextEncoder().encode(
    `command,x,y\n${Array.from({ length: 250_000 }, (_, k) => `stitch,${k % 90},${k % 7}\n`).join('')}end,,\n`,
  );

  test('an edit does not wait for large files, and who comes when too much waits is turned away at once', async () => {
    const lane = { size: 1, longest: 2, memory: 700, timeLimit: 60_000, isPatient: true };
    pool = new DesignPool(SCRIPT, { edits: { ...lane, isPatient: false }, files: lane, audits: lane });
    const reading = [slow, slow, slow].map((file) => pool.run('read', { bytes: file, target }));
    await expect(pool.run('read', { bytes, target })).rejects.toThrow('too much waits already');
    let read = 0;
    // Those that are given up with the pool have no answer.
    for (const task of reading)
      task.then(
        () => read++,
        () => undefined,
      );
    expect(await pool.run('derive', { ...start, more: [] })).toBe('state-needed');
    expect([read, pool.state.files.waiting]).toEqual([0, 2]);
    expect(await reading[0]).toHaveProperty('figures');
    // Those that wait still are given up with the pool.
    const left = Promise.allSettled(reading);
    await pool.close();
    await left;
  }, 120_000);

  test('a task that takes too much memory is given up with its process, and another one does the next', async () => {
    const lane = { size: 1, longest: 5, memory: 130, timeLimit: 60_000, isPatient: false };
    pool = new DesignPool(SCRIPT, { edits: lane, files: lane, audits: lane });
    await expect(pool.run('read', { bytes: slow, target })).rejects.toThrow(/within 130 MB|process of this computation ended/);
    expect(await pool.run('read', { bytes, target })).toHaveProperty('figures');
    // So it is where the system ends it.
    const half = pool.run('read', { bytes: slow, target });
    for (const pid of readFileSync('/proc/self/task/' + process.pid + '/children', 'utf8')
      .trim()
      .split(' '))
      process.kill(Number(pid), 'SIGKILL');
    await expect(half).rejects.toThrow('process of this computation ended');
    expect(await pool.run('read', { bytes, target })).toHaveProperty('figures');
    await pool.close();
    await expect(pool.run('read', { bytes, target })).rejects.toThrow();
  }, 120_000);
});
