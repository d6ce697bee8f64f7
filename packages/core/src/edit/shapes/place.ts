import { motionOf } from '../../geometry/motion.ts';
import type { Design } from '../../model/design.ts';
import { exitOf, type ObjectId, orderOf } from '../../model/plan.ts';
import { STITCH, TRIM } from '../../model/program.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import { placeOf } from '../../plan/assemble.ts';
import { CARRY } from '../../plan/joining.ts';
import { printOf } from '../operations/printOf.ts';
import { Drawing, type Drawn, type NewId } from './drawing.ts';

export interface PlaceAsk {
  /** All of the design where none is named. */
  readonly objects: readonly ObjectId[];
  /** mm to the right and up. */
  readonly dx: number;
  readonly dy: number;
  /** Degrees counter-clockwise about the middle of what is placed. */
  readonly turn: number;
  /** Left and right, or above and below, change places. */
  readonly mirror: 'none' | 'sides' | 'ends';
}

/** Moves, turns or mirrors objects, or the whole design, with the stitches that they have: spacings stay to a thousandth. */
export function place(design: Design, { objects, dx, dy, turn, mirror }: PlaceAsk, newId: NewId): Result<Drawn, string> {
  if (dx === 0 && dy === 0 && turn % 360 === 0 && mirror === 'none') return fail('say how far to move it, or how to turn or mirror it');
  const ids = objects.length === 0 ? orderOf(design.plan) : withLayers(design, objects);
  const motion = motionOf(middleOfRows(design, ids), {
    turn,
    mirror: mirror === 'none' ? undefined : mirror === 'sides' ? 'x' : 'y',
    dx,
    dy,
  });
  const drawing = new Drawing(design, newId);
  const done = drawing.perform({
    ...{ id: 'place-objects', motion: [...motion] },
    objects: ids.map((object) => ({ object, was: printOf(design.plan, object) })),
  });
  if (!done.ok) return done;
  const cut = cutLongWays(drawing, new Set(ids));
  return cut.ok ? drawing.finish() : cut;
}

/** A way between what was moved and what was not may be long by then: uncut, it would lie across the cloth. */
function cutLongWays(drawing: Drawing, moved: ReadonlySet<ObjectId>): Result<undefined, string> {
  for (const { objects } of drawing.design.plan.blocks)
    for (let k = 1; k < objects.length; k++) {
      const [before, id] = [objects[k - 1]!, objects[k]!];
      if (moved.has(before) === moved.has(id)) continue;
      const { plan, program } = drawing.design;
      const [from, to] = [exitOf(plan.source, plan.objects[before]!.sewn), plan.objects[id]!.sewn.start];
      const { link, first } = placeOf(plan, id);
      if (Math.hypot(to.x - from.x, to.y - from.y) <= CARRY || program.command.subarray(link, first).includes(TRIM)) continue;
      const done = drawing.perform({ id: 'set-link', object: id, way: 'trim' });
      if (!done.ok) return done;
    }
  return succeed(undefined);
}

/** Objects with the layers of their underlay that are sewn apart from them. */
function withLayers({ plan }: Design, objects: readonly ObjectId[]): ObjectId[] {
  const wanted = new Set(objects);
  return orderOf(plan).filter((id) => wanted.has(id) || wanted.has(plan.objects[id]!.sewn.reading.parent ?? ''));
}

/** The middle of the box around the penetrations of objects, mm. */
export function middleOfRows({ plan, program }: Design, ids: readonly ObjectId[]): readonly [x: number, y: number] {
  let [minX, maxX, minY, maxY] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const id of ids) {
    const { first, end } = placeOf(plan, id);
    for (let i = first; i < end; i++) {
      if (program.command[i] !== STITCH) continue;
      [minX, maxX] = [Math.min(minX, program.x[i]!), Math.max(maxX, program.x[i]!)];
      [minY, maxY] = [Math.min(minY, program.y[i]!), Math.max(maxY, program.y[i]!)];
    }
  }
  const thousandth = (v: number): number => Math.round(v * 1000) / 1000;
  return minX > maxX ? [0, 0] : [thousandth((minX + maxX) / 2), thousandth((minY + maxY) / 2)];
}
