import { describe, expect, test } from '@jest/globals';
import {
  applyOperation,
  auditDesign,
  countNodes,
  countProgram,
  defaultTarget,
  type Design,
  drawShapes,
  isSameProgram,
  nodesOf,
  objectsOf,
  type Operation,
  orderOf,
  readShapeAsk,
  type ShapeName,
  startDesign,
} from '@isola/core';
import { readRows } from '../packages/core/src/model/plan.ts';
import { handSet } from './recognition/handSet.ts';
import { IS_GUARD } from '../packages/core/src/testing/runs.ts';

const target = defaultTarget();
// On a commit one that has all kinds in it.
const designs = handSet('kept')
  .filter(({ name }) => IS_GUARD || name === '069-harbor')
  .map(({ name, program }): [string, Design] => [name, startDesign(program, target)])
  .filter(([, design]) => orderOf(design.plan).length >= 2)
  .filter((_, k) => !IS_GUARD || k % 8 === 2);

function coversOf(design: Design) {
  return objectsOf(design.plan).objects.filter(({ id, role }) => role === 'cover' && design.plan.objects[id] !== undefined);
}

let made = 0;
const newId = (): string => `drawn-${++made}`;
function draw(design: Design, name: ShapeName, values: Record<string, unknown>) {
  const ask = readShapeAsk(name, values);
  if (!ask.ok) throw new Error(ask.error);
  return drawShapes(design, ask.value, newId);
}

/** An object's own penetrations. */
function rowsOf({ plan }: Design, id: string): readonly number[] {
  const { program, first, end } = readRows(plan.source, plan.objects[id]!.sewn.rows);
  return [...program.x.subarray(first, end), ...program.y.subarray(first, end)];
}

/** The box around an object's own penetrations, mm. */
function boxOf(design: Design, id: string): [number, number, number, number] {
  const rows = rowsOf(design, id);
  const [xs, ys] = [rows.slice(0, rows.length / 2), rows.slice(rows.length / 2)];
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
}

/** What is drawn makes no stitch that the machine cannot, says what it did, holds in a journal, and leaves what it does not speak of as it came. */
function holds(design: Design, drawn: ReturnType<typeof drawShapes>, changed: readonly string[] = []): Design {
  if (!drawn.ok) throw new Error(drawn.error);
  const { operations, design: after } = drawn.value;
  const longest = (d: Design): number => countProgram(d.program).longestStitch;
  expect(longest(after)).toBeLessThanOrEqual(Math.max(target.machine.maxStitch, longest(design)) + 0.05);
  const sent = JSON.parse(JSON.stringify({ id: 'sequence', operations })) as Operation;
  const again = applyOperation(design, sent);
  expect(again.ok && isSameProgram(again.value.program, after.program)).toBe(true);
  for (const id of orderOf(design.plan)) {
    if (changed.includes(id) || after.plan.objects[id] === undefined) continue;
    expect([id, rowsOf(after, id)]).toEqual([id, rowsOf(design, id)]);
  }
  return after;
}

describe('shapes drawn on programs of other hands', () => {
  test('are there to be drawn on', () => expect(designs.length).toBeGreaterThanOrEqual(IS_GUARD ? 3 : 1));

  test.each(designs)('%s: gets a border, a backing and a layer for its pile around all that it is', (_, design) => {
    const before = countProgram(design.program).extents;
    for (const [name, wider] of [
      ['border', 5],
      ['backing', 3],
      ['nap', 2],
    ] as const) {
      const after = holds(design, draw(design, name, {}));
      const { minX, maxX, minY, maxY } = countProgram(after.program).extents;
      // Wider on every side by what was asked, as far as its edge is told from its stitches.
      for (const grown of [before.minX - minX, maxX - before.maxX, before.minY - minY, maxY - before.maxY]) {
        expect(grown).toBeGreaterThan(wider - 1);
        expect(grown).toBeLessThan(wider + 1);
      }
    }
  });

  test.each(designs)('%s: is scaled with its spacings kept, whatever its objects are', (_, design) => {
    const before = countProgram(design.program).extents;
    for (const factor of [0.8, 1.25]) {
      const after = holds(design, draw(design, 'scale', { factor }), orderOf(design.plan));
      const { width, height } = countProgram(after.program).extents;
      expect([width / before.width / factor, height / before.height / factor].map((share) => Math.abs(share - 1) < 0.05)).toEqual([
        true,
        true,
      ]);
      expect(coversOf(after).map(({ id }) => id)).toEqual(coversOf(design).map(({ id }) => id));
      for (const { id, spacing } of coversOf(after)) {
        const was = design.plan.objects[id]!.sewn.reading.spacing;
        if (was !== undefined && spacing !== undefined) expect([id, Math.abs(spacing / was - 1) < 0.03]).toEqual([id, true]);
      }
    }
  });

  test.each(designs)('%s: opens by few nodes, is cut in two, turned there and back, and moved, whatever its objects are', (_, design) => {
    for (const { id, kind } of coversOf(design)) {
      const nodes = nodesOf(design, id);
      if (!nodes.ok) expect([kind, nodes.error]).toEqual(['other', expect.any(String)]);
      else
        for (const line of nodes.value.lines) {
          expect(countNodes(line)).toBeLessThan(400);
          expect(line.every((v) => Number.isFinite(v))).toBe(true);
        }
    }
    const largest = coversOf(design).reduce((a, b) => (b.stitches > a.stitches ? b : a));
    const [left, low, right, high] = boxOf(design, largest.id);
    const cut = draw(design, 'cut', { object: largest.id, along: [left - 5, low - 5, right + 5, high + 5] });
    if (cut.ok) {
      const after = holds(design, cut, [largest.id]);
      expect(cut.value.made.length).toBeGreaterThan(0);
      const [a, b, c, d] = boxOf(design, largest.id);
      for (const id of [largest.id, ...cut.value.made]) {
        const [x0, y0, x1, y1] = boxOf(after, id);
        expect([x0 > a - 1, y0 > b - 1, x1 < c + 1, y1 < d + 1]).toEqual([true, true, true, true]);
      }
    } else expect(cut.error).toMatch(/misses|could not be told|no |thin|nothing/);
    // Four quarter turns lead back to the last decimal, and leave all others as they came.
    let turned = design;
    for (let k = 0; k < 4; k++) turned = holds(turned, draw(turned, 'place', { objects: [largest.id], turn: 90 }), [largest.id]);
    expect(rowsOf(turned, largest.id).map((v) => v.toFixed(3))).toEqual(rowsOf(design, largest.id).map((v) => v.toFixed(3)));
    const moved = holds(design, draw(design, 'place', { dx: 7, dy: -4 }), orderOf(design.plan));
    expect(countProgram(moved.program).stitches).toBe(countProgram(design.program).stitches);
    const mirrored = holds(design, draw(design, 'place', { mirror: 'ends' }), orderOf(design.plan));
    expect(coversOf(mirrored).map(({ id, kind, stitches }) => [id, kind, stitches])).toEqual(
      coversOf(design).map(({ id, kind, stitches }) => [id, kind, stitches]),
    );
  });

  test.each(designs)('%s: is outlined where it has edges, and loses an object without harm to the others', (_, design) => {
    const covers = coversOf(design).map(({ id }) => id);
    const outlined = draw(design, 'outline', { objects: covers, as: 'triple', overlap: 'trimmed' });
    if (outlined.ok) {
      const after = holds(design, outlined);
      for (const id of outlined.value.made) expect(after.plan.objects[id]!.name).toMatch(/^Outline of /);
    } else expect(outlined.error).toMatch(/only areas and columns|too narrow/);
    const [first] = covers;
    const removed = draw(design, 'remove', { objects: [first] });
    if (!removed.ok) return expect(removed.error).toMatch(/nothing would be left/);
    const after = holds(design, removed);
    expect(after.plan.objects[first!]).toBeUndefined();
    // Locks at the new ends: no end of thread is loose that was not before.
    const loose = (d: Design): number => auditDesign(d).find(({ rule }) => rule === 'missing-tie')?.places.length ?? 0;
    expect(loose(after)).toBeLessThanOrEqual(loose(design) + 1);
  });
});
