import { type CoverMap, mapCover } from '../measure/coverMap.ts';
import { countProgram, type Counts, type Extents } from '../measure/counts.ts';
import type { Design } from '../model/design.ts';
import { extentsInHoop } from '../measure/inHoop.ts';
import { type Program, type ProgramThread, UNNAMED_THREAD } from '../model/program.ts';
import { layLengths, splitIntoStretches, type Stretch, threadOfRows } from '../model/stretches.ts';
import type { Plan } from '../model/plan.ts';
import type { StitchObject } from '../model/stitchObject.ts';
import { threadThickness } from '../model/thread.ts';
import { relatedPairs, shareOfEdgeOn } from '../order/areas.ts';
import { isClosedCover } from '../order/cells.ts';
import { assemble, type ObjectPlace } from '../plan/assemble.ts';
import { objectsOf } from '../plan/objectsOf.ts';
import { findConcernedObject } from '../recognize/publishObjects.ts';
import type { Recognition } from '../recognize/recognizeProgram.ts';
import type { Target } from '../model/target.ts';
import { guessThread, type MadeForThread } from './guessThread.ts';
import { recall, type Remembered } from './remembered.ts';

/** What can be audited: a design, or bare rows on a target whose objects are not known. */
export type Audited = Pick<Design, 'program' | 'target'> & Partial<Pick<Design, 'plan' | 'kept'>>;

interface Measures {
  lengths?: Float64Array;
  stretches?: Stretch[];
  threads?: Int32Array;
  cover?: CoverMap;
  counts?: Counts;
  inHoop?: Extents;
  covers?: readonly StitchObject[];
  areas?: readonly StitchObject[];
  pairs?: ReturnType<typeof relatedPairs>;
  families?: ReadonlyMap<string, readonly StitchObject[]>;
  underlay?: ReadonlyMap<string, readonly StitchObject[]>;
  thread?: MadeForThread | null;
  hidden?: Map<number, HiddenPath | null>;
}

/** A path from one side of a cut to the other that later stitching hides. */
export interface HiddenPath {
  /** mm. */
  readonly length: number;
  readonly stitches: number;
}

/** What the rules look at: a program on its target, with what is derived from it made once, when first asked for. */
export class AuditContext {
  readonly program: Program;
  readonly target: Target;
  private readonly cache: Measures;
  /** What was found before of each rule. */
  readonly faults: Remembered<Measures>['faults'];

  /** The objects of the program, where they are known, and the plan that they are of. */
  readonly objects: Recognition | undefined;
  readonly plan: Plan | undefined;

  /** `known` is what was measured on this program before. */
  constructor(design: Audited, known: { readonly cover?: CoverMap; readonly lengths?: Float64Array } = {}) {
    const { measures, faults }: Remembered<Measures> =
      design.plan === undefined ? { measures: {}, faults: new Map() } : recall<Measures>(design.plan, design.target);
    this.cache = Object.assign(measures, known);
    this.faults = faults;
    this.program = design.program;
    this.target = design.target;
    this.plan = design.plan;
    this.objects = design.plan === undefined ? undefined : objectsOf(design.plan);
  }

  /** The id of the object that a row concerns, where objects are known. */
  objectAt(row: number): string | undefined {
    if (this.objects === undefined) return undefined;
    const found = findConcernedObject(row, this.objects);
    // Of a lock, what is sewn there.
    if (found?.role === 'tie') return this.placeAt(row)?.id ?? found.id;
    return found === undefined ? undefined : rootOf(found);
  }

  /** Where a row lies in the plan: the object that it is of, or that the way leads to. */
  private placeAt(row: number): ObjectPlace | undefined {
    return this.plan === undefined ? undefined : assemble(this.plan).places.findLast(({ link }) => link <= row);
  }

  place(row: number): { row: number; x: number; y: number } {
    return { row, x: this.program.x[row]!, y: this.program.y[row]! };
  }

  /** Lay lengths by row, mm. */
  get lengths(): Float64Array {
    return (this.cache.lengths ??= layLengths(this.program));
  }

  get stretches(): readonly Stretch[] {
    return (this.cache.stretches ??= splitIntoStretches(this.program));
  }

  /** Index of the thread by row, −1 before the first color row. */
  get threadOfRow(): Int32Array {
    return (this.cache.threads ??= threadOfRows(this.program));
  }

  get cover(): CoverMap {
    return (this.cache.cover ??= mapCover(this.program, this.target.thread, this.lengths));
  }

  get counts(): Counts {
    return (this.cache.counts ??= countProgram(this.program, this.lengths));
  }

  /** The bounds of the penetrations in the hoop, mm. */
  get inHoop(): Extents {
    return (this.cache.inHoop ??= extentsInHoop(this.program, this.counts.extents, this.target.place));
  }

  /** What is meant to be seen, in sewing order; nothing while objects are not known. */
  get covers(): readonly StitchObject[] {
    return (this.cache.covers ??= this.objects?.objects.filter((o) => o.role === 'cover') ?? []);
  }

  /** Satins and fills of rows among them, closed or open: what has an area of its own. */
  get areas(): readonly StitchObject[] {
    return (this.cache.areas ??= this.covers.filter(isArea));
  }

  /** Pairs of {@link areas} that meet or share cloth, by their indices, the one sewn first first. */
  get pairs(): ReturnType<typeof relatedPairs> {
    return (this.cache.pairs ??= relatedPairs(this.areas));
  }

  /** Which share of an area's edge narrow closed columns cover that are sewn later. */
  outlinedShare(id: string): number {
    const { areas, pairs, target } = this;
    const thickness = threadThickness(target.thread);
    const index = areas.findIndex((object) => object.id === id);
    let share = 0;
    for (const { a, b } of pairs)
      if (a === index && areas[b]!.kind === 'satin' && isClosedCover(areas[b]!, thickness)) share += shareOfEdgeOn(areas[a]!, areas[b]!);
    return share;
  }

  /** All that belongs to an object, itself, its underlay, travel and ties, by its id. */
  get families(): ReadonlyMap<string, readonly StitchObject[]> {
    return (this.cache.families ??= groupBy(this.objects?.objects ?? [], rootOf));
  }

  /** The layers of underlay by the id of what they lie under. */
  get underlay(): ReadonlyMap<string, readonly StitchObject[]> {
    return (this.cache.underlay ??= groupBy(
      (this.objects?.objects ?? []).filter(({ role, parent }) => role === 'underlay' && parent !== undefined),
      rootOf,
    ));
  }

  /** The thread that the file seems to be made for, or was said to be, where that is another one than is used. */
  get madeFor(): MadeForThread | undefined {
    if (this.cache.thread === undefined) this.cache.thread = guessThread(this.areas, this.target) ?? null;
    return this.cache.thread ?? undefined;
  }

  /** What was found of cuts, by the row at which they end: the path that hides there, null where none does. Filled by who looks for them. */
  get hiddenPaths(): Map<number, HiddenPath | null> {
    return (this.cache.hidden ??= new Map<number, HiddenPath | null>());
  }

  threadAt(row: number): ProgramThread {
    return this.program.threads[this.threadOfRow[row]!] ?? UNNAMED_THREAD;
  }
}

function isArea({ kind, pattern, outline, spacing }: StitchObject): boolean {
  return (kind === 'satin' || kind === 'fill') && pattern === undefined && outline.length >= 6 && spacing !== undefined;
}

/** What somebody would name when something is wrong with an object: the cover that it is a part of. */
function rootOf({ id, role, parent }: StitchObject): string {
  return role === 'underlay' || role === 'travel' ? (parent ?? id) : id;
}

function groupBy(objects: readonly StitchObject[], keyOf: (object: StitchObject) => string): Map<string, StitchObject[]> {
  const out = new Map<string, StitchObject[]>();
  for (const object of objects) {
    const key = keyOf(object);
    const known = out.get(key);
    if (known === undefined) out.set(key, [object]);
    else known.push(object);
  }
  return out;
}

/** How a thread is called in a sentence. */
export function nameThread(thread: ProgramThread): string {
  return thread.name === '' ? thread.color : thread.name;
}
