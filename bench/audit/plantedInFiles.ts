import { applyOperation, type ObjectSpec, orderOf, type Program, readObjectSpec, sewSpecs, startDesign, type Target } from '@isola/core';
import { boxOfRing, signedArea } from '../../packages/core/src/geometry/ring.ts';
import type { Planted } from './plantedFaults.ts';

/** How kinds of faults are put into an object of a file of another hand: which objects can have it, and what is sewn instead. */
export const IN_FILES: Readonly<
  Record<
    string,
    { readonly kind: 'fill' | 'satin'; readonly least: number; readonly change: (spec: ObjectSpec, target: Target) => Partial<ObjectSpec> }
  >
> = {
  'too-open': {
    kind: 'fill',
    least: 60,
    change: ({ spacing }, target) => ({ spacing: Math.max(spacing, target.fabric.fillSpacing) * 1.4 }),
  },
  'too-dense': { kind: 'fill', least: 80, change: (_, target) => ({ spacing: target.fabric.fillSpacing * 0.48 }) },
  'no-underlay': { kind: 'fill', least: 60, change: () => ({ underlay: [] }) },
  'wrong-underlay': { kind: 'fill', least: 120, change: () => ({ underlay: [{ kind: 'edge-run' }] }) },
  'underlay-order': { kind: 'fill', least: 120, change: () => ({ underlay: [{ kind: 'edge-run' }, { kind: 'tatami', spacing: 3.5 }] }) },
  'underlay-bulk': { kind: 'fill', least: 120, change: () => ({ underlay: [{ kind: 'tatami', spacing: 1.2 }] }) },
  'underlay-showing': { kind: 'fill', least: 100, change: () => ({ spacing: 1.7, underlay: [{ kind: 'tatami', spacing: 3.5 }] }) },
  'satin: too-open': {
    kind: 'satin',
    least: 25,
    change: ({ spacing }, target) => ({ spacing: Math.max(spacing, target.fabric.satinSpacing) * 1.4 }),
  },
  'satin: too-dense': { kind: 'satin', least: 30, change: (_, target) => ({ spacing: target.fabric.satinSpacing * 0.45 }) },
  'satin: no-underlay': { kind: 'satin', least: 40, change: () => ({ underlay: [] }) },
};

/** An object of a file sewn with a fault, written and read again; nothing where the file has no such object or it cannot be sewn so. */
export function plantInFile(program: Program, target: Target, fault: string, chance: () => number): Planted | undefined {
  const { kind, least, change } = IN_FILES[fault]!;
  const design = startDesign(program, target);
  const fit = orderOf(design.plan).filter((id) => {
    const { reading } = design.plan.objects[id]!.sewn;
    return (
      reading.kind === kind &&
      reading.pattern === undefined &&
      (reading.spacing ?? 9) < 0.75 &&
      Math.abs(signedArea(reading.outline)) >= least &&
      (reading.width?.mean ?? 3) > 1.6
    );
  });
  const id = fit[Math.floor(chance() * fit.length)];
  if (id === undefined) return undefined;
  const spec = readObjectSpec(design, id);
  if (!spec.ok) return undefined;
  const made = sewSpecs(design, [{ object: id, spec: { ...spec.value, ...change(spec.value, target) } }]);
  const next = applyOperation(design, { id: 'sequence', operations: [...made.operations] });
  // Underlay that is sewn before other objects stays where it is: nothing was planted then.
  if (made.operations.length === 0 || !next.ok || made.done.some(({ notes }) => notes.some((note) => note.includes('stay'))))
    return undefined;
  return { design: startDesign(next.value.program, target), box: boxOfRing(design.plan.objects[id]!.sewn.reading.outline) };
}
