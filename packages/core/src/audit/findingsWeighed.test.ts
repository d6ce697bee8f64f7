import { describe, expect, test } from '@jest/globals';
import { FABRICS } from '../materials/fabrics.ts';
import { defaultTarget, THREADS } from '../materials/shop.ts';
import type { StitchObject } from '../model/stitchObject.ts';
import type { Target } from '../model/target.ts';
import { compareFindings, bringsStop, isWorse } from './compareFindings.ts';
import type { Finding, Severity } from './finding.ts';
import { guessThread, wantedPitch } from './guessThread.ts';
import { publishFinding, totalFindings } from './publishFinding.ts';
import { weighRepair } from './verdict.ts';

function finding(rule: string, severity: Severity, places: readonly string[], more: Partial<Finding> = {}): Finding {
  return {
    ...{ key: rule, rule, severity, objects: [], rows: places.map((_, k) => k), first: 0, last: 9, at: { x: 0, y: 0 } },
    places: places.map((key) => ({ key, x: 0, y: 0, object: key })),
    ...{
      measured: 3,
      limit: 2,
      unit: 'mm',
      message: `${rule} is wrong`,
      reason: 'because',
      cost: { seconds: 2, stitches: 5 },
      fix: 'Mend it',
    },
    ...more,
  };
}

function object(id: string, kind: StitchObject['kind'], spacing?: number, stitches = 100): StitchObject {
  return {
    ...{ id, name: id, kind, role: 'cover', thread: 0, color: '#123456', first: 0, last: stitches, spans: [{ first: 0, last: stitches }] },
    ...{ stitches, stitchLength: 4, outline: Float64Array.of(0, 0, 9, 0, 9, 9), holes: [], underlay: [], confidence: 1 },
    ...(spacing === undefined ? {} : { spacing }),
    ...{ entry: { x: 0, y: 0 }, exit: { x: 9, y: 9 } },
  };
}

describe('findings before and after', () => {
  const before = [finding('too-dense', 'stop', ['a', 'b', 'c']), finding('tiny-stitch', 'note', ['x'])];

  test('are told apart by place: gone, come, better, worse; rules of which nothing changed are left out', () => {
    expect(compareFindings(before, before)).toEqual([]);
    const [change] = compareFindings(before, [finding('too-dense', 'fix', ['a', 'd']), before[1]!]);
    expect(change).toMatchObject({ rule: 'too-dense', gone: 2, added: 1, before: 'stop', after: 'fix' });
    expect(isWorse(change!)).toBe(false);
    expect(compareFindings(before, [before[1]!])).toMatchObject([{ rule: 'too-dense', gone: 3, added: 0, after: undefined }]);
  });

  test('are worse with a new rule, a worse severity, or more places no better than they were', () => {
    const worse = (after: Finding): boolean => isWorse(compareFindings([finding('r', 'fix', ['a'])], [after])[0]!);
    expect(worse(finding('r', 'stop', ['a']))).toBe(true);
    expect(worse(finding('r', 'note', ['b', 'c', 'd']))).toBe(false);
    expect(worse(finding('r', 'fix', ['b', 'c', 'd']))).toBe(true);
    // Split into more places that each break the limit by far less is better.
    expect(worse(finding('r', 'fix', ['b', 'c', 'd'], { measured: 2.2 }))).toBe(false);
    expect(isWorse(compareFindings([], [finding('r', 'note', ['a'])])[0]!)).toBe(true);
  });

  test('say first what got worse, and whether a stop came that was not there', () => {
    const after = [finding('same-hole', 'note', ['z']), finding('gap-risk', 'stop', ['g'])];
    const changes = compareFindings(before, after);
    expect(changes.slice(0, 2).every(isWorse)).toBe(true);
    expect(bringsStop(changes)?.rule).toBe('gap-risk');
    expect(bringsStop(compareFindings(after, before))?.rule).toBe('too-dense');
    expect(bringsStop(compareFindings(before, []))).toBeUndefined();
  });

  test('go into JSON with their rows counted, and are summed by severity and by what can be repaired', () => {
    const { rows, ...published } = publishFinding(before[0]!) as { rows?: unknown; count: number; places: unknown[] };
    expect([rows, published.count, published.places.length]).toEqual([undefined, 3, 3]);
    const byHand = finding('zone-overflow', 'fix', ['q']);
    const { fix: _, ...advised } = byHand;
    expect(totalFindings([...before, advised])).toEqual({ findings: 3, stop: 1, fix: 1, note: 1, seconds: 4, stitches: 10 });
  });
});

describe('repair or digitize anew', () => {
  const objects = Array.from({ length: 10 }, (_, k) => object(`o${k}`, 'fill', 0.4));

  test('a sound file takes no minutes; what is mended here takes few, what is not takes more', () => {
    expect(weighRepair([], objects, 8000)).toMatchObject({ choice: 'repair', repairMinutes: 0 });
    const here = weighRepair([finding('too-dense', 'stop', ['a', 'b'])], objects, 8000);
    const { fix: _, ...advised } = finding('small-hole', 'fix', ['a', 'b', 'c']);
    const byHand = weighRepair([advised], objects, 8000);
    expect(here.repairMinutes).toBeLessThan(byHand.repairMinutes);
    expect(byHand.reasons).toContain('1 of 1 findings have to be mended by hand');
    expect(here.anewMinutes).toBeCloseTo(15 + 3 * 10 + 4 * 8, 6);
  });

  test('a file whose objects cannot be told and are full of faults is drawn anew; one without objects cannot be weighed against', () => {
    const untold = objects.map((o, k) => (k < 6 ? { ...o, kind: 'other' as const } : o));
    const faults = finding(
      'missing-tie',
      'fix',
      untold.slice(0, 9).map(({ id }) => id),
    );
    const { choice, reasons } = weighRepair([faults], untold, 8000);
    expect(choice).toBe('anew');
    expect(reasons[0]).toBe('what 6 of 10 objects are cannot be told from their stitches');
    expect(weighRepair([faults], [], 8000)).toMatchObject({ choice: 'repair', anewMinutes: Infinity });
  });
});

describe('the thread that a file was made for', () => {
  const on = (id: string, more: Partial<Target> = {}): Target => ({
    ...defaultTarget(),
    fabric: FABRICS.find((f) => f.id === id)!,
    ...more,
  });
  const spaced = (factor: number, target: Target, count = 5): StitchObject[] =>
    Array.from({ length: count }, (_, k) => {
      const one = object(`o${k}`, k % 2 === 0 ? 'fill' : 'satin', 0.4);
      return { ...one, spacing: wantedPitch(one, target) * factor };
    });

  test('is not guessed where rows lie as the cloth wants, a little off, in no accord, or where there are few', () => {
    const target = on('pique-polo');
    for (const factor of [1, 0.96, 1.05]) expect(guessThread(spaced(factor, target), target)).toBeUndefined();
    expect(guessThread(spaced(1.155, target, 2), target)).toBeUndefined();
    const mixed = spaced(1, target).map((o, k) => ({ ...o, spacing: o.spacing! * [0.7, 1, 1.3, 0.85, 1.6][k]! }));
    expect(guessThread(mixed, target)).toBeUndefined();
    expect(guessThread([], target)).toBeUndefined();
  });

  test('is guessed by thickness, with the root of tex (ISO 1144), and by the habit of a third off (common practice)', () => {
    const target = on('canvas');
    const weight = (factor: number): number | undefined => guessThread(spaced(factor, target), target)?.thread.weight;
    expect(weight(Math.sqrt(40 / 30))).toBe(30);
    expect(weight(Math.sqrt(40 / 12))).toBe(12);
    expect(weight(Math.sqrt(40 / 60))).toBe(60);
    expect(weight(0.66)).toBe(60);
    expect(guessThread(spaced(0.66, target), target)).toMatchObject({ isSaid: false, factor: expect.closeTo(0.66, 6) });
  });

  test('that was said stands for itself: none where it is the one used, else whoever is spaced rather for it', () => {
    const target = on('canvas');
    const thick = THREADS.find(({ weight }) => weight === 30)!;
    expect(guessThread(spaced(1, target), { ...target, madeFor: target.thread })).toBeUndefined();
    const said = guessThread([...spaced(1.15, target, 3), object('right', 'fill', wantedPitch(object('', 'fill', 0.4), target))], {
      ...target,
      madeFor: thick,
    });
    expect([said?.isSaid, said?.thread.weight, [...said!.objects].sort()]).toEqual([true, 30, ['o0', 'o1', 'o2']]);
  });

  test('what was spaced here tells nothing of the file', () => {
    const target = on('canvas');
    const made = spaced(1.155, target).map((o) => ({
      ...o,
      made: { spec: {}, shape: {} } as unknown as NonNullable<StitchObject['made']>,
    }));
    expect(guessThread(made, target)).toBeUndefined();
  });
});
