import { COLOR, type Program, STOP } from '../model/program.ts';
import type { Piece } from './piece.ts';
import { distanceToRings } from './ringed.ts';

/** A line is closed when its ends are nearer than this (mm), and long enough to lay a piece of fabric on. */
const CLOSED = 2;
const LEAST_AROUND = 25;
/** Tack-down and cover follow the placement line within this (mm), for this share of their penetrations. */
const FOLLOWS = 2.5;
const MOSTLY = 0.85;
/** How many pieces after the placement line are looked at. */
const AHEAD = 40;

/**
 * Tells the placement lines and tack-downs of applique: a closed line, a stop or color change, a line or open zigzag along the same way, and
 * later a closer cover along it. Marks them with their roles and with the cover as their parent.
 */
export function findApplique(program: Program, pieces: readonly Piece[]): void {
  for (let k = 0; k < pieces.length; k++) {
    const placement = pieces[k]!;
    const ring = closedRing(program, placement);
    if (ring === undefined) continue;
    let tackdown: Piece | undefined;
    for (let n = k + 1; n < pieces.length && n <= k + AHEAD; n++) {
      const piece = pieces[n]!;
      if (piece.role === 'tie' || !isFollowing(program, piece, ring)) continue;
      const { measured } = piece;
      const isOpen = measured.kind === 'run' || ('spacing' in measured && measured.spacing > 0.8);
      if (tackdown === undefined && isOpen && isParted(program, placement.last, piece.first)) tackdown = piece;
      else if (tackdown !== undefined && measured.kind !== 'run' && !isOpen) {
        placement.role = 'placement';
        placement.parent = piece;
        tackdown.role = 'tackdown';
        tackdown.parent = piece;
        break;
      }
    }
  }
}

function closedRing({ x, y }: Program, { measured, role, first, last, isKnown }: Piece): Float64Array | undefined {
  if (measured.kind !== 'run' || isKnown || role === 'tie' || measured.length < LEAST_AROUND) return undefined;
  const from = Math.max(0, first - 1);
  if (Math.hypot(x[last]! - x[from]!, y[last]! - y[from]!) > CLOSED && measured.passes === 1) return undefined;
  return measured.path;
}

function isFollowing({ x, y }: Program, { first, last }: Piece, ring: Float64Array): boolean {
  const step = Math.max(1, Math.floor((last - first) / 120));
  let near = 0;
  let asked = 0;
  for (let i = first; i <= last; i += step) {
    asked++;
    if (distanceToRings([ring], x[i]!, y[i]!) < FOLLOWS) near++;
  }
  return asked >= 6 && near >= MOSTLY * asked;
}

function isParted({ command }: Program, from: number, to: number): boolean {
  for (let i = from; i < to; i++) if (command[i] === STOP || command[i] === COLOR) return true;
  return false;
}
