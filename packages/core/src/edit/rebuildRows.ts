import type { ObjectPart } from '../generate/sew/collector.ts';
import { generateLock } from '../generate/line/tie.ts';
import { createWalk } from '../generate/fill/walker.ts';
import { roundToThousandth } from '../geometry/number.ts';
import type { ObjectShape, ObjectSpec } from '../model/objectSpec.ts';
import { COLOR, JUMP, type Program, STITCH, TRIM } from '../model/program.ts';
import type { RebuiltPart } from '../model/rebuilt.ts';
import type { PatchRow } from '../model/rowValue.ts';

/** A stitch carries over up to this far, mm. Common practice: 2 mm need no jump. */
const CARRY = 2;
/** What is not carried over but lies inside the shape is walked; the end of an object this near (mm) to where it was needs nothing. */
const SAME_PLACE = 0.3;

/** What stands before and after an object's rows. */
export interface RowContext {
  /** The first row to replace: the object's first, or that of jumps right before it. */
  readonly from: number;
  readonly entry: { readonly x: number; readonly y: number };
  readonly exit: { readonly x: number; readonly y: number };
  /** The needle comes sewing, or goes on sewing to the next row. */
  readonly isSewnInto: boolean;
  readonly isSewnOn: boolean;
  /** The thread starts or is cut there, and wants a lock. */
  readonly isThreadStart: boolean;
  readonly isThreadEnd: boolean;
  readonly next: { readonly x: number; readonly y: number } | undefined;
}

/** What stands around the rows from `first` to `last`. */
export function findContext(program: Program, first: number, last: number): RowContext {
  const { x, y, command } = program;
  const isSewnInto = first > 0 && command[first - 1] === STITCH;
  const isSewnOn = last + 1 < program.rowCount && command[last + 1] === STITCH;
  let from = first;
  while (from > 0 && command[from - 1] === JUMP) from--;
  const at = isSewnInto ? first - 1 : first;
  let before = from - 1;
  while (before >= 0 && command[before] === JUMP) before--;
  let after = last + 1;
  while (after < program.rowCount && command[after] === JUMP) after++;
  return {
    from,
    entry: { x: x[at]!, y: y[at]! },
    exit: { x: x[last]!, y: y[last]! },
    isSewnInto,
    isSewnOn,
    isThreadStart: !isSewnInto && (before < 0 || command[before] === TRIM || command[before] === COLOR),
    isThreadEnd: !isSewnOn && (after >= program.rowCount || command[after] !== STITCH),
    next: isSewnOn ? { x: x[last + 1]!, y: y[last + 1]! } : undefined,
  };
}

/** Rows of an object in the making, with its locks and the ways between its parts. */
export class RebuiltRows {
  readonly rows: PatchRow[] = [];
  readonly parts: RebuiltPart[] = [];
  readonly notes: string[] = [];
  private readonly context: RowContext;
  private readonly spec: ObjectSpec;
  private x: number;
  private y: number;
  /** Whether thread is held, so that a stitch sews on from here. */
  private isHeld: boolean;
  private isFirst = true;
  /** A lock is due as soon as it is known which way the sewing goes on. */
  private wantsLock = false;

  constructor(context: RowContext, spec: ObjectSpec) {
    this.context = context;
    this.spec = spec;
    this.isHeld = context.isSewnInto;
    this.x = context.isSewnInto ? context.entry.x : NaN;
    this.y = context.isSewnInto ? context.entry.y : NaN;
  }

  add(part: ObjectPart): void {
    const { points, role, layer, isApart } = part;
    let from = 0;
    if (isApart) {
      const [x, y] = [roundToThousandth(points[0]!), roundToThousandth(points[1]!)];
      from = 2;
      const gap = Math.hypot(x - this.x, y - this.y);
      if (!this.isHeld || gap > CARRY) {
        const needsLock = this.isFirst ? this.context.isThreadStart || this.isHeld : true;
        if (this.isHeld) this.cut();
        this.rows.push({ command: 'jump', x, y });
        this.stitch(x, y);
        this.wantsLock = needsLock;
      } else if (gap > SAME_PLACE) this.stitch(x, y);
    }
    this.isFirst = false;
    if (points.length <= from) return;
    if (this.wantsLock) this.lock(points[from]!, points[from + 1]!);
    this.wantsLock = false;
    const first = this.rows.length;
    for (let k = from; k < points.length; k += 2) this.stitch(points[k]!, points[k + 1]!);
    this.mark(role, first, layer);
  }

  /** Leads to where the object ended before, where the next one is sewn on from. */
  finish(shape: ObjectShape): void {
    const { exit, isSewnOn, isThreadEnd, next } = this.context;
    if (this.rows.length === 0) return;
    if (isThreadEnd) {
      const before = this.rows[this.rows.length - 2];
      if (before?.command === 'stitch') this.lock(before.x, before.y);
      return;
    }
    const gap = Math.hypot(exit.x - this.x, exit.y - this.y);
    if (!isSewnOn || gap < SAME_PLACE || (next !== undefined && Math.hypot(next.x - this.x, next.y - this.y) <= CARRY)) return;
    const way = createWalk(ringsOf(shape))(this.x, this.y, exit.x, exit.y);
    if (way === undefined && gap > CARRY) {
      this.cut();
      this.rows.push({ command: 'jump', x: exit.x, y: exit.y });
      this.stitch(exit.x, exit.y);
      if (next !== undefined) this.lock(next.x, next.y);
      this.notes.push('it ends apart from the next object now, so the thread is cut between them');
      return;
    }
    const first = this.rows.length;
    for (let k = 0; way !== undefined && k < way.length; k += 2) this.stitch(way[k]!, way[k + 1]!);
    this.stitch(exit.x, exit.y);
    this.mark('travel', first);
  }

  private stitch(px: number, py: number): void {
    [this.x, this.y] = [roundToThousandth(px), roundToThousandth(py)];
    this.rows.push({ command: 'stitch', x: this.x, y: this.y });
    this.isHeld = true;
  }

  private lock(towardX: number, towardY: number): void {
    const first = this.rows.length;
    const points = generateLock(this.x, this.y, towardX, towardY, this.spec.tie);
    for (let k = 0; k < points.length; k += 2) this.stitch(points[k]!, points[k + 1]!);
    this.mark('tie', first);
  }

  private cut(): void {
    const before = this.rows[this.rows.length - 2];
    if (before?.command === 'stitch') this.lock(before.x, before.y);
    this.rows.push({ command: 'trim' });
    this.isHeld = false;
  }

  private mark(role: RebuiltPart['role'], first: number, layer?: RebuiltPart['layer']): void {
    if (this.rows.length > first) this.parts.push({ role, ...(layer === undefined ? {} : { layer }), first, last: this.rows.length - 1 });
  }
}

function ringsOf(shape: ObjectShape): Float64Array[] {
  if (shape.kind === 'area') return shape.rings.map((ring) => Float64Array.from(ring));
  if (shape.kind === 'line') return [];
  const right: number[] = [];
  for (let k = shape.right.length - 2; k >= 0; k -= 2) right.push(shape.right[k]!, shape.right[k + 1]!);
  return [Float64Array.from([...shape.left, ...right])];
}
