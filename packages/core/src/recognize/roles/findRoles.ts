import type { Program } from '../../model/program.ts';
import { isInside, linkAreas, shareInside, wayOf } from './areas.ts';
import { makePiece } from '../rows/makePiece.ts';
import { measureRows } from '../rows/measureRows.ts';
import { tellEdgeRuns } from './edgeRuns.ts';
import { growLayers } from './growLayers.ts';
import type { Piece } from '../rows/piece.ts';
import { joinRowSets } from '../rows/rows.ts';
import { axisDifference } from '../../geometry/axis.ts';
import { distanceToRings, ringsOf } from '../rows/ringed.ts';
import { isColumn, underColumn } from './underColumn.ts';
import { underCover } from './underCover.ts';

/** Underlay is this many times as open as its cover at least. */
const OPENER = 1.6;
/** Underlay and hidden travel lie inside their cover with this share of their penetrations. */
export const INSIDE = 0.78;
/** What leads from one object to the next in the open is no longer than this (mm). */
const OPEN_TRAVEL = 8;

/**
 * Says of each piece what it is there for: what lies inside a later, denser cover of its thread is underlay, or travel where it is neither
 * along the edge nor down the middle. Runs of which one part lies under a cover are parted there. Gives the pieces in order, ties included.
 */
export function findRoles(program: Program, pieces: readonly Piece[]): Piece[] {
  const areas = linkAreas(program, pieces);
  const out: Piece[] = [];
  for (let k = 0; k < pieces.length; k++) {
    const piece = pieces[k]!;
    if (piece.role === 'tie' || piece.pattern !== undefined) out.push(piece);
    else if (piece.measured.kind === 'other') out.push(...placeOther(program, piece, areas.after(k)));
    else if (piece.measured.kind === 'run') out.push(...placeRun(program, piece, areas.before(k), areas.after(k)));
    else {
      const cover = areas.after(k).find((c) => isOpener(piece, c) && shareInside(program, piece, c) >= INSIDE);
      const layer = cover === undefined ? undefined : asLayer(piece, cover);
      out.push(...(layer === undefined ? (asRunOfColumn(program, piece, areas.after(k)[0]) ?? [piece]) : [layer]));
    }
  }
  // What lies in a layer of underlay lies under that layer's own cover.
  for (const piece of out) while (piece.parent?.parent !== undefined) piece.parent = piece.parent.parent;
  return mergeLayers(program, tellEdgeRuns(program, growLayers(program, mergeLayers(program, out))));
}

/** So few rows right before a column, and inside it, may be the straights of a run that goes along it there and back. */
const FEW_ROWS = 6;

/** Rows that are a run down or around the column that they lie in; none where they are not. */
function asRunOfColumn(program: Program, piece: Piece, cover: Piece | undefined): Piece[] | undefined {
  if (!isColumn(cover) || piece.rows === undefined || piece.rows.count > FEW_ROWS) return undefined;
  if (piece.stretch !== cover.stretch || shareInside(program, piece, cover) < INSIDE) return undefined;
  const run = makePiece(program, piece.thread, piece.stretch, piece.first, piece.last, 'cover', piece.confidence);
  const parts = underColumn(program, run, cover);
  return parts.some((p) => p.underlayKind === 'center-run' || p.underlayKind === 'edge-run') ? parts : undefined;
}

/** What could not be told by itself may be open underlay or travel of a cover that it lies in. */
function placeOther(program: Program, piece: Piece, later: readonly Piece[]): Piece[] {
  const cover = later.find((c) => shareInside(program, piece, c) >= INSIDE);
  if (cover === undefined) return [piece];
  return underCover(program, makePiece(program, piece.thread, piece.stretch, piece.first, piece.last, 'cover', piece.confidence), cover);
}

/** Parts of one layer that follow one another without a break, or with no more than a step of travel between, are that layer. */
export function mergeLayers(program: Program, pieces: readonly Piece[]): Piece[] {
  const merged: Piece[] = [];
  for (const piece of pieces) {
    const last = merged[merged.length - 1];
    const isStep = last?.role === 'travel' && last.parent === piece.parent && last.last - last.first < STEP_OF_TRAVEL;
    const before = isStep && piece.underlayKind === 'tatami' ? merged[merged.length - 2] : last;
    const isSame = before?.underlayKind !== undefined && before.underlayKind === piece.underlayKind && before.parent === piece.parent;
    const follows = before !== undefined && (before === last ? before.last : last!.last) + 1 === piece.first;
    if (before === undefined || !isSame || !follows || before.stretch !== piece.stretch) {
      merged.push(piece);
      continue;
    }
    if (before !== last) merged.pop();
    const { role, parent, underlayKind, confidence } = before;
    const whole = { ...makePiece(program, piece.thread, before.stretch, before.first, piece.last, role, confidence), parent, underlayKind };
    if (before.rows === undefined || piece.rows === undefined) merged[merged.length - 1] = whole;
    else {
      const rows = joinRowSets([before.rows, piece.rows]);
      const kind = underlayKind === 'zigzag' ? 'satin' : 'fill';
      merged[merged.length - 1] = { ...whole, rows, measured: measureRows(program, rows, kind) };
    }
  }
  return merged;
}

/** Travel of fewer stitches than this between two parts of a layer belongs to it. */
const STEP_OF_TRAVEL = 12;

/** Rows as a layer of underlay of a cover that they lie in, where they are open enough. */
export function asLayer(piece: Piece, cover: Piece): Piece | undefined {
  if (!isOpener(piece, cover)) return undefined;
  piece.role = 'underlay';
  piece.parent = cover;
  piece.underlayKind = baseKind(piece, cover);
  return piece;
}

/** Whether rows are so much more open than a cover that they may be its underlay. */
export function isOpener(piece: Piece, cover: Piece): boolean {
  const [a, b] = [piece.measured, cover.measured];
  return 'spacing' in a && 'spacing' in b && a.spacing >= OPENER * b.spacing;
}

function baseKind(piece: Piece, cover: Piece): Piece['underlayKind'] {
  const [a, b] = [piece.measured, cover.measured];
  if (a.kind === 'fill') return 'tatami';
  if (a.kind === 'satin' && b.kind === 'fill' && axisDifference(a.angle, b.angle) > 30) return 'tatami';
  return 'zigzag';
}

/** A run as line, travel, center run or edge run, parted where it changes from one to another. */
function placeRun(program: Program, piece: Piece, before: readonly Piece[], later: readonly Piece[]): Piece[] {
  const { x, y } = program;
  for (const cover of later) {
    const isIn: boolean[] = [];
    for (let i = piece.first; i <= piece.last; i++) isIn.push(isInside(cover, x[i]!, y[i]!));
    const count = isIn.filter(Boolean).length;
    if (count >= INSIDE * isIn.length) return underCover(program, piece, cover);
    // Only what leads up to the next area is parted: its underlay begins where the way comes inside for good.
    if (cover !== later[0]) continue;
    let start = isIn.length;
    while (start > 0 && isIn[start - 1]) start--;
    if (isIn.length - start >= 3 && isIn.length - start > 0.15 * isIn.length) {
      const head = makePiece(program, piece.thread, piece.stretch, piece.first, piece.first + start - 1, 'cover', piece.confidence);
      const tail = makePiece(program, piece.thread, piece.stretch, piece.first + start, piece.last, 'cover', piece.confidence);
      return [...asLineOrTravel(program, head, before, cover, true), ...underCover(program, tail, cover)];
    }
  }
  return asLineOrTravel(program, piece, before, later[0]);
}

/**
 * A run in the open is a line, unless it leads from one area to the next on a short way or over areas, lies wholly in the area before, or is so little
 * beside an area that it belongs to it. `isLed`: it leads to the area after although a cut lies between, since that area's underlay goes on from it.
 */
function asLineOrTravel(program: Program, piece: Piece, earlier: readonly Piece[], after: Piece | undefined, isLed = false): Piece[] {
  if (piece.last < piece.first) return [];
  const [before] = earlier;
  const from = before?.stretch === piece.stretch ? before : undefined;
  const to = isLed || after?.stretch === piece.stretch ? after : undefined;
  if ((from ?? to) === undefined) return [piece];
  const length = wayOf(piece);
  const isShort = piece.last - piece.first < FEW_STITCHES;
  const belongsTo = (area: Piece | undefined): boolean =>
    area?.thread === piece.thread && length < SMALL * wayOfRows(area) && nearShare(program, piece, [area]) >= NEARLY_ALL;
  const isHidden = before !== undefined && shareInside(program, piece, before) >= INSIDE;
  const isBetween = from !== undefined && to !== undefined;
  const isOnItsWay = isBetween && (length <= OPEN_TRAVEL || (isShort && nearShare(program, piece, [...earlier, to]) >= INSIDE));
  if (isHidden || isOnItsWay || (isShort && (belongsTo(from) || belongsTo(to)))) piece.role = 'travel';
  return [piece];
}

/** So few stitches beside an area, and so little of its thread, belong to it: its last row or two, or the way to the first one. */
const FEW_STITCHES = 20;
const SMALL = 0.2;
/** They lie in it or no farther from its edge than this (mm), for so large a share. */
const NEAR = 1.6;
const NEARLY_ALL = 0.85;

function wayOfRows({ rows }: Piece): number {
  return rows?.length.reduce((sum, l) => sum + l, 0) ?? 0;
}

/** The share of a run's penetrations that lie in one of some areas, or near it. */
function nearShare({ x, y }: Program, piece: Piece, areas: readonly Piece[]): number {
  let near = 0;
  for (let i = piece.first; i <= piece.last; i++)
    if (areas.some((area) => isInside(area, x[i]!, y[i]!) || distanceToRings(ringsOf(area.measured), x[i]!, y[i]!) < NEAR)) near++;
  return near / (piece.last - piece.first + 1);
}
