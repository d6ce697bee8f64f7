import { signedArea } from '../geometry/ring.ts';
import { pitchFactor } from '../materials/pitchFactor.ts';
import { OPEN_FROM } from '../materials/specBands.ts';
import type { Design } from '../model/design.ts';
import { STITCH } from '../model/program.ts';
import type { ObjectSpec } from '../model/objectSpec.ts';
import { objectsOf } from '../plan/objectsOf.ts';
import type { StitchObject } from '../model/stitchObject.ts';
import { applyOperation } from './operations/registry.ts';
import { readObjectSpec, type SpecEdit, sewSpecs } from './sewSpecs.ts';

/** One fill opened: its stitches before and after, and those of the whole design then. */
export interface OpeningStep {
  readonly edit: SpecEdit;
  readonly name: string;
  readonly spacing: number;
  readonly before: number;
  readonly after: number;
  readonly total: number;
}

export interface OpeningProposal {
  /** Stitches of the design as it is. */
  readonly stitches: number;
  /** The largest saving first, as many as it takes. */
  readonly steps: readonly OpeningStep[];
  /** Fills that could be opened besides, the largest saving first. */
  readonly spare: readonly Omit<OpeningStep, 'total'>[];
  /** Whether the budget is reached. */
  readonly isReached: boolean;
}

/** Open fills run at 1 to 2 mm: smaller shapes closer, so that they are still read, broad ones wider. Common practice. */
const PITCHES: readonly (readonly [area: number, pitch: number])[] = [
  [150, 1.2],
  [600, 1.6],
  [Infinity, 2],
];
/** Fills smaller than this (mm²) stay closed: opened they would be a few lines. */
const LEAST_AREA = 40;

/**
 * Which fills to open up, and how far, until a design keeps to a number of stitches: those that save most first, without underlay, with the ways
 * between rows along the edges. Counts are of rows that were generated. Satins and small fills stay: they carry the drawing.
 */
export function proposeOpening(design: Design, budget: number): OpeningProposal {
  const stitches = countStitches(design);
  const found = objectsOf(design.plan).objects.flatMap((object): Omit<OpeningStep, 'total'>[] => {
    const spec = openSpec(design, object);
    if (spec === undefined) return [];
    const edit = { object: object.id, spec };
    const { operations, done } = sewSpecs(design, [edit]);
    const opened = applyOperation(design, { id: 'sequence', operations: [...operations] });
    if (done[0] === undefined || !opened.ok) return [];
    // The ways to it and from it count, too.
    const { before } = done[0];
    const after = before + countStitches(opened.value) - stitches;
    return after < before ? [{ edit, name: object.name, spacing: spec.spacing, before, after }] : [];
  });
  found.sort((a, b) => b.before - b.after - (a.before - a.after));
  const steps: OpeningStep[] = [];
  let total = stitches;
  for (const step of found) {
    if (total <= budget) break;
    total -= step.before - step.after;
    steps.push({ ...step, total });
  }
  return { stitches, steps, spare: found.slice(steps.length), isReached: total <= budget };
}

function countStitches({ program }: Design): number {
  let count = 0;
  for (let i = 0; i < program.rowCount; i++) if (program.command[i] === STITCH) count++;
  return count;
}

function openSpec(design: Design, object: StitchObject): ObjectSpec | undefined {
  if (design.plan.objects[object.id] === undefined || object.role !== 'cover' || object.kind !== 'fill' || object.pattern !== undefined)
    return undefined;
  const area = [object.outline, ...object.holes].reduce((sum, ring) => sum + signedArea(ring), 0);
  const spec = readObjectSpec(design, object.id);
  if (area < LEAST_AREA || !spec.ok || spec.value.spacing >= OPEN_FROM) return undefined;
  const pitch = PITCHES.find(([most]) => area <= most)![1] * pitchFactor(design.target.thread, design.target.rules);
  return { ...spec.value, spacing: Math.round(pitch * 100) / 100, underlay: [] };
}
