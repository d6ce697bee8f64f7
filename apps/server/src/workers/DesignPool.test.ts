import { afterEach, describe, expect, test } from '@jest/globals';
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
    pool = new DesignPool(SCRIPT, 2);
    const files = Array.from({ length: 9 }, (_, k) => new TextEncoder().encode(`command,x,y\n${'stitch,1,2\n'.repeat(k + 1)}end,,\n`));
    const answers = await Promise.all(files.map((file) => pool.run('read', { bytes: file, target })));
    expect(answers.map((a) => ('figures' in a ? a.figures.stitches : -1))).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9]);
  });

  test('a file that does not read is an answer; a journal that does not fit is one too', async () => {
    pool = new DesignPool(SCRIPT, 1);
    const bad = await pool.run('read', { bytes: new Uint8Array(0), target });
    expect('refused' in bad && bad.refused.found).toBe('an empty file');
    const state = { jobId: 'a', initialTarget: target, entries: [{ id: crypto.randomUUID(), kind: 'undo' as const }] };
    expect(await pool.run('derive', state)).toBe('bytes-needed');
    expect(await pool.run('derive', { ...state, bytes })).toEqual({ refused: 'there is no step to undo' });
  });

  test('a worker keeps a design in hand, builds on it, and asks again when another journal comes', async () => {
    pool = new DesignPool(SCRIPT, 1);
    const keep = {
      id: crypto.randomUUID(),
      kind: 'do' as const,
      name: 'keep',
      operation: { id: 'keep-finding' as const, key: 'k', rule: 'r', title: 't', reason: 'so' },
    };
    const state = { jobId: 'a', initialTarget: target, entries: [] };
    expect(await pool.run('derive', { ...state, bytes })).toHaveProperty('figures');
    expect(await pool.run('derive', { ...state, entries: [keep] })).toHaveProperty('figures');
    expect(await pool.run('write', { ...state, entries: [keep], format: 'svg' })).toHaveProperty('content');
    expect(await pool.run('derive', { ...state, entries: [{ ...keep, id: crypto.randomUUID() }] })).toBe('bytes-needed');
  });

  test('what fails in a worker is an error here, and the pool goes on', async () => {
    pool = new DesignPool(SCRIPT, 1);
    const broken = { jobId: 'b', bytes: new Uint8Array(3), initialTarget: target, entries: [] };
    await expect(pool.run('derive', broken)).rejects.toThrow(/stored file does not read/);
    expect(await pool.run('read', { bytes, target })).toHaveProperty('figures');
  });
});
