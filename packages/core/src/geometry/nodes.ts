import { flattenCubic } from './flattenCubic.ts';

/**
 * A line of cubic Bézier curves through nodes, six numbers a node: its place, then where the curve that comes in and the one that goes out are pulled
 * to (absolute, mm, y up). A curve whose two pulls lie on their nodes is straight.
 */
export type Nodes = readonly number[];

/** Numbers a node. */
export const NODE = 6;
/** A pull nearer to its node than this (mm) is none. */
const NO_PULL = 1e-6;

export type NodePart = 'place' | 'in' | 'out';
const PART_AT: Readonly<Record<NodePart, number>> = { place: 0, in: 2, out: 4 };

export const countNodes = (nodes: Nodes): number => nodes.length / NODE;

/** Nodes without pulls at the points of a path (xyxy): straight from one to the next. */
export function nodesAt(points: readonly number[] | Float64Array): number[] {
  const out: number[] = [];
  for (let k = 0; k + 1 < points.length; k += 2) for (let part = 0; part < 3; part++) out.push(points[k]!, points[k + 1]!);
  return out;
}

/** Where a node, or one of its pulls, lies. */
export function placeOfNode(nodes: Nodes, index: number, part: NodePart = 'place'): readonly [x: number, y: number] {
  const at = index * NODE + PART_AT[part];
  return [nodes[at]!, nodes[at + 1]!];
}

/** Whether the curve from a node to the next is a straight. */
export function isStraight(nodes: Nodes, index: number, isClosed: boolean): boolean {
  const next = following(nodes, index, isClosed);
  return next < 0 || (!isPulled(nodes, index, 'out') && !isPulled(nodes, next, 'in'));
}

function isPulled(nodes: Nodes, index: number, part: 'in' | 'out'): boolean {
  const [x, y] = placeOfNode(nodes, index);
  const [px, py] = placeOfNode(nodes, index, part);
  return Math.hypot(px - x, py - y) > NO_PULL;
}

function following(nodes: Nodes, index: number, isClosed: boolean): number {
  if (index + 1 < countNodes(nodes)) return index + 1;
  return isClosed && countNodes(nodes) > 1 ? 0 : -1;
}

/** Points (xyxy) along the curves, no chord farther from them than `tolerance` mm; of a closed line without its first point said again. */
export function flattenNodes(nodes: Nodes, isClosed: boolean, tolerance?: number): Float64Array {
  const count = countNodes(nodes);
  if (count === 0) return new Float64Array(0);
  const out: number[] = [nodes[0]!, nodes[1]!];
  for (let k = 0; k < count; k++) {
    const next = following(nodes, k, isClosed);
    if (next < 0) break;
    const [x, y] = placeOfNode(nodes, k);
    const [x3, y3] = placeOfNode(nodes, next);
    if (isStraight(nodes, k, isClosed)) out.push(x3, y3);
    else flattenCubic(out, x, y, ...placeOfNode(nodes, k, 'out'), ...placeOfNode(nodes, next, 'in'), x3, y3, tolerance);
  }
  return Float64Array.from(isClosed && count > 1 ? out.slice(0, -2) : out);
}

/** Nodes with some of them moved, their pulls with them. */
export function moveNodes(nodes: Nodes, indices: Iterable<number>, dx: number, dy: number): number[] {
  const out = [...nodes];
  for (const index of new Set(indices))
    for (let k = 0; k < NODE; k += 2) {
      out[index * NODE + k]! += dx;
      out[index * NODE + k + 1]! += dy;
    }
  return out;
}

/** Nodes with one pull elsewhere; the pull on the other side of a smooth node stays in line with it, as long as it was. */
export function movePull(nodes: Nodes, index: number, part: 'in' | 'out', x: number, y: number): number[] {
  const out = [...nodes];
  const at = index * NODE;
  const other = part === 'in' ? 'out' : 'in';
  if (isSmooth(nodes, index)) {
    const [cx, cy] = placeOfNode(nodes, index);
    const [ox, oy] = placeOfNode(nodes, index, other);
    const [long, now] = [Math.hypot(ox - cx, oy - cy), Math.hypot(x - cx, y - cy)];
    if (now > NO_PULL) {
      out[at + PART_AT[other]] = cx - ((x - cx) * long) / now;
      out[at + PART_AT[other] + 1] = cy - ((y - cy) * long) / now;
    }
  }
  out[at + PART_AT[part]] = x;
  out[at + PART_AT[part] + 1] = y;
  return out;
}

/** How far from in line (as the sine of 3°) two pulls of a smooth node may be. */
const IN_LINE = Math.sin((3 * Math.PI) / 180);

/** Whether the line goes through a node without a corner: it is pulled on both sides, in line. */
export function isSmooth(nodes: Nodes, index: number): boolean {
  const [cx, cy] = placeOfNode(nodes, index);
  const [ix, iy] = placeOfNode(nodes, index, 'in');
  const [ox, oy] = placeOfNode(nodes, index, 'out');
  const [ax, ay, bx, by] = [cx - ix, cy - iy, ox - cx, oy - cy];
  const lengths = Math.hypot(ax, ay) * Math.hypot(bx, by);
  return lengths > NO_PULL ** 2 && ax * bx + ay * by > 0 && Math.abs(ax * by - ay * bx) <= IN_LINE * lengths;
}

/** A node more on the curve that leaves node `index`, at the share `t` of it; the line stays what it was (P. de Casteljau, 1959). */
export function addNode(nodes: Nodes, index: number, t: number, isClosed: boolean): number[] {
  const next = following(nodes, index, isClosed);
  if (next < 0 || !(t > 0 && t < 1)) return [...nodes];
  const mix = (a: readonly [number, number], b: readonly [number, number]): [number, number] => [
    a[0] + t * (b[0] - a[0]),
    a[1] + t * (b[1] - a[1]),
  ];
  const [p0, p1, p2, p3] = [
    placeOfNode(nodes, index),
    placeOfNode(nodes, index, 'out'),
    placeOfNode(nodes, next, 'in'),
    placeOfNode(nodes, next),
  ];
  if (isStraight(nodes, index, isClosed)) {
    const at = mix(p0, p3);
    return nodes.toSpliced((index + 1) * NODE, 0, ...at, ...at, ...at);
  }
  const [a, b, c] = [mix(p0, p1), mix(p1, p2), mix(p2, p3)];
  const [d, e] = [mix(a, b), mix(b, c)];
  const out = [...nodes];
  [out[index * NODE + 4], out[index * NODE + 5]] = a;
  [out[next * NODE + 2], out[next * NODE + 3]] = c;
  return out.toSpliced((index + 1) * NODE, 0, ...mix(d, e), ...d, ...e);
}

/** Nodes without some of them; `undefined` where too few would be left: two of an open line, three of a closed one. */
export function deleteNodes(nodes: Nodes, indices: Iterable<number>, isClosed: boolean): number[] | undefined {
  const gone = new Set(indices);
  const out = nodes.filter((_, k) => !gone.has(Math.floor(k / NODE)));
  return countNodes(out) < (isClosed ? 3 : 2) ? undefined : out;
}

/** Nodes with the curves between neighbouring ones among `indices` straight; a single one makes both its sides straight. */
export function straighten(nodes: Nodes, indices: Iterable<number>, isClosed: boolean): number[] {
  const wanted = new Set(indices);
  const out = [...nodes];
  const isSingle = wanted.size === 1;
  for (let k = 0; k < countNodes(nodes); k++) {
    const next = following(nodes, k, isClosed);
    if (next < 0 || !(isSingle ? wanted.has(k) || wanted.has(next) : wanted.has(k) && wanted.has(next))) continue;
    [out[k * NODE + 4], out[k * NODE + 5]] = placeOfNode(nodes, k) as [number, number];
    [out[next * NODE + 2], out[next * NODE + 3]] = placeOfNode(nodes, next) as [number, number];
  }
  return out;
}

/** How far a pull reaches toward the neighbouring node. */
const PULL_SHARE = 1 / 3;

/** Nodes with the line smooth through some of them: pulled along the straight between their neighbours. Ends of an open line stay. */
export function smooth(nodes: Nodes, indices: Iterable<number>, isClosed: boolean): number[] {
  const count = countNodes(nodes);
  const out = [...nodes];
  for (const k of new Set(indices)) {
    const before = k > 0 ? k - 1 : isClosed ? count - 1 : -1;
    const after = following(nodes, k, isClosed);
    if (before < 0 || after < 0 || before === after) continue;
    const [[ax, ay], [cx, cy], [bx, by]] = [placeOfNode(nodes, before), placeOfNode(nodes, k), placeOfNode(nodes, after)];
    const long = Math.hypot(bx - ax, by - ay);
    if (long < NO_PULL) continue;
    const [ux, uy] = [(bx - ax) / long, (by - ay) / long];
    const [to, from] = [PULL_SHARE * Math.hypot(cx - ax, cy - ay), PULL_SHARE * Math.hypot(bx - cx, by - cy)];
    out.splice(k * NODE + 2, 4, cx - ux * to, cy - uy * to, cx + ux * from, cy + uy * from);
  }
  return out;
}

/** The place on a line that is nearest to (x, y): after which node, at which share of the curve there, and how far away, mm. */
export function nearestOnNodes(
  nodes: Nodes,
  isClosed: boolean,
  x: number,
  y: number,
): { readonly index: number; readonly t: number; readonly distance: number } {
  let best = { index: -1, t: 0, distance: Infinity };
  for (let k = 0; k < countNodes(nodes); k++) {
    const next = following(nodes, k, isClosed);
    if (next < 0) break;
    const far = (t: number): number => {
      const [px, py] = pointOnCurve(nodes, k, next, t);
      return Math.hypot(px - x, py - y);
    };
    const found = nearestShare(far);
    const distance = far(found);
    if (distance < best.distance) best = { index: k, t: found, distance };
  }
  return best;
}

/** The share of a curve at which a distance along it is least. */
function nearestShare(far: (t: number) => number): number {
  let [look, least] = [0, Infinity];
  for (let step = 0; step <= LOOKS; step++) {
    const distance = far(step / LOOKS);
    if (distance < least) [look, least] = [step / LOOKS, distance];
  }
  // Between the neighbours of the best look it falls and rises once: thirds of that stretch are left out in turn.
  let [low, high] = [Math.max(0, look - 1 / LOOKS), Math.min(1, look + 1 / LOOKS)];
  for (let round = 0; round < ROUNDS; round++) {
    const third = (high - low) / 3;
    if (far(low + third) <= far(high - third)) high -= third;
    else low += third;
  }
  const t = (low + high) / 2;
  return far(t) < least ? t : look;
}

/** A curve is looked at in so many places, and the best of them is bettered so often. */
const LOOKS = 40;
const ROUNDS = 24;

function pointOnCurve(nodes: Nodes, k: number, next: number, t: number): readonly [number, number] {
  const [p0, p3] = [placeOfNode(nodes, k), placeOfNode(nodes, next)];
  if (!isPulled(nodes, k, 'out') && !isPulled(nodes, next, 'in')) return [p0[0] + t * (p3[0] - p0[0]), p0[1] + t * (p3[1] - p0[1])];
  const [p1, p2] = [placeOfNode(nodes, k, 'out'), placeOfNode(nodes, next, 'in')];
  const s = 1 - t;
  const at = (axis: 0 | 1): number => s ** 3 * p0[axis] + 3 * s * s * t * p1[axis] + 3 * s * t * t * p2[axis] + t ** 3 * p3[axis];
  return [at(0), at(1)];
}
