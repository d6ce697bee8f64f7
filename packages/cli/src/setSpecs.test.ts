import { describe, expect, test } from '@jest/globals';
import {
  defaultTarget,
  generateFill,
  generateRun,
  generateSatin,
  ProgramBuilder,
  recognizeProgram,
  startDesign,
  STITCH,
} from '@isola/core';
import { parseSetting, setSpecs } from './setSpecs.ts';
import { UsageError } from './usageError.ts';

/** A fill, a satin of another color, a run. */
function design() {
  const builder = new ProgramBuilder();
  const sew = (path: Float64Array): void => {
    builder.trim().jump(path[0]!, path[1]!);
    for (let k = 0; k < path.length; k += 2) builder.stitch(Math.round(path[k]! * 1000) / 1000, Math.round(path[k + 1]! * 1000) / 1000);
  };
  builder.color('#1f4e5f', 'Harbor');
  sew(generateFill([Float64Array.of(0, 0, 24, 0, 24, 20, 0, 20)], { angle: 30, spacing: 0.4, stitchLength: 4, offset: 0.3 })[0]!);
  builder.color('#b8552f', 'Brick');
  sew(generateSatin(Float64Array.of(0, 33, 30, 33), Float64Array.of(0, 30, 30, 30), { spacing: 0.4, pull: 0, splitLength: 7 }));
  sew(generateRun(Float64Array.of(0, 40, 30, 40), { stitchLength: 2.5 }));
  return startDesign(builder.trim().end().build(), defaultTarget());
}

const covers = (of: ReturnType<typeof design>) => recognizeProgram(of.program).objects.filter((o) => o.role === 'cover');

describe('settings of the command line', () => {
  test('are read with all their values', () => {
    expect(parseSetting('o3:kind=edge,spacing=2.5')).toMatchObject({ object: 'o3', values: { kind: 'edge-stitch', spacing: 2.5 } });
    expect(parseSetting('all:underlay=none,pull=0.2').values).toEqual({ underlay: [], pull: 0.2 });
    expect(parseSetting('#9FB2BA:underlay=tatami@3.5+edge-run').values.underlay).toEqual([
      { kind: 'tatami', spacing: 3.5 },
      { kind: 'edge-run' },
    ]);
    expect(parseSetting('all.edge:stitchLength=3')).toMatchObject({ object: 'all.edge' });
  });

  test.each([
    [':spacing=1', 'OBJECT:name=value'],
    ['all:spacing', 'no name=value'],
    ['all:spacing=-1', 'out of range'],
    ['all:angle=north', 'takes a number'],
    ['all:kind=weave', 'no kind weave'],
    ['all:underlay=tatami@0.1', 'from 0.5 to 20'],
    ['all:underlay=tatami@', 'from 0.5 to 20'],
    ['all.weave:spacing=1', 'no kind weave'],
  ])('that make no sense are refused with what was wrong: %s', (text, words) => {
    expect(() => parseSetting(text)).toThrow(UsageError);
    expect(() => parseSetting(text)).toThrow(words);
  });

  test('reach the objects that they name, and only values that those have', () => {
    const before = design();
    const byKind = setSpecs(before, [parseSetting('all.satin:spacing=0.5')]);
    expect(byKind.applied).toHaveLength(1);
    expect(covers(byKind.design).find((o) => o.kind === 'satin')!.spacing).toBeCloseTo(0.5, 1);
    const byColor = setSpecs(before, [parseSetting('#1f4e5f:angle=100')]);
    expect(covers(byColor.design)[0]!.angle).toBeCloseTo(100, 0);
    // A run has no spacing: of all three only two are sewn anew.
    expect(setSpecs(before, [parseSetting('all:spacing=0.6')]).applied).toHaveLength(2);
    const run = covers(before).find((o) => o.kind === 'run')!;
    const refused = setSpecs(before, [parseSetting(`${run.id}:spacing=0.6`)]);
    expect(refused.refused[0]!.why).toBe('a run has no spacing');
    expect(refused.design).toBe(before);
    expect(() => setSpecs(before, [parseSetting('o99:spacing=1')])).toThrow('no object is o99');
    expect(setSpecs(before, []).design).toBe(before);
  });

  test('add up on one object, change its kind with all that goes with it, and say what cannot be', () => {
    const before = design();
    const { design: after, applied } = setSpecs(before, [
      parseSetting('all.fill:kind=contour'),
      parseSetting('all.fill:spacing=2'),
      parseSetting('all.run:kind=satin'),
    ]);
    expect(applied).toHaveLength(2);
    const stitches = (of: typeof before): number => of.program.command.reduce((sum, c) => sum + (c === STITCH ? 1 : 0), 0);
    expect(stitches(after)).toBeLessThan(0.7 * stitches(before));
    const made = Object.values(after.plan.objects).flatMap((o) => o.sewn.made?.spec ?? []);
    expect(made.map((spec) => spec.kind).sort()).toEqual(['contour', 'satin']);
    expect(made.find((spec) => spec.kind === 'contour')).toMatchObject({ spacing: 2, underlay: [] });
    const impossible = setSpecs(before, [parseSetting('all.run:kind=fill')]);
    expect(impossible.refused[0]!.why).toMatch(/encloses nothing/);
  });
});
