/** @jest-environment node */
import { describe, expect, jest, test } from '@jest/globals';
import type { JournalEntry } from '@isola/core';
import { closeWindows } from './testing/browser.ts';
import { keep, keptIn, openWindow, server, setWindows, stored, until } from './testing/windows.ts';

const { readSteps } = await import('./unsent/unsentDb.ts');
setWindows();

describe('steps on their way to the server', () => {
  test('are kept in the browser until they are acknowledged, and sent once although answers are lost', async () => {
    const { bench, outbox } = await openWindow();
    server.losesAnswers = true;
    await keep(bench, 'first');
    await until(() => bench.outgoing?.state === 'offline');
    await keep(bench, 'second');
    await until(async () => (await readSteps()).length === 2);
    server.losesAnswers = false;
    await outbox.send('one');
    expect([stored().length, outbox.unsentCount, await readSteps()]).toEqual([2, 0, []]);
    expect(bench.job!.version).toBe(2);
  });

  test('of another job go on while this one is worked on: nothing is said to be saved before all is', async () => {
    const { bench, outbox } = await openWindow('one');
    server.isReachable = false;
    await keep(bench, 'in the first job');
    await until(() => bench.outgoing?.state === 'offline');
    server.isReachable = true;
    await bench.open('two');
    expect(outbox.unsentCount).toBe(1);
    await keep(bench, 'in the second');
    await outbox.send('two');
    expect(outbox.queues.has('one')).toBe(true);
    await outbox.send('one');
    expect([stored('one').length, stored('two').length, outbox.unsentCount]).toEqual([1, 1, 0]);
  });

  test('lie in what a job is opened with: it is asked for while they are looked for, and anew where there were any', async () => {
    const counts = (): number[] => ['file', 'base'].map((part) => server.asked.filter((asked) => asked === part).length);
    const first = await openWindow();
    expect(counts()).toEqual([1, 1]);
    server.isReachable = false;
    await keep(first.bench, 'unsent');
    await until(async () => (await readSteps()).length === 1);
    server.isReachable = true;
    closeWindows();
    first.outbox.queues = new Map();
    server.asked.splice(0);
    const later = await openWindow();
    expect([stored().length, later.bench.done.length, later.bench.job!.version]).toEqual([1, 1, 1]);
    expect(counts()).toEqual([1, 2]);
  });

  test('made without a connection outlive their window; another one sends them, and only when that is gone', async () => {
    const first = await openWindow();
    server.isReachable = false;
    for (const reason of ['a', 'b']) await keep(first.bench, reason);
    await until(async () => (await readSteps()).length === 2);
    server.isReachable = true;
    const beside = await openWindow('two');
    await beside.outbox.takeUp();
    expect([beside.outbox.unsentCount, stored().length]).toEqual([0, 0]);
    closeWindows();
    first.outbox.queues = new Map();
    const later = await openWindow('one');
    expect([keptIn(later.bench), stored().length, await readSteps()]).toEqual([['a', 'b'], 2, []]);
  });

  test('that an earlier version of the page left are taken up, and what does not read is passed over', async () => {
    const entry = { id: crypto.randomUUID(), kind: 'do', name: 'keep', operation: keepOf('left over') };
    localStorage.setItem('isola.unsent.one', JSON.stringify({ baseVersion: 0, entries: [entry] }));
    localStorage.setItem('isola.unsent.two', '{broken');
    const { bench } = await openWindow();
    expect([keptIn(bench), stored().length, localStorage.length]).toEqual([['left over'], 1, 0]);
  });

  test('more than one request takes are sent in parts', async () => {
    const { bench, outbox } = await openWindow();
    server.isReachable = false;
    const entries = Array.from({ length: 230 }, (_, k): JournalEntry => ({
      id: crypto.randomUUID(),
      kind: 'do',
      name: `keep ${k}`,
      operation: keepOf(`reason ${k}`),
    }));
    await outbox.replace(bench.job!, 0, entries);
    await until(() => bench.outgoing?.state === 'offline');
    server.isReachable = true;
    await outbox.send('one');
    expect([server.appends, stored().map((e) => e.id)]).toEqual([3, entries.map((e) => e.id)]);
  });

  test('are sent all the same where the browser has no room for them, and that is said', async () => {
    const { bench, outbox } = await openWindow();
    const add = jest.spyOn(IDBObjectStore.prototype, 'add').mockImplementation(() => {
      throw new DOMException('full', 'QuotaExceededError');
    });
    server.isReachable = false;
    await keep(bench, 'nowhere kept');
    await until(() => outbox.keepProblem !== '');
    expect(outbox.keepProblem).toMatch(/no room/);
    add.mockRestore();
    server.isReachable = true;
    await outbox.send('one');
    expect(stored()).toHaveLength(1);
  });
});

function keepOf(reason: string) {
  return { id: 'keep-finding' as const, places: [reason], rule: 'long-stitch', title: 't', reason };
}
