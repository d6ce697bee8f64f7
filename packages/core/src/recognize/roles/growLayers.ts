import { calmRings } from '../../generate/underlay.ts';
import type { Program } from '../../model/program.ts';
import { STITCH } from '../../model/program.ts';
import { agree } from '../rows/agree.ts';
import { wayOf } from './areas.ts';
import { makePiece } from '../rows/makePiece.ts';
import { measureRows } from '../rows/measureRows.ts';
import type { Piece } from '../rows/piece.ts';
import { perimeterOf, ringsOf } from '../rows/ringed.ts';
import { joinRowSets, oneRow, type RowSet } from '../rows/rows.ts';
import { median } from '../../geometry/statistics.ts';
import { underCover } from './underCover.ts';

/** Rows that lie on lines a step apart are this sure of it, 0 to 1; a penetration is on a line no farther off than this share of a step. */
const SURE = 0.8;
const ON_LINE = 0.12;
/** Fewer rows than this tell no lines; a row is longer than so many steps. */
const LEAST_ROWS = 3;
const LEAST_LENGTH = 1;
/** The ends of a row lie as far across as one another, within this share of the pitch. */
const LEAN = 0.08;
/** Between two rows that follow one another lie no more stitches than this. */
const MOST_BETWEEN = 2;
/** The step is looked for around so many times the one that was measured, this far as a share, in so many parts on either side. */
const STEPS = [
  [2, 0.03],
  [1, 0.01],
] as const;
const STEP_PARTS = 20;
/** A pitch that differs by more than this share is another one. */
const OTHER_PITCH = 0.2;

/** Lines one step apart that the rows of a layer lie on: unit vector along them, and where line 0 lies across it, mm. */
interface Lines {
  readonly c: number;
  readonly s: number;
  readonly step: number;
  readonly origin: number;
}

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
    const before = rowsOnLines(program, lines, out[from]!.first, layer.first - 1, -1, layer.rows);
    const after = rowsOnLines(program, lines, layer.last + 1, out[to]!.last, 1, layer.rows);
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

/** The lines that a layer's rows lie on; none where they keep to none. */
function linesOf({ x, y }: Program, rows: RowSet, { angle, spacing }: Tatami['measured']): Lines | undefined {
  const [c, s] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
  const across = (i: number): number => y[i]! * c - x[i]! * s;
  // Walks that were taken for rows lean.
  const heights = Array.from(rows.first, (i, r) => [across(i), across(rows.last[r]!)] as const)
    .filter(([from, to]) => Math.abs(from - to) < LEAN * spacing)
    .map(([from, to]) => (from + to) / 2);
  if (heights.length < LEAST_ROWS) return undefined;
  const middle = median(heights);
  const weights = heights.map(() => 1);
  // Among few rows a walk or two may have halved the pitch; rows that lie on lines twice as far apart are those of these lines.
  for (const [times, reach] of STEPS) {
    let best: { step: number; agreement: number; phase: number } | undefined;
    for (let part = -STEP_PARTS; part <= STEP_PARTS; part++) {
      const step = ((times * spacing) / 2) * (1 + (reach * part) / STEP_PARTS);
      const found = agree(heights, weights, (v) => (v - middle) / step);
      if (best === undefined || found.agreement > best.agreement) best = { step, ...found };
    }
    if (best!.agreement >= SURE) return { c, s, step: best!.step, origin: middle + best!.phase * best!.step };
  }
  return undefined;
}

/** A layer's rows measured, its pitch by the lines that they lie on where that is another one. */
function onLines(measured: Piece['measured'], { step }: Lines): Piece['measured'] {
  const isOther = measured.kind === 'fill' && Math.abs(measured.spacing / (2 * step) - 1) > OTHER_PITCH;
  return isOther ? { ...measured, spacing: 2 * step } : measured;
}

/** Rows among the stitches ending at `first`…`last` that go on to and fro from line to line, beside rows that are known; the walks between are let be. */
function rowsOnLines(
  program: Program,
  { c, s, step, origin }: Lines,
  first: number,
  last: number,
  side: -1 | 1,
  known: RowSet,
): RowSet | undefined {
  const { x, y, command } = program;
  const along = (i: number): number => x[i]! * c + y[i]! * s;
  const place = (i: number): number => (y[i]! * c - x[i]! * s - origin) / step;
  const edge = side < 0 ? 0 : known.count - 1;
  const found: { from: number; to: number; line: number }[] = [];
  for (let i = Math.max(0, first - 1); i < last;) {
    const line = Math.round(place(i));
    const isOn = (n: number): boolean => Math.abs(place(n) - line) < ON_LINE;
    let n = i;
    if (isOn(i)) {
      const way = Math.sign(along(i + 1) - along(i));
      while (n < last && command[n + 1] === STITCH && isOn(n + 1) && (along(n + 1) - along(n)) * way > 0) n++;
    }
    if (Math.abs(along(n) - along(i)) > LEAST_LENGTH * step) found.push({ from: i, to: n, line });
    i = Math.max(i + 1, n);
  }
  const beside = { from: known.first[edge]!, to: known.last[edge]!, line: Math.round(place(known.last[edge]!)) };
  const all = side < 0 ? [...found, beside] : [beside, ...found];
  const isPair = (k: number): boolean => {
    const [a, b] = [all[k], all[k + 1]];
    if (a === undefined || b === undefined || b.from - a.to > MOST_BETWEEN || Math.abs(a.line - b.line) !== 1) return false;
    return (along(a.to) - along(a.from)) * (along(b.to) - along(b.from)) < 0;
  };
  const rows = all.filter((row, k) => row !== beside && (isPair(k) || isPair(k - 1)));
  return rows.length === 0 ? undefined : joinRowSets(rows.map(({ from, to }) => oneRow(program, from, to)));
}
