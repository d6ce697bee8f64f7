import { describe, expect, test } from '@jest/globals';
import { generateSatin } from '../../generate/column/satin.ts';
import { type Program, ProgramBuilder } from '../../model/program.ts';
import { findBeans } from '../cut/beans.ts';
import { recognizeProgram } from '../recognizeProgram.ts';
import type { StitchObject } from '../../model/stitchObject.ts';

type Join = 'zigzag' | 'vee';

/** Rows across an area between two edges, each straight from end to end; which of its needle points lie where is told by `inside`. */
function sewSlanted(
  edges: (v: number) => readonly [left: number, right: number],
  height: number,
  pitch: number,
  join: Join,
  inside: (length: number, row: number) => readonly number[],
): [number, number][] {
  const points: [number, number][] = [[edges(0)[0], 0]];
  // What each row advances: all half a pitch, or straight ones none and returns a whole one.
  for (let row = 0, v = 0; v < height; row++) {
    const step = join === 'zigzag' ? pitch / 2 : row % 2 === 0 ? 0 : pitch;
    const [x0, y0] = points[points.length - 1]!;
    const [x1, y1] = [edges(v + step)[row % 2 === 0 ? 1 : 0], v + step];
    for (const share of inside(Math.hypot(x1 - x0, y1 - y0), row)) points.push([x0 + share * (x1 - x0), y0 + share * (y1 - y0)]);
    points.push([x1, y1]);
    v += step;
  }
  return points;
}

/** Equal parts of a row, none longer than `step` mm. */
const equalParts =
  (step: number) =>
  (length: number): number[] => {
    const parts = Math.max(1, Math.ceil(length / step));
    return Array.from({ length: parts - 1 }, (_, k) => (k + 1) / parts);
  };

function programOf(points: readonly (readonly [number, number])[], turn = 0, grain = 0.1): Program {
  const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
  const settle = (v: number): number => Math.round(v / grain) * grain;
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
  const at = points.map(([x, y]) => [settle(x * c - y * s), settle(x * s + y * c)] as const);
  builder.jump(...at[0]!);
  for (const [x, y] of at) builder.stitch(x, y);
  return builder.trim().end().build();
}

function coversOf(program: Program): StitchObject[] {
  return recognizeProgram(program).objects.filter((o) => o.role === 'cover');
}

/** A lens: its edges are free, and rows of all lengths cross it. */
const lens = (v: number): [number, number] => {
  const half = 16 * Math.sqrt(Math.max(0.01, 1 - (v / 10 - 1) ** 2));
  return [-half, half];
};

describe('rows that are joined by a slant', () => {
  test.each([
    ['zigzag', 0.4, 3.5, 25],
    ['zigzag', 0.9, 4.4, 110],
    ['vee', 0.4, 4, 0],
    ['vee', 0.6, 3, 62],
  ] as const)('%s of %p mm in stitches of %p mm are one fill with its pitch, angle and outline', (join, pitch, step, turn) => {
    const program = programOf(sewSlanted(lens, 20, pitch, join, equalParts(step)), turn);
    const covers = coversOf(program);
    expect(covers.map((o) => o.kind)).toEqual(['fill']);
    const [fill] = covers;
    expect(Math.abs(fill!.spacing! / pitch - 1)).toBeLessThan(0.03);
    const off = Math.abs(fill!.angle! - turn) % 180;
    expect(Math.min(off, 180 - off)).toBeLessThan(0.6);
    const ring = fill!.outline;
    let area = 0;
    for (let k = 0; k < ring.length; k += 2) area += ring[k]! * ring[(k + 3) % ring.length]! - ring[(k + 2) % ring.length]! * ring[k + 1]!;
    // Half of an ellipse's axes are 16 and 10 mm.
    expect(Math.abs(area / 2 / (Math.PI * 160) - 1)).toBeLessThan(0.04);
  });

  test('a throw over 10 mm with two penetrations inside is a row of a fill though its ends lie on parallel edges', () => {
    const bar = programOf(sewSlanted(() => [0, 12], 30, 0.4, 'zigzag', equalParts(4)));
    expect(coversOf(bar).map((o) => o.kind)).toEqual(['fill']);
  });

  test('a throw under 7 mm with none inside is a satin, and so are 9 mm split once between rails, less surely', () => {
    const [narrow] = coversOf(
      programOf(
        sewSlanted(
          () => [0, 5],
          30,
          0.4,
          'zigzag',
          () => [],
        ),
      ),
    );
    expect(narrow).toMatchObject({ kind: 'satin' });
    expect(narrow!.confidence).toBeGreaterThan(0.95);
    expect(narrow!.otherReading).toBeUndefined();
    const [wide] = coversOf(
      programOf(
        sewSlanted(
          () => [0, 9],
          30,
          0.4,
          'zigzag',
          (_, row) => [row % 4 < 2 ? 0.42 : 0.58],
        ),
      ),
    );
    expect(wide).toMatchObject({ kind: 'satin', otherReading: 'fill' });
    expect(wide!.confidence).toBeLessThan(narrow!.confidence);
  });

  test('wedges whose throws are split by their length can be read two ways, and say so', () => {
    const wedge = sewSlanted((v) => [0, 4 + v / 6], 30, 0.5, 'zigzag', equalParts(5));
    const [object] = coversOf(programOf(wedge));
    expect(object!.otherReading).toBeDefined();
    expect(object!.confidence).toBeLessThan(0.95);
  });
});

describe('the pitch of a satin', () => {
  // A parallelogram whose throws lie 30° off square: they lie closer than their penetrations along the edge, by its cosine.
  test('is square to its threads where these lean against its edges, sewn and read alike', () => {
    const left = Float64Array.of(0, 0, 40, 0);
    const right = Float64Array.of(4 * Math.tan(Math.PI / 6), -4, 40 + 4 * Math.tan(Math.PI / 6), -4);
    const path = generateSatin(left, right, { spacing: 0.5, pull: 0, splitLength: 12 });
    const [satin] = coversOf(programOf(Array.from({ length: path.length / 2 }, (_, k) => [path[k * 2]!, path[k * 2 + 1]!] as const)));
    expect(satin!.kind).toBe('satin');
    expect(satin!.spacing).toBeCloseTo(0.5, 1);
    expect(Math.abs(satin!.spacing! / 0.5 - 1)).toBeLessThan(0.03);
    // 40 mm of edge hold 40 × cos 30° / 0.5 throws there and as many back.
    expect(path.length / 2 - 1).toBe(Math.round((2 * 40 * Math.cos(Math.PI / 6)) / 0.5));
  });
});

describe('a bean line', () => {
  const line = Array.from({ length: 24 }, (_, k) => [2.2 * k, 6 * Math.sin(k / 4)] as const);
  const sewn = line.slice(1).flatMap((to, k) => [to, line[k]!, to]);

  test('is one run of three passes, each stitch gone over before the next, whatever way it turns', () => {
    const covers = coversOf(programOf([line[0]!, ...sewn]));
    expect(covers).toHaveLength(1);
    expect(covers[0]).toMatchObject({ kind: 'run', passes: 3 });
    expect(covers[0]!.path!.length / 2).toBe(line.length);
  });

  test('is none where only a lock goes back and forth, or too few stitches do', () => {
    const program = programOf([line[0]!, ...sewn.slice(0, 6), ...line.slice(3)]);
    expect(findBeans(program, 2, program.rowCount - 3)).toEqual([]);
  });
});
