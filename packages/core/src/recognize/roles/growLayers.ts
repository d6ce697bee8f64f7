import { calmRings } from '../../generate/underlay.ts';
import type { Program } from '../../model/program.ts';
import { wayOf } from './areas.ts';
import { makePiece } from '../rows/makePiece.ts';
import { measureRows } from '../rows/measureRows.ts';
import type { Piece } from '../rows/piece.ts';
import { perimeterOf, ringsOf } from '../rows/ringed.ts';
import { linesOf, type RowLines, rowsOnLines, spanOnLine } from '../rows/rowLines.ts';
import { joinRowSets, oneRow, type RowSet } from '../rows/rows.ts';
import { underCover } from './underCover.ts';

/** Fewer rows than this tell no lines. */
const LEAST_ROWS = 3;
/** A pitch that differs by more than this share is another one. */
const OTHER_PITCH = 0.2;

/**
 * Gives tatami underlay its rows beyond a walk: what follows a layer, or comes before it, under the same cover without a break and goes to and fro on
 * the layer's own lines is that layer, and the walk that leads there too, however much it looks like an edge run. What is left of the stitches beside
 * it is told anew. O(rows).
 */
export function growLayers(program: Program, pieces: readonly Piece[]): Piece[] {
  let out = [...pieces];
  for (let k = 0; k < out.length; k++) {
    const layer = out[k]!;
    if (!isTatami(layer)) continue;
    const lines = linesOf(program, layer.rows, layer.measured);
    if (lines === undefined) continue;
    let [from, to] = [k, k];
    while (isBeside(out[from], out[from - 1], layer)) from--;
    while (isBeside(out[to + 1], out[to], layer)) to++;
    const before = rowsBeside(program, lines, out[from]!.first, layer.first - 1, -1, layer.rows);
    const after = rowsBeside(program, lines, layer.last + 1, out[to]!.last, 1, layer.rows);
    if (before === undefined && after === undefined) {
      out[k] = { ...layer, measured: onLines(layer.measured, lines) };
      continue;
    }
    const first = before === undefined ? layer.first : before.first[0]! + 1;
    const last = after === undefined ? layer.last : after.last[after.count - 1]!;
    const rows = joinRowSets([...(before === undefined ? [] : [before]), layer.rows, ...(after === undefined ? [] : [after])]);
    const grown = { ...layer, first, last, rows, measured: onLines(measureRows(program, rows, 'fill'), lines) };
    const head = out.slice(from, k).flatMap((p) => restOf(program, p, p.first, Math.min(p.last, first - 1)));
    const tail = out.slice(k + 1, to + 1).flatMap((p) => restOf(program, p, Math.max(p.first, last + 1), p.last));
    out = [...out.slice(0, from), ...head, grown, ...tail, ...out.slice(to + 1)];
    k = from + head.length;
  }
  return asWalks(out);
}

/** Beside tatami an edge run follows so much of the edge at least: the walks between its rows follow less. */
const LEAST_FOLLOWED = 0.55;

/** Edge runs under covers that have tatami, too, as the walks of that where they follow too little of the edge. */
function asWalks(pieces: readonly Piece[]): Piece[] {
  const covers = new Set(pieces.filter(isTatami).map((p) => p.parent!));
  const lengths = new Map<Piece, number>();
  for (const p of pieces)
    if (p.underlayKind === 'edge-run' && covers.has(p.parent!)) lengths.set(p.parent!, (lengths.get(p.parent!) ?? 0) + wayOf(p));
  return pieces.map((p) => {
    if (p.underlayKind !== 'edge-run' || !covers.has(p.parent!)) return p;
    if (lengths.get(p.parent!)! > LEAST_FOLLOWED * perimeterOf(calmRings(ringsOf(p.parent!.measured)))) return p;
    return { ...p, role: 'travel', underlayKind: undefined };
  });
}

type Tatami = Piece & { readonly rows: RowSet; readonly measured: Extract<Piece['measured'], { kind: 'fill' }> };

function isTatami(piece: Piece): piece is Tatami {
  if (piece.underlayKind !== 'tatami' || piece.parent?.measured.kind !== 'fill') return false;
  return piece.measured.kind === 'fill' && piece.rows !== undefined && piece.rows.count >= LEAST_ROWS;
}

/** Whether two pieces that follow one another lie under the cover of a layer without a break. */
function isBeside(piece: Piece | undefined, before: Piece | undefined, layer: Piece): boolean {
  const isUnder = (p: Piece | undefined): boolean =>
    p !== undefined && (p.role === 'underlay' || p.role === 'travel') && p.parent === layer.parent;
  return isUnder(piece) && isUnder(before) && piece!.stretch === before!.stretch && before!.last + 1 === piece!.first;
}

/** What is left of a piece: itself where all of it is, and what it is under its cover where a part is. */
function restOf(program: Program, piece: Piece, first: number, last: number): Piece[] {
  if (first > last) return [];
  if (first === piece.first && last === piece.last) return [piece];
  return underCover(program, makePiece(program, piece.thread, piece.stretch, first, last, 'cover', piece.confidence), piece.parent!);
}

/** A layer's rows measured, its pitch by the lines that they lie on where that is another one. */
function onLines(measured: Piece['measured'], { step }: RowLines): Piece['measured'] {
  const isOther = measured.kind === 'fill' && Math.abs(measured.spacing / (2 * step) - 1) > OTHER_PITCH;
  return isOther ? { ...measured, spacing: 2 * step } : measured;
}

/** Rows among the stitches ending at `first`…`last` that go on to and fro from line to line, beside rows that are known; the walks between are let be. */
function rowsBeside(program: Program, lines: RowLines, first: number, last: number, side: -1 | 1, known: RowSet): RowSet | undefined {
  const edge = side < 0 ? 0 : known.count - 1;
  const beside = spanOnLine(program, lines, known.first[edge]!, known.last[edge]!);
  const found = rowsOnLines(program, lines, first, last, side < 0 ? { after: beside } : { before: beside });
  return found.length === 0 ? undefined : joinRowSets(found.map(({ from, to }) => oneRow(program, from, to)));
}
