import type { ObjectDecision } from '../model/objectDecision.ts';
import type { Program } from '../model/program.ts';
import { makePiece } from './rows/makePiece.ts';
import { measureRows } from './rows/measureRows.ts';
import type { Piece } from './rows/piece.ts';
import { joinRowSets, type RowSet } from './rows/rows.ts';
import { cutStrokes } from '../model/strokes.ts';

/** The pieces with decisions made on them, one after another. A decision whose rows no piece holds any more changes nothing. */
export function applyDecisions(program: Program, pieces: readonly Piece[], decisions: readonly ObjectDecision[]): Piece[] {
  return decisions.reduce<Piece[]>((current, decision) => applyDecision(program, current, decision), [...pieces]);
}

function applyDecision(program: Program, pieces: Piece[], decision: ObjectDecision): Piece[] {
  const indexOf = (row: number): number => pieces.findIndex((p) => p.first <= row && row <= p.last);
  switch (decision.kind) {
    case 'join': {
      const [from, to] = [indexOf(decision.first), indexOf(decision.last)];
      if (from < 0 || to <= from) return pieces;
      return replace(pieces, from, to, [joinPieces(program, pieces.slice(from, to + 1))]);
    }
    case 'split': {
      const at = indexOf(decision.row);
      const piece = pieces[at];
      if (piece === undefined || decision.row <= piece.first) return pieces;
      return replace(pieces, at, at, [part(program, piece, piece.first, decision.row - 1), part(program, piece, decision.row, piece.last)]);
    }
    case 'tell': {
      const at = indexOf(decision.row);
      const piece = pieces[at];
      if (piece === undefined) return pieces;
      const told = { ...remeasure(program, piece, decision.as), role: decision.role };
      if (decision.role === 'cover') told.parent = undefined;
      told.underlayKind = decision.role === 'underlay' ? (piece.underlayKind ?? usualLayer(decision.as)) : undefined;
      return replace(pieces, at, at, [told]);
    }
  }
}

function usualLayer(kind: Piece['measured']['kind']): Piece['underlayKind'] {
  return kind === 'fill' ? 'tatami' : kind === 'satin' ? 'zigzag' : 'edge-run';
}

/** Puts pieces in the place of others; what belonged to one of those belongs to the longest of the new ones. */
function replace(pieces: readonly Piece[], from: number, to: number, by: readonly Piece[]): Piece[] {
  const gone = new Set(pieces.slice(from, to + 1));
  const heir = by.reduce((a, b) => (b.last - b.first > a.last - a.first ? b : a));
  const next = [...pieces.slice(0, from), ...by, ...pieces.slice(to + 1)];
  for (const piece of next) if (piece.parent !== undefined && gone.has(piece.parent)) piece.parent = piece === heir ? undefined : heir;
  return next;
}

function joinPieces(program: Program, parts: readonly Piece[]): Piece {
  const longest = parts.reduce((a, b) => (b.last - b.first > a.last - a.first ? b : a));
  const whole = { ...longest, first: parts[0]!.first, last: parts[parts.length - 1]!.last, confidence: 1 };
  const sets = parts.flatMap((p) => (p.rows === undefined ? [] : [p.rows]));
  if (longest.measured.kind === 'run' || longest.measured.kind === 'other' || sets.length === 0)
    return remeasure(program, { ...whole, rows: undefined }, longest.measured.kind);
  const rows = joinRowSets(sets);
  return { ...whole, rows, measured: measureRows(program, rows, longest.measured.kind) };
}

function part(program: Program, piece: Piece, first: number, last: number): Piece {
  return remeasure(program, { ...piece, first, last, rows: undefined, pattern: undefined }, piece.measured.kind);
}

/** The piece as another kind, or as the same kind over other rows. */
function remeasure(program: Program, piece: Piece, kind: Piece['measured']['kind']): Piece {
  const told = { ...piece, confidence: 1 };
  if (kind === 'run')
    return {
      ...told,
      rows: undefined,
      measured: makePiece(program, piece.thread, piece.stretch, piece.first, piece.last, 'cover').measured,
    };
  if (kind === 'other') return { ...told, rows: undefined, measured: { kind, stitchLength: piece.measured.stitchLength } };
  const rows = piece.rows ?? strokesAsRows(program, piece);
  return rows.count < 2
    ? { ...told, measured: { kind: 'other', stitchLength: piece.measured.stitchLength } }
    : { ...told, rows, measured: measureRows(program, rows, kind) };
}

/** Every stroke as a row: for a piece that was not taken for rows but is told to be. */
function strokesAsRows(program: Program, { first, last }: Piece): RowSet {
  const strokes = cutStrokes(program, Math.max(0, first - 1), last);
  const sets = joinRowSets([
    {
      count: strokes.count,
      first: strokes.first,
      last: strokes.last,
      length: strokes.length,
      hasTurn: new Uint8Array(strokes.count),
      angle: 0,
      evenness: 0,
    },
  ]);
  return { ...sets, ...axisOf(strokes) };
}

function axisOf({ count, dx, dy, length }: ReturnType<typeof cutStrokes>): { angle: number; evenness: number } {
  let c = 0;
  let s = 0;
  let total = 0;
  for (let k = 0; k < count; k++) {
    c += (dx[k]! * dx[k]! - dy[k]! * dy[k]!) * length[k]!;
    s += 2 * dx[k]! * dy[k]! * length[k]!;
    total += length[k]!;
  }
  const half = ((Math.atan2(s, c) / 2) * 180) / Math.PI;
  return { angle: (half + 180) % 180, evenness: total > 0 ? Math.hypot(c, s) / total : 0 };
}
