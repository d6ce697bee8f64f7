import type { Program } from '../../model/program.ts';
import { type Evidence, LABELS } from './segment.ts';
import type { Strokes } from '../../model/strokes.ts';

/** What it costs to begin an object: as much as one clear break in what rows do. */
const BEGIN = 2.5;
/** No cost of one stroke or one step onward grows beyond this, so that one odd stroke never outweighs many good ones. */
const MOST = 4;
/** Rows farther apart than this (mm) are hardly rows of one object: half the pitch of the openest underlay, and a little. */
const FAR_ROWS = 2.4;
const APART_ROWS = 1.4;
/** A stroke that bows out by more than the first share of its length is an odd row, by more than the second a line and no row. */
const BENT_ROW = 0.06;
const LINE_BOW = 0.12;
/** A row longer than this (mm) is seldom followed by one so many times shorter. */
const LONG_ROW = 4;
const UNLIKE_ROWS = 4;
/** Rows nearer than this (mm) go over each other. */
const SAME_ROW = 0.05;
/** A turn between rows is made by a stitch no longer than this, mm. */
const LONGEST_TURN = 2.6;
/** A turn shorter than this share of the rows that it joins is told by its length alone. */
const SHORT_TURN = 0.35;
/** How many steps before and after are looked at for a change of pitch, and how great (as a ratio) it has to be. */
const WINDOW = 5;
const PITCH_RATIO = 1.7;
/** A change is one by so many times what the pitch varies before and after it. */
const SUDDEN = 1.5;

const ROWS = LABELS.indexOf('rows');
const RUN = LABELS.indexOf('run');
const OTHER = LABELS.indexOf('other');

/** The evidence for strokes, and which of them only lead from one row to the next. */
export interface StrokeEvidence extends Evidence {
  /** 1 for a short stroke between two rows, square to them or along the edge. */
  readonly isTurn: Uint8Array;
}

/**
 * Weighs each stroke by what rows and runs do: rows go to and fro beside one another and make headway, runs go on. All costs are dimensionless
 * and found by trial on one half of the test shapes. O(strokes).
 */
export function weighStrokes(program: Program, strokes: Strokes): StrokeEvidence {
  const { count } = strokes;
  const n = LABELS.length;
  const own = new Float64Array(count * n);
  const onward = new Float64Array(count * n);
  const isTurn = findTurns(program, strokes);
  const steps = measureSteps(program, strokes, isTurn);
  const jumps = findPitchJumps(steps);
  for (let k = 0; k < count; k++) {
    const length = strokes.length[k]!;
    const bow = strokes.bow[k]!;
    own[k * n + ROWS] = bow > Math.max(0.25, BENT_ROW * length) ? (bow > LINE_BOW * length ? MOST : 2) : 0;
    own[k * n + RUN] = 0.3;
    own[k * n + OTHER] = 1.4;
    if (k === 0) continue;
    const turn = Math.acos(clamp(strokes.dx[k - 1]! * strokes.dx[k]! + strokes.dy[k - 1]! * strokes.dy[k]!)) * DEGREES;
    onward[k * n + RUN] = turn < 100 ? 0.1 : turn < 150 ? 0.8 : steps.isBack[k] ? 0.8 : 2;
    onward[k * n + ROWS] = isTurn[k] ? 0.15 : Math.min(MOST, steps.misfit[k]! + jumps[k]!);
    onward[k * n + OTHER] = 0;
  }
  return { count, own, onward, begin: BEGIN, isTurn };
}

const DEGREES = 180 / Math.PI;

/** Short strokes whose neighbours run against each other, beside one another, while they themselves run with neither. */
function findTurns(program: Program, strokes: Strokes): Uint8Array {
  const isTurn = new Uint8Array(strokes.count);
  for (let k = 1; k + 1 < strokes.count; k++) {
    if (isTurn[k - 1] || strokes.length[k]! > LONGEST_TURN || strokes.last[k]! - strokes.first[k]! > 2) continue;
    const [before, after] = [strokes.length[k - 1]!, strokes.length[k + 1]!];
    // A stroke that is short beside its rows may run nearly along them, where they end on a slanting edge.
    const least = strokes.length[k]! < SHORT_TURN * Math.min(before, after) ? 8 : 30;
    if (against(strokes, k - 1, k) < least || strokes.length[k]! > 1.2 * Math.max(before, after)) continue;
    if (against(strokes, k - 1, k + 1) < 25 && overlap(program, strokes, k - 1, k + 1) > 0.3) isTurn[k] = 1;
    else if (isTurnOfTwo(program, strokes, k)) isTurn[k] = isTurn[k + 1] = 1;
  }
  return isTurn;
}

/** A turn that goes too far along the edge and comes back: two short strokes between two rows much longer than both. */
function isTurnOfTwo(program: Program, strokes: Strokes, k: number): boolean {
  if (k + 2 >= strokes.count || strokes.last[k + 1]! - strokes.first[k + 1]! > 2) return false;
  const way = strokes.length[k]! + strokes.length[k + 1]!;
  if (way > LONGEST_TURN || way > SHORT_TURN * Math.min(strokes.length[k - 1]!, strokes.length[k + 2]!)) return false;
  return against(strokes, k - 1, k + 2) < 25 && overlap(program, strokes, k - 1, k + 2) > 0.3;
}

interface Steps {
  /** How ill the step from the row before to this stroke fits rows: angle, overlap, distance, headway. */
  readonly misfit: Float64Array;
  /** Distance between the threads of this row and the one before, at the farther apart of its ends, over two rows, mm; 0 at turns. */
  readonly pitch: Float64Array;
  /** 1 where this stroke goes back over the one before. */
  readonly isBack: Uint8Array;
}

function measureSteps(program: Program, strokes: Strokes, isTurn: Uint8Array): Steps {
  const { count } = strokes;
  const misfit = new Float64Array(count);
  const pitch = new Float64Array(count);
  const isBack = new Uint8Array(count);
  /** Headway of each of the last rows, seen from one side, though rows run against each other. */
  let parity = 1;
  let lastHeadway = 0;
  let way = 0;
  let lastApart = 0;
  for (let k = 1; k < count; k++) {
    if (isTurn[k]) continue;
    let a = k - 1;
    while (a > 0 && isTurn[a]) a--;
    const away = against(strokes, a, k);
    const length = Math.min(strokes.length[a]!, strokes.length[k]!);
    // A throw of a narrow column leans by its pitch, and a short one by rounding.
    const usual = 15 + 13 / Math.max(0.4, length);
    let cost = (away / usual) ** 2 / 2;
    // An open zigzag leans more, but each of its throws runs with the one before the last.
    if (a >= 1 && !isTurn[k - 1] && away < 85 && along(strokes, a - 1, k) < 12) cost = Math.min(cost, 0.4);
    const [near, far] = endOffsets(program, strokes, a, k);
    const side = (near + far) / 2;
    const apart = Math.abs(side);
    // In a fan every second throw turns on the inner edge and makes no headway: two together tell the pitch.
    const both = Math.abs(near) + Math.abs(far);
    pitch[k] = Math.max(both, lastApart);
    lastApart = both;
    const shared = overlap(program, strokes, a, k);
    const longer = Math.max(strokes.length[a]!, strokes.length[k]!);
    if (longer > LONG_ROW && longer > UNLIKE_ROWS * length) cost += 1.5;
    if (shared < 0.3) cost += 2 * (1 - Math.max(0, shared) / 0.3);
    if (apart > FAR_ROWS) cost += 3;
    else if (apart > APART_ROWS) cost += 1;
    const isOver = apart < SAME_ROW && Math.abs(far) < 0.12 && strokes.last[k]! - strokes.first[k]! > 1 && length > 0.8;
    if (isOver && !makesHeadway(program, strokes, k - 2, k) && !makesHeadway(program, strokes, k - 1, k + 1)) {
      cost += 2.5;
      isBack[k] = 1;
    }
    parity = -parity;
    const headway = parity * side;
    const two = headway + lastHeadway;
    lastHeadway = headway;
    if (Math.abs(two) > 2 * SAME_ROW) {
      if (way * two < 0) cost += 1.2;
      way = two;
    }
    misfit[k] = Math.min(MOST, cost);
  }
  return { misfit, pitch, isBack };
}

/** Whether of two strokes that run the same way, side by side, the second lies beside the first: rows do, passes of a run do not. */
function makesHeadway(program: Program, s: Strokes, a: number, b: number): boolean {
  if (a < 0 || b >= s.count || along(s, a, b) > 25 || overlap(program, s, a, b) < 0.3) return false;
  const [near, far] = endOffsets(program, s, a, b);
  return Math.abs(near + far) / 2 > SAME_ROW;
}

/** What a lasting change of pitch costs where it is greatest. */
function findPitchJumps({ pitch, misfit }: Steps): Float64Array {
  const rows: number[] = [];
  for (let k = 0; k < pitch.length; k++) if (pitch[k]! > 0) rows.push(k);
  const jump = new Float64Array(pitch.length);
  const change = new Float64Array(rows.length);
  const mean = (from: number, to: number): number => {
    let sum = 0;
    for (let q = Math.max(0, from); q < Math.min(rows.length, to); q++) sum += Math.min(2 * FAR_ROWS, pitch[rows[q]!]!);
    return sum / (Math.min(rows.length, to) - Math.max(0, from));
  };
  const spread = (from: number, to: number): number => {
    let least = Infinity;
    let most = 0;
    for (let q = Math.max(0, from); q < Math.min(rows.length, to); q++) {
      least = Math.min(least, pitch[rows[q]!]!);
      most = Math.max(most, pitch[rows[q]!]!);
    }
    return Math.log(most / least);
  };
  for (let r = 3; r + 3 <= rows.length; r++) {
    const at = Math.abs(Math.log(mean(r, r + WINDOW) / mean(r - WINDOW, r)));
    // A pitch that changes all along, as at a round tip, has no one place where it changes.
    if (at >= SUDDEN * Math.max(spread(r, r + WINDOW), spread(r - WINDOW, r))) change[r] = at;
  }
  for (let r = 0; r < rows.length; r++) {
    if (change[r]! < Math.log(PITCH_RATIO)) continue;
    let isGreatest = true;
    for (let q = Math.max(0, r - WINDOW); q <= Math.min(rows.length - 1, r + WINDOW); q++)
      if (change[q]! > change[r]! || (change[q] === change[r] && q < r)) isGreatest = false;
    if (isGreatest && !isNearBreak(rows, misfit, r)) jump[rows[r]!] = 3.5;
  }
  return jump;
}

/** A step that fits so ill is a break by itself; a change of pitch so many rows from it is that of the same break, told late. */
const BREAK = 2.5;
const BREAK_REACH = 3;

function isNearBreak(rows: readonly number[], misfit: Float64Array, r: number): boolean {
  for (let q = Math.max(0, r - BREAK_REACH); q <= Math.min(rows.length - 1, r + BREAK_REACH); q++)
    if (misfit[rows[q]!]! >= BREAK) return true;
  return false;
}

/** By how many degrees b departs from running straight against a. */
export function against(s: Strokes, a: number, b: number): number {
  return Math.acos(clamp(-(s.dx[a]! * s.dx[b]! + s.dy[a]! * s.dy[b]!))) * DEGREES;
}

/** By how many degrees b departs from running with a. */
function along(s: Strokes, a: number, b: number): number {
  return Math.acos(clamp(s.dx[a]! * s.dx[b]! + s.dy[a]! * s.dy[b]!)) * DEGREES;
}

/** Which share of the shorter of two strokes lies beside the other, seen square to a; below 0 where there is a gap between them. */
export function overlap({ x, y }: Program, s: Strokes, a: number, b: number): number {
  const [ax, ay] = [x[s.first[a]!]!, y[s.first[a]!]!];
  const at = (row: number): number => (x[row]! - ax) * s.dx[a]! + (y[row]! - ay) * s.dy[a]!;
  const p = at(s.first[b]!);
  const q = at(s.last[b]!);
  const shared = Math.min(s.length[a]!, Math.max(p, q)) - Math.max(0, Math.min(p, q));
  return shared / Math.max(1e-6, Math.min(s.length[a]!, Math.abs(p - q)));
}

/** Distances of the start and of the end of b from the line of a, mm, positive to the left of a. */
function endOffsets({ x, y }: Program, s: Strokes, a: number, b: number): [number, number] {
  const off = (row: number): number => s.dx[a]! * (y[row]! - y[s.first[a]!]!) - s.dy[a]! * (x[row]! - x[s.first[a]!]!);
  return [off(s.first[b]!), off(s.last[b]!)];
}

function clamp(cos: number): number {
  return Math.max(-1, Math.min(1, cos));
}
