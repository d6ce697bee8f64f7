import { describe, expect, test } from '@jest/globals';
import type { ObjectSpec } from '../model/objectSpec.ts';
import type { StitchObject } from '../model/stitchObject.ts';
import { coversOf, fourObjects, specFor } from '../testing/designs.ts';
import { FABRICS } from './fabrics.ts';
import { defaultTarget, THREADS } from './shop.ts';
import { bandsOf, usualUnderlay } from './specBands.ts';
import { asKind, suggestSpec } from './suggestSpec.ts';

const design = fourObjects();
const [fill, satin] = coversOf(design) as [StitchObject, StitchObject];
const specOf = (object: StitchObject, change: Partial<ObjectSpec> = {}): ObjectSpec => specFor(design, object.id, change);

describe('what a cloth wants', () => {
  const on = (id: string, threadId = 'rayon-40') => ({
    ...defaultTarget(),
    fabric: FABRICS.find((f) => f.id === id)!,
    thread: THREADS.find((t) => t.id === threadId)!,
  });

  test('pitches grow with the thread by the root of its tex (ISO 1144), as far as the cloth bears, and open fills have a band of their own', () => {
    const spec = specOf(fill);
    expect(bandsOf(spec, on('twill')).spacing!.best).toBeCloseTo(0.4, 9);
    // 12-weight thread: √(83.3 / 25) = 1.83 times.
    expect(bandsOf(spec, on('twill', 'cotton-12')).spacing!.best).toBeCloseTo(0.4 * 1.826, 2);
    expect(bandsOf(spec, on('organza')).spacing!.low).toBeGreaterThan(0.4);
    expect(bandsOf({ ...spec, spacing: 1.4 }, on('twill')).spacing).toMatchObject({ low: 1, high: 2 });
    for (const fabric of FABRICS)
      for (const band of Object.values(bandsOf(spec, on(fabric.id)))) {
        expect(band.low).toBeLessThanOrEqual(band.best);
        expect(band.best).toBeLessThanOrEqual(band.high);
      }
  });

  test('underlay goes by kind, width and cloth (common practice)', () => {
    const kinds = (spec: ObjectSpec, id: string, needs = {}): string[] => usualUnderlay(spec, on(id), needs).layers.map((l) => l.kind);
    const column = specOf(satin);
    expect(kinds(column, 'twill', { width: 1.6 })).toEqual(['center-run']);
    expect(kinds(column, 'twill', { width: 3 })).toEqual(['edge-run']);
    expect(kinds(column, 'twill', { width: 6 })).toEqual(['edge-run', 'zigzag']);
    expect(kinds(column, 'terry', { width: 3 })).toEqual(['edge-run', 'zigzag']);
    expect(kinds(specOf(fill), 'twill')).toEqual(['tatami', 'edge-run']);
    expect(kinds(specOf(fill), 'twill', { isOutlined: true })).toEqual(['tatami']);
    expect(kinds(specOf(fill, { spacing: 1.5 }), 'twill')).toEqual([]);
  });

  test('a spec is put right with a reason for each change, and one that is right is left alone', () => {
    const dense = specOf(fill, { spacing: 0.28, pull: 0, underlay: [] });
    const { spec, changes } = suggestSpec(dense, on('canvas'));
    // How much compensation an outline came with is not seen in its stitches: what it holds is left, and filled up once somebody said it.
    expect(changes.map((c) => c.value).sort()).toEqual(['spacing', 'underlay']);
    const pullOf = (heldPull: number): number => suggestSpec(dense, on('canvas'), { heldPull }).spec.pull;
    expect([0, 0.04, 0.15, 0.2, 0.5].map(pullOf)).toEqual([0.15, 0.11, 0, 0, -0.35]);
    expect(changes.every((c) => c.why.length > 10)).toBe(true);
    expect(suggestSpec(spec, on('canvas')).changes).toEqual([]);
    const wide = suggestSpec(specOf(satin), on('canvas'), { width: 9.5 });
    expect(wide.spec.kind).toBe('fill');
    expect(asKind(specOf(fill), 'meander', on('canvas'))).toMatchObject({ kind: 'meander', spacing: 1.8, underlay: [] });
  });
});
