import { expect, test } from '@jest/globals';
import {
  applyOperation,
  defaultTarget,
  type Design,
  isSameProgram,
  Operation,
  orderOf,
  overlapOf,
  readObjectSpec,
  sewSpecs,
  startDesign,
  touchedBetween,
} from '@isola/core';
import { handSet } from './recognition/handSet.ts';
import { someOf, triesOf } from '../packages/core/src/testing/runs.ts';

/** An object sewn more openly, as a step; nothing where its spec cannot be read or it cannot be sewn so. */
function opened(design: Design, object: string): Operation | undefined {
  const spec = readObjectSpec(design, object);
  if (!spec.ok) return undefined;
  const { operations } = sewSpecs(design, [{ object, spec: { ...spec.value, spacing: spec.value.spacing * 1.2 } }]);
  return operations.length === 0 ? undefined : Operation.parse(JSON.parse(JSON.stringify({ id: 'sequence', operations })));
}

function after(design: Design, step: Operation): Design {
  const next = applyOperation(design, step);
  if (!next.ok) throw new Error(next.error);
  return next.value;
}

test('steps of two people on programs of other hands merge to one design, whoever was first, or are told; on one object always told', () => {
  let [merged, told] = [0, 0];
  for (const { name, program } of someOf(handSet('kept')).filter((_, k) => k % 3 === 1)) {
    const design = startDesign(program, defaultTarget());
    const ids = orderOf(design.plan).filter((id) => ['fill', 'satin'].includes(design.plan.objects[id]!.sewn.reading.kind));
    for (const [one, other] of [
      [ids[0], ids.at(-1)],
      [ids[0], ids[1]],
      [ids[0], ids[0]],
    ]) {
      const mine = one === undefined ? undefined : opened(design, one);
      const theirs = other === undefined ? undefined : opened(design, other);
      if (mine === undefined || theirs === undefined) continue;
      const [first, second] = [after(design, mine), after(design, theirs)];
      const overlap = overlapOf(touchedBetween(design, first), touchedBetween(design, second), design);
      if (one === other) expect([name, one, overlap.length > 0]).toEqual([name, one, true]);
      if (overlap.length > 0) {
        told++;
        continue;
      }
      merged++;
      expect([name, one, other, isSameProgram(after(first, theirs).program, after(second, mine).program)]).toEqual([
        name,
        one,
        other,
        true,
      ]);
    }
  }
  expect(merged).toBeGreaterThanOrEqual(triesOf(6));
  expect(told).toBeGreaterThanOrEqual(triesOf(4));
});
