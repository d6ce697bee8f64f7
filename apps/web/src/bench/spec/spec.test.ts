import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { defaultTarget, generateFill, generateSatin, ProgramBuilder, writeStitchCsv } from '@isola/core';
import { flushPromises, mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { type Component, nextTick } from 'vue';
import { createVuetify } from 'vuetify';
import * as components from 'vuetify/components';
import { choicesOf, choose } from '../testing/choose.ts';
import type { SewnTrial } from '../../workers/protocol.ts';
import { createEngine } from '../../workers/createEngine.ts';
import { openOn } from '../../workers/testing/openOn.ts';
import type { Pair, SpecPairs as Pairs } from '@isola/core';
import '../../workers/testing/quietWorkers.ts';

const { useBench } = await import('../../stores/bench.ts');
const { useObjects } = await import('../../stores/objects.ts');
const { useSpecs } = await import('../../stores/specs.ts');
const { default: SpecPairs } = await import('./SpecPairs.vue');
const { default: UnderlayEditor } = await import('./UnderlayEditor.vue');
const { default: AngleLineTools } = await import('./AngleLineTools.vue');
const { default: AngleHandle } = await import('./AngleHandle.vue');
const { default: DesignTools } = await import('./DesignTools.vue');
const { default: GapMarks } = await import('../cloth/GapMarks.vue');

beforeEach(() => void setActivePinia(createPinia()));
afterEach(() => document.body.replaceChildren());

const show = (component: Component, props: Record<string, unknown> = {}) =>
  mount(component, { props, global: { plugins: [createVuetify({ components })] }, attachTo: document.body });

async function settled(): Promise<void> {
  for (let k = 0; k < 6; k++) await flushPromises();
  await nextTick();
}

/** Two fills beside each other, closed and dense. */
function twoFills(): ProgramBuilder {
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
  for (const x of [0, 22]) {
    const square = Float64Array.of(x, 0, x + 20, 0, x + 20, 20, x, 20);
    const [path] = generateFill([square], { angle: 30 + x, spacing: 0.4, stitchLength: 4, offset: 0.3 });
    builder.trim().jump(path![0]!, path![1]!);
    for (let k = 0; k < path!.length; k += 2) builder.stitch(Math.round(path![k]! * 1000) / 1000, Math.round(path![k + 1]! * 1000) / 1000);
  }
  return builder;
}

/** A program on the bench with an engine of its own. */
async function layOnBench(builder = twoFills()) {
  const engine = createEngine();
  const file = new TextEncoder().encode(writeStitchCsv(builder.trim().end().build()));
  const opened = await openOn(engine, file, defaultTarget());
  const bench = useBench();
  bench.adaptThread = (thread, way, scope) => engine.adaptThread(thread, way, scope);
  bench.proposeOpening = (budget) => engine.proposeOpening(budget);
  bench.trySpecs = async (name, edits, target) => {
    const sewn = await engine.sewSpecs(name, edits, target);
    if ('why' in sewn) return sewn.why;
    const trial = (await engine.measureSewn())!;
    bench.trial = { shown: { number: 9, view: trial.after }, trial, keys: [] };
    return undefined;
  };
  bench.dropTrial = () => (bench.trial = undefined);
  bench.now = { number: 1, view: opened.now };
  const objects = useObjects();
  await settled();
  return { engine, bench, objects, specs: useSpecs() };
}

describe('figures in pairs', () => {
  test('stand side by side, green for gains only; cover, underlay and locks apart; what stays is left out, more bare cloth is no gain', () => {
    const same: Pair = [1, 1];
    const pairs: Pairs = {
      ...{ stitches: [500, 340], coverStitches: [400, 300], underlayStitches: [100, 40], tieStitches: [0, 0] },
      ...{ seconds: [600, 640], trims: same, jumps: [3, 2], cover: [3.2, 3.2], gap: [0.5, 0], bare: [2, 61.4] },
    };
    const table = show(SpecPairs, { pairs });
    const cells = table
      .findAll('tr')
      .map((row) => [row.find('th').text(), row.findAll('td')[2]!.text(), row.findAll('td')[2]!.classes().join()]);
    expect(cells).toEqual([
      ['Stitches of its cover', '300', 'gain'],
      ['of its underlay', '40', 'gain'],
      ['Run of the design', '10:40', 'more'],
      ['Jumps of the design', '2', 'gain'],
      ['Gap beside it when sewn', 'none', 'gain'],
      ['Bare cloth in it', '61 mm², worse', 'worse'],
    ]);
  });
});

describe('underlay', () => {
  test('is put in order, added to, turned into another kind, and left out, one layer at a time', async () => {
    const layers = [{ kind: 'tatami' as const, spacing: 3.5 }, { kind: 'edge-run' as const }];
    const editor = show(UnderlayEditor, { layers, coverAngle: 20 });
    const last = (): unknown => editor.emitted('change')!.at(-1)![0];
    await editor.find('[aria-label="Layer 1 later"]').trigger('click');
    expect(last()).toEqual([layers[1], layers[0]]);
    await editor.find('[aria-label="Leave layer 2 out"]').trigger('click');
    expect(last()).toEqual([layers[0]]);
    await editor.find('.add').trigger('click');
    expect(last()).toHaveLength(3);
    choose(editor, 'Layer 2', 'zigzag');
    expect(last()).toEqual([layers[0], { kind: 'zigzag', spacing: 2 }]);
    const [spacing, inset, angle] = editor.findAll('li')[0]!.findAll('input.number');
    expect((angle!.element as HTMLInputElement).value).toBe('110');
    await spacing!.setValue('99');
    expect(last()).toMatchObject([{ spacing: 20 }, {}]);
    await inset!.setValue('1.2');
    expect(last()).toMatchObject([{ inset: 1.2 }, {}]);
    await angle!.setValue('45');
    expect(last()).toMatchObject([{ angle: 45 }, {}]);
    const none = show(UnderlayEditor, { layers: [], coverAngle: 0 });
    expect(none.text()).toContain('None.');
    await none.find('.add').trigger('click');
    expect(none.emitted('change')![0]).toEqual([[{ kind: 'edge-run' }]]);
  });
});

describe('the grip on the cloth', () => {
  const sight = { view: { x: 10, y: 10, scale: 10 }, size: { width: 400, height: 400 } };

  test('turns the rows by keys and while it is dragged, and angle lines have an end to drag each', async () => {
    const { objects, specs } = await layOnBench();
    const handle = show(AngleHandle, sight);
    expect(handle.find('svg').exists()).toBe(false);
    objects.select(objects.listed[0]);
    await settled();
    const grip = handle.find('circle');
    const turn = (Number(grip.attributes('aria-valuenow')) * Math.PI) / 180;
    // The grip lies on the rows' direction, y up on the cloth and down on the screen.
    expect(Math.atan2(200 - Number(grip.attributes('cy')), Number(grip.attributes('cx')) - 200)).toBeCloseTo(turn, 1);
    await grip.trigger('keydown', { key: 'ArrowUp', shiftKey: true });
    await settled();
    expect(specs.spec!.angle).toBeCloseTo(40, 0);
    expect(specs.isChanged).toBe(true);

    Object.assign(grip.element, { setPointerCapture: () => undefined });
    const pointer = (type: string, x: number, y: number): Event =>
      Object.assign(new Event(type, { bubbles: true }), { pointerId: 1, clientX: x, clientY: y, shiftKey: false });
    grip.element.dispatchEvent(pointer('pointerdown', 250, 200));
    grip.element.dispatchEvent(pointer('pointermove', 200, 120));
    await settled();
    expect(specs.spec!.angle).toBeCloseTo(90, 0);
    grip.element.dispatchEvent(pointer('pointerup', 200, 120));
    grip.element.dispatchEvent(pointer('pointermove', 300, 200));
    await settled();
    expect(specs.spec!.angle).toBeCloseTo(90, 0);

    specs.change({ angleLines: [[2, 2, 2, 18] as [number, number, number, number], [18, 2, 16, 18] as [number, number, number, number]] });
    await settled();
    const ends = handle.findAll('circle');
    expect(ends).toHaveLength(4);
    Object.assign(ends[1]!.element, { setPointerCapture: () => undefined });
    ends[1]!.element.dispatchEvent(pointer('pointerdown', 120, 120));
    ends[1]!.element.dispatchEvent(pointer('pointermove', 150, 150));
    await settled();
    expect(specs.spec!.angleLines[0]!.slice(2)).toEqual([5, 15]);
  });
});

describe('the spec of a satin', () => {
  const sight = { view: { x: 10, y: 2, scale: 10 }, size: { width: 400, height: 200 } };

  test('leans by an angle line that is added, moved by keys and taken away, and its throws with it', async () => {
    const column = generateSatin(Float64Array.of(0, 4, 40, 4), Float64Array.of(0, 0, 40, 0), { spacing: 0.4, pull: 0, splitLength: 7 });
    const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor').jump(column[0]!, column[1]!);
    for (let k = 0; k < column.length; k += 2) builder.stitch(column[k]!, column[k + 1]!);
    const { engine, bench, objects, specs } = await layOnBench(builder);
    const tools = show(AngleLineTools);
    const handle = show(AngleHandle, sight);
    objects.select(objects.objects.find((o) => o.kind === 'satin'));
    await settled();
    expect(specs.spec).toMatchObject({ kind: 'satin', angleLines: [] });
    expect(handle.findAll('circle')).toHaveLength(0);
    const [lean] = tools.findAll('button');
    expect(lean!.text()).toBe('Lean the throws');
    await lean!.trigger('click');
    await settled();
    expect(handle.findAll('circle').map((c) => c.attributes('aria-label'))).toEqual(['Start of angle line 1', 'End of angle line 1']);
    const [before] = specs.spec!.angleLines;
    await handle.findAll('circle')[1]!.trigger('keydown', { key: 'ArrowRight', shiftKey: true });
    await handle.findAll('circle')[1]!.trigger('keydown', { key: 'ArrowRight' });
    await settled();
    expect(specs.spec!.angleLines[0]![2]).toBeCloseTo(before![2] + 1.2, 2);
    expect(specs.spec!.angleLines[0]!.slice(0, 2)).toEqual(before!.slice(0, 2));
    expect(bench.trial!.trial.name).toMatch(/: angle lines$/);
    // What changes on the cloth lies in a box around the column, so that only this is drawn anew.
    const sewn = await engine.sewSpecs('again', [{ object: specs.object!.id, spec: specs.spec! }]);
    const [minX, minY, maxX, maxY] = (sewn as SewnTrial).change.box;
    expect([minX < 1, minY < 1, maxX > 39, maxY > 3]).toEqual([true, true, true, true]);
    expect([minX > -2, minY > -2, maxX < 42, maxY < 6]).toEqual([true, true, true, true]);

    await tools.findAll('button')[1]!.trigger('click');
    await settled();
    expect(specs.spec!.angleLines).toHaveLength(2);
    await handle.findAll('circle')[2]!.trigger('keydown', { key: 'Delete' });
    await settled();
    expect(specs.spec!.angleLines).toHaveLength(1);
    await tools.findAll('button')[0]!.trigger('click');
    await settled();
    expect(specs.spec!.angleLines).toEqual([]);
    expect(specs.isChanged).toBe(false);
  });
});

describe('the whole design', () => {
  test('is tried with another thread, its factor and needle said, and opened up step by step as far as one wants', async () => {
    const { bench } = await layOnBench();
    const tools = show(DesignTools);
    await settled();
    await tools.find('[aria-label="Thread to adapt to"]').setValue('cotton-12');
    expect(tools.text()).toContain('× 1.83');
    expect(tools.text()).toContain('Needle 110');
    await tools.find('input[value="third-off"]').setValue(true);
    expect(tools.text()).toContain('× 2.30');
    await tools.findAll('button')[0]!.trigger('click');
    await settled();
    expect(bench.trial!.trial.name).toContain('12-weight cotton, a third off');
    expect(bench.trial!.shown.view.target.thread.weight).toBe(12);
    bench.dropTrial();

    await tools.find('#budget').setValue('100');
    await tools
      .findAll('button')
      .find((b) => b.text() === 'Propose')!
      .trigger('click');
    await settled();
    const steps = tools.findAll('.steps li');
    expect(steps).toHaveLength(3);
    expect(tools.text()).toContain('what is left are satins, runs and small fills');
    const both = bench.trial!.shown.view.figures.stitches;
    await steps[2]!.find('input').trigger('change');
    await settled();
    const one = bench.trial!.shown.view.figures.stitches;
    expect(one).toBeGreaterThan(both);
    // Any of them is taken or left, whatever its place; what is shown beside it is what it would save.
    await steps[1]!.find('input').trigger('change');
    await settled();
    expect(bench.trial).toBeUndefined();
    expect(steps[1]!.find('b').text()).toMatch(/^−[\d,]+/);
    await steps[2]!.find('input').trigger('change');
    await settled();
    expect(bench.trial!.trial.name).toBe('open up 1 of the fills');
    await steps[2]!.find('button').trigger('click');
    expect(tools.emitted('look')).toHaveLength(1);
  });

  test('goes to another thread for one object only, where one is selected', async () => {
    const { bench, objects } = await layOnBench();
    const tools = show(DesignTools);
    await settled();
    const words = (): string[] => choicesOf(tools, 'What to adapt');
    expect(words()[0]).toBe('whole design');
    objects.select(objects.objects.find((o) => o.kind === 'fill'));
    await settled();
    expect(words()[1]).toMatch(/^only fill, /);
    choose(tools, 'Thread to adapt to', 'cotton-12');
    choose(tools, 'What to adapt', 'object');
    await settled();
    await tools.findAll('button')[0]!.trigger('click');
    await settled();
    expect(bench.trial!.trial.name).toMatch(/^only fill, .* for 12-weight cotton, by thickness$/);
    expect(bench.trial!.shown.view.target.thread.weight).toBe(bench.now!.view.target.thread.weight);
    const [before, after] = bench.trial!.trial.pairs!.stitches;
    expect(after).toBeLessThan(before);
  });

  test('shows where gaps open', () => {
    const gaps = [
      { objects: [0, 1], width: 0.62, at: { x: 10, y: 10 } },
      { objects: [1, 2], width: 0.31, at: { x: 12, y: 8 } },
    ];
    const marks = show(GapMarks, { gaps, view: { x: 10, y: 10, scale: 10 }, size: { width: 400, height: 400 } });
    expect(marks.findAll('.ring').map((c) => [c.attributes('cx'), c.attributes('cy')])).toEqual([
      ['200', '200'],
      ['220', '220'],
    ]);
    expect(marks.findAll('text').map((t) => t.text())).toEqual(['0.62 mm', '0.31 mm']);
    // Where the words would lie over another mark, the narrower gap has its ring alone.
    const near = [gaps[0]!, { objects: [1, 2], width: 0.31, at: { x: 12, y: 10 } }];
    const close = show(GapMarks, { gaps: near, view: { x: 10, y: 10, scale: 10 }, size: { width: 400, height: 400 } });
    expect([close.findAll('.ring').length, close.findAll('text').map((t) => t.text())]).toEqual([2, ['0.62 mm']]);
  });
});
