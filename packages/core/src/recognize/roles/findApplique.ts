import { COLOR, type Program, STOP } from '../../model/program.ts';
import { makePiece } from '../rows/makePiece.ts';
import { measureRows } from '../rows/measureRows.ts';
import type { Piece } from '../rows/piece.ts';
import { distanceToRings } from '../rows/ringed.ts';
import { joinRowSets } from '../rows/rows.ts';

/** A line is closed when its ends are nearer than this (mm), and long enough to lay a piece of fabric on. */
const CLOSED = 2;
const LEAST_AROUND = 25;
/** By so many stitches a line may go on over its start. */
const OVERLAP = 5;
/** Tack-down and cover follow the placement line within this (mm) with the middles of their stitches, for this share of them. */
const FOLLOWS = 2;
const MOSTLY = 0.85;
/** How many pieces after the placement line are looked at. */
const AHEAD = 40;
/** A tack-down falls into no more parts than this. */
const MOST_PARTS = 60;
/** A zigzag is open from this pitch on, mm. */
const OPEN = 0.8;

/**
 * Tells the placement lines and tack-downs of applique: a closed line, a stop or color change, a line or open zigzag along the same way, and
 * later a closer cover along it. Gives them their roles, with the cover as their parent; a tack-down that was told in parts is one.
 */
export function findApplique(program: Program, pieces: readonly Piece[]): Piece[] {
  const out = [...pieces];
  for (let k = 0; k < out.length; k++) {
    const placement = out[k]!;
    const ring = closedRing(program, placement);
    if (ring === undefined) continue;
    let tackdown: [first: number, end: number] | undefined;
    let cover: Piece | undefined;
    for (let n = k + 1; n < out.length && n <= k + AHEAD && cover === undefined; n++) {
      const piece = out[n]!;
      if (piece.role === 'tie') continue;
      const end = endOfStretch(out, n);
      if (tackdown === undefined && isParted(program, placement.last, piece.first)) {
        if (out.slice(n, end).every(isOpen) && isFollowing(program, piece.first, out[end - 1]!.last, ring)) {
          tackdown = [n, end];
          n = end - 1;
        }
      } else if (tackdown !== undefined && piece.measured.kind !== 'run' && !isOpen(piece)) {
        if (isFollowing(program, piece.first, piece.last, ring)) cover = piece;
      }
    }
    if (tackdown === undefined || cover === undefined) continue;
    placement.role = 'placement';
    placement.parent = cover;
    placement.underlayKind = undefined;
    const [first, end] = tackdown;
    out.splice(first, end - first, { ...asOne(program, out.slice(first, end)), role: 'tackdown', parent: cover, underlayKind: undefined });
  }
  return out;
}

/** Index after the last piece of the stretch that piece `k` is in, its locks left out. */
function endOfStretch(pieces: readonly Piece[], k: number): number {
  let end = k + 1;
  while (end < pieces.length && end < k + MOST_PARTS && pieces[end]!.stretch === pieces[k]!.stretch && pieces[end]!.role !== 'tie') end++;
  return end;
}

function isOpen({ measured }: Piece): boolean {
  return !('spacing' in measured) || measured.spacing > OPEN;
}

/** Pieces that follow one another as one: rows where most of their stitches lie in rows, else a run. */
function asOne(program: Program, parts: readonly Piece[]): Piece {
  const [start, end] = [parts[0]!, parts[parts.length - 1]!];
  if (parts.length === 1) return start;
  const whole = makePiece(program, start.thread, start.stretch, start.first, end.last, 'cover', start.confidence);
  const sets = parts.flatMap((p) => (p.rows === undefined ? [] : [p.rows]));
  const inRows = parts.reduce((sum, p) => sum + (p.rows === undefined ? 0 : p.last - p.first + 1), 0);
  if (inRows < (end.last - start.first + 1) / 2) return whole;
  const rows = joinRowSets(sets);
  return { ...whole, rows, measured: measureRows(program, rows, 'satin') };
}

function closedRing({ x, y }: Program, { measured, role, first, last }: Piece): Float64Array | undefined {
  if (measured.kind !== 'run' || role === 'tie' || role === 'tackdown' || measured.length < LEAST_AROUND) return undefined;
  const from = Math.max(0, first - 1);
  // A lock in long stitches goes on over the start, or back from it.
  let apart = Infinity;
  for (let i = Math.max(from, last - OVERLAP); i <= last; i++) apart = Math.min(apart, Math.hypot(x[i]! - x[from]!, y[i]! - y[from]!));
  if (apart > CLOSED && measured.passes === 1) return undefined;
  return measured.path;
}

function isFollowing({ x, y }: Program, first: number, last: number, ring: Float64Array): boolean {
  const step = Math.max(1, Math.floor((last - first) / 120));
  let near = 0;
  let asked = 0;
  for (let i = Math.max(1, first); i <= last; i += step) {
    asked++;
    if (distanceToRings([ring], (x[i]! + x[i - 1]!) / 2, (y[i]! + y[i - 1]!) / 2) < FOLLOWS) near++;
  }
  return asked >= 6 && near >= MOSTLY * asked;
}

function isParted({ command }: Program, from: number, to: number): boolean {
  for (let i = from; i < to; i++) if (command[i] === STOP || command[i] === COLOR) return true;
  return false;
}
