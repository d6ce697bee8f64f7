import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import { defaultTarget, generateFill, ProgramBuilder, SHAPE_NAMES, writeStitchCsv } from '@isola/core';
import { flushPromises, mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { nextTick } from 'vue';
import { createVuetify } from 'vuetify';
import * as components from 'vuetify/components';
import { createEngine } from '../../workers/createEngine.ts';
import { openOn } from '../../workers/testing/openOn.ts';
import { choicesOf, choose } from '../testing/choose.ts';
import { askOf, SHAPE_TOOLS, usualValues } from './shapeTools.ts';

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
const { default: ShapePanel } = await import('./ShapePanel.vue');

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
  return { bench, objects: useObjects(), panel, accepted };
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
    expect(choicesOf(panel, 'What to do')).toEqual(['Border', 'Backing', 'Nap layer', 'Scale']);
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
