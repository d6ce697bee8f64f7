import { AuditContext } from '../../audit/AuditContext.ts';
import type { Fault } from '../../audit/fault.ts';
import type { PairFault } from '../../audit/rules/objectFault.ts';
import { distanceOut, middleOfCap } from '../../audit/rules/order/centerOut.ts';
import type { Design } from '../../model/design.ts';
import { type ObjectId, orderOf } from '../../model/plan.ts';
import type { ProgramThread } from '../../model/program.ts';
import { findSeenLayers } from '../../order/seenLayers.ts';
import { brokenBy, recolorBlock, sewBefore } from '../order/arrange.ts';
import { proposeWay } from '../order/bestWay.ts';
import { proposeOrder } from '../order/proposeOrder.ts';
import { regroupApplique } from '../order/regroupApplique.ts';
import { printOrder } from '../operations/printOf.ts';
import { applyOperation, type SimpleOperation } from '../operations/registry.ts';
import { asRepairer, type Repairer } from './repairer.ts';

export const gatherThreads: Repairer = ({ design }) => {
  const { operations } = proposeOrder(design, { parts: ['colors'] });
  return { operations, refused: operations.length > 0 ? [] : [{ objects: [], why: 'what is locked or stopped for keeps them apart' }] };
};

/** Sews what one thread can sew with that one: all blocks of the later thread, and each of them gathered with those before where layers allow. */
export const mergeColors: Repairer = asRepairer<Fault & { readonly thread: ProgramThread; readonly like: ProgramThread }>(
  ({ design, faults }) => {
    const made = new Steps(design);
    for (const { thread, like } of faults)
      for (const { id, thread: own } of made.design.plan.blocks)
        if (own?.color === thread.color && own.name === thread.name) made.take(recolorBlock(made.design.plan, id, like));
    for (const operation of proposeOrder(made.design, { parts: ['colors'] }).operations) made.take({ ok: true, value: operation });
    return { operations: made.operations, refused: [] };
  },
);

export const marksToFront: Repairer = ({ design, faults }) => {
  const marks = new Set(faults.flatMap(({ object }) => (object === undefined ? [] : [object])));
  const first = orderOf(design.plan).find((id) => !marks.has(id));
  if (first === undefined) return { operations: [], refused: [] };
  const made = new Steps(design);
  made.take(sewBefore(design.plan, [...marks], first));
  return { operations: made.operations, refused: [] };
};

export const byStep: Repairer = ({ design }) => {
  const regrouped = regroupApplique(design);
  return regrouped.ok
    ? { operations: regrouped.value.operations, refused: [] }
    : { operations: [], refused: [{ objects: [], why: regrouped.error }] };
};

/** Sews each object right after the one that it was found against; `isFree` lets what lies on what change for it. */
function sewAfter(isFree: boolean): Repairer {
  return asRepairer<PairFault>(({ design, faults }) => {
    const made = new Steps(design);
    const refused: { objects: string[]; why: string }[] = [];
    for (const { object, other, of } of faults) {
      const { plan } = made.design;
      const order = orderOf(plan);
      const next = order[order.indexOf(other) + 1] ?? null;
      if (next === object || order.indexOf(object) > order.indexOf(other)) continue;
      const moved = sewBefore(plan, [object], next);
      const after = moved.ok ? applyOperation(made.design, moved.value) : moved;
      const broken = !after.ok || isFree ? [] : brokenBy(findSeenLayers(plan), orderOf(after.value.plan));
      if (plan.objects[object]?.isLocked === true) refused.push({ objects: [object], why: `${of.name} is locked where it is` });
      else if (!after.ok) refused.push({ objects: [object], why: after.error });
      else if (broken.length > 0) refused.push({ objects: [object], why: `${of.name} would come out on top of what belongs over it` });
      else made.take(moved);
    }
    return { operations: made.operations, refused };
  });
}

export const sewOnTop: Repairer = sewAfter(true);
export const sewAfterLarge: Repairer = sewAfter(false);

/** From the middle of a cap outward, and up from the brim, within what lies on what and without a thread more. */
export const fromCenterOut: Repairer = ({ design }) => {
  const { plan } = design;
  const context = new AuditContext(design);
  const middle = middleOfCap(context);
  const far = new Map(plan.blocks.flatMap(({ objects }) => objects).map((id) => [id, distanceOut(plan.objects[id]!.sewn.reading, middle)]));
  const { ids, layers } = findSeenLayers(plan);
  const under = new Map(ids.map((id): [ObjectId, ObjectId[]] => [id, []]));
  for (const layer of layers) under.get(ids[layer.over]!)!.push(ids[layer.under]!);
  const blocks = plan.blocks.map((block) => {
    const left = new Set(block.objects);
    const order: ObjectId[] = [];
    while (left.size > 0) {
      const free = [...left].filter((id) => under.get(id)!.every((below) => !left.has(below)));
      const next = free.reduce((a, b) => (far.get(b)! < far.get(a)! ? b : a));
      order.push(next);
      left.delete(next);
    }
    return { ...block, objects: order };
  });
  const made = new Steps(design);
  made.take({ ok: true, value: { id: 'set-order', was: printOrder(plan), blocks } });
  // Whole threads change places where nothing of one lies on the other.
  for (let k = 0; k < made.design.plan.blocks.length; k++) {
    const { blocks: now } = made.design.plan;
    const nearest = (at: number): number => Math.min(...now[at]!.objects.map((id) => far.get(id)!));
    const candidates = now.map((_, at) => at).filter((at) => at > k && nearest(at) < nearest(k) - 1e-6);
    for (const at of candidates.sort((a, b) => nearest(a) - nearest(b))) {
      const swapped = [...now.slice(0, k), now[at]!, ...now.slice(k, at), ...now.slice(at + 1)];
      const order = swapped.flatMap(({ objects }) => objects);
      if (brokenBy({ ids, layers }, order).length > 0) continue;
      made.take({
        ok: true,
        value: { id: 'set-order', was: printOrder(made.design.plan), blocks: swapped.map((b) => ({ ...b, objects: [...b.objects] })) },
      });
      break;
    }
  }
  return { operations: made.operations, refused: [] };
};

/** Ends and ways of some objects, found anew: one stitch, a path that stitching hides, or a cut. */
export const findWays: Repairer = asRepairer(({ design, context, faults }) => {
  const only = new Set(
    faults.flatMap(({ object, other, row }) => [object ?? context.objectAt(row), other].filter((id) => id !== undefined)),
  );
  const { operations } = proposeOrder(design, { parts: ['connectors'], only });
  return {
    operations,
    refused: operations.length > 0 ? [] : [{ objects: [...only].slice(0, 24), why: 'nothing that is sewn later hides a way between them' }],
  };
});

/** Walks on under what is sewn later instead of cutting, with all ends where they are; what cannot be found so is looked for with ends that may move. */
export const walkOn: Repairer = asRepairer((ask) => {
  const made = new Steps(ask.design);
  const left: Fault[] = [];
  for (const fault of ask.faults) {
    const way = fault.object === undefined ? undefined : proposeWay(made.design, fault.object, false);
    if (way?.ok !== true || way.value.operation.id !== 'set-link' || !made.take({ ok: true, value: way.value.operation })) left.push(fault);
  }
  if (left.length === 0) return { operations: made.operations, refused: [] };
  const more = findWays({ ...ask, design: made.design, context: new AuditContext(made.design), faults: left });
  return { operations: [...made.operations, ...more.operations], refused: more.refused };
});

/** Operations that are applied as they are found. */
class Steps {
  design: Design;
  readonly operations: SimpleOperation[] = [];

  constructor(design: Design) {
    this.design = design;
  }

  take(operation: { readonly ok: true; readonly value: SimpleOperation } | { readonly ok: false; readonly error: string }): boolean {
    const next = operation.ok ? applyOperation(this.design, operation.value) : operation;
    if (!operation.ok || !next.ok) return false;
    this.design = next.value;
    this.operations.push(operation.value);
    return true;
  }
}
