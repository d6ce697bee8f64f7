import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import {
  countNodes,
  defaultTarget,
  generateFill,
  type Operation,
  placeOfNode,
  ProgramBuilder,
  SHAPE_NAMES,
  TEXTURES,
  USUAL_SPEC,
  writeStitchCsv,
} from '@isola/core';
import { flushPromises, mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { type Component, nextTick } from 'vue';
import { createVuetify } from 'vuetify';
import * as components from 'vuetify/components';
import { createEngine } from '../../workers/createEngine.ts';
import { openOn } from '../../workers/testing/openOn.ts';
import { choicesOf, choose } from '../testing/choose.ts';
import TexturePicker from '../spec/TexturePicker.vue';
import { askOf, SHAPE_TOOLS, usualValues } from './shapeTools.ts';
import { snap } from './snap.ts';

jest.unstable_mockModule('../../workers/startWorkers.ts', () => ({
  clothWorker: () => ({
    setObjects: () => Promise.resolve(),
    setProgram: () => Promise.resolve(),
    dropProgram: () => Promise.resolve(),
    setSewn: () => Promise.resolve(),
  }),
  startEngine: () => ({ engine: createEngine(), stop: () => undefined, rest: () => undefined }),
  nextProgramNumber: () => 1,
}));
const { useBench } = await import('../../stores/bench.ts');
const { useObjects } = await import('../../stores/objects.ts');
const { useDrawPad } = await import('../../stores/drawPad.ts');
const { useNodes } = await import('../../stores/nodes.ts');
const { default: ShapePanel } = await import('./ShapePanel.vue');
const { default: DrawPad } = await import('./DrawPad.vue');
const { default: NodeHandles } = await import('./NodeHandles.vue');
const { default: ClothPieces } = await import('./ClothPieces.vue');

beforeEach(() => void setActivePinia(createPinia()));
afterEach(() => document.body.replaceChildren());

/** Two closed fills beside each other, on the bench with an engine of their own. */
async function layOnBench() {
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
  for (const x of [0, 26]) {
    const [path] = generateFill([Float64Array.of(x, 0, x + 20, 0, x + 20, 20, x, 20)], {
      angle: 30 + x,
      spacing: 0.4,
      stitchLength: 4,
      offset: 0.3,
    });
    builder.trim().jump(path![0]!, path![1]!);
    for (let k = 0; k < path!.length; k += 2) builder.stitch(Math.round(path![k]! * 1000) / 1000, Math.round(path![k + 1]! * 1000) / 1000);
  }
  const engine = createEngine();
  const opened = await openOn(engine, new TextEncoder().encode(writeStitchCsv(builder.trim().end().build())), defaultTarget());
  const bench = useBench();
  bench.tryShape = async (name, ask) => {
    const tried = await engine.tryShape(name, ask);
    if ('why' in tried) return tried.why;
    bench.trial = { shown: { number: 9, view: tried.after }, trial: tried, keys: [] };
    return undefined;
  };
  bench.nodesOf = (id) => engine.nodesOf(id);
  bench.trySpecs = async (name, edits) => {
    const sewn = await engine.sewSpecs(name, edits);
    if ('why' in sewn) return sewn.why;
    const tried = (await engine.measureSewn())!;
    bench.trial = { shown: { number: 9, view: tried.after }, trial: tried, keys: [] };
    return undefined;
  };
  const performed: Operation[] = [];
  bench.perform = (_, operation) => {
    performed.push(operation);
    return Promise.resolve(true);
  };
  const accepted: string[] = [];
  bench.acceptTrial = () => {
    accepted.push(bench.trial!.trial.name);
    bench.trial = undefined;
    return Promise.resolve(true);
  };
  bench.dropTrial = () => (bench.trial = undefined);
  bench.now = { number: 1, view: opened.now };
  await settled();
  const panel = mount(ShapePanel, { global: { plugins: [createVuetify({ components })] }, attachTo: document.body });
  await settled();
  return { bench, objects: useObjects(), panel, accepted, performed };
}

async function settled(): Promise<void> {
  for (let k = 0; k < 8; k++) await flushPromises();
  await nextTick();
}

describe('shapes on the bench', () => {
  test('are asked for as the command line asks, each with its usual values, and nothing that cannot be asked is offered', () => {
    for (const tool of SHAPE_TOOLS) {
      expect(SHAPE_NAMES).toContain(tool.id);
      const values = usualValues(tool);
      const others = Object.fromEntries(tool.fields.filter(({ as }) => as === 'object').map(({ key }) => [key, 'other']));
      const ask = askOf(tool, { ...values, ...others, ...(tool.id === 'scale' ? { factor: '1,2' } : {}) }, [{ id: 'one' }]);
      expect([tool.id, ask]).toEqual([tool.id, expect.objectContaining({ id: tool.id })]);
      for (const { as, label } of tool.fields.filter((field) => field.as === 'object'))
        expect([as, askOf(tool, values, [{ id: 'one' }])]).toEqual([as, `choose an object for “${label.toLowerCase()}”`]);
    }
    const outline = SHAPE_TOOLS[0]!;
    expect(usualValues(outline)).toEqual({ as: 'satin', width: '1.5', place: 'center', offset: '0', overlap: 'whole', color: '' });
    expect(askOf(outline, { ...usualValues(outline), width: 'wide' }, [{ id: 'one' }])).toBe('Width takes a number');
    expect(askOf(outline, { ...usualValues(outline), width: '90' }, [{ id: 'one' }])).toMatch(/width/);
  });

  test('are tried with their figures before they are sewn so; what cannot be done says why and changes nothing', async () => {
    const { bench, objects, panel, accepted } = await layOnBench();
    const words = (): string => panel.text().replace(/\s+/g, ' ');
    const tryIt = async (): Promise<void> => {
      await panel.find('form').trigger('submit');
      await settled();
    };
    // Without an object there is only what is done to the whole design.
    expect(choicesOf(panel, 'What to do')).toEqual(['Border', 'Backing', 'Nap layer', 'Move, turn, mirror', 'Scale']);
    await tryIt();
    expect(words()).toContain('Size46.0 × 20.0 mm→56.0 × 30.0 mm');
    const { after } = bench.trial!.trial;
    expect(after.figures.extents.width - bench.now!.view.figures.extents.width).toBeCloseTo(10, 0);
    await panel
      .findAll('button')
      .find((b) => b.text() === 'Step back')!
      .trigger('click');
    expect(bench.trial).toBeUndefined();

    const [left, right] = objects.objects.filter(({ role }) => role === 'cover');
    objects.select(left);
    await settled();
    expect(choicesOf(panel, 'What to do')).toHaveLength(SHAPE_TOOLS.length);
    choose(panel, 'What to do', 'outline');
    await settled();
    await panel.find('input[aria-label="Width"]').setValue('2,5');
    await panel.find('input[type=color]').setValue('#202020');
    await tryIt();
    expect(bench.trial!.trial.name).toBe(`outline: ${left!.name}`);
    expect(
      bench.trial!.trial.after.objects!.objects.some(({ name, color }) => name === `Outline of ${left!.name}` && color === '#202020'),
    ).toBe(true);
    await panel
      .findAll('button')
      .find((b) => b.text() === 'Sew it so')!
      .trigger('click');
    await settled();
    expect(accepted).toEqual([`outline: ${left!.name}`]);

    choose(panel, 'What to do', 'join');
    await settled();
    await tryIt();
    expect(words()).toContain('Nothing was changed: choose an object for “with”.');
    choose(panel, 'With', right!.id);
    await tryIt();
    expect(words()).toContain('Nothing was changed: they do not touch');
    expect(bench.trial).toBeUndefined();
  });
});

/** A cloth of 400 by 400 px, 10 px a mm, its middle at (10, 10): how a place on it is pressed, moved over and let go. */
const VIEW = { view: { x: 10, y: 10, scale: 10 }, size: { width: 400, height: 400 } };
const pixel = (x: number, y: number): { clientX: number; clientY: number } => ({
  clientX: 200 + (x - 10) * 10,
  clientY: 200 - (y - 10) * 10,
});

function onCloth(component: Component) {
  const shown = mount(component, { props: VIEW, global: { plugins: [createVuetify({ components })] }, attachTo: document.body });
  const svg = shown.find('svg').element as SVGElement;
  Object.assign(SVGElement.prototype, { setPointerCapture: () => undefined });
  svg.getBoundingClientRect = () => new DOMRect(0, 0, 400, 400);
  const send = async (target: Element, type: string, x: number, y: number, more: MouseEventInit = {}): Promise<void> => {
    target.dispatchEvent(new MouseEvent(type, { bubbles: true, cancelable: true, ...pixel(x, y), ...more }));
    await settled();
  };
  const press = (key: string, target: EventTarget = svg, more: KeyboardEventInit = {}): Promise<void> => {
    target.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));
    return settled();
  };
  const click = async (x: number, y: number, more: MouseEventInit = {}): Promise<void> => {
    await send(svg, 'pointerdown', x, y, more);
    await send(svg, 'pointerup', x, y, more);
  };
  return { shown, svg, send, press, click };
}

describe('shapes by hand', () => {
  test('a place is drawn to an end before an edge, and to an edge before an angle; elsewhere it stays where it is', () => {
    const targets = { places: [{ x: 0, y: 0, says: 'the end' }], lines: [Float64Array.of(0, 0, 10, 0)], from: { x: 5, y: 5 } };
    expect(snap(0.3, 0.2, targets, 0.5)).toEqual({ x: 0, y: 0, to: 'the end' });
    expect(snap(4, 0.3, targets, 0.5)).toEqual({ x: 4, y: 0, to: 'an edge' });
    expect(snap(15, 5.2, targets, 0.5)).toEqual({ x: 15, y: 5, to: '0°' });
    expect(snap(9, 7, targets, 0.5)).toEqual({ x: 9, y: 7 });
  });

  test('a shape is drawn by clicks, bent by pulling, closed on its first node, given a hole, tried and sewn; Escape leaves it', async () => {
    const { bench, panel, accepted } = await layOnBench();
    const pad = useDrawPad();
    const button = (words: RegExp) => panel.findAll('button').find((b) => words.test(b.text()))!;
    await button(/^Draw$/).trigger('click');
    const { shown, svg, send, press, click } = onCloth(DrawPad);
    // Far from other edges: alt sets freely.
    for (const [x, y] of [
      [0, 24],
      [8, 24],
      [8, 29],
    ] as const)
      await click(x, y, { altKey: true });
    await send(svg, 'pointerdown', 0, 29, { altKey: true });
    await send(svg, 'pointermove', 1, 31, { altKey: true });
    await send(svg, 'pointerup', 1, 31);
    expect(Array.from({ length: 4 }, (_, k) => placeOfNode(pad.nodes, k))).toEqual([
      [0, 24],
      [8, 24],
      [8, 29],
      [0, 29],
    ]);
    expect([placeOfNode(pad.nodes, 3, 'out'), placeOfNode(pad.nodes, 3, 'in')]).toEqual([
      [1, 31],
      [-1, 27],
    ]);
    await press('Backspace');
    expect(pad.nodes).toHaveLength(18);
    await send(svg, 'pointermove', 0.2, 24.1);
    expect(shown.text()).toContain('on the first node');
    await click(0.2, 24.1);
    expect(pad.isDrawing).toBe(false);
    expect(bench.trial!.trial.name).toBe('draw: a shape');
    const drawn = bench.trial!.trial.after.objects!.objects.find(({ name }) => name === 'Shape 1')!;
    expect(drawn.kind).toBe('fill');
    await button(/Draw a hole/).trigger('click');
    for (const [x, y] of [
      [4, 25],
      [7, 25],
      [7, 28],
    ] as const)
      await click(x, y, { altKey: true });
    await press('Enter');
    expect(bench.trial!.trial.after.objects!.objects.find(({ name }) => name === 'Shape 1')!.holes).toHaveLength(1);
    choose(panel, 'Sewn as', 'edge-stitch');
    await settled();
    expect(bench.trial!.trial.after.objects!.objects.find(({ name }) => name === 'Shape 1')!.pattern).toBe('edge-stitch');
    await button(/Sew it so/).trigger('click');
    expect(accepted).toEqual(['draw: a shape']);
    // By typed places, without a pointer.
    pad.start('draw', 'line');
    await settled();
    const typed = panel.find('.typed input');
    for (const place of ['0 30', '12,5 −3', 'here'] as const) {
      await typed.setValue(place);
      await panel.find('form.typed').trigger('submit');
    }
    expect(panel.text()).toContain('two numbers in mm');
    expect(Array.from({ length: 2 }, (_, k) => placeOfNode(pad.nodes, k))).toEqual([
      [0, 30],
      [12.5, -3],
    ]);
    await press('Escape');
    expect([pad.isOn, pad.nodes.length]).toEqual([false, 0]);
    shown.unmount();
  });

  test('an object is cut along a drawn line', async () => {
    const { bench, objects, panel } = await layOnBench();
    objects.select(objects.objects.find(({ role }) => role === 'cover'));
    await settled();
    await panel
      .findAll('button')
      .find((b) => b.text() === 'Cut')!
      .trigger('click');
    const { press, click, shown } = onCloth(DrawPad);
    await click(-5, 8, { altKey: true });
    await click(25, 12, { altKey: true });
    await press('Enter');
    expect(bench.trial!.trial.name).toMatch(/^cut: /);
    expect(bench.trial!.trial.after.objects!.objects.filter(({ name, role }) => role === 'cover' && name.endsWith('part 2'))).toHaveLength(
      1,
    );
    shown.unmount();
  });

  test('an edge opens by its nodes: dragged, by keys, more of them, fewer, and put back; what is tried is sewn as one step', async () => {
    const { bench, objects, panel, accepted } = await layOnBench();
    objects.select(objects.objects.find(({ role }) => role === 'cover'));
    await settled();
    const button = (words: RegExp) => panel.findAll('button').find((b) => words.test(b.text()))!;
    await button(/^Nodes$/).trigger('click');
    await settled();
    const nodes = useNodes();
    expect(nodes.count).toBeLessThan(14);
    const { shown, send, press } = onCloth(NodeHandles);
    const before = nodes.lines[0]!;
    const mark = (k: number): Element => shown.findAll('g.node')[k]!.element;
    const [x, y] = placeOfNode(before, 0);
    await send(mark(0), 'pointerdown', x, y);
    await send(mark(0), 'pointermove', x - 2, y - 2);
    await send(mark(0), 'pointerup', x - 2, y - 2);
    expect(placeOfNode(nodes.lines[0]!, 0)).toEqual([expect.closeTo(x - 2, 2), expect.closeTo(y - 2, 2)]);
    expect(bench.trial!.trial.name).toMatch(/^nodes: /);
    expect(bench.trial!.trial.pairs!.stitches[1]).not.toBe(bench.trial!.trial.pairs!.stitches[0]);
    expect(shown.findAll('path.ghost')).toHaveLength(nodes.lines.length);
    await press('ArrowRight', mark(1), { shiftKey: true });
    expect(placeOfNode(nodes.lines[0]!, 1)[0]).toBeCloseTo(placeOfNode(before, 1)[0] + 1, 6);
    await button(/Add after it/).trigger('click');
    await settled();
    expect(countNodes(nodes.lines[0]!)).toBe(countNodes(before) + 1);
    for (const words of [/Smooth/, /Straight/, /^Delete$/]) await button(words).trigger('click');
    await settled();
    expect(countNodes(nodes.lines[0]!)).toBe(countNodes(before));
    await button(/Pick all/).trigger('click');
    await button(/^Delete$/).trigger('click');
    expect(panel.text()).toContain('too few nodes would be left');
    await button(/Step back/).trigger('click');
    expect(nodes.lines[0]).toEqual(before);
    await press('ArrowUp', mark(2));
    await button(/Sew it so/).trigger('click');
    await settled();
    expect(accepted).toEqual([expect.stringMatching(/^nodes: /)]);
    await button(/^Nodes$/).trigger('click');
    expect([nodes.isOn, nodes.lines.length]).toEqual([false, 0]);
    shown.unmount();
  });

  test('cloth is said for each placement line, and its cutting lines are saved', async () => {
    const { bench, objects, performed } = await layOnBench();
    const covers = objects.objects.filter(({ role }) => role === 'cover');
    await bench.tryShape('applique', {
      ...{ id: 'applique', objects: covers.map(({ id }) => id), cover: 2, tack: 'zigzag', as: 'satin', batting: false, regroup: true },
      cloth: '#c08020',
    });
    bench.now = bench.trial!.shown;
    await settled();
    const pieces = mount(ClothPieces, { global: { plugins: [createVuetify({ components })] }, attachTo: document.body });
    await settled();
    expect(pieces.findAll('input[type=color]').map((input) => (input.element as HTMLInputElement).value)).toEqual(['#c08020', '#c08020']);
    await pieces.find('input[type=color]').setValue('#112233');
    await pieces.find('button.words').trigger('click');
    expect(performed.map((operation) => operation.id === 'lay-cloth' && operation.piece?.color)).toEqual(['#112233', undefined]);
    URL.createObjectURL = () => 'blob:x';
    URL.revokeObjectURL = () => undefined;
    const saved = jest.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(() => undefined);
    await pieces
      .findAll('button')
      .find((b) => /Cutting lines/.test(b.text()))!
      .trigger('click');
    expect(saved).toHaveBeenCalledTimes(1);
    saved.mockRestore();
  });

  test('textures are chosen by their pictures; chance has a seed', async () => {
    const picker = mount(TexturePicker as Component, { props: { spec: USUAL_SPEC } });
    const choice = (name: string) => picker.findAll('[role=radio]').find((one) => one.text() === name)!;
    expect(choice('one shift').attributes('aria-checked')).toBe('true');
    expect(new Set(picker.findAll('path').map((path) => path.attributes('d'))).size).toBe(TEXTURES.length + 2);
    await choice('wave').trigger('click');
    expect(picker.emitted('change')!.at(-1)).toEqual([{ texture: TEXTURES.find(({ id }) => id === 'wave')!.shifts, seed: undefined }]);
    await choice('chance').trigger('click');
    expect(picker.emitted('change')!.at(-1)).toEqual([{ texture: undefined, offset: 'random', seed: 1 }]);
    await picker.setProps({ spec: { ...USUAL_SPEC, offset: 'random' as const, seed: 4 } });
    await picker.find('input').setValue('17');
    expect(picker.emitted('change')!.at(-1)).toEqual([{ seed: 17 }]);
    await choice('one shift').trigger('click');
    expect(picker.emitted('change')!.at(-1)).toEqual([{ texture: undefined, seed: undefined, offset: 0.3 }]);
  });
});
