import { describe, expect, test } from '@jest/globals';
import { generateFill } from '../generate/fill/fill.ts';
import { defaultTarget } from '../materials/shop.ts';
import { FABRICS } from '../materials/fabrics.ts';
import { ProgramBuilder } from '../model/program.ts';
import { recognizeProgram } from '../recognize/recognizeProgram.ts';
import { predictGaps } from './predictedGaps.ts';
import { predictSewn, pullOf } from './sewnPrediction.ts';

/** Two squares side by side, overlapping in plan by so much, both with rows across the seam or along it. */
function pair(overlap: number, angle: number) {
  const builder = new ProgramBuilder().color('#1f4e5f', '');
  for (const [k, x] of [0, 20 - overlap].entries()) {
    const square = Float64Array.of(x, 0, x + 20, 0, x + 20, 20, x, 20);
    const [path] = generateFill([square], { angle, spacing: 0.4, stitchLength: 4, offset: 0.3 });
    if (k > 0) builder.color('#b8552f', '');
    builder.jump(path![0]!, path![1]!);
    for (let i = 0; i < path!.length; i += 2) builder.stitch(path![i]!, path![i + 1]!);
    builder.trim();
  }
  const program = builder.end().build();
  return { program, objects: recognizeProgram(program).objects };
}

const on = (id: string) => ({ ...defaultTarget(), fabric: FABRICS.find((f) => f.id === id)! });

describe('what will come off the machine (an estimate)', () => {
  test('things get narrower along the stitch and longer across it (common practice)', () => {
    const { program, objects } = pair(0, 0);
    const target = on('jersey');
    const sewn = predictSewn(program, objects.slice(0, 1), target);
    const extent = (values: Float64Array): number => {
      const own = values.slice(objects[0]!.first, objects[0]!.last + 1);
      return Math.max(...own) - Math.min(...own);
    };
    const pull = pullOf(objects[0]!, target);
    expect(pull).toBeCloseTo(0.32 * 1.5, 1);
    expect(extent(program.x) - extent(sewn.x)).toBeCloseTo(2 * pull, 1);
    expect(extent(sewn.y) - extent(program.y)).toBeGreaterThan(pull * 0.5);
    expect([...sewn.x.slice(objects[1]!.first)]).toEqual([...program.x.slice(objects[1]!.first)]);
  });

  test('what lies under a fill holds it: without underlay it pulls half as much again, over an edge run alone a little more', () => {
    const [bare] = pair(0, 0).objects;
    const layer = (kind: 'tatami' | 'edge-run') => ({ kind, object: 'o9', first: 0, last: 1 });
    const pulls = [[], [layer('edge-run')], [layer('tatami'), layer('edge-run')]].map((underlay) =>
      pullOf({ ...bare!, underlay }, on('jersey')),
    );
    expect(pulls[0]! / pulls[2]!).toBeCloseTo(1.5, 9);
    expect(pulls[1]! / pulls[2]!).toBeCloseTo(1.15, 9);
  });

  test('gaps open where objects meet with no overlap and rows pull away from the seam, on knits most; overlap closes them', () => {
    const gapOn = (id: string, overlap: number, angle: number): number => predictGaps(pair(overlap, angle).objects, on(id))[0]?.width ?? 0;
    expect(gapOn('jersey', 0, 0)).toBeGreaterThan(gapOn('denim', 0, 0));
    expect(gapOn('denim', 0, 0)).toBeGreaterThan(0.2);
    expect(gapOn('jersey', 0, 90)).toBe(0);
    expect(gapOn('jersey', 1.2, 0)).toBe(0);
    const { objects } = pair(0, 0);
    const [gap] = predictGaps(objects, on('jersey'));
    expect(gap!.at.x).toBeCloseTo(20, 0);
    expect(predictGaps(objects, on('jersey'), new Set([5]))).toEqual([]);
  });

  test('gaps asked for again are the same, and others as soon as cloth, spacing, underlay or outline are', () => {
    const { objects } = pair(0, 0);
    const target = on('jersey');
    const widest = (list: typeof objects, to = target): number => predictGaps(list, to)[0]?.width ?? 0;
    const first = widest(objects);
    expect(first).toBeGreaterThan(0.2);
    expect(widest(objects)).toBe(first);
    // A copy of an object shares its outline; what else it is made of still counts.
    expect(widest(objects.map((o) => ({ ...o })))).toBe(first);
    expect(widest(objects.map((o) => ({ ...o, spacing: 1.2 })))).toBeLessThan(first);
    const layer = { kind: 'tatami' as const, object: 'o9', first: 0, last: 1 };
    expect(widest(objects.map((o) => ({ ...o, underlay: [layer] })))).toBeLessThan(first);
    expect(widest(objects.map((o) => ({ ...o, angle: 90 })))).toBeLessThan(first);
    expect(widest(objects, on('twill'))).toBeLessThan(first);
    expect(widest(objects)).toBe(first);
  });
});
