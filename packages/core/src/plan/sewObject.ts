import type { ObjectPart } from '../generate/sew/collector.ts';
import { generateObject } from '../generate/sew/generateObject.ts';
import { roundToThousandth } from '../geometry/number.ts';
import type { ObjectShape, ObjectSpec } from '../model/objectSpec.ts';
import { ProgramBuilder, type Program, STITCH } from '../model/program.ts';
import { fail, type Result, succeed } from '../model/result.ts';
import type { Point } from '../model/stitchObject.ts';
import { addLock, addStitch, CARRY, SAME_PLACE } from './joining.ts';
import type { MadePart } from './madeReading.ts';

/** An object's own rows, generated: where the needle has to be before them, and what they are there for. */
export interface SewnRows {
  readonly rows: Program;
  readonly start: Point;
  readonly parts: readonly MadePart[];
  /** What had to be put right or could not be as asked, in words. */
  readonly notes: readonly string[];
}

/** Sews a shape as its spec says, from and to where it may begin and end. Refused with the reason where it cannot be sewn so. */
export function sewObject(shape: ObjectShape, spec: ObjectSpec, from: Point, to: Point): Result<SewnRows, string> {
  const generated = generateObject(shape, spec, { from, to });
  if (!generated.ok) return generated;
  const [first] = generated.value.parts;
  if (first === undefined || first.points.length < 2) return fail('nothing would be sewn');
  const start = { x: roundToThousandth(first.points[0]!), y: roundToThousandth(first.points[1]!) };
  const rows = new Rows(start, spec);
  for (const part of generated.value.parts) rows.add(part);
  const program = rows.out.build();
  if (program.rowCount === 0) return fail('nothing would be sewn');
  return succeed({ rows: program, start, parts: rows.parts, notes: generated.value.notes });
}

/** Rows of an object in the making, with the ways and locks between its parts. */
class Rows {
  readonly out = new ProgramBuilder(256);
  readonly parts: MadePart[] = [];
  private readonly start: Point;
  private readonly spec: ObjectSpec;
  private wantsLock = false;

  constructor(start: Point, spec: ObjectSpec) {
    this.start = start;
    this.spec = spec;
  }

  add({ points, role, layer, isApart }: ObjectPart): void {
    let from = 0;
    if (isApart) {
      from = 2;
      const [x, y] = [roundToThousandth(points[0]!), roundToThousandth(points[1]!)];
      const here = this.here();
      const gap = Math.hypot(x - here.x, y - here.y);
      if (gap > CARRY) {
        if (this.out.rowCount > 0) {
          this.lock(this.out.rowCount > 1 ? this.out.placeAt(1) : this.start);
          this.out.trim();
        }
        this.out.jump(x, y).stitch(x, y);
        this.wantsLock = true;
      } else if (gap > SAME_PLACE) this.out.stitch(x, y);
    }
    if (points.length <= from) return;
    if (this.wantsLock) this.lock({ x: points[from]!, y: points[from + 1]! });
    this.wantsLock = false;
    const first = this.out.rowCount;
    for (let k = from; k < points.length; k += 2) addStitch(this.out, points[k]!, points[k + 1]!);
    this.mark(role, first, layer);
  }

  private here(): Point {
    return this.out.rowCount === 0 ? this.start : this.out.placeAt();
  }

  private lock(toward: Point): void {
    const first = this.out.rowCount;
    if (this.out.commandAt() === STITCH) addLock(this.out, this.here(), toward, this.spec.tie);
    this.mark('tie', first);
  }

  private mark(role: MadePart['role'], first: number, layer?: MadePart['layer']): void {
    if (this.out.rowCount > first) this.parts.push({ role, ...(layer === undefined ? {} : { layer }), first, last: this.out.rowCount - 1 });
  }
}
