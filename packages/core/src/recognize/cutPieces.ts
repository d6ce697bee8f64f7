import type { Program } from '../model/program.ts';
import { isThreadCut, type Stretch } from '../model/stretches.ts';
import { findLock } from '../model/ties.ts';
import { against, type StrokeEvidence, weighStrokes } from './evidence.ts';
import { measureFill } from './measureFill.ts';
import { measureRun } from './measureRun.ts';
import { measureSatin } from './measureSatin.ts';
import type { Measured, Piece } from './piece.ts';
import { collectRows, isFillRows, median, type RowSet } from './rows.ts';
import { findSegments, type Segment } from './segment.ts';
import { cutStrokes, type Strokes } from './strokes.ts';

/** Fewer rows than this make no area. */
const LEAST_ROWS = 4;

/** Rows farther apart than this (same-direction pitch, mm) are straights of a line. */
export const OPENEST = 6;

/** Strokes of so many stitches in the mean are parts of a line, however oddly it turns. */
const LINE_STEPS = 4;
/** What a stroke of a clear run costs by itself. */
const USUAL_OF_RUN = 0.4;
/** Throws at the tip of a column lean against each other by this at most, degrees. */
const TIP_LEAN = 75;

/** What was seen of a stretch on the way to its pieces, for pictures of each step. */
export interface StretchSteps {
  readonly strokes: Strokes;
  readonly evidence: StrokeEvidence;
  readonly segments: readonly Segment[];
}

/** Cuts a stretch into its ties and what its stitches do between them. `watch` is shown the steps in between. O(rows). */
export function cutPieces(
  program: Program,
  stretch: Stretch,
  index: number,
  isEnd: { readonly first: boolean; readonly last: boolean },
  watch?: (steps: StretchSteps) => void,
): Piece[] {
  const pieces: Piece[] = [];
  let { first, last } = stretch;
  const start = isEnd.first || isThreadCut(stretch.before) ? findLock(program, first, last) : -1;
  if (start > first) {
    pieces.push(makePiece(program, stretch.thread, index, first, start, 'tie'));
    first = start;
  }
  const end = isEnd.last || isThreadCut(stretch.after) ? findLock(program, last, first) : -1;
  if (end >= first && end < last) last = end;

  const strokes = cutStrokes(program, first, last);
  const evidence = weighStrokes(program, strokes);
  const segments = growRows(strokes, findSegments(evidence));
  watch?.({ strokes, evidence, segments });
  const between: Piece[] = [];
  for (const segment of segments) {
    const count = segment.last - segment.first + 1;
    const confidence = Math.max(
      0.05,
      Math.min(0.99, Math.exp(-0.7 * Math.max(0, segment.cost / count - (segment.label === 'run' ? USUAL_OF_RUN : 0)))),
    );
    const [a, b] = [strokes.first[segment.first]!, strokes.last[segment.last]!];
    const rows = segment.label === 'rows' ? collectRows(strokes, evidence, segment) : undefined;
    const measured =
      rows !== undefined && rows.count >= LEAST_ROWS ? measureRows(program, rows, isFillRows(program, rows) ? 'fill' : 'satin') : undefined;
    if (measured !== undefined && 'spacing' in measured && measured.spacing <= OPENEST) {
      between.push({ ...bare(stretch.thread, index, a + 1, b), rows, confidence, measured });
    } else if (segment.label === 'other' && b - a < LINE_STEPS * count) {
      const measured = {
        kind: 'other' as const,
        stitchLength: median(Array.from(strokes.length.subarray(segment.first, segment.last + 1))),
      };
      between.push({ ...bare(stretch.thread, index, a + 1, b), measured, confidence });
    } else between.push(makePiece(program, stretch.thread, index, a + 1, b, 'cover', confidence));
  }
  pieces.push(...joinRuns(program, between));
  if (last < stretch.last) pieces.push(makePiece(program, stretch.thread, index, last + 1, stretch.last, 'tie'));
  return pieces;
}

/** Gives rows the throws before and after them that a run was cheaper for: the first and last ones of a column with a tip are short and lean. */
function growRows(strokes: Strokes, segments: readonly Segment[]): Segment[] {
  const grown = segments.map((s) => ({ ...s }));
  const isThrow = (k: number, next: number): boolean =>
    strokes.last[k]! - strokes.first[k]! === 1 &&
    against(strokes, k, next) < TIP_LEAN &&
    strokes.length[k]! < 1.5 * strokes.length[next]! + 0.3;
  grown.forEach((segment, n) => {
    if (segment.label !== 'rows' || segment.last - segment.first < LEAST_ROWS) return;
    const [before, after] = [grown[n - 1], grown[n + 1]];
    while (before?.label === 'run' && before.last >= before.first && isThrow(segment.first - 1, segment.first)) {
      segment.first--;
      before.last--;
    }
    while (after?.label === 'run' && after.first <= after.last && isThrow(segment.last + 1, segment.last)) {
      segment.last++;
      after.first++;
    }
  });
  return grown.filter((s) => s.first <= s.last);
}

export function measureRows(program: Program, rows: RowSet, kind: 'fill' | 'satin'): Measured {
  return kind === 'fill' ? { kind, ...measureFill(program, rows) } : { kind, ...measureSatin(program, rows) };
}

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
  return { ...bare(thread, stretch, first, last), measured: { kind: 'run', ...measureRun(program, start, last) }, role, confidence };
}

function bare(thread: number, stretch: number, first: number, last: number): Omit<Piece, 'measured'> {
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

/** Runs that follow one another as one: a corner, however odd, does not end a run. */
function joinRuns(program: Program, pieces: readonly Piece[]): Piece[] {
  const joined: Piece[] = [];
  for (const piece of pieces) {
    const before = joined[joined.length - 1];
    if (before?.measured.kind === 'run' && piece.measured.kind === 'run') {
      const confidence = (before.confidence + piece.confidence) / 2;
      joined[joined.length - 1] = makePiece(program, piece.thread, piece.stretch, before.first, piece.last, 'cover', confidence);
    } else joined.push(piece);
  }
  return joined;
}
