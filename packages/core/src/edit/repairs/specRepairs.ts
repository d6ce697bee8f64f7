import type { ObjectFault } from '../../audit/rules/objectFault.ts';
import { fillFrom, splitFrom } from '../../materials/shopLimits.ts';
import { spacingBand, usualUnderlay } from '../../materials/specBands.ts';
import { asKind } from '../../materials/suggestSpec.ts';
import { SHORTEST } from '../../model/objectSpec.ts';
import { USUAL_RULES } from '../../model/target.ts';
import { proposeOpening } from '../proposeOpening.ts';
import { readObjectShape } from '../sewSpecs.ts';
import { asRepairer, type RepairAsk, type Repairer } from './repairer.ts';
import { hundredth, respecting, sewEdits, withoutProngs } from './respec.ts';

/** Compensation that is added is held below this, mm: more would change the drawing. */
const MOST_PULL = 0.8;
/** What a predicted gap gets more than its width, mm. */
const OVERLAP = 0.12;

/** Rows as far apart as the cloth wants them with the thread that is used. */
export const setSpacing: Repairer = respecting((spec, _, { design }) => {
  const { best } = spacingBand(design.target, { ...spec, isOpen: false });
  return { ...spec, spacing: hundredth(best) };
});

/** Rows as far apart as the thread that is used wants them, in the measure in which they were spaced for another. */
export const fitThread: Repairer = asRepairer<ObjectFault>((ask) => {
  const { madeFor } = ask.context;
  if (madeFor === undefined) return { operations: [], refused: [] };
  return respecting((spec) => ({ ...spec, spacing: hundredth(Math.min(20, spec.spacing / madeFor.factor)) }))(ask);
});

export const makeFill: Repairer = respecting((spec, { of }, { design }) => asKind(spec, 'fill', design.target, needsOf(of)));

export const makeSatin: Repairer = respecting((spec, { value }, { design }) => ({
  ...asKind({ ...spec, width: value }, 'satin', design.target, { width: value }),
  splitLength: splitFrom(design.target),
}));

/** Splits throws where the shop wants them split at the latest. */
export const splitThrows: Repairer = respecting((spec, _, { limit, design }) => ({
  ...spec,
  splitLength: Math.max(1, Math.min(limit, fillFrom(design.target))),
}));

/** Widens columns to the limit, on both sides alike; lines and areas of other kinds are left. */
export const widen: Repairer = respecting((spec, { value }, { limit }) => {
  if (spec.kind !== 'satin') return 'only columns are widened; sew it larger, or as a satin';
  const pull = hundredth(spec.pull + (limit + WIDER - value) / 2);
  return pull > MOST_PULL ? `widening it by ${(limit - value).toFixed(1)} mm would change the drawing` : { ...spec, pull };
});

/** Widths are measured to this, mm. */
const WIDER = 0.04;

/** Opens the fills that save most until the design keeps to its budget. */
export const keepToBudget: Repairer = asRepairer<ObjectFault>(({ design, limit }) => {
  const { steps, isReached } = proposeOpening(design, limit);
  const refused = isReached ? [] : [{ objects: [], why: 'opening all fills does not reach it: drop parts of it, or choose heavier cloth' }];
  return sewEdits(
    design,
    steps.map(({ edit }) => edit),
    refused,
  );
});

/** Underlay as the cloth wants it for an object of this kind and size; none under open rows. */
export const layUnderlay: Repairer = respecting((spec, { of }, ask) => ({
  ...spec,
  underlay: usualUnderlay(spec, ask.design.target, { ...needsOf(of), isOutlined: isOutlined(ask, of.id) }).layers,
}));

export const leaveEdgeRunOut: Repairer = respecting((spec) => ({
  ...spec,
  underlay: spec.underlay.filter(({ kind }) => kind !== 'edge-run'),
}));

export const orderUnderlay: Repairer = respecting((spec, _, { design }) => {
  const { rules = USUAL_RULES } = design.target;
  const first = rules.schools.underlayOrder === 'tatami-first' ? 'tatami' : 'edge-run';
  const early = spec.underlay.filter(({ kind }) => kind === first);
  return { ...spec, underlay: [...early, ...spec.underlay.filter(({ kind }) => kind !== first)] };
});

/** The lower of two objects reaches so far under the upper one that nothing shows. */
export const compensate: Repairer = asRepairer<ObjectFault>((ask) => {
  const widest = new Map<string, number>();
  for (const { object, value } of ask.faults) widest.set(object, Math.max(widest.get(object) ?? 0, value));
  return respecting((spec, { object }) => {
    if (spec.kind !== 'satin' && spec.kind !== 'fill') return 'only satins and fills are compensated';
    const pull = hundredth(Math.min(MOST_PULL, spec.pull + widest.get(object)! - ask.limit / 2 + OVERLAP));
    return pull <= spec.pull ? 'it is compensated as far as its drawing allows: let it reach under by its shape' : { ...spec, pull };
  })(ask);
});

/** Stitches are shortened a little to come out even and on bends. */
const LONGER = 1.15;

export const lengthenStitches: Repairer = respecting((spec, _, { limit }) => ({
  ...spec,
  stitchLength: Math.max(hundredth(LONGER * limit), spec.stitchLength),
}));

/** Sewn anew with no stitch shorter than usual, so that those on a crowded side are drawn in by turns. */
export const shortenCrowded: Repairer = asRepairer(({ design, context, faults, limit }) => {
  const objects = new Map(context.covers.map((object) => [object.id, object]));
  const own = faults.flatMap((fault): ObjectFault[] => {
    const id = fault.object ?? context.objectAt(fault.row);
    const of = id === undefined ? undefined : objects.get(id);
    return of === undefined ? [] : [{ ...fault, object: of.id, of, value: limit }];
  });
  return respecting((spec) => {
    if (spec.kind !== 'satin' && spec.kind !== 'fill') return 'only satins and fills are spread; move its penetrations one by one';
    return { ...spec, shortest: Math.max(spec.shortest ?? SHORTEST, SHORTEST) };
  })({ design, context, faults: own, limit });
});

/** Lays an edge stitch out anew, its corners with it. */
export const layOutAnew: Repairer = asRepairer<ObjectFault>((ask) =>
  respecting((spec, { object }) => {
    const shape = readObjectShape(ask.design, object);
    return shape.ok ? { spec, shape: withoutProngs(shape.value) } : shape.error;
  })(ask),
);

function needsOf({ width, heldPull }: ObjectFault['of']): { width?: number; heldPull?: number } {
  return { ...(width === undefined ? {} : { width: width.mean }), ...(heldPull === undefined ? {} : { heldPull }) };
}

/** Whether a narrow column that is sewn later covers the edge of an object. */
function isOutlined({ context }: RepairAsk, id: string): boolean {
  return context.outlinedShare(id) >= OUTLINED;
}

const OUTLINED = 0.8;
