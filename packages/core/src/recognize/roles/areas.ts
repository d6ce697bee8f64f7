import { containsPoint, windsAround } from '../../geometry/ring.ts';
import { type Program, STOP } from '../../model/program.ts';
import type { Measured, Piece } from '../rows/piece.ts';
import { distanceToRings, ringsOf } from '../rows/ringed.ts';

/** A penetration this near to the edge (mm) counts as inside. */
const EDGE = 0.5;
/** How many covers ahead underlay is laid before its own. */
const COVERS_AHEAD = 8;
/** So many covers back a needle walks over what it has sewn. */
const COVERS_BEHIND = 6;

/** Which areas of the same thread come before and after each piece. */
export interface Areas {
  /** The next areas before another thread, a few of them. */
  after(k: number): readonly Piece[];
  /** The areas before it in the same thread, a few of them, the nearest first. */
  before(k: number): readonly Piece[];
}

/** Finds the neighbouring areas of pieces in sewing order; a stop ends what belongs together as a change of thread does. O(pieces). */
export function linkAreas({ command }: Program, pieces: readonly Piece[]): Areas {
  const next = new Int32Array(pieces.length).fill(-1);
  const last = new Int32Array(pieces.length).fill(-1);
  // hasStop[k]: whether the machine stops between piece k and the one before.
  const hasStop = pieces.map(({ first }, k) => {
    for (let i = k === 0 ? first : pieces[k - 1]!.last + 1; i < first; i++) if (command[i] === STOP) return true;
    return false;
  });
  const isSameThread = (k: number, n: number): boolean => pieces[k]!.thread === pieces[n]!.thread && !hasStop[Math.max(k, n)];
  for (let k = pieces.length - 2; k >= 0; k--) if (isSameThread(k, k + 1)) next[k] = isArea(pieces[k + 1]!) ? k + 1 : next[k + 1]!;
  for (let k = 1; k < pieces.length; k++) if (isSameThread(k, k - 1)) last[k] = isArea(pieces[k - 1]!) ? k - 1 : last[k - 1]!;
  return {
    after: (k) => {
      const found: Piece[] = [];
      for (let n = next[k]!; n >= 0 && found.length < COVERS_AHEAD; n = next[n]!) found.push(pieces[n]!);
      return found;
    },
    before: (k) => {
      const found: Piece[] = [];
      for (let n = last[k]!; n >= 0 && found.length < COVERS_BEHIND; n = last[n]!) found.push(pieces[n]!);
      return found;
    },
  };
}

/** What rows were told in. */
function isArea({ rows }: Piece): boolean {
  return rows !== undefined;
}

/** Whether a point lies inside what a piece covers, or as good as. */
export function isInside(cover: Piece, x: number, y: number): boolean {
  const box = boxOf(cover.measured);
  if (x < box[0] - EDGE || y < box[1] - EDGE || x > box[2] + EDGE || y > box[3] + EDGE) return false;
  const rings = ringsOf(cover.measured);
  const isWithin = cover.measured.kind === 'satin' ? windsAround(rings[0]!, x, y) : containsPoint(rings, x, y);
  return isWithin || distanceToRings(rings, x, y) < EDGE;
}

type Box = readonly [minX: number, minY: number, maxX: number, maxY: number];

const boxes = new WeakMap<Measured, Box>();

/** The box around an area, most often asked for many points: kept beside it. */
function boxOf(measured: Measured): Box {
  const known = boxes.get(measured);
  if (known !== undefined) return known;
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  const ring = ringsOf(measured)[0] ?? new Float64Array(0);
  for (let k = 0; k < ring.length; k += 2) {
    minX = Math.min(minX, ring[k]!);
    maxX = Math.max(maxX, ring[k]!);
    minY = Math.min(minY, ring[k + 1]!);
    maxY = Math.max(maxY, ring[k + 1]!);
  }
  const box: Box = [minX, minY, maxX, maxY];
  boxes.set(measured, box);
  return box;
}

/** The share of a piece's penetrations that lie inside what another covers. */
export function shareInside({ x, y }: Program, piece: Piece, cover: Piece): number {
  // A few hundred penetrations tell as much as all of them.
  const step = Math.max(1, Math.floor((piece.last - piece.first) / 300));
  let inside = 0;
  let asked = 0;
  for (let i = piece.first; i <= piece.last; i += step) {
    asked++;
    if (isInside(cover, x[i]!, y[i]!)) inside++;
  }
  return inside / asked;
}

/** The length of a run, mm; 0 for what is none. */
export function wayOf({ measured }: Piece): number {
  return measured.kind === 'run' ? measured.length : 0;
}
