import { describe, expect, test } from '@jest/globals';
import { generateFill } from '../generate/fill/fill.ts';
import { defaultTarget, HOOPS } from '../materials/shop.ts';
import { countProgram } from '../measure/counts.ts';
import { runClock } from '../measure/runClock.ts';
import type { Design } from '../model/design.ts';
import { orderOf } from '../model/plan.ts';
import { COLOR, STOP, TRIM } from '../model/program.ts';
import { startDesign } from '../plan/designOf.ts';
import { applied, blocksOfPaths, demoFile } from '../testing/designs.ts';
import { layOutCopies, roomFor } from './layOutCopies.ts';

const [RED, BLUE] = ['#aa2222', '#2222aa'];
const square = (x: number, y: number, size: number, angle = 0): Float64Array =>
  generateFill(
    [Float64Array.of(x, y, x + size, y, x + size, y + size, x, y + size)],
    { angle, spacing: 0.4, stitchLength: 4, offset: 0.3 },
    {},
  )[0]!;
const hoop = { ...HOOPS[0]!, width: 100, height: 100 };
const on = (program: Design['program']): Design => startDesign(program, { ...defaultTarget(), hoop });
/** Red, blue on it, red again on that: a color that is used at two layers. */
const twice = on(blocksOfPaths([RED, square(0, 0, 20)], [BLUE, square(4, 4, 12, 90)], [RED, square(8, 8, 4, 45)]));

describe('copies in a hoop', () => {
  test('put each thread on once for all of them, and a color that lies at two layers twice; what lies on what stays', () => {
    const laid = layOutCopies(twice, { copies: 4, gap: 6, hasMarks: false });
    if (!laid.ok) throw new Error(laid.error);
    const { program, placed, most } = laid.value;
    expect([placed.length, most]).toEqual([4, 16]);
    expect(program.threads.map((t) => t.color)).toEqual([RED, BLUE, RED]);
    // Each copy's topmost square is sewn last on it.
    const colors = [...program.command].flatMap((c, i) => (c === COLOR ? [i] : []));
    for (const { x, y } of placed) {
      const at = (from: number, to: number): number =>
        [...program.x.subarray(from, to)].filter((v, k) => Math.hypot(v - x, program.y[from + k]! - y) < 2.5).length;
      expect(at(colors[2]!, program.rowCount)).toBeGreaterThan(5);
    }
    const [one, all] = [countProgram(twice.program), countProgram(program)];
    expect(all.colorChanges).toBe(one.colorChanges);
    expect(all.stitches / one.stitches).toBeCloseTo(4, 1);
    const seconds = (of: Design['program']): number => runClock(of, twice.target.machine).totals.seconds;
    expect(seconds(program)).toBeLessThan(4 * seconds(twice.program));
  });

  test('lie in rows to and fro, centred, as many as fit, no nearer than they should, the marks before all else', () => {
    expect(roomFor(hoop, { width: 20, height: 20 }, 6)).toEqual({ columns: 4, rows: 4 });
    expect(roomFor(hoop, { width: 101, height: 20 }, 6).columns).toBe(0);
    expect(roomFor(hoop, { width: 50, height: 100 }, 0)).toEqual({ columns: 2, rows: 1 });
    const laid = layOutCopies(twice, { copies: null, gap: 6, hasMarks: true });
    if (!laid.ok) throw new Error(laid.error);
    const { placed, program } = laid.value;
    // Their marks take room: three rows of three are left of four of four.
    expect(placed).toHaveLength(9);
    for (let k = 1; k < placed.length; k++)
      expect(Math.hypot(placed[k]!.x - placed[k - 1]!.x, placed[k]!.y - placed[k - 1]!.y)).toBeLessThan(26.5);
    expect(placed.reduce((sum, p) => sum + p.x + p.y, 0)).toBeCloseTo(0, 6);
    const { extents } = countProgram(program);
    for (const v of [extents.minX, extents.minY, -extents.maxX, -extents.maxY]) expect(v).toBeGreaterThanOrEqual(-50 - 1e-6);
    expect(program.threads[0]!.name).toBe('Registration marks');
    expect([...program.command].slice(1).indexOf(COLOR)).toBeGreaterThan(9 * 2 * 8);
  });

  test('stop once a step for all of them; what does not fit is refused with what does', () => {
    const stopped = applied(twice, { id: 'set-stop', object: orderOf(twice.plan)[1]!, note: 'lay the badge' });
    const laid = layOutCopies(stopped, { copies: 3, gap: 2, hasMarks: false });
    if (!laid.ok) throw new Error(laid.error);
    const { command, notes } = laid.value.program;
    expect([[...command].filter((c) => c === STOP).length, [...notes.values()]]).toEqual([1, ['lay the badge']]);
    expect(command.filter((c) => c === TRIM).length).toBeGreaterThanOrEqual(9);
    expect(layOutCopies(twice, { copies: 17, gap: 6, hasMarks: false })).toEqual({
      ok: false,
      error: expect.stringMatching(/17 copies .* do not fit .*: 16 do, 4 by 4/),
    });
    const large = on(demoFile('chainring.csv'));
    expect(layOutCopies(large, { copies: 1, gap: 0, hasMarks: false })).toMatchObject({
      ok: false,
      error: expect.stringMatching(/^not one copy/),
    });
  });

  test('turned by a quarter, more of a long piece may fit: said where they lie the other way, and sewn so', () => {
    const path = generateFill(
      [Float64Array.of(0, 0, 40, 0, 40, 12, 0, 12)],
      { angle: 0, spacing: 0.4, stitchLength: 4, offset: 0.3 },
      {},
    )[0]!;
    const long = on(blocksOfPaths([RED, path]));
    const wide = { ...long, target: { ...long.target, hoop: { ...hoop, width: 100, height: 42 } } };
    const lay = (isTurned: boolean) => layOutCopies(wide, { copies: null, gap: 4, hasMarks: false, isTurned });
    const [along, turned] = [lay(false), lay(true)];
    if (!along.ok || !turned.ok) throw new Error('neither lies in the hoop');
    expect([along.value.most, along.value.mostTurned]).toEqual([turned.value.mostTurned, turned.value.most]);
    expect(turned.value.placed.length).toBeGreaterThan(along.value.placed.length);
    const { extents } = countProgram(turned.value.program);
    expect(Math.abs(extents.maxY - extents.minY - 40)).toBeLessThan(1);
    // A quarter turn moves nothing but places: as many stitches a copy, of the same lengths.
    const [one, all] = [countProgram(wide.program), countProgram(turned.value.program)];
    expect(all.longestStitch).toBeCloseTo(one.longestStitch, 2);
    const refused = layOutCopies(wide, { copies: turned.value.most, gap: 4, hasMarks: false });
    expect(refused.ok ? '' : refused.error).toContain(`turned by a quarter ${turned.value.most} do`);
  });
});
