/** @jest-environment node */
import { expect, test } from '@jest/globals';
import { rehearse } from './rehearse.ts';

test('small designs are opened until a job is in hand, and what comes meanwhile is let in between', async () => {
  let asked = 0;
  let turns = 0;
  const others = setInterval(() => turns++, 1);
  // Each round reads, makes a base, opens and audits.
  await rehearse(() => ++asked > 0);
  clearInterval(others);
  expect(asked).toBe(12);
  expect(turns).toBeGreaterThan(3);
  asked = 0;
  await rehearse(() => ++asked < 3);
  expect(asked).toBe(3);
});
