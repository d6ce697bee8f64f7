import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { defaultTarget, generateSatin, ProgramBuilder, writeStitchCsv } from '@isola/core';
import { flushPromises, mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { type Component, nextTick } from 'vue';
import { createVuetify } from 'vuetify';
import * as components from 'vuetify/components';
import { choicesOf, choose } from '../bench/testing/choose.ts';
import { createEngine } from '../workers/createEngine.ts';
import { openOn } from '../workers/testing/openOn.ts';
import '../workers/testing/quietWorkers.ts';

const { useBench } = await import('./bench.ts');
const { useObjects } = await import('./objects.ts');
const { useOrder } = await import('./order.ts');
const { default: OrderPanel } = await import('../bench/order/OrderPanel.vue');
const { default: WayMarks } = await import('../bench/order/WayMarks.vue');
const { default: ObjectList } = await import('../bench/objects/ObjectList.vue');
const { sayEvent } = await import('../bench/tape/sayEvent.ts');

/** Five bars of one thread 1.5 mm apart, cut between and out of order, and one of another thread across the middle one, on top of it. */
function barsFile(): Uint8Array {
  const builder = new ProgramBuilder();
  const bar = (color: string, x: number, y: number, length: number): void => {
    if (builder.rowCount > 0) builder.trim();
    if (builder.thread !== color) builder.color(color, color === '#1f4e5f' ? 'Harbor' : 'Brick');
    const rails = [y + 1.5, y - 1.5].map((at) => Float64Array.of(x, at, x + length, at));
    const points = generateSatin(rails[0]!, rails[1]!, { spacing: 0.4, pull: 0, splitLength: 7 });
    builder.jump(points[0]!, points[1]!);
    for (let k = 0; k < points.length; k += 2)
      builder.stitch(Math.round(points[k]! * 1000) / 1000, Math.round(points[k + 1]! * 1000) / 1000);
  };
  for (const k of [0, 3, 1, 4, 2]) bar('#1f4e5f', 15 * k, 0, 13.5);
  bar('#b8552f', 34, 0, 5);
  return new TextEncoder().encode(writeStitchCsv(builder.trim().end().build()));
}

const performed: { readonly name: string; readonly id: string }[] = [];

async function layOnBench(): Promise<ReturnType<typeof useOrder>> {
  const bench = useBench();
  const engine = createEngine();
  const opened = await openOn(engine, barsFile(), defaultTarget());
  let number = 1;
  bench.now = { number, view: opened.now };
  Object.assign(bench, {
    orderView: () => engine.orderView(),
    proposeWay: (id: string, isForbidden: boolean) => engine.proposeWay(id, isForbidden),
    regroupApplique: () => engine.regroupApplique(),
    layers: () => engine.layers(),
    dropTrial: () => (bench.trial = undefined),
  });
  bench.tryOrder = async (ask) => {
    const trial = await engine.proposeOrder(ask);
    bench.trial =
      trial.operation.id === 'sequence' && trial.operation.operations.length === 0
        ? undefined
        : { shown: { number: 9, view: trial.after }, trial, keys: [] };
    return trial.order;
  };
  bench.perform = async (name, operation) => {
    performed.push({ name, id: operation.id });
    const changed = await engine.extend([{ id: crypto.randomUUID(), kind: 'do', name, operation }]);
    if (!changed.ok) throw new Error(changed.reason);
    bench.trial = undefined;
    bench.now = { number: ++number, view: changed.now };
    return true;
  };
  bench.acceptTrial = () => bench.perform(bench.trial!.trial.name, bench.trial!.trial.operation);
  const order = useOrder();
  await settled();
  return order;
}

async function settled(): Promise<void> {
  for (let k = 0; k < 8; k++) await flushPromises();
  await nextTick();
}

beforeEach(() => {
  setActivePinia(createPinia());
  performed.length = 0;
});
afterEach(() => document.body.replaceChildren());

const show = (component: Component, props: Record<string, unknown> = {}) =>
  mount(component, { props, global: { plugins: [createVuetify({ components })] }, attachTo: document.body });

describe('the sew order on the bench', () => {
  test('is proposed with figures and reasons, taken but for what is held, and made in one step', async () => {
    const order = await layOnBench();
    const bench = useBench();
    const panel = show(OrderPanel);
    expect(panel.text()).toMatch(/6 cuts take .* thread change/);
    const propose = panel.findAll('button').find((b) => b.text() === 'Propose an order')!;
    await propose.trigger('click');
    await settled();
    expect(panel.find('table').text()).toMatch(/Cuts6→2/);
    expect(panel.text()).toContain('What lies on top stays on top');
    const boxes = panel.findAll('details input[type=checkbox]');
    expect(boxes.length).toBeGreaterThan(2);
    await boxes.at(-1)!.setValue(false);
    await settled();
    expect([order.held.size, panel.text().includes('stays where it is')]).toEqual([1, true]);
    await panel.findAll('.foot button')[0]!.trigger('click');
    await settled();
    expect(performed.map(({ id }) => id)).toEqual(['sequence']);
    expect([bench.trial, order.report, order.held.size]).toEqual([undefined, undefined, 0]);
    // Who lets nothing change is told so.
    for (const box of panel.findAll('.part input').slice(0, 3)) await box.setValue(false);
    await propose.trigger('click');
    await settled();
    expect(panel.find('[role=status]').text()).toMatch(/say what may change/i);
  });

  test('says before a drop what would come out on top of what, and moves an object of another thread with its thread', async () => {
    const order = await layOnBench();
    const objects = useObjects();
    const brick = objects.listed.find((o) => o.color === '#b8552f')!;
    const broken = order.look([brick.id], order.order[0]!);
    expect(order.sayBroken(broken)).toMatch(/would come out on top of .* mm²/);
    expect(order.sayBroken(order.look([order.order[0]!], order.order[2]!))).toBe('');
    const list = show(ObjectList);
    const rows = list.findAll('.entry');
    const carried = { effectAllowed: '', setData: () => undefined };
    await rows.at(-1)!.trigger('dragstart', { dataTransfer: carried });
    await rows[0]!.trigger('dragover', { clientY: -1 });
    expect(list.find('.dropping').text()).toMatch(/^Sewn before .*would come out on top/);
    await rows[0]!.trigger('drop');
    await settled();
    expect(performed[0]!.name).toMatch(/^sew .* before /);
    expect(objects.known!.blocks.map((b) => b.thread!.color)).toEqual(['#b8552f', '#1f4e5f']);
  });

  test('has its ways, stops, locks and threads changed by hand', async () => {
    const order = await layOnBench();
    const objects = useObjects();
    objects.select(objects.listed[1]);
    const panel = show(OrderPanel);
    await settled();
    expect(panel.text()).toMatch(/Sewn as 2 of 6/);
    expect(panel.text()).toMatch(/from satin.*:\s*cut/);
    expect(choicesOf(panel, 'Sew it before')).toHaveLength(6);
    choose(panel, 'Cut on the way to it', 'uncut');
    await settled();
    expect(order.wayHere).toMatchObject({ how: 'open', wish: 'uncut' });
    choose(panel, 'Cut on the way to it', 'cut');
    await settled();
    expect(order.wayHere).toMatchObject({ how: 'trim', wish: 'cut' });
    // Drawn by hand, in steps that lie flat in the open; whoever draws a way wants no cut on it.
    const [x0, y0] = order.wayHere!.points as [number, number];
    const [x1, y1] = order.wayHere!.points.slice(-2) as [number, number];
    expect(
      await order.layPath([
        { x: x0, y: y0 },
        { x: (x0 + x1) / 2, y: y0 - 12 },
        { x: x1, y: y1 },
      ]),
    ).toBeUndefined();
    await settled();
    expect(order.wayHere).toMatchObject({ how: 'open', wish: 'uncut' });
    expect(Math.min(...order.wayHere!.points.filter((_, k) => k % 2 === 1))).toBeCloseTo(y0 - 12, 1);
    const marks = show(WayMarks, {
      connectors: order.connectors,
      nameOf: order.nameOf,
      view: { x: 30, y: 0, scale: 5 },
      size: { width: 600, height: 400 },
    });
    expect(marks.findAll('g.open rect').length).toBeGreaterThan(4);
    expect(marks.findAll('title').map((t) => t.text())).toContainEqual(expect.stringMatching(/^path in the open, [\d.]+ mm, [\d.]+ s: /));
    choose(panel, 'Cut on the way to it', 'cut');
    await settled();
    await panel.find('[aria-label="What the operator does before it"]').setValue('lay the badge');
    await panel.find('form').trigger('submit');
    await settled();
    expect([...order.stops.values()]).toEqual(['lay the badge']);
    await panel
      .findAll('button')
      .find((b) => b.text() === 'No stop')!
      .trigger('click');
    await settled();
    expect(order.stops.size).toBe(0);
    await panel.findAll('.part input').at(-2)!.setValue(true);
    await settled();
    expect(objects.selected!.isLocked).toBe(true);
    await panel
      .findAll('button')
      .find((b) => b.text() === 'Part the block here')!
      .trigger('click');
    await settled();
    expect(objects.known!.blocks.map((b) => b.keep === true)).toEqual([false, true, false]);
    await panel.find('[aria-label="Name of the thread"]').setValue('Deep harbor');
    await settled();
    expect(objects.known!.blocks[1]!.thread!.name).toBe('Deep harbor');
    expect(await order.byStep()).toBe('there is no applique in it');
  });

  test('what is pointed at on the tape says its seconds and its reason', async () => {
    const order = await layOnBench();
    const { view } = useBench().now!;
    const spans = order.order.map((id) => useObjects().objects.find((o) => o.id === id)!);
    const said = view.events.filter(({ kind }) => kind !== 'sewing').map((event) => sayEvent(event, view.program, spans, order.connectors));
    expect(said.filter((words) => /^cut, .* s: satin.* → satin.* mm/.test(words)).length).toBeGreaterThan(3);
    expect(said).toContainEqual(expect.stringMatching(/^thread change to Brick, 8\.0 s$/));
  });
});
