import type { Program } from '../../model/program.ts';
import { isThreadCut, type Stretch } from '../../model/stretches.ts';
import { findLock } from '../../model/ties.ts';
import { type BeanSpan, findBeans, measureBean } from './beans.ts';
import { against, type StrokeEvidence, weighStrokes } from './evidence.ts';
import { isFillRows } from '../rows/fillOrSatin.ts';
import { barePiece, makePiece } from '../rows/makePiece.ts';
import { measureRows, OPENEST } from '../rows/measureRows.ts';
import type { Measured, Piece } from '../rows/piece.ts';
import { collectRows, type RowSet } from '../rows/rows.ts';
import { median } from '../../geometry/statistics.ts';
import { findProngs } from './prongs.ts';
import { findSegments, type Segment } from './segment.ts';
import { cutStrokes, type Strokes } from '../../model/strokes.ts';

/** Fewer rows than this make no area. */
const LEAST_ROWS = 4;

/** What is no larger than this (mm) is a creep of stitches, whatever way they turn: a satin so narrow does not hold. Common practice. */
const LEAST_SIZE = 0.8;

/** Rows nearer to each other than this (mm) go over one another: a line gone over several times. */
const CLOSEST = 0.1;

/** Strokes of so many stitches in the mean are parts of a line, however oddly it turns. */
const LINE_STEPS = 4;
/** What a stroke of a clear run costs by itself. */
const USUAL_OF_RUN = 0.4;
/** A stitch that carries over makes so much way (mm), so many times the usual, and leans so much (degrees) against the throws beside it. */
const LEAST_CARRY = 0.5;
const FAR_CARRY = 2.6;
const CARRY_LEAN = 35;
/** Rows of which no more (as a share) begin with a turn have none. */
const FEW_TURNS = 0.2;
/** Throws of columns so narrow that they are sewn side by side have one stitch each, all but a few. */
const ALL_SINGLE = 0.97;
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

  const between: Piece[] = [];
  let from = first;
  for (const span of lineSpans(program, first, last)) {
    const { start, end } = span;
    if (start > from) between.push(...cutRows(program, stretch.thread, index, from, start, watch));
    between.push(
      span.pattern === 'bean'
        ? { ...barePiece(stretch.thread, index, start + 1, end), measured: { kind: 'run', ...measureBean(program, span.bean) } }
        : { ...makePiece(program, stretch.thread, index, start + 1, end, 'cover'), pattern: 'edge-stitch' },
    );
    from = end;
  }
  if (last > from) between.push(...cutRows(program, stretch.thread, index, from, last, watch));
  pieces.push(...joinRuns(program, between));
  if (last < stretch.last) pieces.push(makePiece(program, stretch.thread, index, last + 1, stretch.last, 'tie'));
  return pieces;
}

/** Stitches from penetration `start` to `end` that are told by the holes they go back through. */
type LineSpan = { readonly start: number; readonly end: number } & (
  { readonly pattern: 'edge-stitch' } | { readonly pattern: 'bean'; readonly bean: BeanSpan }
);

/** Edge stitches and bean lines of a stretch in sewing order; what two claim is the first one's. */
function lineSpans(program: Program, first: number, last: number): LineSpan[] {
  const edges = findProngs(program, first, last).map((s): LineSpan => ({ start: s.first - 1, end: s.last, pattern: 'edge-stitch' }));
  const beans = findBeans(program, first, last).map((bean): LineSpan => ({ start: bean.first, end: bean.last, pattern: 'bean', bean }));
  const spans = [...edges, ...beans].sort((a, b) => a.start - b.start);
  return spans.filter((span, k) => spans.slice(0, k).every((before) => before.end <= span.start));
}

/** What the stitches between two penetrations of a stretch do, edge stitches and bean lines left out. */
function cutRows(
  program: Program,
  thread: number,
  index: number,
  first: number,
  last: number,
  watch?: (steps: StretchSteps) => void,
): Piece[] {
  if (sizeOf(program, first, last) < LEAST_SIZE) return [makePiece(program, thread, index, first + 1, last, 'cover')];
  const strokes = cutStrokes(program, first, last);
  const evidence = weighStrokes(program, strokes);
  const told = cutRunEnds(strokes, growRows(strokes, findSegments(evidence)));
  const segments = cutAtCarries(program, strokes, evidence, told);
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
    if (
      measured !== undefined &&
      'spacing' in measured &&
      measured.spacing <= OPENEST &&
      measured.spacing >= CLOSEST &&
      !isHairpin(program, rows!, measured)
    ) {
      between.push({ ...barePiece(thread, index, a + 1, b), rows, confidence, measured });
    } else if (segment.label === 'other' && b - a < LINE_STEPS * count) {
      const measured = {
        kind: 'other' as const,
        stitchLength: median(Array.from(strokes.length.subarray(segment.first, segment.last + 1))),
      };
      between.push({ ...barePiece(thread, index, a + 1, b), measured, confidence });
    } else between.push(makePiece(program, thread, index, a + 1, b, 'cover', confidence));
  }
  return between;
}

/** Rows this far apart (same-direction pitch, mm) may be the straights of a line that turns back beside itself. */
const OPEN = 1;
/** Rows nearer to each other than this share of the step lie on one line. */
const ONE_LINE = 0.25;
/** What has fewer rows for each line is gone over once. */
const LEAST_PASSES = 2;

/** Whether open rows lie on so few lines that they are straights of a run, gone over several times. */
function isHairpin({ x, y }: Program, rows: RowSet, { kind, angle, spacing }: Extract<Measured, { kind: 'fill' | 'satin' }>): boolean {
  if (kind !== 'fill' || spacing < OPEN) return false;
  const [c, s] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
  const across = (i: number): number => y[i]! * c - x[i]! * s;
  const heights = Array.from(rows.first, (from, r) => (across(from) + across(rows.last[r]!)) / 2).sort((a, b) => a - b);
  const lines = heights.filter((v, k) => k === 0 || v - heights[k - 1]! > (ONE_LINE * spacing) / 2).length;
  return lines < LEAST_ROWS && rows.count >= LEAST_PASSES * lines;
}

/** The longer side of the box around some penetrations, mm; it is looked at no further than until it is {@link LEAST_SIZE}. */
function sizeOf({ x, y }: Program, first: number, last: number): number {
  let [minX, maxX, minY, maxY] = [x[first]!, x[first]!, y[first]!, y[first]!];
  for (let i = first + 1; i <= last && Math.max(maxX - minX, maxY - minY) < LEAST_SIZE; i++) {
    [minX, maxX] = [Math.min(minX, x[i]!), Math.max(maxX, x[i]!)];
    [minY, maxY] = [Math.min(minY, y[i]!), Math.max(maxY, y[i]!)];
  }
  return Math.max(maxX - minX, maxY - minY);
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

/** Throws of one stitch make a column where so many are; it has so many at least. So near to its end a run may have been told as throws. */
const MOSTLY_SINGLE = 0.85;
const LEAST_THROWS = 10;
const NEAR_END = 7;
/** What leads on from a column goes so many times as far as its throws. */
const FARTHER = 1.2;

/** Parts from columns of one-stitch throws the strokes of several stitches, longer than those, at either end: a run there and back under the next column. */
function cutRunEnds(strokes: Strokes, segments: readonly Segment[]): Segment[] {
  return segments.flatMap((segment) => {
    const count = segment.last - segment.first + 1;
    if (segment.label !== 'rows' || count < LEAST_THROWS) return [segment];
    const isSingle = (k: number): boolean => strokes.last[k]! - strokes.first[k]! === 1;
    const all = Array.from({ length: count }, (_, k) => segment.first + k);
    if (all.filter(isSingle).length < MOSTLY_SINGLE * count) return [segment];
    const usual = median(all.map((k) => strokes.length[k]!));
    const isRun = (k: number): boolean => !isSingle(k) && strokes.length[k]! > FARTHER * usual;
    const near = Math.min(NEAR_END, count >> 1);
    const lead = all.slice(0, near).findLastIndex(isRun);
    const tail = all.slice(-near).findIndex(isRun);
    const [first, last] = [segment.first + lead + 1, tail < 0 ? segment.last : segment.last - near + tail];
    const run = (from: number, to: number): Segment[] => (to < from ? [] : [{ label: 'run', first: from, last: to, cost: 0 }]);
    const cost = (segment.cost * (last - first + 1)) / count;
    return [...run(segment.first, first - 1), { ...segment, first, last, cost }, ...run(last + 1, segment.last)];
  });
}

/**
 * Parts rows where a single stitch carries over from one shape to the next: it runs with neither side's throws, and its middle is far from
 * theirs. Rivets sewn one after the other without a cut are as many columns, not one.
 */
function cutAtCarries({ x, y }: Program, strokes: Strokes, { isTurn }: StrokeEvidence, segments: readonly Segment[]): Segment[] {
  const headway = (k: number): number =>
    Math.hypot(
      x[strokes.first[k]!]! + x[strokes.last[k]!]! - x[strokes.first[k - 1]!]! - x[strokes.last[k - 1]!]!,
      y[strokes.first[k]!]! + y[strokes.last[k]!]! - y[strokes.first[k - 1]!]! - y[strokes.last[k - 1]!]!,
    ) / 2;
  return segments.flatMap((segment) => {
    if (segment.label !== 'rows' || segment.last - segment.first < 2 * LEAST_ROWS) return [segment];
    const steps: number[] = [];
    for (let k = segment.first + 1; k <= segment.last; k++) steps.push(headway(k));
    const far = Math.max(LEAST_CARRY, FAR_CARRY * median(steps));
    // Between rows that have turns one more is a turn; among throws of one stitch that have none it carries over.
    const all = Array.from({ length: segment.last - segment.first + 1 }, (_, k) => segment.first + k);
    const turns = all.filter((k) => isTurn[k]).length;
    const single = all.filter((k) => strokes.last[k]! - strokes.first[k]! === 1).length;
    const hasTurns = turns > FEW_TURNS * all.length || single < ALL_SINGLE * all.length;
    const parts: Segment[] = [];
    const share = segment.cost / (segment.last - segment.first + 1);
    let start = segment.first;
    for (let k = segment.first + 2; k + 2 <= segment.last; k++) {
      if (hasTurns && isTurn[k]) continue;
      if (strokes.last[k]! - strokes.first[k]! > 1 || headway(k) < far || headway(k + 1) < far) continue;
      if (against(strokes, k - 1, k) < CARRY_LEAN || against(strokes, k, k + 1) < CARRY_LEAN) continue;
      parts.push({ ...segment, first: start, last: k - 1, cost: share * (k - start) }, { label: 'run', first: k, last: k, cost: 0 });
      start = k + 1;
    }
    return parts.length === 0 ? [segment] : [...parts, { ...segment, first: start, cost: share * (segment.last - start + 1) }];
  });
}

/** Runs that follow one another as one: a corner, however odd, does not end a run. */
function joinRuns(program: Program, pieces: readonly Piece[]): Piece[] {
  const joined: Piece[] = [];
  for (const piece of pieces) {
    const before = joined[joined.length - 1];
    if (
      before?.measured.kind === 'run' &&
      piece.measured.kind === 'run' &&
      before.pattern === piece.pattern &&
      !before.measured.isBean &&
      !piece.measured.isBean
    ) {
      const confidence = (before.confidence + piece.confidence) / 2;
      joined[joined.length - 1] = makePiece(program, piece.thread, piece.stretch, before.first, piece.last, 'cover', confidence);
    } else joined.push(piece);
  }
  return joined;
}
