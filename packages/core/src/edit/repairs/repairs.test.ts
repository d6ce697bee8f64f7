import { describe, expect, test } from '@jest/globals';
import { AuditContext } from '../../audit/AuditContext.ts';
import { auditDesign } from '../../audit/auditDesign.ts';
import type { Finding } from '../../audit/finding.ts';
import { RULES } from '../../audit/rulebook.ts';
import { generateSatin } from '../../generate/column/satin.ts';
import { generateFill } from '../../generate/fill/fill.ts';
import { axisDifference } from '../../geometry/axis.ts';
import { FABRICS } from '../../materials/fabrics.ts';
import { bandsOf, usualUnderlay } from '../../materials/specBands.ts';
import { defaultTarget } from '../../materials/shop.ts';
import type { Design } from '../../model/design.ts';
import { orderOf } from '../../model/plan.ts';
import { GOALS, type Target, USUAL_RULES } from '../../model/target.ts';
import { startDesign } from '../../plan/designOf.ts';
import { applied, blocksOfPaths, coversOf, demoFile, sewnAnew } from '../../testing/designs.ts';
import { planOfRepair } from '../planOfRepair.ts';
import { repairFindings } from '../repairFindings.ts';
import { readObjectSpec } from '../sewSpecs.ts';
import { REPAIRS } from './repairs.ts';

const [RED, BLUE, RUST] = ['#aa2222', '#2222aa', '#a4452c'];
const on = (id: string, more: Partial<Target> = {}): Target => {
  const fabric = FABRICS.find((f) => f.id === id)!;
  return { ...defaultTarget(), fabric, clothColor: '#808080', garment: null, ...more };
};
const square = (x: number, y: number, w: number, h = w): Float64Array => Float64Array.of(x, y, x + w, y, x + w, y + h, x, y + h);
const fill = (ring: Float64Array, angle: number, spacing = 0.4): Float64Array =>
  generateFill([ring], { angle, spacing, stitchLength: 4, offset: 0.3 })[0]!;
const satin = (x: number, width: number, spacing = 0.4, length = 24): Float64Array =>
  generateSatin(Float64Array.of(x, 0, x, length), Float64Array.of(x + width, 0, x + width, length), { spacing, pull: 0, splitLength: 12 });
const designOn = (target: Target, ...paths: [string, Float64Array][]): Design => startDesign(blocksOfPaths(...paths), target);
const find = (design: Design, rule: string): Finding | undefined => auditDesign(design).find((f) => f.rule === rule);
const repaired = (design: Design, rule: string) => repairFindings(design, (f) => f.rule === rule);
const specOf = (design: Design, k: number) => {
  const spec = readObjectSpec(design, orderOf(design.plan)[k]!);
  if (!spec.ok) throw new Error(spec.error);
  return spec.value;
};

describe('a repair', () => {
  test('is there for each rule that says it mends objects, and for no other', () => {
    expect(Object.keys(REPAIRS).sort()).toEqual(RULES.flatMap(({ id, mend }) => (mend === undefined ? [] : [id])).sort());
  });

  test('of spacing sets what the spec calls best, so that neither the rule nor the spec finds anything left', () => {
    for (const cloth of ['pique-polo', 'jersey', 'poplin', 'canvas']) {
      const design = designOn(on(cloth), [RED, fill(square(0, 0, 20), 30, 0.62)]);
      expect(find(design, 'too-open')).toMatchObject({ severity: 'fix' });
      const { design: after } = repaired(design, 'too-open');
      const spec = specOf(after, 0);
      expect(spec.spacing).toBeCloseTo(bandsOf(spec, after.target).spacing!.best, 2);
      expect(find(after, 'too-open')).toBeUndefined();
      expect(find(after, 'too-dense')).toBeUndefined();
    }
  });

  test('of underlay lays what the cloth and the shop’s school want, in their order', () => {
    const design = designOn(on('twill'), [RED, fill(square(0, 0, 20), 30)]);
    const kinds = (of: Design): string[] => specOf(of, 0).underlay.map(({ kind }) => kind);
    expect(kinds(repaired(design, 'no-underlay').design)).toEqual(['tatami', 'edge-run']);
    const rules = { ...USUAL_RULES, schools: { ...USUAL_RULES.schools, underlayOrder: 'edge-first' as const } };
    const edgeFirst = designOn(on('twill', { rules }), [RED, fill(square(0, 0, 20), 30)]);
    expect(kinds(repaired(edgeFirst, 'no-underlay').design)).toEqual(['edge-run', 'tatami']);
    expect(usualUnderlay(specOf(design, 0), edgeFirst.target).layers.map(({ kind }) => kind)).toEqual(['edge-run', 'tatami']);
  });

  test('of columns splits, widens and fills them at the widths of the trade, and leaves those beside (common practice)', () => {
    const columns = [0.75, 1.05, 5, 7.6, 10.4];
    const design = designOn(on('twill'), ...columns.map((width, k): [string, Float64Array] => [RED, satin(k * 20, width)]));
    const named = (rule: string): number[] => {
      const ids = orderOf(design.plan);
      return (find(design, rule)?.places ?? []).map(({ object }) => columns[ids.indexOf(object!)]!);
    };
    expect([named('thin-satin'), named('wide-satin'), named('satin-should-be-fill')]).toEqual([[0.75], [7.6], [10.4]]);
    const after = repairFindings(design, ({ rule }) => ['thin-satin', 'wide-satin', 'satin-should-be-fill'].includes(rule)).design;
    const covers = coversOf(after);
    expect(covers[0]!.width!.mean).toBeGreaterThan(0.99);
    expect(specOf(after, 3).splitLength).toBeLessThanOrEqual(7);
    expect(covers.map(({ kind }) => kind)).toEqual(['satin', 'satin', 'satin', 'satin', 'fill']);
    for (const k of [1, 2]) expect(after.plan.objects[orderOf(after.plan)[k]!]!.sewn.made).toBeNull();
  });

  test('of neighbors that run one way turns the smaller one against all that it meets', () => {
    const design = designOn(
      on('twill'),
      [RED, fill(square(0, 0, 24), 40)],
      [BLUE, fill(square(23.6, 0, 16, 24), 45)],
      [RUST, fill(square(39.4, 0, 20, 24), 100)],
    );
    const finding = find(design, 'same-angle')!;
    expect(finding.places).toHaveLength(1);
    const { design: after } = repaired(design, 'same-angle');
    const [one, two, three] = [0, 1, 2].map((k) => coversOf(after)[k]!.angle!);
    expect([axisDifference(two!, one!) >= 30, axisDifference(two!, three!) >= 30]).toEqual([true, true]);
    expect(find(after, 'same-angle')).toBeUndefined();
  });

  test('of thread that piles up opens rows for speed and draws the crowded side in for looks, and never makes the place denser', () => {
    for (const goal of GOALS) {
      const design = designOn(on('pique-polo', { goal }), [RED, fill(square(0, 0, 18), 30, 0.16)]);
      expect(find(design, 'too-dense')?.severity).toBe('stop');
      const { design: after, refused } = repaired(design, 'too-dense');
      expect([goal, find(after, 'too-dense'), refused]).toEqual([goal, undefined, []]);
      expect(after.program.rowCount).toBeLessThan(design.program.rowCount);
    }
  });

  test('of a stack drops the underlay of what lies on stitches first, and says where it stays too thick', () => {
    const layers = [0, 60, 120].map((angle, k): [string, Float64Array] => [[RED, BLUE, RUST][k]!, fill(square(0, 0, 16), angle)]);
    let design = designOn(on('pique-polo'), ...layers);
    for (const id of orderOf(design.plan))
      design = sewnAnew(design, id, { underlay: [{ kind: 'tatami', spacing: 3 }, { kind: 'edge-run' }] });
    const before = find(design, 'stacked-cover')!;
    const { design: after, refused } = repaired(design, 'stacked-cover');
    const left = find(after, 'stacked-cover');
    expect([1, 2].map((k) => specOf(after, k).underlay)).toEqual([[], []]);
    if (left === undefined) expect(refused).toEqual([]);
    else expect([left.measured < before.measured, refused[0]!.why]).toEqual([true, expect.stringContaining('carve')]);
  });

  test('of the order keeps what is locked where it is, and says so', () => {
    const ground: [string, Float64Array] = [BLUE, fill(square(0, 0, 30), 0)];
    const detail: [string, Float64Array] = [RED, fill(square(10, 10, 8), 45)];
    const design = designOn(on('twill'), detail, ground);
    expect(find(design, 'detail-under-cover')).toMatchObject({ severity: 'fix', measured: expect.closeTo(100, -1) });
    const { design: after } = repaired(design, 'detail-under-cover');
    expect(orderOf(after.plan)).toEqual([...orderOf(design.plan)].reverse());
    expect(find(after, 'detail-under-cover')).toBeUndefined();
    const locked = applied(design, { id: 'lock-object', object: orderOf(design.plan)[0]!, isLocked: true });
    const { operations, refused } = repaired(locked, 'detail-under-cover');
    expect([operations, refused[0]!.why]).toEqual([[], expect.stringContaining('is locked where it is')]);
  });

  test('of two threads that look like one sews all with the one that came first', () => {
    const design = designOn(on('twill'), ['#aa2222', satin(0, 4)], [BLUE, satin(10, 4)], ['#ab2323', satin(20, 4)]);
    expect(find(design, 'mergeable-color')).toMatchObject({ severity: 'note' });
    const { design: after } = repaired(design, 'mergeable-color');
    expect(after.program.threads.map(({ color }) => color)).toEqual(['#aa2222', BLUE]);
    expect(find(designOn(on('twill'), ['#aa2222', satin(0, 4)], ['#c04040', satin(20, 4)]), 'mergeable-color')).toBeUndefined();
  });
});

describe('short stitches of a sound fill', () => {
  test('at row turns and on its edge are nothing to mend; tiny ones inside are, and the edge keeps its penetrations', () => {
    // Rows joined square along the edge: each turn is half a pitch, 0.2 mm.
    const design = designOn(on('twill'), [RED, fill(square(0, 0, 20), 0)]);
    expect(find(design, 'tiny-stitch')).toBeUndefined();
    const whisk = startDesign(demoFile('whisk.csv'), on('canvas'));
    const fills = new Set(coversOf(whisk).flatMap((o) => (o.kind === 'fill' ? [o.id] : [])));
    const { design: after } = repaired(whisk, 'tiny-stitch');
    const edge = (of: Design): string[] =>
      coversOf(of).flatMap(({ id, outline }) => (fills.has(id) ? [[...outline].map((v) => v.toFixed(2)).join()] : []));
    expect(edge(after)).toEqual(edge(whisk));
  });
});

describe('the plan of repair', () => {
  const heron = startDesign(demoFile('heron.csv'), { ...on('pique-polo'), goal: 'fastest' });

  test('keeps to the goal: stitches for a note are left out of the softest, and of the fastest what takes time', () => {
    const plain = designOn(on('twill'), [RED, satin(0, 5)], [RED, fill(square(20, 0, 9), 30)]);
    expect(find(plain, 'no-underlay')?.severity).toBe('note');
    const ids = (goal: Target['goal']): string[] =>
      planOfRepair({ ...plain, program: plain.program, target: { ...plain.target, goal } }).steps.map(({ id }) => id);
    expect([
      ids('cleanest').includes('no-underlay'),
      ids('softest').includes('no-underlay'),
      ids('fastest').includes('no-underlay'),
    ]).toEqual([true, false, false]);
  });

  test('is the same when its steps are left out one by one, but for what they did', () => {
    const all = planOfRepair(heron);
    const [first] = all.steps;
    const without = planOfRepair(heron, { without: new Set([first!.id]) });
    expect(without.steps.map(({ id }) => id)).not.toContain(first!.id);
    expect(without.left.find(({ id }) => id === first!.id)).toMatchObject({ isChosen: true });
    const none = planOfRepair(heron, {
      without: new Set([...all.steps, ...all.left].map(({ id }) => id).concat('needless-trim', 'missing-tie')),
    });
    expect([none.steps, none.after, none.design === heron]).toEqual([[], none.before, true]);
  });

  test('of a design with nothing wrong, and of one without objects, has no steps', () => {
    const empty = designOn(on('twill'), [RED, Float64Array.of(0, 0, 2, 0, 4, 0, 6, 0)]);
    const plan = planOfRepair(empty, { isFree: true });
    expect(plan.steps.every(({ after }) => after.stitches <= plan.before.stitches)).toBe(true);
    expect(new AuditContext({ program: empty.program, target: empty.target }).covers).toEqual([]);
  });
});
