/** @jest-environment node */
import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { orderOf } from '@isola/core';
import { createPinia, setActivePinia } from 'pinia';
import type { DesignView } from '../workers/protocol.ts';
import { serveFrom } from './testing/browser.ts';
import { StandInServer } from './testing/StandInServer.ts';
import '../workers/testing/quietWorkers.ts';

const { useBench } = await import('./bench.ts');
const { useComparing } = await import('./comparing.ts');
const { useHistory } = await import('./history.ts');
const { useOutbox } = await import('./outbox.ts');

let server: StandInServer;
let stop: (() => void) | undefined;

beforeEach(async () => {
  server = new StandInServer();
  server.journals.set('one', []);
  await serveFrom(server);
});
afterEach(() => {
  stop?.();
  useBench().close();
});

async function open() {
  setActivePinia(createPinia());
  const bench = useBench();
  await bench.open('one');
  return { bench, comparing: useComparing(), history: useHistory() };
}

async function until(isSo: () => boolean): Promise<void> {
  for (let k = 0; k < 800 && !isSo(); k++) await new Promise((resolve) => setTimeout(resolve, 2));
  if (!isSo()) throw new Error('this did not come about');
}

type Bench = Awaited<ReturnType<typeof open>>['bench'];
const idsOn = (bench: Bench): string[] => orderOf({ blocks: bench.now!.view.objects!.blocks });
const named = (view: DesignView): string => view.objects!.objects.find(({ id }) => id === orderOf(view.objects!)[0])!.name;

async function rename(bench: Bench, name: string): Promise<void> {
  await bench.perform(`name it ${name}`, { id: 'rename-object', object: idsOn(bench)[0]!, name });
}

/** Parts the last object in two. */
async function split(bench: Bench): Promise<void> {
  const { objects, ownerOfRow } = bench.now!.view.objects!;
  const last = idsOn(bench).at(-1)!;
  const rows = [...ownerOfRow.keys()].filter((row) => objects[ownerOfRow[row]!]?.id === last);
  const parted = await bench.propose.split(last, rows[Math.floor(rows.length / 2)]!);
  if (parted?.ok !== true) throw new Error(parted?.error);
  await bench.perform('part the last one', parted.value);
}

describe('two states beside each other', () => {
  test('are the file and the bench at first, then any two: figures, objects and what leads to each from where they part', async () => {
    const { bench, comparing, history } = await open();
    await rename(bench, 'Keel');
    const trunk = bench.done.at(-1)!.id;
    await split(bench);
    const tip = bench.done.at(-1)!.id;
    await bench.goTo(trunk);
    await rename(bench, 'Hull');
    await useOutbox().send('one');
    stop = comparing.show();
    await until(() => comparing.sides !== undefined && history.isKnown);
    expect([comparing.one, comparing.other]).toEqual(['file', 'now']);
    expect(comparing.sides!.changes!.map(({ name, kinds }) => [name, kinds])).toEqual([['Hull', ['renamed']]]);
    expect(comparing.sides!.other.shown.view.figures).toEqual(bench.now!.view.figures);
    await until(() => comparing.judged !== undefined);
    expect(comparing.judged!.one.findings!.fix).toBeGreaterThan(0);
    expect(comparing.judged!.other.maxCover).toBeCloseTo(bench.now!.view.maxCover, 6);
    // Only the order or a name: nothing is sewn otherwise.
    expect([comparing.sides!.one.differing, comparing.sides!.other.differing]).toEqual([[], []]);

    [comparing.one, comparing.other] = [tip, 'now'];
    await until(() => !comparing.isWorking && comparing.sides!.changes!.length > 1);
    const kinds = comparing.sides!.changes!.map((change) => change.kinds);
    expect([kinds[0], kinds.at(-1)]).toEqual([['renamed'], ['gone']]);
    expect(comparing.sides!.one.differing.length).toBeGreaterThan(comparing.sides!.other.differing.length);
    expect(comparing.sides!.one.shown.view.figures.stitches).toBe(comparing.sides!.other.shown.view.figures.stitches);
    expect([comparing.onlyIn.one.map(({ name }) => name), comparing.onlyIn.other.map(({ name }) => name)]).toEqual([
      ['part the last one'],
      ['name it Hull'],
    ]);
    // The design on the bench changes: so does the comparison.
    await bench.undo();
    await until(() => comparing.sides!.changes!.every(({ kinds: [kind] }) => kind !== 'renamed'));
  });

  test('are fetched where the job was opened at a snapshot: the start alone, or the steps before it', async () => {
    const first = await open();
    for (const name of ['a', 'b', 'c']) await rename(first.bench, name);
    await useOutbox().send('one');
    const [a] = first.bench.done.map(({ id }) => id);
    first.bench.close();
    server.keepSnapshot('one');
    const { bench, comparing, history } = await open();
    stop = comparing.show();
    await until(() => comparing.sides !== undefined && history.isKnown);
    expect(comparing.sides!.changes!.map(({ name }) => name)).toEqual(['c']);
    comparing.one = a!;
    await until(() => named(comparing.sides!.one.shown.view) === 'a');
    expect(comparing.onlyIn.other).toHaveLength(2);
    await bench.goTo(a!);
    expect(named(bench.now!.view)).toBe('a');
    expect(bench.done.map(({ name }) => name)).toEqual(['name it a']);
  });

  test('of which one is rows alone has figures and no objects; one that is not there says so', async () => {
    const { comparing } = await open();
    comparing.one = 'kept 3';
    stop = comparing.show();
    await until(() => comparing.sides !== undefined);
    expect([comparing.sides!.changes, comparing.judged?.one.widestGap, comparing.onlyIn]).toEqual([
      undefined,
      undefined,
      { one: [], other: [] },
    ]);
    comparing.one = crypto.randomUUID();
    await until(() => comparing.problem !== undefined);
    expect(comparing.problem).toContain('not there');
  });

  test('branches are named by the steps that begin them', async () => {
    const { bench, history } = await open();
    await rename(bench, 'Keel');
    await useOutbox().send('one');
    stop = history.show();
    await until(() => history.isKnown && history.steps.every(({ at }) => at !== ''));
    const step = history.steps[0]!.id;
    await history.nameBranch(step, 'Cheaper');
    expect(history.names.get(step)).toBe('Cheaper');
    await history.goToRevision(1);
    expect([bench.done.length, bench.undone.length, history.now, history.ahead]).toEqual([0, 1, null, [step]]);
    await expect(history.goToRevision(9)).rejects.toThrow('before steps were kept by objects');
  });
});
