import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { sewSpecs, readObjectSpec } from '../edit/sewSpecs.ts';
import { applyOperation, Operation } from '../edit/operations/registry.ts';
import { readStitchFile } from '../formats/readStitchFile.ts';
import { generateFill } from '../generate/fill/fill.ts';
import { generateRun } from '../generate/line/run.ts';
import { generateLock } from '../generate/line/tie.ts';
import { generateCenterRun, generateEdgeRun, generateTatamiUnderlay } from '../generate/underlay.ts';
import { generateSatin } from '../generate/column/satin.ts';
import { defaultTarget } from '../materials/shop.ts';
import type { Design } from '../model/design.ts';
import type { ObjectSpec } from '../model/objectSpec.ts';
import { type Program, ProgramBuilder } from '../model/program.ts';
import type { StitchObject } from '../model/stitchObject.ts';
import { startDesign } from '../plan/designOf.ts';
import { objectsOf } from '../plan/objectsOf.ts';

const ROOT = path.resolve(import.meta.dirname, '../../../..');

/** Files of the demo and those that other hands stitched, by name. */
export function* filesAtHand(): Generator<{ readonly name: string; readonly program: Program }> {
  for (const folder of ['demo', 'bench/recognition/corpus']) {
    for (const name of readdirSync(path.join(ROOT, folder)).sort()) {
      if (!/\.(csv|svg)$/.test(name)) continue;
      const read = readStitchFile(readFileSync(path.join(ROOT, folder, name)));
      if (read.ok) yield { name, program: read.value.program };
    }
  }
}

export function demoFile(name: string): Program {
  const read = readStitchFile(readFileSync(path.join(ROOT, 'demo', name)));
  if (!read.ok) throw new Error(read.error.message);
  return read.value.program;
}

const thousandth = (v: number): number => Math.round(v * 1000) / 1000;

/** A fill on its underlay, a satin that it carries over to, a run after a cut: one thread, then a satin of another. */
export function fourObjects(): Design {
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
  let [x, y] = [0, 0];
  const sew = (points: ArrayLike<number>): void => {
    for (let k = 0; k < points.length; k += 2) {
      [x, y] = [thousandth(points[k]!), thousandth(points[k + 1]!)];
      builder.stitch(x, y);
    }
  };
  const start = (points: ArrayLike<number>): void => {
    builder.jump(thousandth(points[0]!), thousandth(points[1]!)).stitch(thousandth(points[0]!), thousandth(points[1]!));
    sew(generateLock(points[0]!, points[1]!, points[2]!, points[3]!));
    sew(Float64Array.from(points).subarray(2));
  };
  const cut = (): void => {
    sew(generateLock(x, y, x - 1, y));
    builder.trim();
  };
  const square = Float64Array.of(0, 0, 24, 0, 24, 24, 0, 24);
  start(generateTatamiUnderlay([square], 30)[0]!);
  sew(generateEdgeRun([square])[0]!);
  sew(generateFill([square], { angle: 30, spacing: 0.4, stitchLength: 4, offset: 0.3 }, { from: { x, y }, to: { x: 24, y: 12 } })[0]!);
  const [left, right] = [Float64Array.of(25, 13.5, 45, 13.5), Float64Array.of(25, 10.5, 45, 10.5)];
  sew(generateCenterRun(left, right));
  sew(generateSatin(left, right, { spacing: 0.4, pull: 0, splitLength: 7 }));
  cut();
  start(generateRun(Float64Array.of(0, 40, 20, 44, 40, 40), { stitchLength: 2.5 }));
  cut();
  builder.color('#b8552f', 'Brick');
  start(generateSatin(Float64Array.of(0, 54, 20, 54), Float64Array.of(0, 50, 20, 50), { spacing: 0.4, pull: 0, splitLength: 7 }));
  cut();
  return startDesign(builder.end().build(), defaultTarget());
}

/** Paths sewn one after another with one thread, cut and jumped to without ties. */
export function designOfPaths(...paths: readonly Float64Array[]): Design {
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
  for (const points of paths) {
    builder.trim().jump(points[0]!, points[1]!);
    for (let k = 0; k < points.length; k += 2) builder.stitch(thousandth(points[k]!), thousandth(points[k + 1]!));
  }
  return startDesign(builder.trim().end().build(), defaultTarget());
}

/** Paths sewn one after another, each with its thread; the thread is cut and locked between them. */
export function blocksOfPaths(...paths: readonly (readonly [color: string, points: Float64Array])[]): Program {
  const builder = new ProgramBuilder();
  for (const [color, points] of paths) {
    if (builder.rowCount > 0) builder.trim();
    if (builder.thread !== color) builder.color(color, color);
    builder.jump(thousandth(points[0]!), thousandth(points[1]!));
    const stitch = (x: number, y: number): unknown => builder.stitch(thousandth(x), thousandth(y));
    stitch(points[0]!, points[1]!);
    const start = generateLock(points[0]!, points[1]!, points[2]!, points[3]!);
    for (let k = 0; k < start.length; k += 2) stitch(start[k]!, start[k + 1]!);
    for (let k = 2; k < points.length; k += 2) stitch(points[k]!, points[k + 1]!);
    const end = generateLock(points.at(-2)!, points.at(-1)!, points.at(-4)!, points.at(-3)!);
    for (let k = 0; k < end.length; k += 2) stitch(end[k]!, end[k + 1]!);
  }
  return builder.trim().end().build();
}

export const coversOf = ({ plan }: Design): StitchObject[] => objectsOf(plan).objects.filter((o) => o.role === 'cover');

/** A design after an edit that went through JSON, as every edit does. @throws when it does not fit. */
export function applied(design: Design, operation: Operation): Design {
  const next = applyOperation(design, Operation.parse(JSON.parse(JSON.stringify(operation))));
  if (!next.ok) throw new Error(next.error);
  return next.value;
}

/** The spec of an object with some values changed. */
export function specFor(design: Design, id: string, change: Partial<ObjectSpec> = {}): ObjectSpec {
  const spec = readObjectSpec(design, id);
  if (!spec.ok) throw new Error(spec.error);
  return { ...spec.value, ...change };
}

/** An object sewn anew with some values of its spec changed. */
export function sewnAnew(design: Design, id: string, change: Partial<ObjectSpec>): Design {
  const { operations, refused } = sewSpecs(design, [{ object: id, spec: specFor(design, id, change) }]);
  if (refused[0] !== undefined) throw new Error(refused[0].why);
  return applied(design, { id: 'sequence', operations: [...operations] });
}
