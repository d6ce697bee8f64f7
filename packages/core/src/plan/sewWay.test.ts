import { describe, expect, test } from '@jest/globals';
import type { Design } from '../model/design.ts';
import { orderOf } from '../model/plan.ts';
import { COMMANDS, isSameProgram, type Program, ProgramBuilder } from '../model/program.ts';
import { defaultTarget } from '../materials/shop.ts';
import { generateLock } from '../generate/line/tie.ts';
import { applied, sewnAnew } from '../testing/designs.ts';
import { zigzag } from '../testing/programs.ts';
import { assemble, placeOf } from './assemble.ts';
import { startDesign } from './designOf.ts';

type Between = (builder: ProgramBuilder) => unknown;

/** Three columns of throws, locked at both ends where the thread is cut, with rows of somebody's manner between them. */
function threeColumns(first: Between, second: Between): Design {
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor').jump(0, 0);
  [first, second, (b: ProgramBuilder) => b.trim('last cut')].forEach((between, n) => {
    const path = zigzag(n * 12, 0, 40, 4, 0.5);
    const [[x, y], [nx, ny]] = path as [[number, number], [number, number]];
    builder.stitch(x, y);
    lock(builder, x, y, nx, ny);
    for (const [px, py] of path.slice(1)) builder.stitch(px, py);
    const [[ex, ey], [bx, by]] = [path[path.length - 1]!, path[path.length - 2]!];
    lock(builder, ex, ey, bx, by);
    between(builder);
  });
  return startDesign(builder.end('fin').build(), defaultTarget());
}

function lock(builder: ProgramBuilder, x: number, y: number, toX: number, toY: number): void {
  const points = generateLock(x, y, toX, toY);
  for (let k = 0; k < points.length; k += 2) builder.stitch(points[k]!, points[k + 1]!);
}

/** A way as words: how many stitches, and each other command with its note. */
function wordsOf({ program, plan }: Design, id: string | null): string {
  const { ending } = assemble(plan);
  const [from, to] = id === null ? [ending.first, program.rowCount] : [placeOf(plan, id).link, placeOf(plan, id).first];
  const out: string[] = [];
  let stitches = 0;
  const close = (): void => {
    if (stitches > 0) out.push(String(stitches));
    stitches = 0;
  };
  for (let i = from; i < to; i++) {
    const command = COMMANDS[program.command[i]!]!;
    if (command === 'stitch') stitches++;
    else {
      close();
      const note = program.notes.get(i);
      out.push(note === undefined ? command : `${command} “${note}”`);
    }
  }
  close();
  return out.join(' ');
}

const rowsBefore = ({ x, y, command }: Program, end: number): string =>
  JSON.stringify([[...x.slice(0, end)], [...y.slice(0, end)], [...command.slice(0, end)]]);

describe('the way between two objects', () => {
  const usual = threeColumns(
    (b) => b.trim('cut here').jump(12, 0),
    (b) => b.trim().stop('lay the patch').jump(20, 5).jump(24, 0),
  );
  const [a, b, c] = orderOf(usual.plan) as [string, string, string];

  test('as found has the locks on both sides, and what the file says in between', () => {
    expect([wordsOf(usual, a), wordsOf(usual, b), wordsOf(usual, c), wordsOf(usual, null)]).toEqual([
      'color jump 5',
      '4 trim “cut here” jump 5',
      '4 trim stop “lay the patch” jump jump 5',
      '4 trim “last cut” end “fin”',
    ]);
  });

  test('keeps the half of whose end stays: what is before a changed object is as it was up to the jump, what is after it from the cut on', () => {
    const changed = sewnAnew(usual, b, { spacing: 0.8 });
    // Two jumps after the stop lead to the same object: it did not move, so both stay.
    expect([wordsOf(changed, b), wordsOf(changed, c)]).toEqual([
      expect.stringMatching(/^4 trim “cut here” jump \d$/),
      expect.stringMatching(/^\d trim stop “lay the patch” jump jump 5$/),
    ]);
    const { link } = placeOf(usual.plan, b);
    expect(rowsBefore(changed.program, link + 5)).toBe(rowsBefore(usual.program, link + 5));
    const last = sewnAnew(usual, c, { spacing: 0.8 });
    expect(wordsOf(last, c)).toMatch(/^4 trim stop “lay the patch” jump \d$/);
    expect(wordsOf(last, null)).toMatch(/^\d trim “last cut” end “fin”$/);
    const first = sewnAnew(usual, a, { spacing: 0.8 });
    expect(wordsOf(first, a)).toMatch(/^color jump \d$/);
  });

  test('without a lock asked for has none, and with another one that', () => {
    const none = sewnAnew(usual, b, { tie: 'none' });
    expect([wordsOf(none, b), wordsOf(none, c)]).toEqual(['4 trim “cut here” jump 1', 'trim stop “lay the patch” jump jump 5']);
    const triangle = sewnAnew(usual, b, { tie: 'triangle' });
    expect(wordsOf(triangle, b)).not.toBe(wordsOf(none, b));
  });

  test('from a stitch that was sewn on goes over by one stitch while that is near, and is cut where it is not', () => {
    const near = threeColumns(
      () => undefined,
      (builder) => builder.trim().jump(24, 0),
    );
    const [first, second] = orderOf(near.plan) as [string, string];
    expect(orderOf(near.plan).length).toBeGreaterThanOrEqual(2);
    const wide = sewnAnew(near, first, { kind: 'run', passes: 1, underlay: [] });
    expect(isSameProgram(wide.program, near.program)).toBe(false);
    const words = wordsOf(wide, second);
    expect(words === '' || /^\d+( trim jump \d+)?$/.test(words)).toBe(true);
    const back = applied(near, { id: 'set-link', object: second, way: 'trim' });
    expect(wordsOf(back, second)).toMatch(/^\d+ trim jump \d$/);
  });

  test('between objects that were no neighbors is made: cut and locked, or carried over where they touch', () => {
    const block = usual.plan.blocks[0]!;
    const moved = applied(usual, { id: 'move-objects', objects: [c], block: block.id, before: b });
    expect(orderOf(moved.plan)).toEqual([a, c, b]);
    // What the operator is told before it is told there, and what ended the file ends it still.
    expect([wordsOf(moved, c), wordsOf(moved, b), wordsOf(moved, null)]).toEqual([
      '4 trim stop “lay the patch” jump 5',
      '4 trim jump 5',
      '4 trim “last cut” end “fin”',
    ]);
    const back = applied(moved, { id: 'move-objects', objects: [c], block: block.id, before: null });
    expect(isSameProgram(back.program, usual.program)).toBe(true);
  });
});
