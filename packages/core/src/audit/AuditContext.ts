import { type CoverMap, mapCover } from '../measure/coverMap.ts';
import { countProgram, type Counts, type Extents } from '../measure/counts.ts';
import type { Design } from '../model/design.ts';
import { extentsInHoop } from '../measure/inHoop.ts';
import { type Program, type ProgramThread, UNNAMED_THREAD } from '../model/program.ts';
import { layLengths, splitIntoStretches, type Stretch, threadOfRows } from '../model/stretches.ts';
import { objectsOf } from '../plan/objectsOf.ts';
import { findConcernedObject } from '../recognize/publishObjects.ts';
import type { Recognition } from '../recognize/recognizeProgram.ts';
import type { Target } from '../model/target.ts';

/** What can be audited: a design, or bare rows on a target whose objects are not known. */
export type Audited = Pick<Design, 'program' | 'target'> & Partial<Pick<Design, 'plan' | 'kept'>>;

/** What the rules look at: a program on its target, with what is derived from it made once, when first asked for. */
export class AuditContext {
  readonly program: Program;
  readonly target: Target;
  private readonly cache: {
    lengths?: Float64Array;
    stretches?: Stretch[];
    threads?: Int32Array;
    cover?: CoverMap;
    counts?: Counts;
    inHoop?: Extents;
  };

  /** The objects of the program, where they are known. */
  readonly objects: Recognition | undefined;

  /** `known` is what was measured on this program before. */
  constructor(design: Audited, known: { readonly cover?: CoverMap; readonly lengths?: Float64Array } = {}) {
    this.cache = { ...known };
    this.program = design.program;
    this.target = design.target;
    this.objects = design.plan === undefined ? undefined : objectsOf(design.plan);
  }

  /** The id of the object that a row concerns, where objects are known. */
  objectAt(row: number): string | undefined {
    return this.objects === undefined ? undefined : findConcernedObject(row, this.objects)?.id;
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

  threadAt(row: number): ProgramThread {
    return this.program.threads[this.threadOfRow[row]!] ?? UNNAMED_THREAD;
  }
}

/** How a thread is called in a sentence. */
export function nameThread(thread: ProgramThread): string {
  return thread.name === '' ? thread.color : thread.name;
}
