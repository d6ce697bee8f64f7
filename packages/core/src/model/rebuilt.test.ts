import { describe, expect, test } from '@jest/globals';
import { sayUnderlay } from '../materials/suggestSpec.ts';
import { ObjectSpec, SPEC_VALUES } from './objectSpec.ts';
import { SPEC_KINDS } from './kinds.ts';
import { isTouched, moveRebuilt, moveRow, type RebuiltObject } from './rebuilt.ts';
import type { PatchRow } from './rowValue.ts';

const rows = (count: number): PatchRow[] => Array.from({ length: count }, (_, k) => ({ command: 'stitch', x: k, y: 0 }));
const change = (at: number, removed: number, inserted: number) => ({ at, removed: rows(removed), inserted: rows(inserted) });

const SPEC: ObjectSpec = {
  ...{ kind: 'fill', spacing: 0.4, stitchLength: 4, angle: 0, angleLines: [], offset: 0.3, rowEnds: 'slanted', passes: 1, pull: 0 },
  ...{ width: 2, splitLength: 7, shortest: 0.36, endStitch: 0.9, origin: [0, 0], underlay: [], tie: 'to-and-fro' },
};

const object: RebuiltObject = {
  ...{ key: 'k', first: 20, last: 39, spec: SPEC, shape: { kind: 'line', path: [0, 0, 1, 1] }, own: rows(3) },
  parts: [
    { role: 'tie', first: 20, last: 23 },
    { role: 'cover', first: 24, last: 39 },
  ],
};

describe('rows of rebuilt objects', () => {
  test.each([
    ['before what changes', 5, [change(10, 2, 5)], 5],
    ['after it', 15, [change(10, 2, 5)], 18],
    ['among what is gone', 11, [change(10, 4, 2)], 11],
    ['at the end of what is gone', 13, [change(10, 4, 2)], 11],
    ['where all is gone', 12, [change(10, 4, 0)], 10],
    ['after several changes', 50, [change(10, 4, 0), change(30, 0, 7), change(60, 9, 0)], 53],
  ] as const)('are counted on as edits move them: %s', (_, row, changes, expected) => {
    expect(moveRow(row, changes)).toBe(expected);
  });

  test('move as one, stay the same record where nothing before them changed, and are told when an edit reaches into them', () => {
    expect(moveRebuilt(object, [change(40, 5, 0)])).toBe(object);
    const moved = moveRebuilt(object, [change(3, 0, 4)]);
    expect([moved.first, moved.last, ...moved.parts.map((p) => p.first)]).toEqual([24, 43, 24, 28]);
    expect(isTouched(object, [change(39, 1, 0)])).toBe(true);
    expect(isTouched(object, [change(40, 1, 0)])).toBe(false);
    expect(isTouched(object, [change(10, 10, 0)])).toBe(false);
    expect(isTouched(object, [change(10, 11, 0)])).toBe(true);
  });
});

describe('specs', () => {
  test('refuse values without sense, and each kind has values of its own', () => {
    for (const wrong of [
      { spacing: 0 },
      { angle: NaN },
      { stitchLength: 40 },
      { passes: 1.5 },
      { offset: 2 },
      { shortest: 0 },
      { pull: 9 },
      { kind: 'weave' },
    ])
      expect(ObjectSpec.safeParse({ ...SPEC, ...wrong }).success).toBe(false);
    expect(ObjectSpec.safeParse(SPEC).success).toBe(true);
    for (const kind of SPEC_KINDS) {
      expect(SPEC_VALUES[kind]).toContain('tie');
      for (const value of SPEC_VALUES[kind]) expect(Object.keys(SPEC)).toContain(value);
    }
    expect(sayUnderlay([])).toBe('none');
    expect(sayUnderlay([{ kind: 'tatami', spacing: 3.5 }, { kind: 'edge-run' }])).toBe('tatami 3.5, edge run');
  });
});
