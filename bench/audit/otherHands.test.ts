import { describe, expect, test } from '@jest/globals';
import {
  applyOperation,
  auditDesign,
  bandsOf,
  type Design,
  type Finding,
  isSameProgram,
  objectsOf,
  Operation,
  orderOf,
  planOfRepair,
  readObjectSpec,
  repairFindings,
  sewSpecs,
  startDesign,
  type StitchObject,
  suggestSpec,
} from '@isola/core';
import { DEMO_JOBS } from '../../demo/jobs.ts';
import { handSet } from '../recognition/handSet.ts';
import { CLOTHS, targetOn } from './soundSet.ts';
import { someOf, triesOf } from '../../packages/core/src/testing/runs.ts';

// The audit on programs that nobody here stitched. What is right of one hand is right of all: repairs do what they say, and no harm.

const designs = someOf(handSet('kept'))
  .map(({ name, program }, k): [string, Design] => [name, startDesign(program, targetOn(CLOTHS[k % CLOTHS.length]!))])
  .filter(([, design]) => orderOf(design.plan).length >= 2);
const some = designs.filter((_, k) => k % 4 === 1);

const coversOf = (design: Design): StitchObject[] => objectsOf(design.plan).objects.filter(({ role }) => role === 'cover');
const sequence = (operations: readonly unknown[]): Operation => Operation.parse(JSON.parse(JSON.stringify({ id: 'sequence', operations })));

function applied(design: Design, operations: readonly unknown[]): Design {
  const next = applyOperation(design, sequence(operations));
  if (!next.ok) throw new Error(next.error);
  return next.value;
}

describe('findings on programs of other hands', () => {
  test('name objects that are there, say a figure that breaks its limit, and lie in the design', () => {
    expect(designs.length).toBeGreaterThanOrEqual(triesOf(16));
    for (const [name, design] of designs) {
      const ids = new Set(objectsOf(design.plan).objects.map(({ id }) => id));
      const { x, y, rowCount } = design.program;
      const [minX, maxX] = [x.reduce((a, b) => Math.min(a, b)), x.reduce((a, b) => Math.max(a, b))];
      const [minY, maxY] = [y.reduce((a, b) => Math.min(a, b)), y.reduce((a, b) => Math.max(a, b))];
      for (const { rule, message, reason, objects, places, rows, measured, limit } of auditDesign(design)) {
        expect([name, rule, objects.every((id) => ids.has(id))]).toEqual([name, rule, true]);
        expect([name, rule, places.length > 0, rows.every((row) => row >= 0 && row < rowCount)]).toEqual([name, rule, true, true]);
        for (const place of places) {
          const isInside = place.x >= minX - 1 && place.x <= maxX + 1 && place.y >= minY - 1 && place.y <= maxY + 1;
          expect([name, rule, isInside]).toEqual([name, rule, true]);
        }
        expect([name, rule, /undefined|NaN|Infinity/.test(message + reason)]).toEqual([name, rule, false]);
        expect([name, rule, Number.isFinite(measured), Number.isFinite(limit)]).toEqual([name, rule, true, true]);
      }
    }
  });

  test('of one cause stand once: no throw of a wide satin is a long stitch, nothing without underlay has the wrong one', () => {
    for (const [name, design] of designs) {
      const found = new Map(auditDesign(design).map((f) => [f.rule, f]));
      const objects = (rule: string): Set<string | undefined> => new Set(found.get(rule)?.places.map(({ object }) => object));
      const both = (a: string, b: string): string[] => [...objects(a)].filter((id): id is string => id !== undefined && objects(b).has(id));
      for (const [a, b] of [
        ['wide-satin', 'long-stitch'],
        ['wide-satin', 'satin-should-be-fill'],
        ['no-underlay', 'wrong-underlay'],
        ['thin-satin', 'detail-too-small'],
      ] as const)
        expect([name, a, b, both(a, b)]).toEqual([name, a, b, []]);
    }
  });

  test('are found again by the same keys on the same file, so that what was settled stays settled', () => {
    const keys = (findings: readonly Finding[]): string[] => findings.flatMap(({ places }) => places.map(({ key }) => key));
    for (const [name, design] of some) {
      const again = startDesign(design.plan.source, design.target);
      expect([name, keys(auditDesign(again))]).toEqual([name, keys(auditDesign(design))]);
      const [finding] = auditDesign(design).filter(({ places }) => places.length > 0);
      if (finding === undefined) continue;
      const { rule, message: title } = finding;
      const kept = applied(design, [{ id: 'keep-finding', places: [...new Set(keys([finding]))], rule, title, reason: 'sewn so before' }]);
      expect([name, auditDesign(kept).some((f) => f.rule === rule)]).toEqual([name, false]);
    }
  });
});

describe('repairs on programs of other hands', () => {
  test.each(some)('%s: the plan removes what it claims, adds no stop, and is the same after a way through JSON', (_, design) => {
    const plan = planOfRepair(design);
    expect(plan.gone).toBeGreaterThanOrEqual(0.9 * plan.claimed);
    expect(plan.after.stop).toBeLessThanOrEqual(plan.before.stop);
    for (const { after } of plan.steps) expect(after.stop).toBeLessThanOrEqual(plan.before.stop);
    const again = applied(
      design,
      plan.steps.flatMap(({ operations }) => operations),
    );
    expect(isSameProgram(again.program, plan.design.program)).toBe(true);
    // Whatever was repaired, each object is still there once, and the file itself as it came.
    expect([...orderOf(plan.design.plan)].sort()).toEqual([...orderOf(design.plan)].sort());
    expect(plan.design.plan.source).toBe(design.plan.source);
  });

  test('what costs nothing adds no stitch and makes nothing worse', () => {
    for (const [name, design] of some) {
      const { before, after, changed } = planOfRepair(design, { isFree: true });
      expect([name, after.stitches <= before.stitches, after.stop <= before.stop, after.fix <= before.fix]).toEqual([
        name,
        true,
        true,
        true,
      ]);
      expect(changed).toBeLessThanOrEqual(0.002);
    }
  });

  test('merging tiny stitches leaves the edges of fills and the turns of their rows as they are', () => {
    let fills = 0;
    for (const [name, design] of designs) {
      const { design: after } = repairFindings(design, ({ rule }) => rule === 'tiny-stitch');
      const byId = new Map(coversOf(after).map((object) => [object.id, object]));
      for (const { id, kind, outline, spacing } of coversOf(design)) {
        const now = byId.get(id);
        if (kind !== 'fill' || now === undefined) continue;
        fills++;
        expect([name, id, [...now.outline].map((v) => v.toFixed(2)).join()]).toEqual([
          name,
          id,
          [...outline].map((v) => v.toFixed(2)).join(),
        ]);
        expect(now.spacing).toBe(spacing);
      }
    }
    expect(fills).toBeGreaterThan(triesOf(30));
  });
});

/** Rules that the values of a spec decide by themselves. */
const BY_SPEC = ['too-open', 'no-underlay', 'wrong-underlay', 'underlay-order', 'wide-satin', 'satin-should-be-fill'];

describe('one truth', () => {
  const demo = someOf(DEMO_JOBS.filter(({ file }) => file !== 'chainring')).map(({ file, target, draw }): [string, Design] => [
    file,
    startDesign(draw().program, target),
  ]);

  test.each([...demo, ...some])('%s: what is sewn as its cloth wants it leaves no finding that its spec decides', (_, design) => {
    const covers = coversOf(design).filter(({ kind, pattern }) => (kind === 'satin' || kind === 'fill') && pattern === undefined);
    // A few of each design, so that all of them can be looked at.
    for (const object of covers.filter((__, k) => k % Math.ceil(covers.length / 4) === 0)) {
      const spec = readObjectSpec(design, object.id);
      if (!spec.ok) continue;
      const needs = object.width === undefined ? {} : { width: object.width.mean };
      const { spec: wanted } = suggestSpec(spec.value, design.target, needs);
      const made = sewSpecs(design, [{ object: object.id, spec: wanted }]);
      if (made.operations.length === 0 || made.done[0]!.notes.length > 0) continue;
      const after = applied(design, made.operations);
      // A column whose edges were read out of step is sewn otherwise than it was, whatever its spec.
      const width = after.plan.objects[object.id]!.sewn.reading.width?.mean;
      if (width !== undefined && object.width !== undefined && Math.abs(width - object.width.mean) > 0.2 * object.width.mean) continue;
      const left = auditDesign(after).filter(({ rule, places }) => BY_SPEC.includes(rule) && places.some((p) => p.object === object.id));
      expect([object.id, wanted.kind, left.map(({ message }) => message)]).toEqual([object.id, wanted.kind, []]);
      // And the spec's own bands find nothing to put right either.
      const bands = bandsOf(wanted, design.target);
      if (bands.spacing !== undefined) {
        expect(wanted.spacing).toBeGreaterThanOrEqual(bands.spacing.low - 0.016);
        expect(wanted.spacing).toBeLessThanOrEqual(bands.spacing.high + 0.016);
      }
    }
  });
});
