/** @jest-environment node */
import { describe, expect, jest, test } from '@jest/globals';
import { createEngine } from '../workers/createEngine.ts';
import { keep, keptIn, openWindow, server, setWindows, stored, until } from './testing/windows.ts';

const { useNotices } = await import('./notices.ts');
const { readSteps } = await import('./unsent/unsentDb.ts');
setWindows();

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

  test('steps that touch other things than those of another window go on top of them by themselves, and are shown on both', async () => {
    const here = await openWindow();
    const there = await openWindow();
    server.pages.clear();
    await keep(there.bench, 'there');
    await there.outbox.send('one');
    server.makers.set(stored()[0]!.id, 'Mara');
    server.delay = 5;
    await keep(here.bench, 'here', 1);
    // Made before anything of the other window was seen, too.
    await keep(here.bench, 'and here', 1);
    await until(() => here.outbox.unsentCount === 0 && keptIn(here.bench).length === 3);
    expect([keptIn(here.bench), here.bench.job!.version, here.bench.settling]).toEqual([['and here', 'here', 'there'], 3, undefined]);
    expect(here.bench.done.map(({ id }) => id)).toEqual(stored().map(({ id }) => id));
    expect(here.bench.done.map(({ id }) => here.bench.otherMaker(id))).toEqual(['Mara', undefined, undefined]);
    // The next step goes on top of all that as any other does.
    await keep(here.bench, 'after that', 1);
    await until(() => stored().length === 4 && here.outbox.unsentCount === 0);
    expect(useNotices().notice?.title).toBe('Mara changed this job');
  });

  test('what others do while something is tried comes in when that is over', async () => {
    const here = await openWindow();
    const there = await openWindow();
    await here.bench.tryRepairs([here.bench.openFindings.find(({ rule }) => rule === 'long-stitch')!.key]);
    await keep(there.bench, 'there');
    await until(() => here.bench.isOthersWaiting);
    expect([here.bench.trial !== undefined, keptIn(here.bench)]).toEqual([true, []]);
    await here.bench.acceptTrial();
    await until(() => keptIn(here.bench).length === 1 && here.outbox.unsentCount === 0);
    expect([here.bench.done.length, here.bench.isOthersWaiting, stored().length]).toEqual([2, false, 2]);
    await until(() => there.bench.done.length === 2);
    expect(there.bench.now!.view.figures).toEqual(here.bench.now!.view.figures);
  });

  test('steps that touch what another window did are on the server as a branch before anybody is asked, and made again or left there', async () => {
    for (const isKept of [true, false]) {
      server.journals.set('one', []);
      const here = await openWindow();
      const there = await openWindow();
      server.pages.clear();
      await keep(there.bench, 'there');
      await there.outbox.send('one');
      await keep(here.bench, 'here');
      await until(() => here.bench.settling !== undefined);
      expect(here.bench.outgoing).toMatchObject({ state: 'conflict', isAside: true });
      expect(stored().map(({ kind }) => kind)).toEqual(['do', 'go', 'do', 'go']);
      const [made] = here.bench.outgoing!.entries;
      expect(stored()[2]!.id).toBe(made!.id);
      await keep(here.bench, 'not while it is open');
      expect(here.bench.outgoing!.entries).toHaveLength(1);
      expect(here.bench.settling).toMatchObject({ version: 4, steps: [{ problem: undefined }] });
      await here.bench.settle(isKept);
      expect([keptIn(here.bench), here.outbox.unsentCount, await readSteps()]).toEqual([isKept ? ['here'] : ['there'], 0, []]);
      const last = stored().at(-1)!;
      expect([stored().length, last.kind === 'do' && last.id !== made!.id]).toEqual(isKept ? [5, true] : [4, false]);
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
    await engine.read(server.file);
    await engine.open(server.baseJson, [...stored()], 2);
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
