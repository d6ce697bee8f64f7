import { AuditContext } from '../../audit/AuditContext.ts';
import { auditDesign } from '../../audit/auditDesign.ts';
import type { Design, KeptFinding } from '../../model/design.ts';
import type { Plan } from '../../model/plan.ts';
import type { Result } from '../../model/result.ts';
import { adoptProgram } from '../../plan/adoptProgram.ts';
import { assemble } from '../../plan/assemble.ts';
import { designOf } from '../../plan/designOf.ts';
import { type RecognizeOptions, recognizeProgram } from '../../recognize/recognizeProgram.ts';
import { applyOperation, type SimpleOperation } from '../operations/registry.ts';
import { joinObjects, splitObject, tellObject } from '../regroup.ts';
import type { RowDesign } from './replayRowJournal.ts';
import type { RebuiltRows, RowDecision } from './rowEntry.ts';

/**
 * The last state of a journal of rows as a plan, on which work goes on: its rows are recognized, what was rebuilt from a spec keeps that spec, what was
 * decided about objects is decided again, and findings that were kept stay so at the places that they have now. The rows are those of that state.
 */
export function adoptRowDesign(state: RowDesign, options: RecognizeOptions = {}): Design {
  const { program, target, decisions, rebuilt, kept } = state;
  let plan = adoptProgram(program, recognizeProgram(program, options));
  for (const object of rebuilt) plan = withSpec(plan, object);
  let design = designOf(plan, target);
  for (const [k, decision] of decisions.entries()) design = decide(design, decision, `d${k + 1}`);
  return designOf(design.plan, target, keepAgain(design, kept));
}

/** The object that most of the rows lie in is known by the spec that they were sewn from. */
function withSpec(plan: Plan, { first, last, spec, shape }: RebuiltRows): Plan {
  const inside = (place: { first: number; end: number }): number => Math.min(place.end, last + 1) - Math.max(place.first, first);
  const place = assemble(plan).places.reduce((a, b) => (inside(b) > inside(a) ? b : a));
  if (inside(place) <= (last + 1 - first) / 2) return plan;
  const object = plan.objects[place.id]!;
  return { ...plan, objects: { ...plan.objects, [place.id]: { ...object, sewn: { ...object.sewn, made: { spec, shape } } } } };
}

function decide(design: Design, decision: RowDecision, newId: string): Design {
  const { places } = assemble(design.plan);
  const at = (row: number): number => places.findIndex((place) => place.first - 1 <= row && row < place.end);
  let operation: Result<SimpleOperation, string> | undefined;
  if (decision.kind === 'join') {
    const [from, to] = [at(decision.first), at(decision.last)];
    if (from >= 0 && to > from)
      operation = joinObjects(
        design,
        places.slice(from, to + 1).map(({ id }) => id),
      );
  } else {
    const id = places[at(decision.row)]?.id;
    if (id !== undefined)
      operation =
        decision.kind === 'split' ? splitObject(design, id, decision.row, newId) : tellObject(design, id, decision.as, decision.role);
  }
  if (operation?.ok !== true) return design;
  const next = applyOperation(design, operation.value);
  return next.ok ? next.value : design;
}

/** A kept finding was known by its rule and its first place; it held for all places of its thread, and so do the ones that there are now. */
function keepAgain(design: Design, kept: RowDesign['kept']): Record<string, KeptFinding> {
  const context = new AuditContext(design);
  const findings = auditDesign(design, context);
  return Object.fromEntries(
    Object.entries(kept).flatMap(([key, finding]) => {
      const color = key.split(' ')[1];
      const isMeant = (row: number): boolean => color?.startsWith('#') !== true || context.threadAt(row).color === color;
      const now = findings.filter((f) => f.rule === finding.rule);
      return now.flatMap((f) => f.places.filter((_, k) => isMeant(f.rows[k]!)).map((place): [string, KeptFinding] => [place.key, finding]));
    }),
  );
}
