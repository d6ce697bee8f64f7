import { bareCloth } from '../measure/bareCloth.ts';
import { countProgram } from '../measure/counts.ts';
import type { CoverMap } from '../measure/coverMap.ts';
import { predictGaps } from '../measure/predictedGaps.ts';
import { runClock } from '../measure/runClock.ts';
import type { Design } from '../model/design.ts';
import { type Program, STITCH } from '../model/program.ts';
import type { Target } from '../model/target.ts';
import type { ThreadType } from '../model/thread.ts';
import { assemble } from '../plan/assemble.ts';
import { objectsOf } from '../plan/objectsOf.ts';
import { applyOperation, type Operation } from './operations/registry.ts';
import type { AppliedRepair, RefusedRepair } from './repairFindings.ts';
import { type SpecEdit, sewSpecs } from './sewSpecs.ts';

/** Figures of objects that are sewn anew, each as it is and as it would be. Seconds, covers and gaps are estimates. */
export interface SpecPairs {
  readonly stitches: Pair;
  /** Of these, what is cover, underlay and locks; travel is the rest. */
  readonly coverStitches: Pair;
  readonly underlayStitches: Pair;
  readonly tieStitches: Pair;
  /** Of the whole design. */
  readonly seconds: Pair;
  readonly trims: Pair;
  readonly jumps: Pair;
  /** Cloth that shows inside of these objects, mm². */
  readonly bare: Pair;
  /** K of the densest spot of all. */
  readonly cover: Pair;
  /** Widest gap to a neighbour, mm; 0 where none opens. */
  readonly gap: Pair;
}

export type Pair = readonly [before: number, after: number];

/** Where two programs differ. */
interface RowsChange {
  /** Where stitches come, go or move: minX, minY, maxX, maxY, mm. */
  readonly box: readonly [number, number, number, number];
  /** So many of the last rows are the same, in the same threads. */
  readonly kept: number;
}

/** Objects sewn anew and not kept yet: all that a picture of them takes. */
export interface TriedSpecs {
  readonly design: Design;
  readonly operation: Operation;
  readonly applied: readonly AppliedRepair[];
  readonly refused: readonly RefusedRepair[];
  /** Ids of those sewn anew. */
  readonly changed: ReadonlySet<string>;
  /** Stitches of those, before and after. */
  readonly stitches: SpecPairs['stitches'];
  /** How the program differs from that of the design before. */
  readonly change: RowsChange;
}

/** Sews objects anew on a design; the reason where none could be. */
export function trySpecs(design: Design, name: string, edits: readonly SpecEdit[], target?: Target): TriedSpecs | { readonly why: string } {
  const { operations, done, refused } = sewSpecs(design, edits);
  if (operations.length === 0 && target === undefined) return { why: refused[0]?.why ?? 'no object would change' };
  const operation: Operation = {
    id: 'sequence',
    operations: [...(target === undefined ? [] : [{ id: 'set-target' as const, target }]), ...operations],
  };
  const next = applyOperation(design, operation);
  if (!next.ok) return { why: next.error };
  const sum = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0);
  const changed = new Set(done.map((d) => d.object));
  return {
    design: next.value,
    operation,
    applied: done.map((d) => ({ rule: 'spec', objects: [d.object], change: [name, ...d.notes].join('; ') })),
    refused: refused.map((r) => ({ rule: 'spec', objects: [r.object], why: `${r.name}: ${r.why}` })),
    changed,
    stitches: [sum(done.map((d) => d.before)), sum(done.map((d) => d.after))],
    change: changeBetween(design, next.value, changed),
  };
}

/** What sewing so changes, in pairs; and the K of the densest spot after it. */
export function measureSpecs(
  design: Design,
  sewn: TriedSpecs,
  coverOf: (program: Program, thread: ThreadType) => CoverMap,
): { pairs: SpecPairs; maxCover: number } {
  // The design first, so that what was sewn is measured as what differs from it.
  const before = knownFigures.get(design) ?? figuresOf(design, coverOf);
  knownFigures.set(design, before);
  const after = figuresOf(sewn.design, coverOf);
  const gapOf = ({ plan, target }: Design): number => {
    const { objects } = objectsOf(plan);
    return predictGaps(objects, target, new Set(objects.flatMap((o, k) => (sewn.changed.has(o.id) ? [k] : []))))[0]?.width ?? 0;
  };
  // The same outlines for both, so that what shows is not a matter of how the new stitches are read.
  const outlines = objectsOf(design.plan).objects.flatMap((o) =>
    sewn.changed.has(o.id) && o.outline.length > 0 ? [[o.outline, ...o.holes]] : [],
  );
  const pair = (of: (figures: typeof before) => number): Pair => [of(before), of(after)];
  const counts = [countParts(design, sewn.changed), countParts(sewn.design, sewn.changed)] as const;
  const count = (of: keyof (typeof counts)[0]): Pair => [counts[0][of], counts[1][of]];
  return {
    pairs: {
      stitches: sewn.stitches,
      ...{ coverStitches: count('cover'), underlayStitches: count('underlay'), tieStitches: count('tie') },
      ...{ seconds: pair((f) => f.seconds), trims: pair((f) => f.trims), jumps: pair((f) => f.jumps) },
      cover: pair((f) => f.map.maxCover),
      gap: [gapOf(design), gapOf(sewn.design)],
      bare: pair((f) => bareCloth(f.map, outlines)),
    },
    maxCover: after.map.maxCover,
  };
}

/** Stitches of objects by what they are there for. */
function countParts({ plan }: Design, ids: ReadonlySet<string>): { cover: number; underlay: number; tie: number } {
  const counts = { cover: 0, underlay: 0, tie: 0 };
  for (const { id, parent, role, stitches } of objectsOf(plan).objects) {
    if (!ids.has(parent ?? id)) continue;
    if (role === 'underlay' || role === 'tie') counts[role] += stitches;
    else if (role !== 'travel') counts.cover += stitches;
  }
  return counts;
}

/** The box around all rows of objects and of the ways beside them that differ, in either design, and how many rows after all of them are the same. */
function changeBetween(before: Design, after: Design, changed: ReadonlySet<string>): RowsChange {
  const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
  const [a, b] = [before.program, after.program];
  const places = [assemble(before.plan).places, assemble(after.plan).places] as const;
  let kept = 0;
  places[0].forEach((place, k) => {
    if (!changed.has(place.id)) return;
    const other = places[1][k]!;
    let [endA, endB] = [places[0][k + 1]?.first ?? a.rowCount, places[1][k + 1]?.first ?? b.rowCount];
    while (endA > place.link && endB > other.link && isSameRow(a, endA - 1, b, endB - 1)) [endA, endB] = [endA - 1, endB - 1];
    // Thread leads on to the first row that is the same, unless it is cut before that.
    const isHeld = a.command[endA - 1] === STITCH || b.command[endB - 1] === STITCH;
    takeRows(a, place.link - 1, isHeld ? endA : endA - 1, box);
    takeRows(b, other.link - 1, isHeld ? endB : endB - 1, box);
    kept = a.rowCount - endA;
  });
  return { box, kept: a.threads.length === b.threads.length ? kept : 0 };
}

function isSameRow(a: Program, i: number, b: Program, k: number): boolean {
  return a.command[i] === b.command[k] && a.x[i] === b.x[k] && a.y[i] === b.y[k];
}

/** The rows from one to another, both included. */
function takeRows({ x, y, rowCount }: Program, from: number, to: number, box: [number, number, number, number]): void {
  for (let row = Math.max(0, from); row <= Math.min(to, rowCount - 1); row++) {
    box[0] = Math.min(box[0], x[row]!);
    box[1] = Math.min(box[1], y[row]!);
    box[2] = Math.max(box[2], x[row]!);
    box[3] = Math.max(box[3], y[row]!);
  }
}

/** Figures of a design that was tried on; it is tried on many times while a slider moves. */
const knownFigures = new WeakMap<Design, ReturnType<typeof figuresOf>>();

function figuresOf({ program, target }: Design, coverOf: (program: Program, thread: ThreadType) => CoverMap) {
  const { trims, jumps } = countProgram(program);
  return { map: coverOf(program, target.thread), seconds: runClock(program, target.machine).totals.seconds, trims, jumps };
}
