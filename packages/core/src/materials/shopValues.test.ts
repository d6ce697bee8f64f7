import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { limitOf } from '../audit/limitOf.ts';
import { RULES, rulesFor } from '../audit/rulebook.ts';
import { USUAL_SPEC } from '../model/objectSpec.ts';
import { type ShopRules, type Target, USUAL_RULES } from '../model/target.ts';
import { FABRICS } from './fabrics.ts';
import { habitFactor, pitchFactor } from './pitchFactor.ts';
import { defaultTarget, MACHINES, THREADS } from './shop.ts';
import { fillFrom, rangeOfLimit, shopLimit, splitFrom, stillCovers } from './shopLimits.ts';
import { bandsOf, spacingBand, usualUnderlay } from './specBands.ts';
import { suggestSpec } from './suggestSpec.ts';
import { runs } from '../testing/runs.ts';

const rulesWith = (limits: Record<string, number>, schools: Partial<ShopRules['schools']> = {}): ShopRules => ({
  ...{ limits, off: [] },
  schools: { ...USUAL_RULES.schools, ...schools },
});
const on = (id: string, more: Partial<Target> = {}): Target => ({ ...defaultTarget(), fabric: FABRICS.find((f) => f.id === id)!, ...more });

describe('limits that a shop sets', () => {
  test('hold within their range and nowhere else, whatever is set (property)', () => {
    const unit = fc.constantFrom('mm', '%', 'times', 'degrees', 'K');
    fc.assert(
      fc.property(fc.double({ min: 0.05, max: 80, noNaN: true }), unit, fc.double(), (usual, of, set) => {
        const { low, high } = rangeOfLimit(usual, of);
        const held = shopLimit(rulesWith({ some: set }), 'some', usual, of);
        expect(held).toBe(set >= low && set <= high ? set : usual);
        expect(low).toBeLessThanOrEqual(Math.max(usual, of === 'times' || of === '%' || of === 'degrees' ? 1 : usual));
        if (of === '%') expect(high).toBeLessThanOrEqual(100);
        if (of === 'times') expect(low).toBeGreaterThanOrEqual(1);
      }),
      runs(100, 58),
    );
  });

  test('are those of the rulebook alone: what follows cloth, thread, place or machine stays with that', () => {
    const set = Object.fromEntries(RULES.map(({ id }) => [id, 3]));
    for (const fabric of FABRICS)
      for (const machine of MACHINES) {
        const target = on(fabric.id, { machine, rules: rulesWith(set) });
        for (const rule of RULES)
          if (rule.follows !== undefined) expect([rule.id, limitOf(rule, target)]).toEqual([rule.id, rule.limit(target)]);
      }
    // A limit of the rulebook's own is the same on every cloth.
    for (const rule of RULES) {
      if (rule.follows !== undefined) continue;
      expect([rule.id, new Set(FABRICS.map(({ id }) => rule.limit(on(id)))).size]).toEqual([rule.id, 1]);
    }
  });

  test('are gone by in specs as in findings: splits, fills in place of satins, rows that still cover', () => {
    const rules = rulesWith({ 'wide-satin': 8, 'satin-should-be-fill': 11, 'too-open': 1.3 });
    expect([splitFrom({ rules }), fillFrom({ rules }), stillCovers({ rules })]).toEqual([8, 11, 1.3]);
    expect([splitFrom({}), fillFrom({}), stillCovers({})]).toEqual([7, 9, 1.15]);
    const wide = { ...USUAL_SPEC, kind: 'satin' as const, spacing: 0.38 };
    expect(suggestSpec(wide, on('twill'), { width: 10 }).spec.kind).toBe('fill');
    expect(suggestSpec(wide, on('twill', { rules }), { width: 10 }).spec.kind).toBe('satin');
    expect(bandsOf(wide, on('twill', { rules })).splitLength).toMatchObject({ high: 8, best: 8, why: expect.stringContaining('8 mm') });
    expect(spacingBand(on('twill', { rules }), wide).high / 0.38).toBeCloseTo(1.3, 6);
  });

  test('leave rules out that the shop does not judge by, and no others', () => {
    const off = ['too-open', 'tiny-stitch'];
    const left = rulesFor(on('twill', { rules: { ...rulesWith({}), off } })).map(({ id }) => id);
    expect(left).toEqual(RULES.map(({ id }) => id).filter((id) => !off.includes(id)));
    expect(rulesFor(on('twill'))).toBe(RULES);
  });
});

describe('schools', () => {
  test('of thicker thread: by thickness 1.15 and 1.83 times, by the habit 1.52 and 2.30 (common practice); 60-weight is closer by both', () => {
    const habit = rulesWith({}, { thickerThread: 'third-off' });
    const pairs = ([30, 12, 60] as const).map((weight) => [pitchFactor({ weight }), pitchFactor({ weight }, habit)]);
    for (const [k, [thickness, third]] of [
      [1.15, 1.52],
      [1.83, 2.3],
      [0.82, 0.66],
    ].entries()) {
      expect(pairs[k]![0]).toBeCloseTo(thickness!, 2);
      expect(pairs[k]![1]).toBeCloseTo(third!, 2);
    }
    // Between the weights that the habit counts by it goes with the next thinner step; it never closes for a thicker thread.
    fc.assert(
      fc.property(fc.integer({ min: 5, max: 120 }), fc.integer({ min: 5, max: 120 }), (a, b) => {
        if (a > b) expect(habitFactor(a)).toBeLessThanOrEqual(habitFactor(b));
      }),
      runs(100, 59),
    );
    expect(pitchFactor(THREADS[0]!)).toBeCloseTo(1, 9);
  });

  test('of underlay: a fill takes tatami and edge run in the order that the shop has; columns and lines are not asked', () => {
    const edgeFirst = rulesWith({}, { underlayOrder: 'edge-first' });
    const kinds = (rules: ShopRules | undefined, kind: 'fill' | 'satin' | 'run') =>
      usualUnderlay({ ...USUAL_SPEC, kind, width: 5 }, on('twill', rules === undefined ? {} : { rules })).layers.map((layer) => layer.kind);
    expect([kinds(undefined, 'fill'), kinds(edgeFirst, 'fill')]).toEqual([
      ['tatami', 'edge-run'],
      ['edge-run', 'tatami'],
    ]);
    expect(kinds(edgeFirst, 'satin')).toEqual(kinds(undefined, 'satin'));
    expect(kinds(edgeFirst, 'run')).toEqual([]);
  });
});
