import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import { SHAPE_NAMES, TEXTURES, USUAL_SPEC } from '@isola/core';
import { enableAutoUnmount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import type { Component } from 'vue';
import TexturePicker from '../spec/TexturePicker.vue';
import { choicesOf, choose } from '../testing/choose.ts';
import { buttonIn, onPage, settled } from '../testing/onPage.ts';
import { askOf, SHAPE_TOOLS, usualValues } from './shapeTools.ts';
import { layTwoFills } from './testing/twoFills.ts';

const { default: ClothPieces } = await import('./ClothPieces.vue');

enableAutoUnmount(afterEach);
beforeEach(() => void setActivePinia(createPinia()));
afterEach(() => document.body.replaceChildren());

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
    const { bench, objects, panel, accepted } = await layTwoFills();
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
    await buttonIn(panel, /^Step back$/).trigger('click');
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
    await buttonIn(panel, /^Sew it so$/).trigger('click');
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

describe('cloth and textures', () => {
  test('cloth is said for each placement line, and its cutting lines are saved', async () => {
    const { bench, objects, performed } = await layTwoFills();
    const covers = objects.objects.filter(({ role }) => role === 'cover');
    await bench.tryShape('applique', {
      ...{ id: 'applique', objects: covers.map(({ id }) => id), cover: 2, tack: 'zigzag', as: 'satin', batting: false, regroup: true },
      cloth: '#c08020',
    });
    bench.now = bench.trial!.shown;
    await settled();
    const pieces = onPage(ClothPieces);
    await settled();
    expect(pieces.findAll('input[type=color]').map((input) => (input.element as HTMLInputElement).value)).toEqual(['#c08020', '#c08020']);
    await pieces.find('input[type=color]').setValue('#112233');
    await pieces.find('button.words').trigger('click');
    expect(performed.map((operation) => operation.id === 'lay-cloth' && operation.piece?.color)).toEqual(['#112233', undefined]);
    URL.createObjectURL = () => 'blob:x';
    URL.revokeObjectURL = () => undefined;
    const saved = jest.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(() => undefined);
    await buttonIn(pieces, /Cutting lines/).trigger('click');
    expect(saved).toHaveBeenCalledTimes(1);
    saved.mockRestore();
  });

  test('textures are chosen by their pictures; chance has a seed', async () => {
    const picker = onPage(TexturePicker as Component, { spec: USUAL_SPEC });
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
