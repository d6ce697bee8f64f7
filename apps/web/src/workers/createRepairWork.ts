import { applyOperation, compareFindings, type Design, type Operation, planOfRepair, repairFindings, type RepairPlan } from '@isola/core';
import { transfer } from 'comlink';
import { buffersOf } from './designViews.ts';
import type { DesignView, EngineApi, PlanRequest, SpecRefusal, Trial } from './protocol.ts';

/** What the engine has in hand. */
interface InHand {
  readonly design: () => Design;
  /** The whole of a design, findings and all. */
  readonly view: (design: Design) => DesignView;
  /** What is tried from now on. */
  readonly setTrial: (design: Design) => void;
}

/** The part of the engine that works out repairs, of single findings and of the whole design. */
export function createRepairWork({ design, view, setTrial }: InHand): Pick<EngineApi, 'tryRepairs' | 'planRepairs'> {
  /** The plan asked for last, so that its steps can be walked through. */
  let known: { readonly on: Design; readonly request: string; readonly plan: RepairPlan } | undefined;

  function planFor(request: PlanRequest): RepairPlan {
    const [on, key] = [design(), JSON.stringify(request)];
    if (known?.on !== on || known.request !== key)
      known = { on, request: key, plan: planOfRepair(on, { without: new Set(request.without), isFree: request.isFree }) };
    return known.plan;
  }

  function findingsOf(on: Design) {
    return view(on).findings;
  }

  return {
    tryRepairs(keys, place): Promise<Trial | SpecRefusal | undefined> {
      const wanted = new Set(keys);
      const on = design();
      const repair = repairFindings(on, (finding) => wanted.has(finding.key), place === undefined ? undefined : (key) => key === place);
      if (repair.operations.length === 0) {
        const whys = [...new Set(repair.refused.map(({ why }) => why))];
        return Promise.resolve(whys.length === 0 ? undefined : { why: whys.join('; ') });
      }
      setTrial(repair.design);
      const after = view(repair.design);
      const operation =
        repair.operations.length === 1 ? repair.operations[0]! : { id: 'sequence' as const, operations: [...repair.operations] };
      const { applied, refused } = repair;
      const name =
        applied.length === 1 ? applied[0]!.change : `${applied.length} repairs: ${[...new Set(applied.map((a) => a.rule))].join(', ')}`;
      const changes = compareFindings(findingsOf(on), after.findings);
      return Promise.resolve(transfer({ after, operation, applied, refused, name, changes }, buffersOf(after)));
    },

    planRepairs(request, upTo): Promise<Trial> {
      const on = design();
      const plan = planFor(request);
      const { steps, design: last, ...rest } = plan;
      const shown = Math.min(upTo ?? steps.length, steps.length);
      const operations = steps.slice(0, shown).flatMap((step) => step.operations);
      const operation: Operation = { id: 'sequence', operations };
      const next = shown === steps.length ? { ok: true as const, value: last } : applyOperation(on, operation);
      if (!next.ok) throw new Error(`a step of the plan does not fit its own design: ${next.error}`);
      setTrial(next.value);
      const after = view(next.value);
      const report = { ...rest, isFree: request.isFree, upTo: shown, steps: steps.map(({ operations: _, ...step }) => step) };
      const name = `repaired by plan: ${steps
        .slice(0, shown)
        .map(({ title }) => title.toLowerCase())
        .join(', ')}`.slice(0, 190);
      return Promise.resolve(transfer({ after, operation, applied: [], refused: [], name, plan: report }, buffersOf(after)));
    },
  };
}
