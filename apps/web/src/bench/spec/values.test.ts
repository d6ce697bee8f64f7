import { afterEach, describe, expect, test } from '@jest/globals';
import { mount } from '@vue/test-utils';
import { type Component } from 'vue';
import { createVuetify } from 'vuetify';
import * as components from 'vuetify/components';
import { firstTurn, nextAcross, nextBetween } from './angleLines.ts';
import SpecValue from './SpecValue.vue';

afterEach(() => document.body.replaceChildren());

const show = (component: Component, props: Record<string, unknown> = {}) =>
  mount(component, { props, global: { plugins: [createVuetify({ components })] }, attachTo: document.body });

describe('a value with its band', () => {
  const band = { low: 0.35, high: 0.46, best: 0.4, why: 'a closed fill covers at 0.40 mm' };
  const props = { label: 'Spacing', value: 0.28, before: 0.28, unit: 'mm', min: 0.2, max: 5, step: 0.01, band, isRatio: true };

  test('lies on its scale where the band is drawn, and says why where it is off', () => {
    const off = show(SpecValue, props);
    expect(off.classes()).toContain('off');
    expect(off.text()).toContain('Right here: 0.35 to 0.46; a closed fill covers at 0.40 mm.');
    const at = (style: string | undefined): number => Number(/left: ([\d.]+)%/.exec(style ?? '')![1]);
    const left = at(off.find('.band').attributes('style'));
    const best = at(off.find('.best').attributes('style'));
    // Even to the eye from fine to coarse: the share of the way in logarithms.
    expect(left).toBeCloseTo((100 * Math.log(0.35 / 0.2)) / Math.log(25), 3);
    expect(best).toBeGreaterThan(left);
    const right = show(SpecValue, { ...props, value: 0.4 });
    expect(right.classes()).not.toContain('off');
    expect(right.text()).toContain('0.28 →');
  });

  test('slides and is typed, within its limits; what is no number is put back', async () => {
    const value = show(SpecValue, props);
    await value.find('input[type=range]').setValue('1000');
    expect(value.emitted('change')!.at(-1)).toEqual([5]);
    const field = value.find('input[type=number]');
    await field.setValue('0.45');
    expect(value.emitted('change')!.at(-1)).toEqual([0.45]);
    await field.setValue('77');
    expect(value.emitted('change')!.at(-1)).toEqual([5]);
    const count = value.emitted('change')!.length;
    await field.setValue('');
    expect(value.emitted('change')).toHaveLength(count);
    expect((field.element as HTMLInputElement).value).toBe('0.28');
  });
});

describe('angle lines', () => {
  const outline = Float64Array.of(0, 0, 30, 0, 30, 20, 0, 20);
  const column = { left: Float64Array.of(0, 4, 40, 4), right: Float64Array.of(0, 0, 40, 0) };

  test('begin as two on either side of the present angle, and another goes between the two farthest apart', () => {
    const [a, b] = firstTurn(outline, 90);
    const angleOf = (l: readonly number[]): number => (Math.atan2(l[3]! - l[1]!, l[2]! - l[0]!) * 180) / Math.PI;
    expect(angleOf(a!) + angleOf(b!)).toBeCloseTo(180, 1);
    expect(angleOf(b!) - angleOf(a!)).toBeCloseTo(23, 0);
    // Whichever way the lines were drawn, the one between runs with them.
    const turned: typeof b = [b![2], b![3], b![0], b![1]];
    expect(nextBetween([a!, turned])[1]!.map(Math.abs)).toEqual(nextBetween([a!, b!])[1]!.map(Math.abs));
    expect(nextBetween([a!, b!])).toHaveLength(3);
  });

  test('of a column go across it where none is near, until there are lines all along', () => {
    const lines: ReturnType<typeof firstTurn> = [];
    for (let next = nextAcross(column, lines); next !== undefined; next = nextAcross(column, lines)) lines.push(next);
    expect(lines[0]).toEqual([20, 4, 20, 0]);
    expect(lines.map((l) => l[0])).toEqual([20, 10, 30, 5, 15, 25, 35]);
  });
});
