import { AuditContext } from '../../audit/AuditContext.ts';
import { findFaults } from '../../audit/findFaults.ts';
import type { Fault } from '../../audit/rule.ts';
import { isOpen } from '../../audit/rules/objectFault.ts';
import type { Spot } from '../../audit/rules/bulk/coverSpots.ts';
import { stackedCover } from '../../audit/rules/bulk/stackedCover.ts';
import { tooDense } from '../../audit/rules/bulk/tooDense.ts';
import { asRule, type Rule } from '../../audit/rule.ts';
import { spacingBand } from '../../materials/specBands.ts';
import type { Design } from '../../model/design.ts';
import { type ObjectSpec, SHORTEST } from '../../model/objectSpec.ts';
import type { StitchObject } from '../../model/stitchObject.ts';
import type { Goal } from '../../model/target.ts';
import { liesOn, relate, areaOf } from '../../order/areas.ts';
import { applyOperation, type SimpleOperation } from '../operations/registry.ts';
import { readObjectSpec, type SpecEdit, sewSpecs } from '../sewSpecs.ts';
import { asRepairer, type Repaired, type RepairAsk, type Repairer } from './repairer.ts';
import { hundredth } from './respec.ts';

/** One way to take thread from a place: what is changed of one object there. */
type Way = (
  spec: ObjectSpec,
  object: StitchObject,
  ask: { readonly design: Design; readonly isHidden: boolean; readonly isOnTop: boolean },
) => ObjectSpec | undefined;

/** Rows that lie closer than the cloth bears are opened to what it wants. */
const openToBand: Way = (spec, _, { design }) => {
  if (spec.kind !== 'satin' && spec.kind !== 'fill') return undefined;
  const { low, best } = spacingBand(design.target, spec);
  return spec.spacing < low - 0.005 ? { ...spec, spacing: hundredth(best) } : undefined;
};

/** On a bend the inner edge crowds whatever the spacing: every second stitch there is drawn in. */
const drawCrowdedIn: Way = (spec) =>
  spec.kind === 'satin' || spec.kind === 'fill'
    ? (spec.shortest ?? SHORTEST) < SHORTEST
      ? { ...spec, shortest: SHORTEST }
      : { ...spec }
    : undefined;

/** What lies on closed stitching has its base there. */
const dropUnderlay: Way = (spec, _, { isOnTop }) => (isOnTop && spec.underlay.length > 0 ? { ...spec, underlay: [] } : undefined);

/** What is hidden needs to hold, not to cover. */
const openHidden: Way = (spec, _, { isHidden }) =>
  isHidden && spec.kind === 'fill' && spec.spacing < HIDDEN_PITCH ? { ...spec, spacing: HIDDEN_PITCH, underlay: [] } : undefined;

const HIDDEN_PITCH = 1.2;

/** As open as it still covers. */
const openToEdge: Way = (spec, _, { design }) => {
  if (spec.kind !== 'satin' && spec.kind !== 'fill') return undefined;
  const { high } = spacingBand(design.target, spec);
  return spec.spacing < high - 0.005 ? { ...spec, spacing: hundredth(high - 0.004) } : undefined;
};

/** What is tried first for each goal: what nobody sees comes first for all of them. */
const WAYS: Readonly<Record<Goal, readonly Way[]>> = {
  fastest: [openToBand, dropUnderlay, drawCrowdedIn, openHidden, openToEdge],
  cleanest: [drawCrowdedIn, openToBand, dropUnderlay, openHidden, openToEdge],
  softest: [openToBand, dropUnderlay, openHidden, drawCrowdedIn, openToEdge],
};

/** Takes thread away where too much of it lies, way after way, until the rule finds nothing at those places any more. */
function lighten(rule: Rule): Repairer {
  return asRepairer<Spot>(({ design, context, faults }) => {
    let current = design;
    let left: readonly Fault[] = faults;
    let now = context;
    const operations: SimpleOperation[] = [];
    for (const way of WAYS[design.target.goal]) {
      const edits = editsAt(current, now, left as readonly Spot[], way);
      if (edits.length === 0) continue;
      const made = sewSpecs(current, edits);
      const next = applyOperation(current, { id: 'sequence', operations: [...made.operations] });
      if (made.operations.length === 0 || !next.ok) continue;
      const after = new AuditContext(next.value);
      const still = stillThere(after, rule, faults);
      // A way that changed nothing for the better is not taken.
      if (weightOf(still) >= weightOf(left as readonly Spot[]) - 1e-6) continue;
      [current, now, left] = [next.value, after, still];
      operations.push(...made.operations);
      if (left.length === 0) break;
    }
    const refused: Repaired['refused'] =
      left.length === 0
        ? []
        : [
            {
              objects: [],
              why: `at ${left.length} place${left.length === 1 ? '' : 's'} it stays too thick: carve the lower shape out, or drop one`,
            },
          ];
    return { operations, refused };
  });
}

/** Each object that lies at one of the places, changed in a way. */
function editsAt(design: Design, context: AuditContext, spots: readonly Spot[], way: Way): SpecEdit[] {
  const edits = new Map<string, SpecEdit>();
  for (const spot of spots) {
    const at = context.areas.filter((object) => liesOn(object, spot.x, spot.y));
    for (const [k, object] of at.entries()) {
      if (edits.has(object.id) || design.plan.objects[object.id] === undefined) continue;
      const spec = readObjectSpec(design, object.id);
      if (!spec.ok) continue;
      const isOnTop = k > 0 && shareUnder(object, at.slice(0, k), context) > ON_TOP;
      const isHidden = k < at.length - 1 && shareUnder(object, at.slice(k + 1), context) > HIDDEN;
      const changed = way(spec.value, object, { design, isHidden, isOnTop });
      if (changed !== undefined) edits.set(object.id, { object: object.id, spec: changed });
    }
  }
  return [...edits.values()];
}

/** An object lies on others, or is hidden by them, with such shares of itself. */
const ON_TOP = 0.7;
const HIDDEN = 0.9;

function shareUnder(object: StitchObject, others: readonly StitchObject[], { target }: AuditContext): number {
  const closed = others.filter((other) => !isOpen(other, target));
  return closed.reduce((sum, other) => sum + relate(object, other).shared, 0) / Math.max(0.5, areaOf(object));
}

/** What a rule finds near the places that were asked about. */
function stillThere(context: AuditContext, rule: Rule, asked: readonly Spot[]): Spot[] {
  const found = findFaults(context, rule, {}).flatMap(({ faults }) => faults as readonly Spot[]);
  return found.filter((spot) => asked.some((a) => Math.hypot(a.x - spot.x, a.y - spot.y) < NEAR + Math.sqrt(a.area)));
}

const NEAR = 3;

function weightOf(spots: readonly Spot[]): number {
  return spots.reduce((sum, { excess }) => sum + excess, 0);
}

export const lightenLayer: (ask: RepairAsk) => Repaired = lighten(asRule(tooDense));
export const lightenStack: (ask: RepairAsk) => Repaired = lighten(asRule(stackedCover));
