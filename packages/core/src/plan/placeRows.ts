import { isMirror, type Motion, moved, movedAngle, movedPoint } from '../geometry/motion.ts';
import { orientRings } from '../geometry/ring.ts';
import type { ObjectShape, ObjectSpec } from '../model/objectSpec.ts';
import { type Link, type Plan, type PlanRows, readRows, type Sewn, type WayEnd } from '../model/plan.ts';
import { JUMP, type Program, ProgramBuilder, rowAt } from '../model/program.ts';
import type { Point, StitchObject } from '../model/stitchObject.ts';

/** An object's rows moved, turned or mirrored as they are, with all that is known of it: nothing is sewn anew, so that spacings stay to a thousandth. */
export function placeRows({ source }: Pick<Plan, 'source'>, sewn: Sewn, motion: Motion): Sewn {
  const [x, y] = movedPoint(motion, sewn.start.x, sewn.start.y);
  const { made } = sewn;
  return {
    ...sewn,
    rows: movedRows(source, sewn.rows, motion),
    start: { x, y },
    reading: placeReading(sewn.reading, motion),
    parts: sewn.parts.map((part) => placeReading(part, motion)),
    made: made === null ? null : { spec: placeSpec(made.spec, motion), shape: placeShape(made.shape, motion) },
  };
}

/** A way with the rows and the path that it has, moved with both of its ends. */
export function placeLink({ source }: Pick<Plan, 'source'>, link: Link, motion: Motion): Link {
  const { found, path } = link;
  const end = (of: WayEnd | null): WayEnd | null => {
    if (of === null) return null;
    const [x, y] = movedPoint(motion, of.x, of.y);
    return { ...of, x, y };
  };
  const at = ({ x, y }: Point): Point => {
    const [px, py] = movedPoint(motion, x, y);
    return { x: px, y: py };
  };
  return {
    ...link,
    ...(path === undefined ? {} : { path: { from: at(path.from), to: at(path.to), points: moved(motion, path.points) } }),
    found: found === null ? null : { ...found, rows: movedRows(source, found.rows, motion), from: end(found.from), to: end(found.to) },
    ties: link.ties.map((tie) => placeReading(tie, motion)),
  };
}

/** Rows after a motion, as rows of their own. */
function movedRows(source: Program, rows: PlanRows, motion: Motion): Program {
  const { program, first, end } = readRows(source, rows);
  const out = new ProgramBuilder(end - first);
  for (let i = first; i < end; i++) {
    const row = rowAt(program, i);
    if (program.command[i]! > JUMP) out.row(row);
    else {
      const [x, y] = movedPoint(motion, program.x[i]!, program.y[i]!);
      out.row({ ...row, x, y });
    }
  }
  return out.build();
}

/** What is known of an object after a motion; rows are counted as before. */
function placeReading(reading: StitchObject, motion: Motion): StitchObject {
  const line = (points: Float64Array): Float64Array => Float64Array.from(moved(motion, points));
  const rings = orientRings([reading.outline, ...reading.holes].filter((ring) => ring.length > 0).map(line));
  const { rails, path, made } = reading;
  const point = ({ x, y }: Point): Point => {
    const [px, py] = movedPoint(motion, x, y);
    return { x: px, y: py };
  };
  const [left, right] = rails === undefined ? [] : isMirror(motion) ? [rails.right, rails.left] : [rails.left, rails.right];
  return {
    ...reading,
    outline: rings[0] ?? reading.outline,
    holes: rings.slice(1),
    ...(left === undefined || right === undefined ? {} : { rails: { left: line(left), right: line(right) } }),
    ...(path === undefined ? {} : { path: line(path) }),
    ...(reading.angle === undefined ? {} : { angle: movedAngle(motion, reading.angle) }),
    underlay: reading.underlay.map((layer) => (layer.angle === undefined ? layer : { ...layer, angle: movedAngle(motion, layer.angle) })),
    ...(made === undefined ? {} : { made: { spec: placeSpec(made.spec, motion), shape: placeShape(made.shape, motion) } }),
    entry: point(reading.entry),
    exit: point(reading.exit),
  };
}

/** A spec after a motion: its angles turn with it. */
export function placeSpec(spec: ObjectSpec, motion: Motion): ObjectSpec {
  return {
    ...spec,
    angle: movedAngle(motion, spec.angle),
    angleLines: spec.angleLines.map((line) => moved(motion, line) as [number, number, number, number]),
    ...(spec.origin === undefined ? {} : { origin: movedPoint(motion, ...spec.origin) }),
    underlay: spec.underlay.map((layer) => (layer.angle === undefined ? layer : { ...layer, angle: movedAngle(motion, layer.angle) })),
  };
}

/** A shape after a motion. */
export function placeShape(shape: ObjectShape, motion: Motion): ObjectShape {
  const nodes = shape.nodes === undefined ? {} : { nodes: shape.nodes.map((line) => moved(motion, line)) };
  switch (shape.kind) {
    case 'area': {
      const line = shape.line === undefined ? {} : { line: { ...shape.line, paths: shape.line.paths.map((path) => moved(motion, path)) } };
      return { ...shape, ...nodes, rings: shape.rings.map((ring) => moved(motion, ring)), ...line };
    }
    case 'column': {
      const [left, right] = isMirror(motion) ? [shape.right, shape.left] : [shape.left, shape.right];
      const turnedNodes = isMirror(motion) && nodes.nodes !== undefined ? { nodes: nodes.nodes.toReversed() } : nodes;
      return { ...shape, ...turnedNodes, left: moved(motion, left), right: moved(motion, right) };
    }
    case 'line': {
      const { prongs, ...rest } = shape;
      // Prongs that were found reach to one side: mirrored they are sewn from the spec when it changes.
      const kept =
        prongs === undefined || isMirror(motion) ? {} : { prongs: { ...prongs, feet: prongs.feet.map((foot) => placeFoot(foot, motion)) } };
      return { ...rest, ...nodes, path: moved(motion, shape.path), ...kept };
    }
  }
}

type Foot = readonly [x: number, y: number, dx: number, dy: number];

function placeFoot([x, y, dx, dy]: Foot, [a, b, c, d, e, f]: Motion): [number, number, number, number] {
  return [...movedPoint([a, b, c, d, e, f], x, y), ...movedPoint([a, b, c, d, 0, 0], dx, dy)];
}
