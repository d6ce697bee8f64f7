import type { AuditContext } from '../../audit/AuditContext.ts';
import type { Fault } from '../../audit/fault.ts';
import type { Design } from '../../model/design.ts';
import type { SimpleOperation } from '../operations/registry.ts';

/** What is to be repaired: faults of one rule that were found on a design, and the limit that they break. */
export interface RepairAsk<F extends Fault = Fault> {
  readonly design: Design;
  readonly context: AuditContext;
  readonly faults: readonly F[];
  readonly limit: number;
}

/** What repairs them, as operations that apply one after another; and which objects could not be repaired, and why. */
export interface Repaired {
  readonly operations: readonly SimpleOperation[];
  readonly refused: readonly { readonly objects: readonly string[]; readonly why: string }[];
}

/** Works out a repair in objects or in their order. Pure; never changes the design. */
export type Repairer = (ask: RepairAsk) => Repaired;

/** A repair among others, whatever its faults carry: only those of its own rule are handed to it. */
export function asRepairer<F extends Fault>(repairer: (ask: RepairAsk<F>) => Repaired): Repairer {
  return repairer as Repairer;
}
