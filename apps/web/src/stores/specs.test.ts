import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { defaultTarget } from '@isola/core';
import { flushPromises, mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { type Component, nextTick } from 'vue';
import { createVuetify } from 'vuetify';
import * as components from 'vuetify/components';
import { createEngine } from '../workers/createEngine.ts';
import { openOn } from '../workers/testing/openOn.ts';
import { fourObjectsFile } from './testing/fourObjectsFile.ts';
import '../workers/testing/quietWorkers.ts';

const { useBench } = await import('./bench.ts');
const { useObjects } = await import('./objects.ts');
const { useSpecs } = await import('./specs.ts');
const { default: SpecPanel } = await import('../bench/spec/SpecPanel.vue');
const { default: UnderlayEditor } = await import('../bench/spec/UnderlayEditor.vue');

async function settled(): Promise<void> {
  for (let k = 0; k < 4; k++) await flushPromises();
  await nextTick();
}

beforeEach(() => void setActivePinia(createPinia()));
afterEach(() => document.body.replaceChildren());

const show = (component: Component, props: Record<string, unknown> = {}) =>
  mount(component, { props, global: { plugins: [createVuetify({ components })] }, attachTo: document.body });

describe('specs', () => {
  const performedOf = (engine: ReturnType<typeof createEngine>, bench: ReturnType<typeof useBench>): void => {
    bench.trySpecs = async (name, edits, target) => {
      const sewn = await engine.sewSpecs(name, edits, target);
      if ('why' in sewn) return sewn.why;
      const trial = (await engine.measureSewn())!;
      bench.trial = { shown: { number: 9, view: trial.after }, trial, keys: [] };
      return undefined;
    };
    bench.acceptTrial = () => bench.perform(bench.trial!.trial.name, bench.trial!.trial.operation);
    bench.dropTrial = () => (bench.trial = undefined);
  };

  test('are shown with their bands, tried while they change, refused with a reason, kept as one step and given back', async () => {
    const bench = useBench();
    const engine = createEngine();
    performedOf(engine, bench);
    const opened = await openOn(engine, fourObjectsFile(), defaultTarget());
    bench.now = { number: 1, view: opened.now };
    const made: string[] = [];
    bench.perform = async (name, operation) => {
      made.push(name);
      const changed = await engine.extend([{ id: crypto.randomUUID(), kind: 'do', name, operation }]);
      if (!changed.ok) throw new Error(changed.reason);
      bench.trial = undefined;
      bench.now = { number: 2, view: changed.now };
      return true;
    };
    const objects = useObjects();
    const specs = useSpecs();
    await settled();
    const panel = show(SpecPanel);
    objects.select(objects.listed[0]);
    await settled();
    expect(specs.current).toMatchObject({ kind: 'fill', underlay: [] });
    // What it came with is not told by stitches: no band, nothing amber, until somebody says it.
    expect(panel.findAll('.band').length).toBe(3);
    expect(panel.text()).toMatch(/Compensation added.*What it came with is not known/s);
    expect(panel.findAll('.value.off').map((v) => v.text())).toEqual([]);
    await panel.find('.held button').trigger('click');
    await panel.find('.held input').setValue('0,05');
    await settled();
    expect(made).toEqual([expect.stringContaining('came with 0.05 mm of compensation')]);
    objects.select(objects.listed[0]);
    await settled();
    const compensation = panel.find('input[aria-label="Compensation"]').element.closest('.value')!;
    expect(compensation.querySelector<HTMLInputElement>('.figure')!.value).toBe('0.05');
    expect(compensation.textContent).toMatch(/Right here: 0\.17 to 0\.39/);
    specs.suggest();
    await settled();
    expect(specs.suggested.map((c) => c.from + ' ' + c.to)).toContain('0.05 mm 0.28 mm');
    expect(specs.draft!.pull).toBeCloseTo(0.23, 9);
    specs.stepBack();
    await panel.find('.held button').trigger('click');
    await settled();
    objects.select(objects.listed[0]);
    await settled();
    expect(objects.selected!.heldPull).toBeUndefined();
    made.length = 0;

    await panel.find('input[aria-label="Spacing"]').setValue('600');
    await settled();
    expect(specs.isChanged).toBe(true);
    expect(bench.trial!.trial.pairs!.stitches[1]).toBeLessThan(bench.trial!.trial.pairs!.stitches[0]);
    specs.stepBack();
    expect([specs.isChanged, bench.trial]).toEqual([false, undefined]);

    // A fill stays the closed fill that it was meant to be however wide its rows lie: its spacing is out of band, and bare cloth is told.
    const manner = (): string => panel.find('.choice-field').text();
    specs.change({ spacing: 1.2 });
    await settled();
    expect([manner(), specs.spec!.isOpen]).toEqual(['fill', false]);
    const { bare } = bench.trial!.trial.pairs!;
    expect(bare[1]).toBeGreaterThan(bare[0] + 20);
    expect(panel.find('.showing').text()).toMatch(/cloth shows through at 1\.20 mm.*Make it an open fill/);
    await panel.find('.showing button').trigger('click');
    await settled();
    expect([manner(), specs.spec!.isOpen, specs.spec!.underlay]).toEqual(['open fill', undefined, []]);
    // And an open fill that is drawn close does not become a closed one by itself.
    specs.change({ spacing: 0.6 });
    expect([specs.spec!.isOpen, manner()]).toEqual([true, 'open fill']);
    specs.change({ spacing: specs.current!.spacing, isOpen: undefined });
    expect(specs.isChanged).toBe(false);
    specs.stepBack();
    await settled();

    specs.changeKind('satin');
    await settled();
    expect(specs.refusal).toMatch(/12 mm|as wide as/);
    expect(bench.trial).toBeUndefined();
    specs.stepBack();

    specs.suggest();
    await settled();
    expect(specs.suggested.map((c) => c.value)).toEqual(['underlay']);
    await nextTick();
    expect(panel.text()).toContain('tatami first, then the edge run');
    expect(await specs.make()).toBe(true);
    await settled();
    expect(objects.selected?.made?.spec.underlay.map((l) => l.kind)).toEqual(['tatami', 'edge-run']);
    const layers = show(UnderlayEditor, { layers: specs.spec!.underlay, coverAngle: 30 });
    await layers.find('[aria-label="Layer 2 earlier"]').trigger('click');
    expect(layers.emitted('change')![0]).toMatchObject([[{ kind: 'edge-run' }, { kind: 'tatami' }]]);
    const stitches = layers.findAll('label').filter((label) => label.text().startsWith('stitch'));
    await stitches[1]!.find('input').setValue('3');
    expect(layers.emitted('change')!.at(-1)).toMatchObject([[{ kind: 'tatami' }, { kind: 'edge-run', stitchLength: 3 }]]);

    expect(await specs.reset()).toBe(true);
    await settled();
    expect(objects.objects.some((o) => o.made !== undefined)).toBe(false);

    objects.select(objects.listed[2]);
    specs.forAlike = true;
    await settled();
    specs.change({ spacing: 0.5 });
    await settled();
    expect(bench.trial!.trial.applied).toHaveLength(2);
    // What is kept is what was asked for last, also where that is still being worked out.
    specs.change({ spacing: 0.55 });
    expect(await specs.make()).toBe(true);
    expect(made[made.length - 1]).toContain('spacing 0.55');
    expect(await specs.make()).toBe(false);

    // Stitches that were set one by one give way only after that was said, or when asked to.
    specs.forAlike = false;
    const moveOne = async (): Promise<void> => {
      objects.select(objects.listed[2]);
      await settled();
      const row = objects.selected!.first + 9;
      const moved = await engine.editPoints({ what: 'move', rows: [row], dx: 0.3, dy: 0, long: 'split' });
      if (!moved.ok) throw new Error(moved.error);
      await bench.perform('moved', moved.value.operation);
      await settled();
      expect(objects.selected!.edited).toBe(1);
    };
    await moveOne();
    expect(panel.text()).not.toContain('gives way');
    specs.change({ spacing: 0.5 });
    await settled();
    expect(panel.find('.foot .showing').text()).toMatch(/^1 stitch that was set by itself gives way/);
    specs.stepBack();
    await settled();
    const again = panel.findAll('button').find((button) => button.text() === 'From its spec again')!;
    await again.trigger('click');
    await settled();
    expect([objects.selected!.edited, objects.selected!.made!.spec.spacing]).toEqual([undefined, 0.55]);
    expect(made.at(-1)).toMatch(/^from its spec again/);
  });

  test('the whole design fits another thread, opens up, and is predicted', async () => {
    const engine = createEngine();
    const { now } = await openOn(engine, fourObjectsFile(), defaultTarget());
    const proposal = await engine.proposeOpening(100);
    expect(proposal.steps).toHaveLength(1);
    const thick = await engine.adaptThread({ ...now.target.thread, weight: 12 }, 'third-off');
    expect(thick.factor).toBeCloseTo(2.3, 1);
    expect(thick.edits).toHaveLength(4);
    const prediction = await engine.predict('now');
    expect(prediction!.x).toHaveLength(now.program.rowCount);
    expect(await engine.sewSpecs('nothing', [])).toEqual({ why: 'no object would change' });
  });
});
