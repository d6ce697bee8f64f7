import { describe, expect, test } from '@jest/globals';
import { AuditContext } from '../../audit/AuditContext.ts';
import { auditDesign } from '../../audit/auditDesign.ts';
import type { Finding } from '../../audit/finding.ts';
import { fansOf } from '../../audit/rules/look/cornerFan.ts';
import { generateFill } from '../../generate/fill/fill.ts';
import { FABRICS } from '../../materials/fabrics.ts';
import { defaultTarget } from '../../materials/shop.ts';
import type { Design } from '../../model/design.ts';
import { orderOf } from '../../model/plan.ts';
import type { Target } from '../../model/target.ts';
import { startDesign } from '../../plan/designOf.ts';
import { blocksOfPaths, coversOf, sewnAnew } from '../../testing/designs.ts';
import { sizeOf } from '../../testing/drawnShapes.ts';
import { repairFindings } from '../repairFindings.ts';
import { readObjectShape, readObjectSpec } from '../sewSpecs.ts';

const [RED, BLUE, RUST] = ['#aa2222', '#2222aa', '#a4452c'];
const on = (id: string, more: Partial<Target> = {}): Target => {
  const fabric = FABRICS.find((f) => f.id === id)!;
  return { ...defaultTarget(), fabric, clothColor: '#808080', garment: null, ...more };
};
const box = (x: number, y: number, w: number, h = w): Float64Array => Float64Array.of(x, y, x + w, y, x + w, y + h, x, y + h);
const fill = (ring: Float64Array, angle: number, spacing = 0.4): Float64Array =>
  generateFill([ring], { angle, spacing, stitchLength: 4, offset: 0.3 })[0]!;
const find = (design: Design, rule: string): Finding | undefined => auditDesign(design).find((f) => f.rule === rule);
const rings = (design: Design, id: string): Float64Array[] => {
  const shape = readObjectShape(design, id);
  return shape.ok && shape.value.kind === 'area' ? shape.value.rings.map((ring) => Float64Array.from(ring)) : [];
};

/** An edge stitch around a square, prongs inward, whose corners fan out: four prongs stand on each. */
function fanned(): Float64Array {
  const [size, step, prong] = [24, 3, 3];
  const corners = [
    [0, 0],
    [size, 0],
    [size, size],
    [0, size],
  ] as const;
  const out: number[] = [];
  const foot = (x: number, y: number, angle: number): void => {
    const turn = (angle * Math.PI) / 180;
    out.push(x, y, x + prong * Math.cos(turn), y + prong * Math.sin(turn), x, y);
  };
  corners.forEach(([x, y], side) => {
    const [dx, dy] = [
      [1, 0],
      [0, 1],
      [-1, 0],
      [0, -1],
    ][side] as [number, number];
    for (let k = 0; k < size / step; k++) {
      if (k > 0) foot(x + dx * step * k, y + dy * step * k, side * 90 + 90);
      else for (const angle of [10, 35, 60, 80]) foot(x, y, side * 90 + angle);
    }
  });
  // Begun amid a side: a lock at its start is no fan.
  const first = out.findIndex((v, k) => k % 2 === 0 && v === size / 2 && out[k + 1] === 0);
  const round = [...out.slice(first), ...out.slice(0, first), size / 2, 0];
  return Float64Array.from(
    round.filter((_, k) => k < 2 || round[k - (k % 2)] !== round[k - (k % 2) - 2] || round[k - (k % 2) + 1] !== round[k - (k % 2) - 1]),
  );
}

describe('corners of an edge stitch', () => {
  // Common practice, no source: square to the edge, shortened toward the tip, one prong on the bisector.
  test('that fan out are found one by one; one alone is laid out anew and the others stay, or all of them at once', () => {
    const design = startDesign(blocksOfPaths([RED, fanned()]), on('felt'));
    const [id] = orderOf(design.plan);
    const finding = find(design, 'corner-fan')!;
    expect([finding.places.length, finding.measured]).toEqual([4, 4]);
    const fans = (of: Design): number =>
      fansOf(
        new AuditContext(of),
        coversOf(of).find((object) => object.id === id)!,
      ).filter(({ prongs }) => prongs > 2).length;
    expect(fans(design)).toBe(4);
    const [place] = finding.places;
    const one = repairFindings(
      design,
      (f) => f.rule === 'corner-fan',
      (key) => key === place!.key,
    );
    expect(one.refused).toEqual([]);
    expect(fans(one.design)).toBe(3);
    expect(find(one.design, 'corner-fan')!.places.length).toBe(3);
    const all = repairFindings(design, (f) => f.rule === 'corner-fan');
    expect(fans(all.design)).toBe(0);
    expect(find(all.design, 'corner-fan')).toBeUndefined();
  });
});

describe('what is stacked, and what parts', () => {
  test('a large shape that lies hidden under another is carved out where opening it is not enough, but for a rim; a small one is sewn through', () => {
    const stack = (size: number): Design => {
      const at = (30 - size) / 2;
      let design = startDesign(
        blocksOfPaths([RED, fill(box(0, 0, 30), 0)], [BLUE, fill(box(at, at, size), 60)], [RUST, fill(box(at, at, size), 120)]),
        on('silk-satin'),
      );
      for (const id of orderOf(design.plan)) design = sewnAnew(design, id, { spacing: 0.4, underlay: [] });
      return design;
    };
    const design = stack(22);
    const [lowest] = orderOf(design.plan);
    const before = find(design, 'stacked-cover')!;
    const { design: after } = repairFindings(design, (f) => f.rule === 'stacked-cover');
    const left = find(after, 'stacked-cover');
    expect(left === undefined || left.measured < before.measured).toBe(true);
    const carved = [...orderOf(after.plan)].filter(
      (id) => rings(after, id).length > 1 || sizeOf(rings(after, id)) < 0.7 * sizeOf(rings(design, id)),
    );
    expect(carved.length).toBeGreaterThan(0);
    expect(orderOf(after.plan)).toContain(lowest);
    const small = repairFindings(stack(4), (f) => f.rule === 'stacked-cover').design;
    expect(orderOf(small.plan).every((id) => rings(small, id).length <= 1)).toBe(true);
  });

  test('the lower of two that part reaches under the upper one by its shape, there only, where compensation is at its end', () => {
    let design = startDesign(blocksOfPaths([RED, fill(box(0, 0, 20), 0)], [BLUE, fill(box(20.1, 0, 20), 0)]), on('sweater-knit'));
    const [lower] = orderOf(design.plan);
    design = sewnAnew(design, lower!, { pull: 0.8 });
    const before = find(design, 'gap-risk')!;
    expect(before).toBeDefined();
    const { design: after } = repairFindings(design, (f) => f.rule === 'gap-risk');
    expect(find(after, 'gap-risk')).toBeUndefined();
    const spec = readObjectSpec(after, lower!);
    expect(spec.ok && spec.value.pull).toBeLessThanOrEqual(0.8);
  });
});
