/** @jest-environment node */
import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import { FABRICS, type Program } from '@isola/core';
import fc from 'fast-check';
import { createPinia, setActivePinia } from 'pinia';
import { createEngine } from '../workers/createEngine.ts';
import { numberFindings } from '../bench/docket/numberFindings.ts';
import { serveFrom } from './testing/browser.ts';
import { StandInServer } from './testing/StandInServer.ts';
import { useViewing } from './viewing.ts';
import { runs } from '../../../../packages/core/src/testing/runs.ts';

/** The numbers of the programs that the drawing worker holds. */
const held = new Set<number>();
let enginesRunning = 0;
/** Ends the engine that was started last, as a worker that runs out of memory ends. */
let die: (error: Error) => void = () => undefined;
let programs = 0;

jest.unstable_mockModule('../workers/startWorkers.ts', () => ({
  clothWorker: () => ({
    setProgram: (number: number) => Promise.resolve(void held.add(number)),
    dropProgram: (number: number) => Promise.resolve(void held.delete(number)),
    setCover: () => Promise.resolve(),
  }),
  startEngine: (onDeath: (error: Error) => void) => {
    enginesRunning++;
    die = onDeath;
    return { engine: createEngine((number) => Promise.resolve(void held.add(number))), stop: () => enginesRunning-- };
  },
  nextProgramNumber: () => ++programs,
}));
const { useBench } = await import('./bench.ts');
const { useNotices } = await import('./notices.ts');

let server: StandInServer;

beforeEach(async () => {
  server = new StandInServer();
  server.journals.set('one', []).set('two', []);
  held.clear();
  enginesRunning = 0;
  await serveFrom(server);
});

type Bench = ReturnType<typeof useBench>;
const pages: Bench[] = [];
afterEach(() => pages.splice(0).forEach((bench) => bench.close()));

/** A page of its own: another window, or this one loaded again. */
async function openPage(id = 'one'): Promise<Bench> {
  setActivePinia(createPinia());
  const bench = useBench();
  pages.push(bench);
  await bench.open(id);
  return bench;
}

async function untilSettled(bench: Bench): Promise<void> {
  for (let k = 0; k < 400 && bench.outgoing?.state === 'sending'; k++) await new Promise((resolve) => setTimeout(resolve, 2));
}

const columnsOf = (program: Program) => ({ x: [...program.x], y: [...program.y], command: [...program.command], notes: program.notes });
const shownColumns = (bench: Bench) => columnsOf(bench.now!.view.program);
const fixable = (bench: Bench) => bench.openFindings.filter((f) => f.fix !== undefined);
const ofRule = (bench: Bench, rule: string) => bench.openFindings.find((f) => f.rule === rule)!;

describe('a job on the bench', () => {
  test('a repair is tried without a trace, accepted as one step, undone to the last decimal and made again', async () => {
    const bench = await openPage();
    const original = shownColumns(bench);
    expect(bench.openFindings.map((f) => f.rule)).toEqual(expect.arrayContaining(['needless-trim', 'long-stitch', 'tiny-stitch']));
    expect([...numberFindings(bench.openFindings).values()]).toEqual(bench.openFindings.map((_, k) => k + 1));

    expect(await bench.tryRepairs([ofRule(bench, 'needless-trim').key])).toBe(true);
    expect(bench.shown).toBe(bench.trial!.shown);
    expect(bench.shown!.view.figures.trims).toBe(bench.now!.view.figures.trims - 1);
    expect(shownColumns(bench)).toEqual(original);
    bench.dropTrial();
    expect(bench.shown).toBe(bench.now);
    expect(server.journals.get('one')).toEqual([]);

    await bench.tryRepairs(fixable(bench).map((f) => f.key));
    const promised = columnsOf(bench.trial!.shown.view.program);
    await bench.acceptTrial();
    await untilSettled(bench);
    expect(shownColumns(bench)).toEqual(promised);
    expect(server.journals.get('one')).toHaveLength(1);
    expect(fixable(bench).filter((f) => f.severity !== 'note')).toEqual([]);
    expect(bench.done.map((s) => s.name)[0]).toMatch(/^\d repairs: /);

    await bench.undo();
    expect(shownColumns(bench)).toEqual(original);
    expect(bench.undone).toHaveLength(1);
    await bench.redo();
    expect(shownColumns(bench)).toEqual(promised);
    expect(columnsOf(bench.before!.view.program)).toEqual(original);
    expect(await bench.tryRepairs(['no such finding'])).toBe(false);
    expect(bench.trial).toBeUndefined();
  });

  test('a finding that is kept leaves the docket with its reason and comes back when looked at again', async () => {
    const bench = await openPage();
    const finding = ofRule(bench, 'long-stitch');
    useViewing().selected = finding.key;
    await bench.keepFinding(finding, 'sewn before and sewed well');
    expect(bench.openFindings.map((f) => f.key)).not.toContain(finding.key);
    expect(bench.selectedFinding).toBeUndefined();
    expect(bench.keptFindings).toMatchObject([
      { places: finding.places.map((p) => p.key), reason: 'sewn before and sewed well', title: finding.message },
    ]);
    expect(bench.done[0]!.reason).toBe('sewn before and sewed well');
    await bench.reopenFinding(bench.keptFindings[0]!.places, finding.message);
    expect(bench.keptFindings).toEqual([]);
    expect(bench.openFindings.map((f) => f.key)).toContain(finding.key);
  });

  test('another cloth measures both sides of the comparison anew and leaves the stitches alone', async () => {
    const bench = await openPage();
    const original = shownColumns(bench);
    useViewing().time = 1e6;
    const fabric = FABRICS.find((f) => f.id !== bench.now!.view.target.fabric.id)!;
    await bench.setTarget(`sew on ${fabric.name}`, { ...bench.now!.view.target, fabric });
    expect(bench.before!.view.target.fabric).toEqual(fabric);
    expect(bench.now!.view.target.fabric).toEqual(fabric);
    expect(shownColumns(bench)).toEqual(original);
    expect(useViewing().time).toBe(bench.now!.view.totals.seconds);
    expect(bench.done[0]).toMatchObject({ isTarget: true, name: `sew on ${fabric.name}` });
  });

  test('one place of a finding is settled alone, tried alone, and the others are counted without it', async () => {
    const bench = await openPage();
    const finding = ofRule(bench, 'tiny-stitch') ?? ofRule(bench, 'long-stitch');
    const many = bench.openFindings.find((f) => f.places.length > 1) ?? finding;
    useViewing().selected = many.key;
    await Promise.resolve();
    useViewing().selectedPlace = many.places[0]!.key;
    await bench.keepFinding(many, 'only here', useViewing().selectedPlace);
    expect(bench.keptFindings).toMatchObject([{ places: [many.places[0]!.key], title: `one place of: ${many.message}` }]);
    const left = bench.openFindings.find((f) => f.key === many.key)!;
    expect(left.places.map((p) => p.key)).toEqual(many.places.slice(1).map((p) => p.key));
    await Promise.resolve();
    expect(useViewing().selectedPlace).toBeUndefined();
    if (left.fix !== undefined && left.places.length > 1) {
      expect(await bench.tryRepairs([left.key], left.places[0]!.key)).toBe(true);
      expect(bench.trial!.trial.applied).toHaveLength(1);
    }
  });

  test('a job that is opened for the first time says how far its recognition is', async () => {
    setActivePinia(createPinia());
    const bench = useBench();
    server.waits = 1;
    const opening = bench.open('one');
    while (bench.reading === undefined) await new Promise((resolve) => setTimeout(resolve, 5));
    expect(bench.reading).toEqual({ share: 0.5, doing: 'joining sections' });
    await opening;
    expect([bench.reading, bench.job!.id]).toEqual([undefined, 'one']);
  });

  test('an engine that dies is said, and another one takes up the job with all that was done', async () => {
    const bench = await openPage();
    await bench.keepFinding(bench.openFindings[0]!, 'before it died');
    await untilSettled(bench);
    die(new Error('out of memory'));
    expect(useNotices().notice?.text).toContain('out of memory');
    while (bench.isOpening || bench.now === undefined) await new Promise((resolve) => setTimeout(resolve, 5));
    expect(bench.keptFindings.map((k) => k.reason)).toEqual(['before it died']);
    expect(enginesRunning).toBe(1);
  });

  test('a job opened at a snapshot lists the steps before it and takes them back, too', async () => {
    const first = await openPage();
    const reasons = ['first', 'second', 'third'];
    for (const [k, reason] of reasons.entries()) await first.keepFinding(first.openFindings[0]!, reason + String(k));
    await untilSettled(first);
    const states = [first.keptFindings.length];
    server.keepSnapshot('one');
    const bench = await openPage();
    expect(bench.done).toEqual(first.done);
    await bench.keepFinding(bench.openFindings[0]!, 'fourth');
    for (let k = 0; k < 4; k++) {
      await bench.undo();
      states.push(bench.keptFindings.length);
    }
    expect(states).toEqual([3, 3, 2, 1, 0]);
    await bench.redo();
    expect([bench.done.length, bench.undone.length, bench.keptFindings[0]!.reason]).toEqual([1, 3, 'first0']);
    await untilSettled(bench);
    expect((await openPage()).keptFindings).toEqual(bench.keptFindings);
  });

  test('the time on the tape says which rows are sewn', async () => {
    const bench = await openPage();
    const { done, program } = bench.now!.view;
    expect(bench.upTo).toBe(program.rowCount);
    for (const row of [0, 7, program.rowCount - 2]) {
      useViewing().time = done[row]!;
      expect(bench.upTo).toBeGreaterThan(row);
      expect(done[bench.upTo] ?? Infinity).toBeGreaterThan(done[row]!);
    }
  });

  test('whatever is done, the page loaded again shows what this one showed, and nothing is left in the drawing worker', async () => {
    const action = fc.oneof(
      { weight: 3, arbitrary: fc.record({ kind: fc.constant('accept' as const), pick: fc.nat(50) }) },
      { weight: 2, arbitrary: fc.record({ kind: fc.constant('keep' as const), pick: fc.nat(50) }) },
      { weight: 2, arbitrary: fc.record({ kind: fc.constantFrom('undo' as const, 'redo' as const), pick: fc.constant(0) }) },
      { weight: 1, arbitrary: fc.record({ kind: fc.constant('reopen' as const), pick: fc.nat(50) }) },
    );
    await fc.assert(
      fc.asyncProperty(fc.array(action, { minLength: 1, maxLength: 9 }), async (actions) => {
        server.journals.set('one', []);
        held.clear();
        const bench = await openPage();
        for (const { kind, pick } of actions) {
          const [mendable, open, kept] = [fixable(bench), bench.openFindings, bench.keptFindings];
          if (kind === 'undo' || kind === 'redo') await bench[kind]();
          else if (kind === 'accept' && mendable.length > 0) {
            await bench.tryRepairs([mendable[pick % mendable.length]!.key]);
            await bench.acceptTrial();
          } else if (kind === 'keep' && open.length > 0) await bench.keepFinding(open[pick % open.length]!, 'so it is');
          else if (kind === 'reopen' && kept.length > 0) await bench.reopenFinding(kept[pick % kept.length]!.places, 'again');
          expect(held.size).toBe(2);
        }
        await untilSettled(bench);
        const left = { columns: shownColumns(bench), kept: bench.now!.view.kept, done: bench.done, undone: bench.undone };
        bench.close();
        expect([held.size, enginesRunning]).toEqual([0, 0]);
        const again = await openPage();
        expect({ columns: shownColumns(again), kept: again.now!.view.kept, done: again.done, undone: again.undone }).toEqual(left);
        again.close();
      }),
      runs(25, 31),
    );
  });

  test('steps asked for faster than they are made are made one after another', async () => {
    const bench = await openPage();
    const [first, second] = bench.openFindings;
    await Promise.all([bench.keepFinding(first!, 'a'), bench.keepFinding(second!, 'b'), bench.undo(), bench.undo(), bench.redo()]);
    await untilSettled(bench);
    expect(server.journals.get('one')!.map((e) => e.kind)).toEqual(['do', 'do', 'undo', 'undo', 'redo']);
    expect(bench.keptFindings.map((k) => k.reason)).toEqual(['a']);
    await Promise.all([bench.redo(), bench.redo(), bench.redo()]);
    await untilSettled(bench);
    expect(server.journals.get('one')).toHaveLength(6);
  });

  test('two documents stand side by side: each has its job, its selection and its way of looking', async () => {
    const left = await openPage('one');
    const right = useBench('second');
    await right.open('two');
    await left.keepFinding(left.openFindings[0]!, 'left only');
    useViewing('second').kind = 'cover';
    expect([left.job!.id, right.job!.id, left.done.length, right.done.length]).toEqual(['one', 'two', 1, 0]);
    expect([useBench(), useViewing().kind]).toEqual([left, 'thread']);
    await untilSettled(left);
    right.close();
    expect([server.journals.get('one')!.length, server.journals.get('two')!.length, left.job!.id]).toEqual([1, 0, 'one']);
  });

  test('of two jobs opened in a row the last one stands', async () => {
    setActivePinia(createPinia());
    const bench = useBench();
    server.delay = 15;
    const first = bench.open('one');
    const second = bench.open('two');
    await Promise.all([first, second]);
    expect(bench.job!.id).toBe('two');
    expect([held.size, enginesRunning]).toEqual([2, 1]);
  });

  test('a job that is gone, a file that does not read and a dead server are said in words', async () => {
    expect((await openPage('gone')).failure).toEqual({ title: 'This job cannot be opened', text: 'It may have been deleted.' });
    server.isReachable = false;
    expect((await openPage()).failure!.text).toMatch(/Check that Isola is still running/);
    server.isReachable = true;
    server.journals.set('one', [{ id: crypto.randomUUID(), kind: 'undo' }]);
    const bench = await openPage();
    expect(bench.failure!.text).toMatch(/undo/);
    expect([bench.now, bench.isOpening]).toEqual([undefined, false]);
  });
});
