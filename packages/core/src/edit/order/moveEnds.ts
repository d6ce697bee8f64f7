import type { Design } from '../../model/design.ts';
import { exitOf, type ObjectId, orderOf } from '../../model/plan.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import type { Point } from '../../model/stitchObject.ts';
import { applyOperation, type SimpleOperation } from '../operations/registry.ts';
import { readObjectSpec, sewSpecs } from '../sewSpecs.ts';
import { type EndsChoice, endsOf } from './objectEnds.ts';
import { linksFor } from './bestWay.ts';
import { type Connector, listConnectors } from './connector.ts';

/** Where an object is to begin or end, mm; what is left out stays. */
export interface WantedEnds {
  readonly from?: Point;
  readonly to?: Point;
}

export interface MovedEnds {
  readonly operations: readonly SimpleOperation[];
  /** Where it begins and ends then: as near to what was wanted as its rows or its shape allow. */
  readonly from: Point;
  readonly to: Point;
  /** Whether its own stitches stay, begun elsewhere. */
  readonly isTurned: boolean;
  /** The ways to it and from it. */
  readonly connectors: readonly Connector[];
}

/**
 * Lets an object begin or end elsewhere: its own stitches turned where they are sewn in one go, else sewn anew from its spec; the ways to its
 * neighbours follow. Refused where its rows begin and end where they do.
 */
export function moveEnds(design: Design, id: ObjectId, wanted: WantedEnds): Result<MovedEnds, string> {
  const { plan } = design;
  const object = plan.objects[id];
  if (object === undefined) return fail('it is part of another object and begins and ends with that');
  const [start, exit] = [object.sewn.start, exitOf(plan.source, object.sewn)];
  const from = wanted.from ?? start;
  const to = wanted.to ?? exit;
  const choices = endsOf(design, id, true);
  const isMeant = wanted.from === undefined ? (c: EndsChoice) => apart(c.to, to) : (c: EndsChoice) => apart(c.from, from);
  const turned = choices.filter(({ how }) => how === 'turned');
  const steps: SimpleOperation[] = [];
  if (turned.length > 0) {
    const best = nearest([choices[0]!, ...turned], isMeant);
    if (best.turn === undefined)
      return fail(
        `${object.name} is sewn with its own stitches, of which none that it could ${wanted.from === undefined ? 'end' : 'begin'} with lies nearer`,
      );
    steps.push(best.turn);
  } else {
    const spec = readObjectSpec(design, id);
    if (!spec.ok) return fail(`its rows begin and end where they do: ${spec.error}`);
    // A column that closes begins and ends at one place.
    const isRing = choices.length > 1 && choices.every(({ from: a, to: b }, k) => k === 0 || a === b);
    const edit = isRing ? nearest(choices.slice(1), isMeant).edit?.() : undefined;
    const made = sewSpecs(design, [edit ?? { object: id, spec: spec.value, ends: { from, to } }]);
    if (made.operations.length === 0) return fail(made.refused[0]?.why ?? 'nothing would change');
    steps.push(...made.operations);
  }
  let next = design;
  for (const step of steps) {
    const applied = applyOperation(next, step);
    if (!applied.ok) return applied;
    next = applied.value;
  }
  const order = orderOf(plan);
  const after = order[order.indexOf(id) + 1];
  const beside = new Set([id, ...(after === undefined ? [] : [after])]);
  for (const step of linksFor(next, beside).operations) {
    const applied = applyOperation(next, step);
    if (!applied.ok) continue;
    next = applied.value;
    steps.push(step);
  }
  const { sewn } = next.plan.objects[id]!;
  return succeed({
    operations: steps,
    ...{ from: sewn.start, to: exitOf(plan.source, sewn), isTurned: turned.length > 0 },
    connectors: listConnectors(next).filter((c) => beside.has(c.to)),
  });
}

function apart(a: Point, b: Point): number {
  return Math.hypot(a.x - b.x, a.y - b.y);
}

function nearest(choices: readonly EndsChoice[], far: (choice: EndsChoice) => number): EndsChoice {
  return choices.reduce((best, choice) => (far(choice) < far(best) - 1e-9 ? choice : best));
}
