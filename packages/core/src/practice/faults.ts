import { pitchFactor } from '../materials/pitchFactor.ts';
import { OPEN_FROM } from '../materials/specBands.ts';
import type { ObjectSpec } from '../model/objectSpec.ts';
import type { Target } from '../model/target.ts';

/** A fault that an object can be sewn with: the rule that it breaks, which objects can have it, and what is sewn instead. Areas in mm². */
export interface SpecFault {
  readonly rule: string;
  readonly kind: 'fill' | 'satin';
  readonly least: number;
  /** How broad (mm, twice the area by its edge) an object is at least that anybody sews so: rows far apart need room to be rows. */
  readonly broad?: number;
  /** It is one only where nothing else holds the object: not on top of other closed stitching. */
  readonly isOfItsBase?: true;
  /** What was done to it, as who planted it would say. */
  readonly words: string;
  readonly change: (spec: ObjectSpec, target: Target) => Partial<ObjectSpec>;
}

/** Faults of specs that any file can be given. */
export const SPEC_FAULTS: readonly SpecFault[] = [
  {
    ...{ rule: 'too-open', kind: 'fill', least: 60, words: 'its rows were drawn apart until the cloth shows' },
    // Still a closed fill: farther apart it would be one that is meant to be open.
    change: ({ spacing }, target) => ({
      spacing: Math.min(Math.max(spacing, target.fabric.fillSpacing) * 1.4, 0.97 * OPEN_FROM * pitchFactor(target.thread)),
    }),
  },
  {
    ...{ rule: 'too-dense', kind: 'fill', least: 80, words: 'its rows were pushed together: stiff, and twice the stitches' },
    change: (_, target) => ({ spacing: target.fabric.fillSpacing * 0.48 }),
  },
  {
    ...{ rule: 'no-underlay', kind: 'fill', least: 60, isOfItsBase: true, words: 'its underlay was taken away' },
    change: () => ({ underlay: [] }),
  },
  {
    ...{ rule: 'wrong-underlay', kind: 'fill', least: 120, isOfItsBase: true, words: 'of its underlay only an edge run was left' },
    change: () => ({ underlay: [{ kind: 'edge-run' }] }),
  },
  {
    ...{ rule: 'underlay-order', kind: 'fill', least: 120, broad: 4, words: 'its edge run was put before its tatami' },
    change: () => ({ underlay: [{ kind: 'edge-run' }, { kind: 'tatami', spacing: 3.5 }] }),
  },
  {
    ...{ rule: 'underlay-bulk', kind: 'fill', least: 120, broad: 4, words: 'its tatami underlay was made three times as dense' },
    change: () => ({ underlay: [{ kind: 'tatami', spacing: 1.2 }] }),
  },
  {
    ...{ rule: 'underlay-showing', kind: 'fill', least: 100, broad: 6, words: 'it was opened and its underlay left in' },
    change: () => ({ spacing: 1.7, underlay: [{ kind: 'tatami', spacing: 3.5 }] }),
  },
  {
    ...{ rule: 'too-open', kind: 'satin', least: 25, words: 'its throws were drawn apart until the cloth shows' },
    change: ({ spacing }, target) => ({ spacing: Math.max(spacing, target.fabric.satinSpacing) * 1.4 }),
  },
  {
    ...{ rule: 'too-dense', kind: 'satin', least: 30, words: 'its throws were pushed together until they cut the cloth' },
    change: (_, target) => ({ spacing: target.fabric.satinSpacing * 0.45 }),
  },
  {
    ...{ rule: 'no-underlay', kind: 'satin', least: 40, isOfItsBase: true, words: 'its underlay was taken away' },
    change: () => ({ underlay: [] }),
  },
];
