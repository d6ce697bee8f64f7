import { asArea, Drawing, type Drawn, specFor } from '../edit/shapes/drawing.ts';
import { drawShapes, readShapeAsk, type ShapeName } from '../edit/shapes/drawShapes.ts';
import { signedArea } from '../geometry/ring.ts';
import { FABRICS } from '../materials/fabrics.ts';
import { defaultTarget } from '../materials/shop.ts';
import type { Design } from '../model/design.ts';
import { orderOf } from '../model/plan.ts';
import { ProgramBuilder, STITCH } from '../model/program.ts';
import { startDesign } from '../plan/designOf.ts';
import { objectsOf } from '../plan/objectsOf.ts';

// Designs of shapes that are known by construction, and what is drawn on them.

export const [RED, BLUE] = [
  { color: '#aa2222', name: 'Red' },
  { color: '#2222aa', name: 'Blue' },
];
let count = 0;
/** Ids that no design has. */
export const newId = (): string => `new-${++count}`;
export const on = (id: string): Design['target'] => ({
  ...defaultTarget(),
  fabric: FABRICS.find((f) => f.id === id)!,
  clothColor: '#dddddd',
  garment: null,
});
export const box = (x: number, y: number, w: number, h = w): Float64Array => Float64Array.of(x, y, x + w, y, x + w, y + h, x, y + h);
export const circle = (x: number, y: number, r: number, n = 96): Float64Array =>
  Float64Array.from({ length: 2 * n }, (_, k) =>
    k % 2 === 0 ? x + r * Math.cos((Math.PI * k) / n) : y + r * Math.sin((Math.PI * (k - 1)) / n),
  );

/** A design of areas, drawn from a single stitch, in sewing order; what it began with is taken out. */
export function drawn(
  target: Design['target'],
  ...areas: readonly (readonly [thread: typeof RED, rings: readonly Float64Array[], angle?: number])[]
) {
  const seed = new ProgramBuilder().color('#123456', 'Seed').jump(60, 60).stitch(60, 60).stitch(63, 60).stitch(66, 60).trim().end().build();
  const drawing = new Drawing(startDesign(seed, target), newId);
  const [first] = orderOf(drawing.design.plan);
  const ids = areas.map(([thread, rings, angle = 30], k) => {
    const added = drawing.add({
      name: `area ${k + 1}`,
      thread: thread,
      before: null,
      spec: specFor(target, 'fill', { angle }),
      shape: asArea(rings),
    });
    if (!added.ok) throw new Error(added.error);
    return added.value;
  });
  if (!drawing.remove([first!]).ok) throw new Error('the seed stays');
  return { design: drawing.design, ids };
}

/** What was asked for, drawn. @throws where it is refused. */
export function ask(design: Design, name: ShapeName, values: Record<string, unknown>): Drawn {
  const asked = readShapeAsk(name, values);
  if (!asked.ok) throw new Error(asked.error);
  const made = drawShapes(design, asked.value, newId);
  if (!made.ok) throw new Error(made.error);
  return made.value;
}
/** Why it is refused. @throws where it is not. */
export function refused(design: Design, name: ShapeName, values: Record<string, unknown>): string {
  const asked = readShapeAsk(name, values);
  if (!asked.ok) return asked.error;
  const made = drawShapes(design, asked.value, newId);
  if (made.ok) throw new Error('it was done');
  return made.error;
}
/** Penetrations of an object, ties left out. */
export function pointsOf({ plan, program }: Design, id: string): [number, number][] {
  return objectsOf(plan)
    .objects.filter((o) => o.id === id)
    .flatMap(({ spans }) => spans.flatMap(({ first, last }) => Array.from({ length: last - first + 1 }, (_, k) => first + k)))
    .filter((row) => program.command[row] === STITCH)
    .map((row) => [program.x[row]!, program.y[row]!]);
}
export const sizeOf = (rings: readonly Float64Array[]): number => Math.abs(rings.reduce((sum, ring) => sum + signedArea(ring), 0));
