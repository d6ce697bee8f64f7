import { AuditContext } from '../../audit/AuditContext.ts';
import { findFaults } from '../../audit/findFaults.ts';
import type { Fault } from '../../audit/fault.ts';
import { isOpen } from '../../audit/rules/objectFault.ts';
import type { Spot } from '../../audit/rules/bulk/coverSpots.ts';
import { stackedCover } from '../../audit/rules/bulk/stackedCover.ts';
import { tooDense } from '../../audit/rules/bulk/tooDense.ts';
import { asRule, type Rule } from '../../audit/rule.ts';
import { intersectRings, uniteAreas } from '../../geometry/region.ts';
import { orientRings, signedArea } from '../../geometry/ring.ts';
import { spacingBand } from '../../materials/specBands.ts';
import type { Design } from '../../model/design.ts';
import { type ObjectSpec, SHORTEST } from '../../model/objectSpec.ts';
import type { StitchObject } from '../../model/stitchObject.ts';
import type { Goal } from '../../model/target.ts';
import { liesOn, relate, areaOf } from '../../order/areas.ts';
import { applyOperation, type SimpleOperation } from '../operations/registry.ts';
import { carve } from '../shapes/cutting.ts';
import { acrossOf, type Drawn } from '../shapes/drawing.ts';
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
    const asked = squaresOf(context, faults);
    for (const way of WAYS[design.target.goal]) {
      const edits = editsAt(current, now, left as readonly Spot[], way);
      if (edits.length === 0) continue;
      const made = sewSpecs(current, edits);
      const next = applyOperation(current, { id: 'sequence', operations: [...made.operations] });
      if (made.operations.length === 0 || !next.ok) continue;
      const after = new AuditContext(next.value);
      const still = stillThere(after, rule, asked);
      // A way that changed nothing for the better is not taken.
      if (weightOf(still) >= weightOf(left as readonly Spot[]) - 1e-6) continue;
      [current, now, left] = [next.value, after, still];
      operations.push(...made.operations);
      if (left.length === 0) break;
    }
    for (const spot of rule.id === stackedCover.id ? (left as readonly Spot[]) : []) {
      const carved = carveAt(current, now, spot, `carved-${operations.length + 1}`);
      if (carved === undefined) continue;
      const after = new AuditContext(carved.design);
      const still = stillThere(after, rule, asked);
      if (weightOf(still) >= weightOf(left as readonly Spot[]) - 1e-6) continue;
      [current, now, left] = [carved.design, after, still];
      operations.push(...carved.operations);
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

/** What lies under a shape narrower than this (mm) is sewn through: a small hole does more harm than good. Common practice. */
const SMALL = 5;
/** A carved shape keeps so much under the edge of what covers it, mm. */
const KEPT = 1;

/** The lower of two closed shapes at a place carved out under the upper one, where that is large. */
function carveAt(design: Design, context: AuditContext, spot: Spot, id: string): Drawn | undefined {
  const at = context.areas.filter(
    (object) => liesOn(object, spot.x, spot.y) && !isOpen(object, context.target) && design.plan.objects[object.id] !== undefined,
  );
  const [lower, upper] = [at[0], at.at(-1)];
  if (lower === undefined || upper === undefined || lower === upper || lower.kind !== 'fill' || acrossOf(upper.outline) < SMALL)
    return undefined;
  const drawn = carve(design, lower.id, upper.id, KEPT, () => id);
  return drawn.ok ? drawn.value : undefined;
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

/** The share of an object that lies over or under closed ones among some others; where these overlap it counts once. */
function shareUnder(object: StitchObject, others: readonly StitchObject[], { target }: AuditContext): number {
  const closed = others.filter((other) => !isOpen(other, target));
  const [only] = closed;
  if (only === undefined) return 0;
  const own = Math.max(0.5, areaOf(object));
  if (closed.length === 1) return relate(object, only).shared / own;
  const ringsOf = ({ outline, holes }: StitchObject): Float64Array[] => orientRings([outline, ...holes]);
  const shared = intersectRings(ringsOf(object), uniteAreas(closed.flatMap(ringsOf)));
  return shared.reduce((sum, ring) => sum + signedArea(ring), 0) / own;
}

/** What a rule finds at the places that were asked about: on some of their cells, or right beside them. */
function stillThere(context: AuditContext, rule: Rule, asked: ReadonlySet<string>): Spot[] {
  const found = findFaults(context, rule, {}).flatMap(({ faults }) => faults as readonly Spot[]);
  return found.filter(({ cells }) => cells.some((cell) => asked.has(squareOf(context, cell, 0, 0))));
}

/** Squares of so many mm, in which places are told apart. */
const SQUARE = 3;

function squareOf({ cover: { minX, minY, cell: size, columns } }: AuditContext, cell: number, dx: number, dy: number): string {
  const [x, y] = [minX + (cell % columns) * size, minY + Math.floor(cell / columns) * size];
  return `${Math.floor(x / SQUARE) + dx} ${Math.floor(y / SQUARE) + dy}`;
}

/** The squares that spots lie in, and those around them. */
function squaresOf(context: AuditContext, spots: readonly Spot[]): Set<string> {
  const out = new Set<string>();
  for (const { cells } of spots)
    for (const cell of cells) for (const dx of AROUND) for (const dy of AROUND) out.add(squareOf(context, cell, dx, dy));
  return out;
}

const AROUND = [-1, 0, 1];

function weightOf(spots: readonly Spot[]): number {
  return spots.reduce((sum, { excess }) => sum + excess, 0);
}

export const lightenLayer: (ask: RepairAsk) => Repaired = lighten(asRule(tooDense));
export const lightenStack: (ask: RepairAsk) => Repaired = lighten(asRule(stackedCover));
