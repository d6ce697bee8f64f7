import type { StitchKind, StitchRole } from '../model/kinds.ts';
import type { Program } from '../model/program.ts';
import { makePiece } from './rows/makePiece.ts';
import { measureRows } from './rows/measureRows.ts';
import type { Piece } from './rows/piece.ts';
import { describePieces, findPieces, type Recognition } from './recognizeProgram.ts';
import { joinRowSets, type RowSet } from './rows/rows.ts';
import { cutStrokes } from '../model/strokes.ts';

/** What a person says of rows that are recognized by themselves: all covers are one, a second one begins at a row, or it is told what they are. */
export type Said =
  | { readonly kind: 'join' }
  | { readonly kind: 'split'; readonly row: number }
  | { readonly kind: 'tell'; readonly as: StitchKind; readonly role: StitchRole };

/** Recognizes rows as somebody says that they are. The first row is where the first stitch begins. */
export function recognizeAs(program: Program, said: Said): Recognition {
  return describePieces(program, pieceTogether(program, findPieces(program), said));
}

const COVERS: readonly StitchRole[] = ['cover', 'placement', 'tackdown'];

function pieceTogether(program: Program, pieces: Piece[], said: Said): Piece[] {
  switch (said.kind) {
    case 'join':
      return joinCovers(program, pieces);
    case 'split': {
      const at = pieces.findIndex((p) => p.first <= said.row && said.row <= p.last);
      const piece = pieces[at];
      if (piece === undefined || said.row <= piece.first) return pieces;
      return replace(pieces, at, at, [part(program, piece, piece.first, said.row - 1), part(program, piece, said.row, piece.last)]);
    }
    case 'tell': {
      const whole = joinCovers(program, pieces);
      const at = whole.findIndex((p) => isCover(p));
      const piece = whole[at];
      if (piece === undefined) return whole;
      const told = { ...remeasure(program, piece, said.as), role: said.role };
      told.underlayKind = said.role === 'underlay' ? usualLayer(said.as) : undefined;
      return replace(whole, at, at, [told]);
    }
  }
}

function isCover(piece: Piece): boolean {
  return piece.parent === undefined && COVERS.includes(piece.role);
}

/** All covers as one, with whatever else was told as it was; where there is none all that is no tie is taken for it. */
function joinCovers(program: Program, pieces: readonly Piece[]): Piece[] {
  const covers = pieces.some(isCover) ? pieces.filter(isCover) : pieces.filter((p) => p.role !== 'tie');
  if (covers.length === 0) return [...pieces];
  const whole =
    covers.length === 1 ? { ...covers[0]!, role: 'cover' as const, parent: undefined, confidence: 1 } : joinPieces(program, covers);
  const rest = pieces.filter((p) => !covers.includes(p));
  for (const piece of rest) if (piece.parent !== undefined) piece.parent = whole;
  return [...rest, whole].sort((a, b) => a.first - b.first);
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
  const whole = {
    ...longest,
    role: 'cover' as const,
    parent: undefined,
    underlayKind: undefined,
    first: parts[0]!.first,
    last: parts[parts.length - 1]!.last,
    confidence: 1,
  };
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
