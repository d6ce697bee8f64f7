import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { defaultTarget } from '../materials/shop.ts';
import { type Program, ProgramBuilder, STITCH } from '../model/program.ts';
import { layLengths } from '../model/stretches.ts';
import { threadThickness } from '../model/thread.ts';
import { anyProgramWithin } from '../testing/programs.ts';
import { bareCloth } from './bareCloth.ts';
import { type CoverMap, mapCover, updateCover } from './coverMap.ts';
import { runs } from '../testing/runs.ts';

const { thread } = defaultTarget();

/** Thread by cell the plain way: every stitch in a thousand pieces, each given to the cell where its middle lies; then smoothed alike. */
function bruteForce(program: Program, map: CoverMap): Float64Array {
  const lengths = layLengths(program);
  const laid = new Float64Array(map.columns * map.rows);
  const pieces = 1000;
  for (let i = 1; i < program.rowCount; i++) {
    if (program.command[i] !== STITCH || lengths[i] === 0) continue;
    for (let k = 0; k < pieces; k++) {
      const t = (k + 0.5) / pieces;
      const x = program.x[i - 1]! + t * (program.x[i]! - program.x[i - 1]!);
      const y = program.y[i - 1]! + t * (program.y[i]! - program.y[i - 1]!);
      const at = Math.floor((y - map.minY) / map.cell) * map.columns + Math.floor((x - map.minX) / map.cell);
      laid[at]! += ((lengths[i]! / pieces) * threadThickness(thread)) / map.cell ** 2;
    }
  }
  const out = new Float64Array(laid.length);
  for (let at = map.columns + 1; at < laid.length - map.columns - 1; at++) {
    for (const [dy, wy] of [
      [-1, 0.25],
      [0, 0.5],
      [1, 0.25],
    ] as const) {
      for (const [dx, wx] of [
        [-1, 0.25],
        [0, 0.5],
        [1, 0.25],
      ] as const) {
        out[at]! += laid[at + dy * map.columns + dx]! * wx * wy;
      }
    }
  }
  return out;
}

describe('cover map', () => {
  test('is that of brute force, for stitches of any length and direction', () => {
    fc.assert(
      fc.property(anyProgramWithin(6), (program) => {
        const map = mapCover(program, thread);
        const plain = bruteForce(program, map);
        for (let at = 0; at < plain.length; at++) expect(Math.abs(map.cover[at]! - plain[at]!)).toBeLessThan(0.012);
      }),
      runs(25, 31),
    );
  });

  test('stitches along cell borders, of no length, and back over themselves lose nothing', () => {
    const builder = new ProgramBuilder().color('#111111').stitch(0, 0);
    for (const [x, y] of [
      [2, 0],
      [2, 2],
      [0, 2],
      [0, 0],
      [0, 0],
      [2, 2],
      [0, 0],
    ] as const) {
      builder.stitch(x, y);
    }
    const program = builder.end().build();
    const map = mapCover(program, thread);
    const laid = layLengths(program).reduce((sum, length) => sum + length, 0);
    const mapped = map.cover.reduce((sum, k) => sum + k, 0) * (map.cell ** 2 / threadThickness(thread));
    expect(mapped).toBeCloseTo(laid, 4);
    expect(map.penetrations.reduce((sum, n) => sum + n, 0)).toBe(8);
  });

  test('layers count what comes back later or after a break, and not the rows of one pass', () => {
    const pass = (builder: ProgramBuilder, angle: 0 | 1): void => {
      for (let k = 0; k <= 50; k++) {
        const [a, b] = [(k % 2) * 8, k * 0.16];
        builder.stitch(angle === 0 ? a : b, angle === 0 ? b : a);
      }
    };
    const layersAt = (program: Program): number => {
      const map = mapCover(program, thread);
      return map.layers[Math.floor((4 - map.minY) / map.cell) * map.columns + Math.floor((4 - map.minX) / map.cell)]!;
    };
    const one = new ProgramBuilder().color('#111111');
    pass(one, 0);
    expect(layersAt(one.end().build())).toBe(1);
    const two = new ProgramBuilder().color('#111111');
    pass(two, 0);
    two.trim();
    pass(two, 1);
    expect(layersAt(two.end().build())).toBe(2);
    const away = new ProgramBuilder().color('#111111');
    pass(away, 0);
    for (let k = 0; k < 200; k++) away.stitch(30 + (k % 2) * 3, k * 0.2);
    pass(away, 1);
    expect(layersAt(away.end().build())).toBe(2);
  });

  test('the densest layer and the row that laid it are those of the layer, however much lies on it elsewhere', () => {
    const builder = new ProgramBuilder().color('#111111');
    for (let k = 0; k <= 100; k++) builder.stitch((k % 2) * 6, k * 0.06);
    builder.trim().color('#222222');
    const second = builder.rowCount;
    for (let k = 0; k <= 20; k++) builder.stitch((k % 2) * 6, k * 0.3);
    const map = mapCover(builder.end().build(), thread);
    const at = Math.floor((3 - map.minY) / map.cell) * map.columns + Math.floor((3 - map.minX) / map.cell);
    expect(map.densestRow[at]!).toBeLessThan(second);
    expect(map.densestLayer[at]!).toBeGreaterThan(2);
    expect(map.cover[at]!).toBeGreaterThan(map.densestLayer[at]!);
  });

  test('of a program that changed in one place it is what it is from scratch, whatever changed', () => {
    const part = fc.record({ at: fc.nat(400), removed: fc.nat(60), inserted: fc.nat(60), angle: fc.nat(3), isCut: fc.boolean() });
    const base = new ProgramBuilder().color('#111111');
    for (let k = 0; k <= 150; k++) base.stitch((k % 2) * 9, k * 0.2);
    base.trim().jump(2, 3);
    for (let k = 0; k <= 220; k++) base.stitch(k * 0.05, 3 + (k % 2) * 8);
    for (let k = 0; k <= 60; k++) base.stitch(20 + (k % 2) * 4, k * 0.4);
    // Corners of the field, which stay.
    const program = base.stitch(-5, -5).stitch(40, 40).end().build();
    fc.assert(
      fc.property(fc.array(part, { minLength: 1, maxLength: 3 }), (parts) => {
        let [from, map] = [program, mapCover(program, thread)];
        for (const { at, removed, inserted, angle, isCut } of parts) {
          const first = 1 + (at % (from.rowCount - 70));
          const out = new ProgramBuilder().copy(from, 0, first);
          if (isCut) out.trim();
          for (let k = 0; k < inserted; k++) out.stitch(5 + angle * 3 + (k % 2) * 3, 2 + k * 0.3);
          const next = out.copy(from, Math.min(first + removed, from.rowCount - 3), from.rowCount).build();
          map = updateCover(map, from, next, thread);
          from = next;
          const whole = mapCover(next, thread);
          for (const name of ['cover', 'densestLayer', 'densestRow', 'layers', 'penetrations'] as const)
            expect([name, Buffer.from(map[name].buffer).equals(Buffer.from(whole[name].buffer))]).toEqual([name, true]);
          expect(map.maxCover).toBe(whole.maxCover);
        }
      }),
      runs(150, 16),
    );
  });

  test('says how much cloth shows in an outline: of a closed fill next to none, of an open one what thread of its thickness leaves', () => {
    const square = new Float64Array([2, 2, 18, 2, 18, 18, 2, 18]);
    const bareAt = (spacing: number): number => {
      const builder = new ProgramBuilder();
      for (let k = 0; k * (spacing / 2) <= 20; k++)
        builder.stitch(k % 2 === 0 ? 0 : 20, k * (spacing / 2)).stitch(k % 2 === 0 ? 20 : 0, k * (spacing / 2));
      return bareCloth(mapCover(builder.end().build(), thread), [[square]]);
    };
    expect(bareAt(0.4)).toBeLessThan(1);
    // K of one layer is 2 · thickness / spacing, and from 0.85 on nothing shows; the rest of 256 mm² is bare.
    for (const spacing of [1.2, 2, 4]) {
      const expected = 256 * (1 - (2 * threadThickness(thread)) / spacing / 0.85);
      expect(Math.abs(bareAt(spacing) - expected)).toBeLessThan(0.06 * 256);
    }
    const hole = new Float64Array([2, 2, 10, 2, 10, 18, 2, 18]);
    const map = mapCover(new ProgramBuilder().stitch(0, 0).stitch(20, 20).end().build(), thread);
    expect(bareCloth(map, [[square, hole]]) / bareCloth(map, [[square]])).toBeCloseTo(0.5, 1);
    expect(bareCloth(map, [[new Float64Array(0)]])).toBe(0);
  });
});
