/** @jest-environment node */
import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import type { JournalEntry } from '@isola/core';
import { createPinia, setActivePinia } from 'pinia';
import { createEngine } from '../workers/createEngine.ts';
import { closeWindows, serveFrom } from './testing/browser.ts';
import { StandInServer } from './testing/StandInServer.ts';
import '../workers/testing/quietWorkers.ts';

const { useBench } = await import('./bench.ts');
const { useOutbox } = await import('./outbox.ts');
const { useNotices } = await import('./notices.ts');
const { readSteps } = await import('./unsent/unsentDb.ts');

let server: StandInServer;

beforeEach(async () => {
  server = new StandInServer();
  server.journals.set('one', []).set('two', []);
  await serveFrom(server);
});

type Bench = ReturnType<typeof useBench>;
const opened: { bench: Bench; outbox: ReturnType<typeof useOutbox> }[] = [];
afterEach(() =>
  opened.splice(0).forEach(({ bench, outbox }) => {
    bench.close();
    outbox.queues = new Map();
  }),
);

/** A window of its own beside those that are open. */
async function openWindow(id = 'one'): Promise<{ bench: Bench; outbox: ReturnType<typeof useOutbox> }> {
  setActivePinia(createPinia());
  const [bench, outbox] = [useBench(), useOutbox()];
  opened.push({ bench, outbox });
  await bench.open(id);
  return { bench, outbox };
}

async function until(isSo: () => boolean | Promise<boolean>): Promise<void> {
  for (let k = 0; k < 500; k++) {
    if (await isSo()) return;
    await new Promise((resolve) => setTimeout(resolve, 2));
  }
  throw new Error('this did not come about');
}

const keep = (bench: Bench, reason: string, at = 0) => bench.keepFinding(bench.openFindings[at]!, reason);
const keptIn = (bench: Bench) => bench.keptFindings.map((k) => k.reason).sort();
const stored = (id = 'one') => server.journals.get(id)!;

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

describe('two windows', () => {
  test('one hears what the other does and shows it', async () => {
    const here = await openWindow();
    const there = await openWindow();
    await keep(there.bench, 'there');
    await until(() => here.bench.keptFindings.length === 1);
    expect([here.bench.job!.version, here.bench.done.map((step) => step.name)]).toEqual([1, there.bench.done.map((step) => step.name)]);
    await here.bench.undo();
    await until(() => there.bench.keptFindings.length === 0);
    expect(stored().map((e) => e.kind)).toEqual(['do', 'undo']);
  });

  test('steps made beside those of another window are weighed on them, under their own ids, and made or let go', async () => {
    for (const isKept of [true, false]) {
      server.journals.set('one', []);
      const here = await openWindow();
      const there = await openWindow();
      server.pages.clear();
      await keep(there.bench, 'there');
      await there.outbox.send('one');
      await keep(here.bench, 'here', 1);
      await until(() => here.bench.settling !== undefined);
      expect(here.bench.outgoing!.state).toBe('conflict');
      const [made] = here.bench.outgoing!.entries;
      await keep(here.bench, 'not while it is open');
      expect(here.bench.outgoing!.entries).toHaveLength(1);
      expect(here.bench.settling).toMatchObject({ version: 1, steps: [{ problem: undefined }] });
      await here.bench.settle(isKept);
      expect([keptIn(here.bench), here.outbox.unsentCount]).toEqual([isKept ? ['here', 'there'] : ['there'], 0]);
      expect(stored().map((e) => e.id)[1]).toBe(isKept ? made!.id : undefined);
    }
  });

  test('a repair accepted in both is there once: made again it is refused in words, and no stitch is doubled', async () => {
    for (const rule of ['needless-trim', 'missing-tie', 'long-stitch', 'tiny-stitch']) {
      server.journals.set('one', []);
      const here = await openWindow();
      const there = await openWindow();
      server.pages.clear();
      for (const { bench } of [here, there]) {
        const finding = bench.openFindings.find((f) => f.rule === rule)!;
        await bench.tryRepairs([finding.key]);
        await bench.acceptTrial();
        await until(() => bench.outgoing?.state !== 'sending');
      }
      await until(() => there.bench.settling !== undefined);
      const repaired = here.bench.now!.view.figures.stitches;
      // What carries over is the same twice over; what puts stitches in says that they are not where it expects them.
      if (rule === 'missing-tie')
        expect(there.bench.settling).toMatchObject({ steps: [{ problem: expect.stringContaining('was changed since') }] });
      expect(there.bench.settling).toMatchObject({ before: { stitches: repaired }, after: { stitches: repaired } });
      await there.bench.settle(true);
      expect([there.bench.now!.view.figures.stitches, there.outbox.unsentCount]).toEqual([repaired, 0]);
    }
  });

  test('an undo takes back what it was meant for, and never what another window did', async () => {
    const here = await openWindow();
    await keep(here.bench, 'here');
    await here.outbox.send('one');
    const there = await openWindow();
    server.pages.clear();
    await keep(there.bench, 'there');
    await there.outbox.send('one');
    await here.bench.undo();
    await until(() => here.bench.settling !== undefined);
    expect(here.bench.settling).toMatchObject({ steps: [{ problem: expect.stringContaining('was done since') }] });
    await here.bench.settle(true);
    expect(keptIn(here.bench)).toEqual(['here', 'there']);
  });

  test('a step that the server works out otherwise than the page is said, and the job shown as the server has it', async () => {
    const { bench, outbox } = await openWindow();
    const opened = jest.spyOn(server, 'answer');
    const openings = (): number => opened.mock.calls.filter(([at]) => at.includes('/base')).length;
    await keep(bench, 'alike');
    await outbox.send('one');
    await until(() => bench.job?.version === 1);
    // The real hash of what is shown is the same here and there.
    const engine = createEngine();
    await engine.open(server.file, server.baseJson, [...stored()], 2);
    server.programHash = await engine.hash();
    await keep(bench, 'alike, too');
    await outbox.send('one');
    await until(() => bench.job?.version === 2);
    expect([useNotices().notice, openings()]).toEqual([undefined, 0]);
    server.programHash = 'another';
    await keep(bench, 'otherwise');
    await outbox.send('one');
    await until(() => useNotices().notice !== undefined && openings() > 0);
    await until(() => !bench.isOpening);
    expect(keptIn(bench)).toEqual(['alike', 'alike, too', 'otherwise']);
    // A job whose steps lead elsewhere than when they were made says so when it is opened.
    await until(() => useNotices().notice?.text.includes('Isola was changed since') === true);
  });

  test('a job goes to where an earlier step had led, as a step that the server gets, and from there to any other', async () => {
    const { bench, outbox } = await openWindow();
    for (const reason of ['one', 'two', 'three']) await keep(bench, reason);
    await outbox.send('one');
    await until(() => bench.job?.version === 3);
    const [first, , third] = bench.done.map(({ id }) => id);
    await bench.goTo(first!);
    await outbox.send('one');
    await until(() => bench.job?.version === 4);
    expect([keptIn(bench), stored().map(({ kind }) => kind)]).toEqual([['one'], ['do', 'do', 'do', 'go']]);
    expect(bench.undone.map(({ name }) => name)).toHaveLength(2);
    await bench.goTo(third!);
    await outbox.send('one');
    await until(() => bench.job?.version === 5);
    // Where it is already it does not go.
    await bench.goTo(third!);
    expect(stored()).toHaveLength(5);
    expect(keptIn(bench)).toEqual(['one', 'three', 'two']);
    // Without the server, too: it hears of it later. Where no step had led nobody goes.
    server.isReachable = false;
    await keep(bench, 'four');
    await bench.goTo(first!);
    expect(keptIn(bench)).toHaveLength(1);
    await expect(bench.goTo(crypto.randomUUID())).rejects.toThrow('no such step');
    server.isReachable = true;
    await outbox.send('one');
    await until(async () => outbox.unsentCount === 0 && (await readSteps()).length === 0);
  });

  test('a job that is deleted elsewhere says so, and steps left of it wait to be saved or let go', async () => {
    const { bench, outbox } = await openWindow();
    server.journals.delete('one');
    server.pages.forEach((hear) => hear({ id: 'one', version: null }));
    await until(() => bench.failure !== undefined);
    expect(bench.failure!.title).toBe('This job was deleted');
    const other = await openWindow('two');
    server.journals.delete('two');
    await keep(other.bench, 'too late');
    await until(() => other.bench.settling !== undefined);
    expect([other.bench.outgoing!.state, other.bench.settling]).toEqual(['refused', { problem: 'It may have been deleted.' }]);
    await other.bench.settle(false);
    expect([other.outbox.unsentCount, outbox.unsentCount, await readSteps()]).toEqual([0, 0, []]);
  });
});

function keepOf(reason: string) {
  return { id: 'keep-finding' as const, places: [reason], rule: 'long-stitch', title: 't', reason };
}
