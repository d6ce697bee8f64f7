import type { ObjectFault } from '../../audit/rules/objectFault.ts';
import type { Design } from '../../model/design.ts';
import type { ObjectShape, ObjectSpec } from '../../model/objectSpec.ts';
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
  return {
    operations: sewn.operations,
    refused: [...refused, ...sewn.refused.map(({ object, name, why }) => ({ objects: [object], why: `${name}: ${why}` }))],
  };
}

/** A length as a machine can sew it, mm. */
export function hundredth(value: number): number {
  return Math.round(value * 100) / 100;
}

/** A line without the prongs that were found on it, so that they are laid out anew. */
export function withoutProngs(shape: ObjectShape): ObjectShape {
  return shape.kind === 'line' ? { kind: 'line', path: shape.path } : shape;
}
