import { describe, expect, test } from '@jest/globals';
import path from 'node:path';
import type { Figures } from '@isola/core';
import { HERON, inFolder, json, LANTERN, run } from './testing/runIsola.ts';

describe('rework on the command line', () => {
  test('writes a better file and says what it did and what it left', () => {
    const out = inFolder('better.csv');
    const result = json('rework', HERON, '--fabric', 'pique-polo', '--out', out) as {
      before: { trims: number; run: { seconds: number } };
      after: { trims: number; run: { seconds: number } };
      applied: { rule: string; change: string }[];
      refused: { rule: string; why: string }[];
    };
    expect(result.after.trims).toBeLessThanOrEqual(result.before.trims - 25);
    expect(result.after.run.seconds).toBeLessThan(result.before.run.seconds - 200);
    expect(result.applied.map((a) => a.rule)).toContain('needless-trim');
    expect(result.refused.map((r) => r.rule)).toContain('stacked-cover');
    expect(json('inspect', out)['trims']).toBe(result.after.trims);
    const onlyLocks = json('rework', HERON, '--fabric', 'pique-polo', '--out', out, '--fix', 'missing-tie') as typeof result;
    expect(onlyLocks.after.trims).toBe(onlyLocks.before.trims);
  });

  test('changes specs of objects by id, kind and color, and of nothing else', () => {
    const out = inFolder('set.csv');
    const setting = ['--set', 'all.fill:spacing=0.5,underlay=tatami@3.5+edge-run', '--set', '#9fb2ba:angle=70'];
    const { applied, before, after } = json('rework', HERON, '--fabric', 'twill', '--out', out, ...setting) as Record<string, never> & {
      applied: { rule: string; objects: string[] }[];
      before: { stitches: number };
      after: { stitches: number };
    };
    expect(applied.length).toBeGreaterThanOrEqual(3);
    expect(applied.every((a) => a.rule === 'set')).toBe(true);
    expect(after.stitches).toBeLessThan(before.stitches);
    const { objects } = json('recognize', out) as {
      objects: { kind: string; role: string; color: string; spacing: number; angle: number }[];
    };
    const fills = objects.filter((o) => o.kind === 'fill' && o.role === 'cover');
    expect(fills.filter((o) => Math.abs(o.spacing / 0.5 - 1) < 0.03).length).toBeGreaterThanOrEqual(fills.length - 1);
    const turned = fills.filter((o) => o.color === '#9fb2ba');
    expect(turned.every((o) => Math.abs(o.angle - 70) < 1)).toBe(true);
    const { refused } = json('rework', HERON, '--fabric', 'twill', '--out', out, '--set', 'o1:spacing=0.4') as {
      refused: { why: string }[];
    };
    expect(refused[0]!.why).toMatch(/no cover|has no spacing/);
  });

  test('repairs what a rule has a repair for, in rows, specs, order and shapes, and says what it left', () => {
    const out = inFolder('mended.csv');
    const demo = (name: string): string => path.resolve(import.meta.dirname, `../../../demo/${name}.csv`);
    for (const [file, cloth, rule, figure] of [
      ['heron', 'pique-polo', 'needless-trim', 'trims'],
      ['fobs', 'felt', 'color-return', 'colorChanges'],
      ['pears', 'canvas', 'applique-order', 'stops'],
    ] as const) {
      const { before, after, applied } = json('rework', demo(file), '--fabric', cloth, '--out', out, '--fix', rule) as {
        before: Figures;
        after: Figures;
        applied: { rule: string }[];
      };
      expect([file, after[figure] < before[figure]]).toEqual([file, true]);
      expect(new Set(applied.map((one) => one.rule))).toEqual(new Set([rule]));
      // What is written is what was counted.
      const again = json('inspect', out) as unknown as Figures;
      expect([again.stitches, again[figure]]).toEqual([after.stitches, after[figure]]);
    }
    const { applied, refused } = json('rework', LANTERN, '--fabric', 'fleece', '--out', out, '--fix', 'pile-unheld,thin-satin') as {
      applied: { rule: string }[];
      refused: { rule: string; why: string }[];
    };
    expect(applied.map((one) => one.rule)).toEqual(['pile-unheld']);
    expect(refused.every(({ why }) => why.length > 10)).toBe(true);
    const found = json('audit', out, '--fabric', 'fleece') as { findings: { rule: string }[] };
    expect(found.findings.map((one) => one.rule)).not.toContain('pile-unheld');
  });

  test('draws shapes in the order given, says what it did, and refuses what makes no sense', () => {
    const out = inFolder('bordered.csv');
    const report = json(
      'rework',
      LANTERN,
      '--fabric',
      'fleece',
      '--out',
      out,
      '--do',
      'nap:margin=3',
      '--do',
      'border:distance=2,width=2.5,color=#aa2222',
    ) as {
      before: Figures;
      after: Figures;
      applied: { rule: string; change: string }[];
    };
    expect(report.applied.map(({ rule }) => rule)).toEqual(['nap', 'border']);
    expect(report.applied[0]!.change).toMatch(/rows; .*film topping/);
    expect(report.after.colors.map(({ color }) => color)).toContain('#aa2222');
    // The border lies 2 mm outside and is 2.5 mm wide, all around the nap layer that is 3 mm wider than the design.
    expect(report.after.extents.width - report.before.extents.width).toBeCloseTo(2 * (3 + 2 + 2.5), 0);
    const drawn = json(
      ...[
        'rework',
        LANTERN,
        '--fabric',
        'fleece',
        '--out',
        out,
        '--do',
        'draw:form=closed,lines=0 0 20 0 20 20/5 5 12 5 12 9,color=#123456',
      ],
      ...[
        '--do',
        'draw:form=middle,lines=-20 -20 0 -10 20 -20,widths=1 4 1,color=#654321',
        '--do',
        'cut:object=#123456,along=-5 4 30 4',
        '--do',
        'place:turn=90',
      ],
    ) as typeof report;
    expect(drawn.applied.map(({ rule }) => rule)).toEqual(['draw', 'draw', 'cut', 'place']);
    expect(drawn.after.colors.map(({ color }) => color)).toContain('#123456');
    const refused = (text: string): string => run('rework', LANTERN, '--fabric', 'fleece', '--out', out, '--do', text).err;
    for (const [text, words] of [
      ['fold:objects=all', 'no operation fold'],
      ['border:distance', 'is no key=value'],
      ['border:depth=3', 'border has no depth'],
      ['border:distance=wide', 'distance'],
      ['remove:objects=o9999', 'no object is o9999'],
      ['carve:object=all,by=all', 'object is one object'],
      ['scale:factor=50', 'makes no sense'],
      ['cut:object=all,along=0 here', 'object is one object'],
      ['draw:form=line,lines=0 0 five 3', 'not numbers'],
    ] as const)
      expect(refused(text)).toContain(words);
  });
});
