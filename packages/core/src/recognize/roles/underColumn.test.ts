import { describe, expect, test } from '@jest/globals';
import { generateSatin } from '../../generate/column/satin.ts';
import { generateCenterRun, generateColumnEdgeRun, generateReturnRun, generateZigzag } from '../../generate/underlay.ts';
import { type Program, ProgramBuilder } from '../../model/program.ts';
import type { UnderlayKind } from '../../model/kinds.ts';
import { recognizeProgram } from '../recognizeProgram.ts';
import type { StitchObject } from '../../model/stitchObject.ts';
import { bend } from '../../testing/columns.ts';

type Rail = (t: number) => readonly [number, number];

/** A column between two edges as points, and as rails for the generators. */
function columnOf(left: Rail, right: Rail): [Float64Array, Float64Array] {
  const rail = (at: Rail): Float64Array => Float64Array.from({ length: 82 }, (_, k) => at(Math.floor(k / 2) / 40)[k % 2]!);
  return [rail(left), rail(right)];
}

const STRAIGHT = columnOf(
  (t) => [30 * t, 4],
  (t) => [30 * t, 0],
);
/** A tight bend: the inner edge has a radius of 2 mm, the outer one of 7 mm. */
const BENT = columnOf(
  (t) => [7 * Math.cos(Math.PI * t), 7 * Math.sin(Math.PI * t)],
  (t) => [2 * Math.cos(Math.PI * t), 2 * Math.sin(Math.PI * t)],
);

/** A lock, then paths in one thread without a cut, then a lock; rounded, turned by degrees. */
function sewn(paths: readonly Float64Array[], grain: number, turn: number): Program {
  const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
  const settle = (v: number): number => Math.round(v / grain) * grain;
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
  const at = (x: number, y: number): [number, number] => [settle(x * c - y * s), settle(x * s + y * c)];
  const [x0, y0] = [paths[0]![0]!, paths[0]![1]!];
  builder.jump(...at(x0, y0));
  for (const off of [0, 0.7, 0, 0.7, 0]) builder.stitch(...at(x0 + off, y0));
  for (const path of paths) for (let k = 0; k < path.length; k += 2) builder.stitch(...at(path[k]!, path[k + 1]!));
  return builder.trim().end().build();
}

function mainOf(program: Program): StitchObject {
  return recognizeProgram(program)
    .objects.filter((o) => o.role === 'cover')
    .reduce((a, b) => (a.stitches >= b.stitches ? a : b));
}

describe('underlay of a column', () => {
  const LAYERS: Readonly<Record<'center-run' | 'edge-run' | 'zigzag', (left: Float64Array, right: Float64Array) => Float64Array>> = {
    'center-run': (left, right) => generateCenterRun(left, right),
    'edge-run': (left, right) => generateColumnEdgeRun(left, right),
    zigzag: (left, right) => generateZigzag(left, right, 2),
  };
  const cases: readonly (readonly UnderlayKind[])[] = [
    ['center-run'],
    ['edge-run'],
    ['zigzag'],
    ['edge-run', 'zigzag'],
    ['zigzag', 'center-run'],
  ];

  test.each(cases)('%s %s is told by where across the column it lies, on straight columns and on tight bends', (...kinds) => {
    for (const [left, right] of [STRAIGHT, BENT]) {
      const cover = generateSatin(left, right, { spacing: 0.45, pull: 0, splitLength: 12 });
      const layers = kinds.filter((kind) => kind !== undefined && kind !== 'tatami').map((kind) => LAYERS[kind as 'zigzag'](left, right));
      for (const [grain, turn] of [
        [0.001, 0],
        [0.1, 33],
      ] as const) {
        const main = mainOf(sewn([...layers, cover], grain, turn));
        expect(main.kind).toBe('satin');
        expect(main.underlay.map((layer) => layer.kind)).toEqual(kinds.filter((kind) => kind !== undefined));
      }
    }
  });
});

describe('underlay of a wide bend', () => {
  const { left, right } = bend(20, 4.5, 100);
  const top = generateSatin(left, right, { spacing: 0.4, pull: 0.2, splitLength: 7 });
  const zigzag = generateZigzag(left, right, 2);
  const back = generateReturnRun(left, right);

  test.each<[string, readonly Float64Array[], readonly string[]]>([
    ['none', [], []],
    ['a center run', [generateCenterRun(left, right)], ['center-run']],
    ['edge runs', [generateColumnEdgeRun(left, right)], ['edge-run']],
    ['a zigzag and the run back', [zigzag, back], ['zigzag', 'center-run']],
    ['edge runs, then a zigzag and the run back', [generateColumnEdgeRun(left, right), zigzag, back], ['edge-run', 'zigzag', 'center-run']],
  ])('%s', (_, layers, kinds) => {
    for (const grain of [1e-9, 0.1]) {
      const satin = mainOf(sewn([...layers, top], grain, 0));
      expect(satin.kind).toBe('satin');
      expect(satin.underlay.map((u) => u.kind)).toEqual(kinds);
      expect(satin.spacing! / 0.4).toBeCloseTo(1, 1);
      expect(satin.width!.mean).toBeGreaterThan(4.4);
      satin.underlay.forEach((layer, k) => expect(layer.last).toBeLessThan(satin.underlay[k + 1]?.first ?? satin.first));
    }
  });
});
