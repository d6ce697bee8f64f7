import { describe, expect, test } from '@jest/globals';
import { generateSatin } from '../generate/column/satin.ts';
import { generateFill } from '../generate/fill/fill.ts';
import { generateRun } from '../generate/line/run.ts';
import { generateEdgeRun, generateTatamiUnderlay } from '../generate/underlay.ts';
import { FABRICS } from '../materials/fabrics.ts';
import { defaultTarget, GARMENTS, THREADS } from '../materials/shop.ts';
import { bandsOf, spacingBand } from '../materials/specBands.ts';
import { colorDifference } from '../measure/colorDifference.ts';
import type { Design } from '../model/design.ts';
import { type Program, ProgramBuilder } from '../model/program.ts';
import { ShopRules, Target, USUAL_RULES } from '../model/target.ts';
import { startDesign } from '../plan/designOf.ts';
import { blocksOfPaths, coversOf, specFor } from '../testing/designs.ts';
import { auditDesign } from './auditDesign.ts';
import type { Finding } from './finding.ts';
import { limitOf, problemsOfRules } from './limitOf.ts';
import { findRule, RULES } from './rulebook.ts';
import { isCap } from './rules/order/centerOut.ts';

// Each rule just within its limit and just beyond it, on shapes whose figures are known by construction.

const [RED, BLUE] = ['#aa2222', '#2222aa'];
const on = (id: string, more: Partial<Target> = {}): Target => {
  const fabric = FABRICS.find((f) => f.id === id)!;
  return { ...defaultTarget(), fabric, clothColor: '#808080', garment: null, ...more };
};
const square = (x: number, y: number, w: number, h = w): Float64Array => Float64Array.of(x, y, x + w, y, x + w, y + h, x, y + h);
const fill = (ring: Float64Array, angle = 30, spacing = 0.4): Float64Array =>
  generateFill([ring], { angle, spacing, stitchLength: 4, offset: 0.3 })[0]!;
const satin = (x: number, width: number, spacing = 0.4, length = 24): Float64Array =>
  generateSatin(Float64Array.of(x, 0, x, length), Float64Array.of(x + width, 0, x + width, length), { spacing, pull: 0, splitLength: 12 });
/** Underlay and cover in one go. */
const onUnderlay = (ring: Float64Array, layers: readonly Float64Array[], angle = 30, spacing = 0.4): Float64Array =>
  Float64Array.from([...layers.flatMap((layer) => [...layer]), ...fill(ring, angle, spacing)]);
const tatami = (ring: Float64Array, spacing = 3.5): Float64Array => generateTatamiUnderlay([ring], 30, spacing)[0]!;
const edgeRun = (ring: Float64Array): Float64Array => generateEdgeRun([ring])[0]!;

const sewn = (...paths: (readonly [string, Float64Array])[]): Program => blocksOfPaths(...paths);
const find = (program: Program, rule: string, target: Target): Finding | undefined =>
  auditDesign(startDesign(program, target)).find((f) => f.rule === rule);

describe('bulk', () => {
  test('rows are too open from 1.15 times what the cloth wants, by thread; open fills are meant to be (common practice)', () => {
    for (const target of [on('twill'), on('jersey'), on('twill', { thread: THREADS.find(({ weight }) => weight === 30)! })]) {
      const { best } = spacingBand(target, { kind: 'fill', spacing: 0.4, isOpen: false });
      const at = (times: number): Finding | undefined => find(sewn([RED, fill(square(0, 0, 20), 30, best * times)]), 'too-open', target);
      expect([at(1), at(1.12)]).toEqual([undefined, undefined]);
      expect(at(1.22)).toMatchObject({ severity: 'note' });
      expect(at(1.5)).toMatchObject({ severity: 'fix', measured: expect.closeTo(1.5, 1) });
      expect(at(1.5)!.cost.stitches).toBeLessThan(0);
    }
    expect(find(sewn([RED, fill(square(0, 0, 30), 30, 1.5)]), 'too-open', on('twill'))).toBeUndefined();
    // A shop that takes a third off with each weight down spaces 30-weight 1.52 times as wide, 12-weight 2.30 times.
    const rules = { ...USUAL_RULES, schools: { ...USUAL_RULES.schools, thickerThread: 'third-off' as const } };
    const best = (weight: number, more = {}): number =>
      spacingBand(on('canvas', { thread: THREADS.find((t) => t.weight === weight)!, ...more }), { kind: 'fill', spacing: 0.4 }).best;
    for (const [weight, habit, thickness] of [
      [30, 1.52, 1.15],
      [12, 2.3, 1.83],
    ] as const) {
      expect(best(weight, { rules }) / best(40)).toBeCloseTo(habit, 2);
      expect(best(weight) / best(40)).toBeCloseTo(thickness, 2);
    }
  });

  test('tatami at 3 to 4 mm is enough, at 2 it adds bulk and at 1.2 it is to be mended (common practice)', () => {
    const at = (spacing: number): Finding | undefined => {
      const ring = square(0, 0, 24);
      return find(sewn([RED, onUnderlay(ring, [tatami(ring, spacing)])]), 'underlay-bulk', on('twill'));
    };
    expect([at(4), at(3)]).toEqual([undefined, undefined]);
    expect(at(1.9)).toMatchObject({ severity: 'note' });
    expect(at(1.1)).toMatchObject({ severity: 'fix' });
    expect(at(1.1)!.cost.stitches).toBeGreaterThan(20);
  });

  test('a small hole is found under a detail, not where it is a hole of the drawing; the shop’s school decides from where', () => {
    const outer = square(0, 0, 30);
    const hole = Float64Array.from([13, 13, 13, 17, 17, 17, 17, 13]);
    const holed = generateFill([outer, hole], { angle: 30, spacing: 0.4, stitchLength: 4, offset: 0.3 }, { from: { x: 0, y: 0 } }).at(0)!;
    const detail = fill(square(12.4, 12.4, 5.2), 110);
    const judged = (holes?: 'carve' | 'sew-through', program = sewn([RED, holed], [BLUE, detail])): Finding | undefined => {
      const rules = holes === undefined ? USUAL_RULES : { ...USUAL_RULES, schools: { ...USUAL_RULES.schools, holes } };
      return find(program, 'small-hole', on('twill', { rules }));
    };
    expect(judged()).toMatchObject({ severity: 'note', measured: expect.closeTo(4, 0), fix: 'Sew through it' });
    expect(judged('carve')).toBeUndefined();
    expect(judged('sew-through')).toBeDefined();
    expect(judged(undefined, sewn([RED, holed]))).toBeUndefined();
  });
});

describe('underlay', () => {
  test('is asked for under broad covers, not under thin satins, open fills and what lies on stitches', () => {
    const at = (...paths: (readonly [string, Float64Array])[]): Finding | undefined => find(sewn(...paths), 'no-underlay', on('twill'));
    expect(at([RED, satin(0, 1.1)])).toBeUndefined();
    expect(at([RED, fill(square(0, 0, 4.5))])).toBeUndefined();
    expect(at([RED, fill(square(0, 0, 30), 30, 1.5)])).toBeUndefined();
    expect(at([RED, fill(square(0, 0, 9))])).toMatchObject({ severity: 'note' });
    expect(at([RED, fill(square(0, 0, 20))])).toMatchObject({ severity: 'fix', measured: expect.closeTo(400, -2) });
    const ring = square(0, 0, 26);
    const ground: readonly [string, Float64Array] = [RED, onUnderlay(ring, [tatami(ring), edgeRun(ring)])];
    expect(at(ground, [BLUE, fill(square(6, 6, 12), 120)])).toBeUndefined();
    // On cloth that gives every cover wants its base.
    expect(find(sewn([RED, fill(square(0, 0, 9))]), 'no-underlay', on('jersey'))).toMatchObject({ severity: 'fix' });
  });

  test('an edge run is needless under an outline that covers the edge, and only there (common practice)', () => {
    const ring = square(0, 0, 20, 16);
    const ground = onUnderlay(ring, [tatami(ring), edgeRun(ring)]);
    const around = (by: number): Float64Array => {
      const c = [-by, -by, 20 + by, -by, 20 + by, 16 + by, -by, 16 + by, -by, -by];
      const out: number[] = [];
      for (let k = 0; k + 3 < c.length; k += 2)
        for (let n = 0; n < 16; n++) out.push(c[k]! + ((c[k + 2]! - c[k]!) * n) / 16, c[k + 1]! + ((c[k + 3]! - c[k + 1]!) * n) / 16);
      return Float64Array.from([...out, ...c.slice(-2)]);
    };
    const outline = generateSatin(around(0.75), around(-0.75), { spacing: 0.4, pull: 0, splitLength: 7 });
    const found = find(sewn([RED, ground], [BLUE, outline]), 'needless-edge-run', on('twill'));
    expect(found).toMatchObject({ severity: 'note', limit: 80 });
    expect(found!.cost.stitches).toBeGreaterThan(10);
    expect(find(sewn([RED, ground]), 'needless-edge-run', on('twill'))).toBeUndefined();
    expect(find(sewn([RED, ground], [BLUE, satin(-0.75, 1.5, 0.4, 16)]), 'needless-edge-run', on('twill'))).toBeUndefined();
  });
});

describe('look', () => {
  test('neighbors run the same way under 20 degrees; 45 against 135 is opposed, 45 to 60 helps (common practice)', () => {
    const at = (turn: number): Finding | undefined =>
      find(sewn([RED, fill(square(0, 0, 20), 45)], [BLUE, fill(square(19.7, 0, 20), 45 + turn)]), 'same-angle', on('twill'));
    expect(at(6)).toMatchObject({ severity: 'note', limit: 20 });
    expect([at(30), at(50), at(90)]).toEqual([undefined, undefined, undefined]);
    // Of one color and one direction they are one shape in pieces: one cause, one finding.
    const pieces = sewn([RED, fill(square(0, 0, 20), 45)], [RED, fill(square(19.7, 0, 20), 47)]);
    expect([find(pieces, 'same-angle', on('twill')), find(pieces, 'split-pieces', on('twill'))?.severity]).toEqual([undefined, 'note']);
  });

  test('thread vanishes on cloth that it differs from by less than 8 (CIEDE2000), unless it lies on other stitches', () => {
    const judged = (clothColor: string, ...paths: (readonly [string, Float64Array])[]): Finding | undefined =>
      find(sewn(...paths), 'thread-vanishes', on('twill', { clothColor }));
    const near = '#a52424';
    expect(colorDifference(RED, near)).toBeLessThan(4);
    expect(judged(near, [RED, fill(square(0, 0, 20))])).toMatchObject({
      severity: 'fix',
      measured: expect.closeTo(colorDifference(RED, near), 6),
    });
    expect(judged('#225522', [RED, fill(square(0, 0, 20))])).toBeUndefined();
    expect(judged(near, [BLUE, fill(square(0, 0, 30))], [RED, fill(square(8, 8, 10), 120)])).toBeUndefined();
  });

  test('pile swallows what is thin by how high it stands; lines stand up when they are gone over often', () => {
    const line = (passes: number): Float64Array => {
      const there = generateRun(Float64Array.of(0, 40, 30, 44), { stitchLength: 2.5 });
      const back = Float64Array.from({ length: there.length }, (_, k) => there[there.length - 2 - 2 * (k >> 1) + (k & 1)]!);
      return Float64Array.from([...Array(passes).keys()].flatMap((k) => [...(k % 2 === 0 ? there : back).subarray(k === 0 ? 0 : 2)]));
    };
    const found = (target: Target, path: Float64Array): Finding | undefined => find(sewn([RED, path]), 'detail-too-small', target);
    expect(found(on('terry'), satin(0, 1.6))).toMatchObject({ limit: expect.closeTo(2.225, 6) });
    expect(found(on('terry'), satin(0, 2.6))).toBeUndefined();
    expect(found(on('rib-knit'), satin(0, 1.6))).toBeUndefined();
    expect(found(on('twill'), satin(0, 0.7))).toBeUndefined();
    expect(found(on('fleece'), line(1))).toMatchObject({ advice: expect.stringContaining('Sew it larger') });
    expect(found(on('twill'), line(1))).toBeUndefined();
  });

  test('pile is held by an open layer under all of it that is sewn first (common practice)', () => {
    const design = fill(square(5, 5, 14));
    const layer = fill(square(0, 0, 24), 0, 1.8);
    const judged = (...paths: (readonly [string, Float64Array])[]): Finding | undefined =>
      find(sewn(...paths), 'pile-unheld', on('fleece'));
    expect(judged([RED, design])).toMatchObject({ severity: 'fix', measured: 0 });
    expect(judged(['#3d5a52', layer], [RED, design])).toBeUndefined();
    expect(judged([RED, design], ['#3d5a52', layer])).toBeDefined();
    expect(judged(['#3d5a52', fill(square(0, 0, 9, 24), 0, 1.8)], [RED, design])!.measured).toBeLessThan(50);
    expect(find(sewn([RED, design]), 'pile-unheld', on('twill'))).toBeUndefined();
  });
});

describe('fit and order', () => {
  test('a place bears more stitches on heavier cloth, and less on each cm² of a large place; without a place there is no budget', () => {
    const budget = (cloth: string, place: string): number =>
      limitOf(findRule('stitch-budget'), on(cloth, { garment: GARMENTS.find(({ id }) => id === place)! }));
    expect(budget('pique-polo', 'left-chest')).toBeGreaterThan(8000);
    expect(budget('pique-polo', 'left-chest')).toBeLessThan(14_000);
    expect(budget('softshell', 'full-back')).toBeGreaterThan(budget('jersey', 'full-back') * 1.5);
    const perCm2 = (place: string): number => {
      const { width, height } = GARMENTS.find(({ id }) => id === place)!;
      return budget('twill', place) / (width * height);
    };
    expect(perCm2('full-back')).toBeLessThan(perCm2('left-chest'));
    expect(limitOf(findRule('stitch-budget'), on('twill'))).toBe(Infinity);
  });

  test('only on caps does it matter whether the middle is sewn first (from memory)', () => {
    const columns = [-45, 45, -30, 30, -15, 15, 0].map((x): readonly [string, Float64Array] => [RED, satin(x, 5)]);
    expect(find(sewn(...columns), 'center-out', on('cap-front'))).toMatchObject({ severity: 'fix', measured: expect.closeTo(100, -1) });
    expect(find(sewn(...[...columns].reverse()), 'center-out', on('cap-front'))).toBeUndefined();
    expect(find(sewn(...columns), 'center-out', on('twill'))).toBeUndefined();
    expect([isCap(on('twill', { garment: GARMENTS.find(({ id }) => id === 'cap-front')! })), isCap(on('canvas'))]).toEqual([true, false]);
  });
});

describe('what makes no sense', () => {
  test('is refused with its field: cloths, machines and limits that cannot be', () => {
    const good = on('twill');
    expect(Target.safeParse({ ...good, rules: USUAL_RULES, madeFor: THREADS[0] }).success).toBe(true);
    const fieldOf = (bad: unknown): unknown => Target.safeParse(bad).error?.issues[0]?.path.join('.');
    expect(fieldOf({ ...good, fabric: { ...good.fabric, maxCover: 0 } })).toBe('fabric.maxCover');
    expect(fieldOf({ ...good, fabric: { ...good.fabric, stretch: -4 } })).toBe('fabric.stretch');
    expect(fieldOf({ ...good, machine: { ...good.machine, needles: 0 } })).toBe('machine.needles');
    expect(fieldOf({ ...good, madeFor: { ...THREADS[0]!, weight: 0 } })).toBe('madeFor.weight');
    expect(fieldOf({ ...good, rules: { ...USUAL_RULES, limits: { 'too-open': -1 } } })).toBe('rules.limits.too-open');
    expect(ShopRules.safeParse({ ...USUAL_RULES, schools: { ...USUAL_RULES.schools, holes: 'maybe' } }).success).toBe(false);
  });

  test('of a design finds nothing wrong that is not there: no objects, one penetration, objects of no size, a limit of a rule that is none', () => {
    const nothing = new ProgramBuilder().color(RED, 'Red').trim().end().build();
    const dot = new ProgramBuilder().color(RED, 'Red').jump(0, 0).stitch(0, 0).trim().end().build();
    for (const target of [on('twill'), on('terry'), on('leather'), on('cap-front'), on('organza')])
      for (const program of [nothing, dot]) {
        const design: Design = startDesign(program, { ...target, rules: { ...USUAL_RULES, limits: { 'no-such-rule': 3 } } });
        expect(auditDesign(design).filter(({ severity }) => severity === 'stop')).toEqual([]);
      }
    // Rows whose objects are not known are judged by the rules of rows alone.
    const bare = auditDesign({ program: sewn([RED, fill(square(0, 0, 20), 30, 0.6)]), target: on('twill') });
    expect(bare.filter(({ rule }) => ['too-open', 'no-underlay', 'thread-mismatch'].includes(rule))).toEqual([]);
  });

  test('in a limit of the shop is said and goes unheeded; one that makes sense is taken, by the specs too', () => {
    const program = sewn([RED, satin(0, 8, 0.4)], [BLUE, fill(square(20, 0, 20), 30, 0.47)]);
    const findings = (limits: Record<string, number>): string[] =>
      auditDesign(startDesign(program, on('twill', { rules: { ...USUAL_RULES, limits } }))).map(({ rule }) => rule);
    const all = (limit: number): Record<string, number> => Object.fromEntries(RULES.map(({ id }) => [id, limit]));
    const usual = findings({});
    expect(usual).toEqual(expect.arrayContaining(['wide-satin', 'too-open']));
    for (const senseless of [0, -1, 1e6, NaN]) {
      expect(findings(all(senseless))).toEqual(usual);
      const said = problemsOfRules({ ...USUAL_RULES, limits: all(senseless) }, RULES, on('twill'));
      expect(said).toHaveLength(RULES.length);
    }
    expect(problemsOfRules({ ...USUAL_RULES, limits: { 'long-stitch': 70, shiny: 3 }, off: ['dull'] }, RULES, on('twill'))).toEqual([
      ...['There is no rule shiny.', 'There is no rule dull.'],
      'Long stitch: 70 mm makes no sense as its limit; it takes 1.75 to 28 mm.',
    ]);
    expect(problemsOfRules({ ...USUAL_RULES, limits: { 'stacked-cover': 3 } }, RULES, on('twill'))[0]).toMatch(/changed there/);
    // What a finding goes by, the band of a spec goes by.
    const limits = { 'wide-satin': 8.5, 'too-open': 1.4 };
    expect(problemsOfRules({ ...USUAL_RULES, limits }, RULES, on('twill'))).toEqual([]);
    const left = findings(limits);
    expect(left).not.toContain('wide-satin');
    expect(left).not.toContain('too-open');
    const made = startDesign(program, on('twill'));
    const spec = specFor(made, coversOf(made)[0]!.id);
    const bands = (rules: ShopRules): unknown => bandsOf({ ...spec, kind: 'satin' }, on('twill', { rules }));
    expect(bands({ ...USUAL_RULES, limits })).toMatchObject({ splitLength: { high: 8.5, best: 8.5 }, spacing: { high: 1.4 * 0.38 } });
    expect(bands(USUAL_RULES)).toMatchObject({ splitLength: { high: 7, best: 7 }, spacing: { high: 1.15 * 0.38 } });
  });
});
