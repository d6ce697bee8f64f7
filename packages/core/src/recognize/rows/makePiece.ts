import type { Program } from '../../model/program.ts';
import { measureRun } from '../line/measureRun.ts';
import type { Piece } from './piece.ts';

/** A piece of run over stitches ending at `first`…`last`. */
export function makePiece(
  program: Program,
  thread: number,
  stretch: number,
  first: number,
  last: number,
  role: Piece['role'],
  confidence = 0.9,
): Piece {
  const start = role === 'tie' && program.command[first - 1] !== 0 ? first : Math.max(0, first - 1);
  return { ...barePiece(thread, stretch, first, last), measured: { kind: 'run', ...measureRun(program, start, last) }, role, confidence };
}

/** A piece of which all is known but what it was measured to be. */
export function barePiece(thread: number, stretch: number, first: number, last: number): Omit<Piece, 'measured'> {
  return {
    thread,
    stretch,
    first,
    last,
    rows: undefined,
    confidence: 0.9,
    pattern: undefined,
    role: 'cover',
    underlayKind: undefined,
    parent: undefined,
  };
}
