import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { sendHostile } from './hostile.ts';
import { readMutated } from './mutated.ts';
import { soak } from './soak.ts';
import { killAtStatements, killUnderLoad } from './kills.ts';
import { db } from './TorturedServer.ts';
import { guardTest } from '../apps/server/src/testing/guardTest.ts';
import { triesOf } from '../packages/core/src/testing/runs.ts';

// The attacks in short; `npm run torture` has them at full length.

describe('under attack', () => {
  beforeAll(() => {
    // A cluster that others do not work on: it is killed.
    process.env['DB_CLUSTER'] = 'postgres-torture';
    process.env['DB_PORT'] = '54439';
    // What was acknowledged has to be there after a kill.
    process.env['DB_DURABLE'] = 'on';
  });
  afterAll(() => void db('stop'));

  guardTest(
    'killed before any statement of its first start, the server starts again and is whole',
    async () => {
      const { kills, faults } = await killAtStatements(160, false);
      expect(faults).toEqual([]);
      expect(kills).toBeGreaterThan(1);
      // Each kill is two starts of the server: a busy machine takes its time for them.
    },
    180_000,
  );

  test('server and database killed under editors lose nothing that was acknowledged, and double nothing', async () => {
    const { acknowledged, faults } = await killUnderLoad(2, 5);
    expect(faults).toEqual([]);
    expect(acknowledged).toBeGreaterThan(1);
  });

  test('inputs changed by chance are read or refused by all that reads things of other hands', () => {
    const { inputs, read, faults } = readMutated(triesOf(1400));
    expect(faults).toEqual([]);
    expect([inputs, Object.keys(read).length]).toEqual([triesOf(1400), 6]);
  });

  guardTest('people on one job at two server processes: every step that was acknowledged is there once', async () => {
    const { steps, heard, faults } = await soak({ people: 4, jobs: 1, seconds: 3, pause: 600, processes: 2 });
    expect(faults).toEqual([]);
    expect(steps).toBeGreaterThan(5);
    expect(heard).toBeGreaterThan(steps);
  });

  test('files and bodies changed by chance are answered, never by a fault of the server', async () => {
    const { requests, faults } = await sendHostile(triesOf(60), 3);
    expect(faults).toEqual([]);
    expect(requests).toBe(triesOf(60));
  });
});
