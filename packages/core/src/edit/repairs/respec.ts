import type { ObjectFault } from '../../audit/rules/objectFault.ts';
import type { Design } from '../../model/design.ts';
import type { ObjectShape, ObjectSpec } from '../../model/objectSpec.ts';
import { applyOperation, type SimpleOperation } from '../operations/registry.ts';
import { readObjectSpec, type SpecEdit, sewSpecs } from '../sewSpecs.ts';
import { asRepairer, type Repaired, type RepairAsk, type Repairer } from './repairer.ts';

type Ask = RepairAsk<ObjectFault>;

/** What an object is to be sewn like, or why it is left, in words. */
export type Respec = (spec: ObjectSpec, fault: ObjectFault, ask: Ask) => ObjectSpec | Pick<SpecEdit, 'spec' | 'shape'> | string;

/** A repair that sews each object of its faults anew from a changed spec. */
export function respecting(change: Respec): Repairer {
  return asRepairer<ObjectFault>((ask) => {
    const edits: SpecEdit[] = [];
    const refused: { objects: string[]; why: string }[] = [];
    const seen = new Set<string>();
    for (const fault of ask.faults) {
      if (seen.has(fault.object)) continue;
      seen.add(fault.object);
      const spec = specOf(ask.design, fault);
      const changed = typeof spec === 'string' ? spec : change(spec, fault, ask);
      if (typeof changed === 'string') refused.push({ objects: [fault.object], why: `${fault.of.name}: ${changed}` });
      else edits.push({ object: fault.object, ...('kind' in changed ? { spec: changed } : changed) });
    }
    return sewEdits(ask.design, edits, refused);
  });
}

function specOf(design: Design, { object, of }: ObjectFault): ObjectSpec | string {
  if (design.plan.objects[object] === undefined) return `${of.name} is a part of another object`;
  const spec = readObjectSpec(design, object);
  return spec.ok ? spec.value : spec.error;
}

/** Objects sewn anew, as operations. */
export function sewEdits(design: Design, edits: readonly SpecEdit[], refused: Repaired['refused'] = []): Repaired {
  const sewn = sewSpecs(design, edits);
  const operations: SimpleOperation[] = [];
  const strange: { objects: string[]; why: string }[] = [];
  for (const [k, { object, name }] of sewn.done.entries()) {
    if (keepsItsWidth(design, sewn.operations[k]!, object)) operations.push(sewn.operations[k]!);
    else
      strange.push({ objects: [object], why: `${name}: sewn anew its column would not be as wide as it is; its edges could not be told` });
  }
  return {
    operations,
    refused: [...refused, ...strange, ...sewn.refused.map(({ object, name, why }) => ({ objects: [object], why: `${name}: ${why}` }))],
  };
}

/** A column that is sewn anew may get wider or narrower by this share, besides what is added as compensation. */
const SAME_WIDTH = 0.2;

/** Whether a column that stays one is about as wide after it is sewn anew: where its edges were read out of step it is not, and no repair. */
function keepsItsWidth(design: Design, operation: SimpleOperation, id: string): boolean {
  const was = design.plan.objects[id]!.sewn;
  const next = applyOperation(design, operation);
  const now = next.ok ? next.value.plan.objects[id]!.sewn : was;
  const [before, after] = [was.reading.width?.mean, now.reading.width?.mean];
  if (before === undefined || after === undefined) return true;
  const added = 2 * ((now.made?.spec.pull ?? 0) - (was.made?.spec.pull ?? 0));
  return Math.abs(after - before - added) <= SAME_WIDTH * before + MEASURED_TO;
}

/** Widths are measured to this, mm. */
const MEASURED_TO = 0.15;

/** A length as a machine can sew it, mm. */
export function hundredth(value: number): number {
  return Math.round(value * 100) / 100;
}

/** A line without the prongs that were found on it, so that they are laid out anew. */
export function withoutProngs(shape: ObjectShape): ObjectShape {
  return shape.kind === 'line' ? { kind: 'line', path: shape.path } : shape;
}
