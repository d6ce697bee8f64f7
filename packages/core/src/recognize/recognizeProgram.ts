import { countProgram, type Extents } from '../measure/counts.ts';
import { type Program, STITCH, UNNAMED_THREAD } from '../model/program.ts';
import { splitIntoStretches } from '../model/stretches.ts';
import { cutPieces, type StretchSteps } from './cut/cutPieces.ts';
import { findApplique } from './roles/findApplique.ts';
import { namePatterns } from './line/findPattern.ts';
import { chanceOfKind } from './rows/fillOrSatin.ts';
import { findRoles } from './roles/findRoles.ts';
import { growRows } from './rows/growRows.ts';
import { joinColumns } from './column/joinColumns.ts';
import { growOpenFills } from './roles/growOpenFills.ts';
import { joinSections } from './fill/joinSections.ts';
import { numberNames, sayPlace } from './nameObjects.ts';
import type { Piece } from './rows/piece.ts';
import { ringsOf } from './rows/ringed.ts';
import type { StitchObject, UnderlayLayer } from '../model/stitchObject.ts';

/** The objects of a program in sewing order, and which of them each row belongs to. */
export interface Recognition {
  readonly objects: readonly StitchObject[];
  /** For each row the index of the object whose thread the stitch ending there lays; −1 for jumps, trims and all other rows. */
  readonly ownerOfRow: Int32Array;
}

export interface RecognizeOptions {
  /** Is shown the steps on the way for each stretch, for pictures of them. */
  readonly watch?: (stretch: number, steps: StretchSteps) => void;
  /** Hears how far it is, from 0 to 1, and in words what is being done. */
  readonly progress?: (share: number, doing: string) => void;
}

/** Counts up whenever the same file would be told otherwise, so that readings of different times can be told apart. */
export const RECOGNIZER_VERSION = 2;

/**
 * Finds the objects that a digitizer would speak of in bare stitches. Never throws on a program that was read; what cannot be told is
 * `other`. O(rows), and unions of outlines.
 *
 * Stretches are cut into ties and strokes, strokes put together to segments by the cheapest explanation ({@link findSegments}), measured,
 * sections of one fill joined, lines looked at for patterns, and each told what it is there for.
 */
export function recognizeProgram(program: Program, options: RecognizeOptions = {}): Recognition {
  return describePieces(program, findPieces(program, options));
}

/** The same before it is described: the objects in the making, in sewing order. */
export function findPieces(program: Program, { watch, progress }: RecognizeOptions = {}): Piece[] {
  const stretches = splitIntoStretches(program);
  const every = Math.max(1, Math.floor(stretches.length / 40));
  const pieces = stretches.flatMap((stretch, index) => {
    if (index % every === 0) progress?.((CUT_SHARE * index) / stretches.length, 'cutting stretches');
    const isEnd = { first: index === 0, last: index === stretches.length - 1 };
    return cutPieces(program, stretch, index, isEnd, watch && ((steps) => watch(index, steps)));
  });
  progress?.(CUT_SHARE, 'joining sections');
  const joined = growOpenFills(program, growRows(program, joinSections(program, joinColumns(program, pieces))));
  progress?.(JOIN_SHARE, 'telling underlay, travel and cover');
  const placed = findApplique(program, namePatterns(program, findRoles(program, joined)));
  progress?.(ROLE_SHARE, 'naming');
  return placed;
}

/** How far recognition is when a step is done, found by measuring. */
const CUT_SHARE = 0.35;
const JOIN_SHARE = 0.6;
const ROLE_SHARE = 0.9;

/** Pieces in sewing order as objects with ids and names. */
export function describePieces(program: Program, pieces: readonly Piece[]): Recognition {
  const ids = new Map(pieces.map((piece, k) => [piece, `o${k + 1}`]));
  const extents = countProgram(program).extents;
  const layers = new Map<Piece, UnderlayLayer[]>();
  for (const piece of pieces) {
    if (piece.role !== 'underlay' || piece.parent === undefined) continue;
    const own = layers.get(piece.parent) ?? [];
    layers.set(piece.parent, [...own, layerOf(piece, ids.get(piece)!)]);
  }
  const names = numberNames(pieces.map((piece) => nameOf(program, piece, extents)));
  const ownerOfRow = new Int32Array(program.rowCount).fill(-1);
  const objects = pieces.map((piece, k): StitchObject => {
    let stitches = 0;
    for (let i = piece.first; i <= piece.last; i++) {
      if (program.command[i] !== STITCH) continue;
      stitches++;
      ownerOfRow[i] = k;
    }
    const { measured } = piece;
    const start = Math.max(0, program.command[piece.first - 1] === STITCH ? piece.first - 1 : piece.first);
    return {
      id: ids.get(piece)!,
      name: names[k]!,
      kind: measured.kind,
      role: piece.role,
      ...(piece.pattern === undefined ? {} : { pattern: piece.pattern }),
      ...(piece.underlayKind === undefined ? {} : { layer: piece.underlayKind }),
      ...(piece.parent === undefined ? {} : { parent: ids.get(piece.parent)! }),
      thread: piece.thread,
      color: (program.threads[piece.thread] ?? UNNAMED_THREAD).color,
      first: piece.first,
      last: piece.last,
      spans: spansOf(program, piece),
      stitches,
      ...('spacing' in measured ? { spacing: measured.spacing, angle: measured.angle } : {}),
      ...(measured.kind === 'satin' ? { width: measured.width, rails: measured.rails } : {}),
      stitchLength: measured.stitchLength,
      ...(measured.kind === 'fill' && measured.offset !== undefined ? { offset: measured.offset } : {}),
      ...(measured.kind === 'fill' ? { rowEnds: measured.rowEnds } : {}),
      ...(measured.kind === 'fill' && measured.shortest !== undefined ? { shortest: measured.shortest } : {}),
      ...(measured.kind === 'fill' && measured.endStitch !== undefined ? { endStitch: measured.endStitch } : {}),
      ...(measured.kind === 'run' ? { passes: measured.passes, path: measured.path } : {}),
      outline: ringsOf(measured)[0] ?? new Float64Array(0),
      holes: measured.kind === 'fill' ? measured.holes : [],
      underlay: layers.get(piece) ?? [],
      entry: { x: program.x[start]!, y: program.y[start]! },
      exit: { x: program.x[piece.last]!, y: program.y[piece.last]! },
      ...surenessOf(program, piece, stitches),
    };
  });
  return { objects, ownerOfRow };
}

/** Below this chance of its kind an object has the other reading beside it. */
const SURE_KIND = 0.97;
/** Covers of fewer stitches than this are seldom whole objects: what is sure of their rows is worth so much less. */
const SMALL: Readonly<Record<Piece['measured']['kind'], readonly (readonly [stitches: number, worth: number])[]>> = {
  run: [[16, 0.55]],
  satin: [
    [10, 0.75],
    [30, 0.93],
  ],
  fill: [[16, 0.75]],
  other: [],
};

/** How sure it is what an object is, and what else it may be. */
function surenessOf(program: Program, piece: Piece, stitches: number): Pick<StitchObject, 'confidence' | 'otherReading'> {
  const { measured, rows, confidence, isJoined } = piece;
  if (confidence === 1) return { confidence };
  const worth =
    piece.role === 'cover' && piece.pattern === undefined ? (SMALL[measured.kind].find(([most]) => stitches < most)?.[1] ?? 1) : 1;
  if (piece.role !== 'cover' || rows === undefined || isJoined || (measured.kind !== 'fill' && measured.kind !== 'satin'))
    return { confidence: worth * confidence };
  const chance = chanceOfKind(program, rows, measured.kind);
  return {
    confidence: worth * confidence * chance,
    ...(chance < SURE_KIND ? { otherReading: measured.kind === 'fill' ? 'satin' : 'fill' } : {}),
  };
}

function layerOf(piece: Piece, object: string): UnderlayLayer {
  const { measured } = piece;
  const figures =
    'spacing' in measured ? { spacing: measured.spacing, ...(piece.underlayKind === 'tatami' ? { angle: measured.angle } : {}) } : {};
  return { kind: piece.underlayKind!, object, first: piece.first, last: piece.last, ...figures };
}

/** The rows of a piece without the jumps and trims between its sections. */
function spansOf(program: Program, piece: Piece): { first: number; last: number }[] {
  const spans: { first: number; last: number }[] = [];
  for (let i = piece.first; i <= piece.last; i++) {
    if (program.command[i] !== STITCH) continue;
    const first = i;
    while (i < piece.last && program.command[i + 1] === STITCH) i++;
    spans.push({ first, last: i });
  }
  return spans;
}

const ROLE_NAMES = { underlay: 'underlay', travel: 'travel', tie: 'tie', placement: 'placement line', tackdown: 'tack-down' } as const;

const PATTERN_NAMES = {
  'edge-stitch': 'edge stitch',
  contour: 'contour fill',
  meander: 'meander fill',
  'registration-mark': 'registration mark',
} as const;

function nameOf(program: Program, piece: Piece, extents: Extents): string {
  let minX = Infinity;
  let maxX = -Infinity;
  let minY = Infinity;
  let maxY = -Infinity;
  for (let i = Math.max(0, piece.first - 1); i <= piece.last; i++) {
    if (program.command[i] !== STITCH) continue;
    minX = Math.min(minX, program.x[i]!);
    maxX = Math.max(maxX, program.x[i]!);
    minY = Math.min(minY, program.y[i]!);
    maxY = Math.max(maxY, program.y[i]!);
  }
  const what =
    piece.role === 'cover'
      ? piece.pattern === undefined
        ? piece.measured.kind
        : PATTERN_NAMES[piece.pattern]
      : (piece.underlayKind?.replace('-', ' ') ?? ROLE_NAMES[piece.role]);
  const size = Math.max(maxX - minX, maxY - minY);
  return `${what}, ${sayPlace((minX + maxX) / 2, (minY + maxY) / 2, extents)}, ${size < 9.5 ? size.toFixed(1) : size.toFixed(0)} mm`;
}
