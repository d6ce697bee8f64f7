import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import { defaultTarget } from '@isola/core';
import { flushPromises, mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { type Component, nextTick } from 'vue';
import { createVuetify } from 'vuetify';
import * as components from 'vuetify/components';
import type { ClothObjects } from '../workers/clothProtocol.ts';
import { createEngine } from '../workers/createEngine.ts';
import { openOn } from '../workers/testing/openOn.ts';
import { choose } from '../bench/testing/choose.ts';
import { maskOfPart } from '../bench/cloth/maskOfPart.ts';
import { fourObjectsFile } from './testing/fourObjectsFile.ts';
import { useViewing } from './viewing.ts';

/** What the drawing worker was told of objects. */
const handed: ClothObjects[] = [];

jest.unstable_mockModule('../workers/startWorkers.ts', () => ({
  clothWorker: () => ({ setObjects: (_: number, objects: ClothObjects) => Promise.resolve(void handed.push(objects)) }),
  startEngine: () => ({ engine: createEngine(), stop: () => undefined }),
  nextProgramNumber: () => 1,
}));
const { useBench } = await import('./bench.ts');
const { useObjects } = await import('./objects.ts');
const { default: ObjectList } = await import('../bench/objects/ObjectList.vue');
const { default: ObjectFacts } = await import('../bench/objects/ObjectFacts.vue');
const { default: ObjectMarks } = await import('../bench/objects/ObjectMarks.vue');
const { default: EndHandles } = await import('../bench/order/EndHandles.vue');
const { default: PartPicker } = await import('../bench/objects/PartPicker.vue');
const { findObjectAt } = await import('../bench/objects/findObjectAt.ts');

const performed: unknown[] = [];

async function layOnBench(): Promise<ReturnType<typeof useObjects>> {
  const bench = useBench();
  const engine = createEngine();
  const opened = await openOn(engine, fourObjectsFile(), defaultTarget());
  bench.now = { number: 1, view: opened.now };
  bench.layers = () => engine.layers();
  bench.propose.join = (ids) => engine.join(ids);
  bench.propose.split = (id, row) => engine.split(id, row, 'second');
  bench.propose.tell = (id, as, role) => engine.tell(id, as, role);
  bench.propose.readAnew = (ids) => engine.readAnew(ids);
  bench.perform = async (name, operation) => {
    performed.push(operation);
    const changed = await engine.extend([{ id: crypto.randomUUID(), kind: 'do', name, operation }]);
    if (!changed.ok) throw new Error(changed.reason);
    bench.now = { number: 2, view: changed.now };
    return true;
  };
  const objects = useObjects();
  await settled();
  return objects;
}

async function settled(): Promise<void> {
  for (let k = 0; k < 4; k++) await flushPromises();
  await nextTick();
}

beforeEach(() => {
  setActivePinia(createPinia());
  handed.length = 0;
  performed.length = 0;
});
afterEach(() => document.body.replaceChildren());

const show = (component: Component, props: Record<string, unknown> = {}) =>
  mount(component, { props, global: { plugins: [createVuetify({ components })] }, attachTo: document.body });

describe('objects of the design on the bench', () => {
  test('are handed to the drawing worker, listed by what is chosen, and stepped through', async () => {
    const objects = await layOnBench();
    expect(objects.listed.map((o) => o.kind)).toEqual(['fill', 'satin', 'satin', 'satin']);
    expect(handed.at(-1)!.levels[objects.objects.indexOf(objects.listed[1]!)]).toBe(1);
    objects.filter = { ...objects.filter, kinds: ['satin'], spacing: [0.35, 0.45] };
    expect(objects.listed).toHaveLength(3);
    objects.step(1);
    objects.step(1);
    expect(objects.selected).toBe(objects.listed[1]);
    objects.filter = { ...objects.filter, kinds: [], spacing: undefined, likeSelected: true };
    expect(objects.listed).toHaveLength(2);
    objects.step(-1);
    expect(objects.selected).toBe(objects.listed[1]);
    objects.select(undefined);
    expect(objects.filter.likeSelected).toBe(false);
  });

  test('are joined, parted and told what they are in steps like any other, and the selection stays where it was', async () => {
    const objects = await layOnBench();
    const bench = useBench();
    objects.select(objects.listed[2]);
    const id = objects.selected!.id;
    expect(await objects.splitHere()).toMatch(/Step to the stitch/);
    useViewing().time = bench.now!.view.done[objects.selected!.first + 30]!;
    expect(await objects.splitHere()).toBeUndefined();
    await settled();
    expect(objects.listed).toHaveLength(5);
    expect(objects.selected).toBe(objects.listed[2]);
    expect(await objects.joinWithNext()).toBeUndefined();
    await settled();
    expect(objects.listed).toHaveLength(4);
    expect(await objects.tell('run', 'cover')).toBeUndefined();
    await settled();
    expect(objects.selected).toMatchObject({ id, kind: 'run', confidence: 1 });
    expect(performed).toMatchObject([{ id: 'regroup-objects' }, { id: 'regroup-objects' }, { id: 'regroup-objects', by: { length: 1 } }]);
  });

  test('have names of their own and a place in the order of their thread, and stay selected through all of it', async () => {
    const objects = await layOnBench();
    objects.select(objects.listed[2]);
    const id = objects.selected!.id;
    await objects.rename('  left column ');
    await objects.rename('left column');
    expect(objects.selected).toMatchObject({ id, name: 'left column' });
    expect(await objects.move(1)).toBeUndefined();
    expect([objects.selected!.id, objects.place!.at]).toEqual([id, 2]);
    expect(await objects.move(1)).toMatch(/nothing of this thread after/);
    expect(await objects.move(-1)).toBeUndefined();
    expect(objects.place!.at).toBe(1);
    expect(performed.map((o) => (o as { id: string }).id)).toEqual(['rename-object', 'move-objects', 'move-objects']);
    const facts = show(ObjectFacts);
    await facts.find('[aria-label="Rename"]').trigger('click');
    await facts.find('[aria-label="Name of the object"]').setValue('the left one');
    await facts.find('[aria-label="Name of the object"]').trigger('keydown', { key: 'Enter' });
    await settled();
    expect(objects.selected!.name).toBe('the left one');
    await facts.findAll('.sides button')[1]!.trigger('click');
    const press = async (words: string): Promise<void> => {
      await facts
        .findAll('button')
        .find((b) => b.text() === words)!
        .trigger('click');
      await settled();
    };
    await press('Sew earlier');
    expect(objects.place!.at).toBe(0);
    expect(facts.text()).toContain('Sewn as 1 of 3');
    await objects.tell('fill', 'cover');
    await settled();
    await press('Read anew');
    expect(document.body.textContent).toContain('fill, would be told as satin');
    [...document.body.querySelectorAll('button')].find((b) => b.textContent === 'Read it so')!.click();
    await settled();
    expect(objects.selected).toMatchObject({ id, kind: 'satin' });
  });

  test('take another reading without being selected, in one step', async () => {
    const objects = await layOnBench();
    const fill = objects.listed.find((o) => o.kind === 'fill')!;
    objects.select(undefined);
    expect(await objects.tell('satin', 'cover', fill)).toBeUndefined();
    await settled();
    const told = objects.objects.find((o) => o.first === fill.first)!;
    expect(told).toMatchObject({ kind: 'satin', role: 'cover', confidence: 1 });
    expect(told.otherReading).toBeUndefined();
    expect(objects.selected).toBeUndefined();
    expect(performed).toMatchObject([{ id: 'regroup-objects', by: [{ object: fill.id, name: fill.name }] }]);
    expect(await objects.tell('fill', 'cover')).toMatch(/not there any more/);
  });

  test('are picked where they lie: the stitch under the pointer, the topmost first, else the cover around it', async () => {
    const objects = await layOnBench();
    const { program } = useBench().now!.view;
    const at = (x: number, y: number, reach = 0.5) => findObjectAt(program, objects.objects, 'all', x, y, reach);
    expect(at(8, 9)).toBe(objects.listed[1]);
    expect(at(8, 15)).toBe(objects.listed[0]);
    expect(at(34, 1.5)).toBe(objects.listed[2]);
    expect(at(60, 60)).toBeUndefined();
    expect(findObjectAt(program, objects.objects, 'travel', 8, 15, 0.5)).toBeUndefined();
  });

  test('are named in the docket, and shown in parts', async () => {
    const objects = await layOnBench();
    const finding = useBench().now!.view.findings.find((f) => f.rows.length > 0)!;
    expect(objects.namesOf(finding).length).toBeGreaterThan(0);
    const { program } = useBench().now!.view;
    expect(maskOfPart(program.rowCount, handed[0], 'all')).toBeUndefined();
    const cover = maskOfPart(program.rowCount, handed[0], 'cover')!;
    expect(cover.reduce((sum, v) => sum + v, 0)).toBe(objects.listed.reduce((sum, o) => sum + o.stitches, 0));
    expect(maskOfPart(program.rowCount, handed[0], [objects.objects.indexOf(objects.listed[1]!)])!.reduce((sum, v) => sum + v, 0)).toBe(
      objects.listed[1]!.stitches,
    );
  });
});

describe('the list and the facts', () => {
  test('say what was found, and what can be done about it', async () => {
    const objects = await layOnBench();
    const list = show(ObjectList);
    expect(list.text()).toContain('4 objects in sewing order');
    await list.find('[aria-label="Only #b8552f"]').trigger('click');
    expect(objects.listed).toHaveLength(3);
    const facts = show(ObjectFacts);
    expect(facts.text()).toContain('No object is selected');
    objects.select(objects.listed[0]);
    await nextTick();
    await facts.findAll('.sides button')[1]!.trigger('click');
    expect(facts.text()).toMatch(/Spacing0\.40 mm/);
    expect(facts.text()).toContain('lies on');
    await facts.findAll('.links button')[0]!.trigger('click');
    expect(objects.selected?.kind).toBe('fill');
    choose(facts, 'Tell what it is', 'travel');
    await settled();
    expect(objects.selected?.role).toBe('travel');
  });
});

describe('marks and parts on the cloth', () => {
  const sight = { view: { x: 10, y: 10, scale: 10 }, size: { width: 400, height: 400 } };
  /** Numbers of a path, in pairs. */
  const pointsOf = (d: string): number[] => (d.match(/-?\d+(\.\d+)?/g) ?? []).map(Number);

  test('the selected object has its outline, the way its rows run, and brackets where the needle comes and goes', async () => {
    const objects = await layOnBench();
    const marks = show(ObjectMarks, sight);
    expect(marks.find('svg').exists()).toBe(false);
    objects.select(objects.listed[0]);
    await nextTick();
    const shape = marks.findAll('.shape');
    expect(shape).toHaveLength(1);
    // The fill is 20 mm square around the middle of what is in sight: 200 px to either side of 200.
    const points = pointsOf(shape[0]!.attributes('d')!);
    expect(Math.min(...points)).toBeLessThan(105);
    expect(Math.max(...points)).toBeGreaterThan(295);
    const [ax, ay, bx, by] = pointsOf(marks.find('.axis').attributes('d')!) as [number, number, number, number];
    expect((Math.atan2(ay - by, bx - ax) * 180) / Math.PI).toBeCloseTo(30, 0);
    expect(show(EndHandles, sight).findAll('.bracket')).toHaveLength(2);
    objects.select(objects.listed[2]);
    objects.filter = { ...objects.filter, likeSelected: true };
    await nextTick();
    expect(marks.find('.axis').exists()).toBe(false);
    expect(marks.find('.shape').attributes('d')!.match(/M/g)).toHaveLength(2);
    expect(marks.findAll('.alike')).toHaveLength(1);
  });

  test('cover, underlay and travel are chosen by themselves, or the selected object with what lies under it', async () => {
    const objects = await layOnBench();
    const parts = show(PartPicker);
    const names = (): string[] => parts.findAll('button').map((b) => b.text());
    expect(names()).toEqual(['Everything', 'Cover', 'Underlay', 'Travel and ties']);
    await parts.findAll('button')[2]!.trigger('click');
    expect(objects.part).toBe('underlay');
    expect(parts.findAll('[aria-pressed=true]').map((b) => b.text())).toEqual(['Underlay']);
    objects.select(objects.listed[1]);
    await nextTick();
    await parts.findAll('button')[4]!.trigger('click');
    expect(objects.part).toEqual([objects.objects.indexOf(objects.listed[1]!)]);
    objects.select(objects.listed[2]);
    expect(objects.part).toBe('all');
  });
});
