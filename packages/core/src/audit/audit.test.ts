import { describe, expect, test } from '@jest/globals';
import { applyOperation } from '../edit/operations/registry.ts';
import { repairFindings } from '../edit/repairFindings.ts';
import { FABRICS } from '../materials/fabrics.ts';
import { defaultTarget, HOOPS, MACHINES, THREADS } from '../materials/shop.ts';
import { countProgram } from '../measure/counts.ts';
import { inspectProgram } from '../measure/inspect.ts';
import type { Design } from '../model/design.ts';
import { orderOf } from '../model/plan.ts';
import { placeProgram } from '../model/place.ts';
import { isSameProgram, type Program, ProgramBuilder } from '../model/program.ts';
import { layLengths, splitIntoStretches } from '../model/stretches.ts';
import type { Target } from '../model/target.ts';
import { findLock } from '../model/ties.ts';
import { startDesign } from '../plan/designOf.ts';
import { sewParts, zigzag, fillSquare } from '../testing/programs.ts';
import { auditDesign } from './auditDesign.ts';
import type { Finding } from './finding.ts';
import { findRule, RULES } from './rulebook.ts';

const target = defaultTarget();
const designOf = (program: Program, on: Target = target): Design => startDesign(program, on);
const find = (program: Program, rule: string, on: Target = target): Finding[] =>
  auditDesign(designOf(program, on)).filter((f) => f.rule === rule);

/** Repairs everything and says what the rule still finds. */
function repaired(program: Program, rule: string, on: Target = target): { program: Program; left: Finding[] } {
  const result = repairFindings(designOf(program, on), (f) => f.rule === rule);
  return { program: result.design.program, left: find(result.design.program, rule, on) };
}

describe('rules', () => {
  test('bare covers on their proper cloth get no finding but that they have no underlay', () => {
    const sound = sewParts([fillSquare(30, 0.4), zigzag(20, -10, 90, 4, 0.4)], 'trim');
    expect(auditDesign(designOf(sound)).map((f) => f.rule)).toEqual(['no-underlay']);
  });

  test('trims within 2 mm are found with their number, and carried over without a lock in between (common practice)', () => {
    const rivets = Array.from({ length: 6 }, (_, k) => zigzag(k * 3.4, k * 2.6, 13, 2, 0.4));
    const program = sewParts(rivets, 'trim');
    const [finding] = find(program, 'needless-trim');
    expect(finding).toMatchObject({ severity: 'fix', limit: 2, unit: 'mm' });
    expect(finding!.rows).toHaveLength(5);
    // Five trims of 120 stitches each, and two locks of four stitches at each.
    expect(finding!.cost.stitches).toBe(40);
    expect(finding!.cost.seconds).toBeGreaterThan(5 * 8.4);
    const after = repaired(program, 'needless-trim');
    expect(after.left).toEqual([]);
    const stretches = splitIntoStretches(after.program);
    expect(stretches).toHaveLength(1);
    expect(findLock(after.program, stretches[0]!.first, stretches[0]!.last)).toBeGreaterThan(0);
    expect(findLock(after.program, stretches[0]!.last, stretches[0]!.first)).toBeGreaterThan(0);
    expect(Math.max(...layLengths(after.program))).toBeLessThan(2.6);
    for (const part of rivets) for (const [x, y] of part.slice(1, -1)) expect(hasStitch(after.program, x, y)).toBe(true);
  });

  test('trims over more than 2 mm, and those around a stop or a color change, are left', () => {
    expect(find(sewParts([zigzag(0, 0, 20, 2, 0.4), zigzag(4.2, 4, 20, 2, 0.4)], 'trim'), 'needless-trim')).toEqual([]);
    const builder = new ProgramBuilder()
      .color('#111111')
      .stitch(0, 0)
      .stitch(2, 0)
      .trim()
      .stop('place the patch')
      .stitch(2.5, 0)
      .stitch(4, 0)
      .trim();
    builder.color('#222222').stitch(4.5, 0).stitch(6, 0);
    expect(find(builder.end().build(), 'needless-trim')).toEqual([]);
  });

  test('jumps within 2 mm are found and sewn across', () => {
    const program = sewParts([zigzag(0, 0, 21, 2, 0.4), zigzag(3.5, 4.2, 21, 2, 0.4), zigzag(7, 8.4, 20, 2, 0.4)], 'jump');
    const [finding] = find(program, 'needless-jump');
    expect(finding!.rows).toHaveLength(2);
    expect(finding!.cost.seconds).toBeGreaterThan(0);
    const after = repaired(program, 'needless-jump');
    expect(after.left).toEqual([]);
    expect(inspectProgram(after.program, target).jumps).toBe(1);
  });

  test('tiny stitches outside locks are merged; locks and the needle coming down are not counted', () => {
    const creep = Array.from({ length: 9 }, (_, k): [number, number] => [10 + 0.1 * k, 5]);
    const program = sewParts([[[0, 0], [4, 0], [8, 4], ...creep, [14, 5], [14.2, 5], [18, 9]]], 'trim');
    const [finding] = find(program, 'tiny-stitch');
    expect(finding!.measured).toBeCloseTo(0.1, 6);
    expect(finding!.rows.length).toBeGreaterThanOrEqual(6);
    const after = repaired(program, 'tiny-stitch');
    expect(after.left).toEqual([]);
    expect(hasStitch(after.program, 18, 9)).toBe(true);
    expect(find(sewParts([zigzag(0, 0, 30, 3, 0.4)], 'trim'), 'tiny-stitch')).toEqual([]);
  });

  test('long stitches are split so that none is over 7 mm; those that the machine cannot make are a stop (common practice)', () => {
    const program = sewParts(
      [
        zigzag(0, 0, 12, 8, 0.4),
        zigzag(20, 0, 12, 16, 0.4),
        [
          [50, 0],
          [52, 0],
          [60, 0],
          [62, 1],
        ],
      ],
      'trim',
    );
    expect(find(program, 'long-stitch')[0]).toMatchObject({ limit: 7, severity: 'note' });
    // Throws of one satin are one fault of it.
    expect(find(program, 'wide-satin')[0]).toMatchObject({ limit: 7, severity: 'fix' });
    const [tooLong] = find(program, 'machine-step');
    expect(tooLong).toMatchObject({ severity: 'stop', limit: target.machine.maxStitch });
    expect(tooLong!.measured).toBeCloseTo(16, 1);
    const ofLengths = ['wide-satin', 'machine-step', 'long-stitch', 'tiny-stitch'];
    const result = repairFindings(designOf(program), (f) => ofLengths.includes(f.rule));
    expect(Math.max(...layLengths(result.design.program))).toBeLessThanOrEqual(7);
    expect(auditDesign(result.design).filter((f) => ['long-stitch', 'machine-step', 'tiny-stitch'].includes(f.rule))).toEqual([]);
    for (const [x, y] of zigzag(20, 0, 12, 16, 0.4)) expect(hasStitch(result.design.program, x, y)).toBe(true);
  });

  test('thread ends without a lock are counted and locked; a satin of 1 mm is not taken for a lock', () => {
    const program = sewParts([zigzag(0, 0, 40, 1, 0.4), zigzag(9, 0, 40, 3, 0.4)], 'trim', false);
    const [finding] = find(program, 'missing-tie');
    expect(finding!.rows).toHaveLength(4);
    expect(finding!.cost.stitches).toBe(-16);
    expect(repaired(program, 'missing-tie').left).toEqual([]);
  });

  test('a fill at 0.24 mm is too dense where one at 0.40 is not, and thicker thread makes a sound one too dense', () => {
    const dense = sewParts([fillSquare(20, 0.24)], 'trim');
    const [finding] = find(dense, 'too-dense');
    expect(finding!.measured).toBeCloseTo(0.24, 1);
    expect(finding!.limit).toBeGreaterThan(finding!.measured);
    expect(finding!.cost.stitches).toBeGreaterThan(0);
    const thick = { ...target, thread: THREADS.find((t) => t.weight === 12)! };
    expect(find(sewParts([fillSquare(20, 0.4)], 'trim'), 'too-dense', thick)).toHaveLength(1);
  });

  test('covers that lie on each other are found against the limit of the cloth', () => {
    const builder = new ProgramBuilder();
    for (const [k, angle] of [30, 75, 120].entries()) {
      builder.color(`#00000${k}`, `Layer ${k}`);
      for (const [x, y] of fillSquare(20, 0.4, angle)) builder.stitch(x, y);
      builder.trim();
    }
    const program = builder.end().build();
    const [finding] = find(program, 'stacked-cover');
    expect(finding!.measured).toBeGreaterThan(2.6);
    expect(finding!.message).toContain('3 layers');
    const canvas = { ...target, fabric: { ...target.fabric, maxCover: 5 } };
    expect(find(program, 'stacked-cover', canvas)).toEqual([]);
  });

  test('hoop, zone and needles are checked against what the job uses', () => {
    const wide = sewParts([fillSquare(30, 0.5).map(([x, y]): [number, number] => [x + 80, y])], 'trim');
    const [hoop] = find(wide, 'hoop-overflow');
    expect(hoop).toMatchObject({ severity: 'stop' });
    expect(hoop!.fix).toBe('Center it in the hoop');
    // Moved as a whole its stitches stay; what leaves for the machine is in the field.
    const off = startDesign(wide, { ...target, place: { x: 1, y: 2, turn: 90 } });
    const { design } = repairFindings(off, (f) => f.rule === 'hoop-overflow');
    expect(isSameProgram(design.program, wide)).toBe(true);
    expect(auditDesign(design).some((f) => f.rule === 'hoop-overflow')).toBe(false);
    const { minX, maxX, minY, maxY } = countProgram(placeProgram(design.program, design.target.place)).extents;
    expect([minX + maxX, minY + maxY].map((v) => Math.abs(v) < 0.02)).toEqual([true, true]);
    // What fits only when it is turned is said and not done: that is the hooping's decision.
    const long = sewParts([Array.from({ length: 30 }, (_, k): [number, number] => [k * 6, 0])], 'trim');
    const narrow = { ...target, hoop: { id: 'n', name: 'narrow', width: 120, height: 200 } };
    expect(find(long, 'hoop-overflow', narrow)[0]!.advice).toContain('turned by a quarter');
    expect(find(long, 'hoop-overflow', { ...narrow, place: { x: 0, y: -87, turn: 90 } })).toEqual([]);
    const cuff = { ...target, hoop: HOOPS[4]!, garment: { id: 'cuff', name: 'cuff', width: 25, height: 40, hoopId: 'round-120' } };
    expect(find(wide, 'zone-overflow', cuff)[0]!.measured).toBeCloseTo(30, 0);
    const builder = new ProgramBuilder();
    for (let k = 0; k < 11; k++)
      builder
        .color(`#0000${10 + k}`)
        .stitch(0, 0)
        .stitch(3, 0);
    const colors = builder.end().build();
    expect(find(colors, 'too-many-colors')[0]).toMatchObject({ measured: 11, limit: 9 });
    expect(find(colors, 'too-many-colors', { ...target, machine: MACHINES[1]! })).toEqual([]);
  });

  test('every rule says what it measures, why, from where and its limit on any cloth', () => {
    for (const rule of RULES) {
      expect([rule.title, rule.measures, rule.why, rule.unit].every((text) => text.length > 0)).toBe(true);
      for (const fabric of FABRICS) expect(rule.limit({ ...target, fabric })).toBeGreaterThanOrEqual(0);
      expect(findRule(rule.id)).toBe(rule);
    }
    expect(() => findRule('nothing')).toThrow(/no rule nothing/);
  });
});

describe('places of a finding', () => {
  const rivets = Array.from({ length: 6 }, (_, k) => zigzag(k * 3.4, k * 2.6, 13, 2, 0.4));
  const design = designOf(sewParts(rivets, 'trim'));
  const [finding] = auditDesign(design).filter((f) => f.rule === 'needless-trim');
  const keep = (on: Design, places: readonly string[]): Design => {
    const kept = applyOperation(on, { id: 'keep-finding', places: [...places], rule: 'needless-trim', title: 'so', reason: 'wanted' });
    if (!kept.ok) throw new Error(kept.error);
    return kept.value;
  };

  test('are settled one at a time: what is said of the others speaks of them alone', () => {
    expect(finding!.places).toHaveLength(5);
    const one = keep(design, [finding!.places[2]!.key]);
    const [left] = auditDesign(one).filter((f) => f.rule === 'needless-trim');
    expect(left!.places.map((p) => p.key)).toEqual(finding!.places.filter((_, k) => k !== 2).map((p) => p.key));
    expect(left!.message).toContain('4 trims');
    expect(left!.cost.stitches).toBe((finding!.cost.stitches * 4) / 5);
    const { design: repaired } = repairFindings(one, (f) => f.rule === 'needless-trim');
    expect(inspectProgram(repaired.program, target).trims).toBe(inspectProgram(design.program, target).trims - 4);
    const { design: first } = repairFindings(
      design,
      () => true,
      (key) => key === finding!.places[0]!.key,
    );
    expect(inspectProgram(first.program, target).trims).toBe(inspectProgram(design.program, target).trims - 1);
  });

  test('stay settled when something else changes, and faults that come later are found', () => {
    const { plan } = design;
    const all = keep(
      design,
      finding!.places.map((p) => p.key),
    );
    expect(auditDesign(all).filter((f) => f.rule === 'needless-trim')).toEqual([]);
    const id = orderOf(plan)[5]!;
    // Another place to sew the last one at comes with ways of its own.
    const moved = applyOperation(all, { id: 'move-objects', objects: [id], block: plan.blocks[0]!.id, before: orderOf(plan)[0]! });
    if (!moved.ok) throw new Error(moved.error);
    const left = auditDesign(moved.value).filter((f) => f.rule === 'needless-trim');
    expect(left.flatMap((f) => f.places).every((p) => !(p.key in all.kept))).toBe(true);
    const renamed = applyOperation(all, { id: 'rename-object', object: id, name: 'last rivet' });
    expect(renamed.ok && auditDesign(renamed.value).filter((f) => f.rule === 'needless-trim')).toEqual([]);
    const open = applyOperation(all, { id: 'reopen-finding', places: [finding!.places[1]!.key] });
    expect(open.ok && auditDesign(open.value).find((f) => f.rule === 'needless-trim')!.places).toHaveLength(1);
  });

  test('name the objects that they concern, which last', () => {
    expect(finding!.objects).toEqual(orderOf(design.plan).slice(1));
    expect(auditDesign({ program: design.program, target }).find((f) => f.rule === 'needless-trim')!.objects).toEqual([]);
  });
});

function hasStitch(program: Program, x: number, y: number): boolean {
  for (let i = 0; i < program.rowCount; i++) if (program.command[i] === 0 && program.x[i] === x && program.y[i] === y) return true;
  return false;
}
