import type { Program } from '../../model/program.ts';
import { EVIDENCE } from './evidenceTable.ts';
import { type Evidence, LABELS } from './segment.ts';
import type { Strokes } from '../../model/strokes.ts';

const { most: MOST, run: RUN_COSTS, row: ROW_COSTS, turn: TURNS, pitch: PITCH } = EVIDENCE;

const ROWS = LABELS.indexOf('rows');
const RUN = LABELS.indexOf('run');
const OTHER = LABELS.indexOf('other');

/** The evidence for strokes, and which of them only lead from one row to the next. */
export interface StrokeEvidence extends Evidence {
  /** 1 for a short stroke between two rows, square to them or along the edge. */
  readonly isTurn: Uint8Array;
}

/**
 * Weighs each stroke by what rows and runs do: rows go to and fro beside one another and make headway, runs go on. What it costs
 * stands in {@link EVIDENCE}. O(strokes).
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
    own[k * n + ROWS] =
      bow > Math.max(ROW_COSTS.bow, ROW_COSTS.bowShare * length) ? (bow > ROW_COSTS.lineBowShare * length ? MOST : ROW_COSTS.bent) : 0;
    own[k * n + RUN] = RUN_COSTS.own;
    own[k * n + OTHER] = EVIDENCE.other.own;
    if (k === 0) continue;
    const turn = Math.acos(clamp(strokes.dx[k - 1]! * strokes.dx[k]! + strokes.dy[k - 1]! * strokes.dy[k]!)) * DEGREES;
    onward[k * n + RUN] = runOnward(turn, steps.isBack[k] === 1);
    onward[k * n + ROWS] = isTurn[k] ? ROW_COSTS.turn : Math.min(MOST, steps.misfit[k]! + jumps[k]!);
    onward[k * n + OTHER] = 0;
  }
  return { count, own, onward, begin: EVIDENCE.begin, isTurn };
}

/** What it costs a run to turn by so many degrees. */
function runOnward(turn: number, isBack: boolean): number {
  if (turn < RUN_COSTS.bend) return RUN_COSTS.onward;
  if (turn < RUN_COSTS.corner) return RUN_COSTS.atCorner;
  return isBack ? RUN_COSTS.overItself : RUN_COSTS.back;
}

const DEGREES = 180 / Math.PI;

/** Short strokes whose neighbours run against each other, beside one another, while they themselves run with neither. */
function findTurns(program: Program, strokes: Strokes): Uint8Array {
  const isTurn = new Uint8Array(strokes.count);
  for (let k = 1; k + 1 < strokes.count; k++) {
    if (isTurn[k - 1] || strokes.length[k]! > TURNS.longest || strokes.last[k]! - strokes.first[k]! > 2) continue;
    const [before, after] = [strokes.length[k - 1]!, strokes.length[k + 1]!];
    // A stroke that is short beside its rows may run nearly along them, where they end on a slanting edge.
    const least = strokes.length[k]! < TURNS.short * Math.min(before, after) ? TURNS.leastOfShort : TURNS.least;
    if (against(strokes, k - 1, k) < least || strokes.length[k]! > TURNS.ofRow * Math.max(before, after)) continue;
    if (against(strokes, k - 1, k + 1) < TURNS.against && overlap(program, strokes, k - 1, k + 1) > TURNS.shared) isTurn[k] = 1;
    else if (isTurnOfTwo(program, strokes, k)) isTurn[k] = isTurn[k + 1] = 1;
  }
  return isTurn;
}

/** A turn that goes too far along the edge and comes back: two short strokes between two rows much longer than both. */
function isTurnOfTwo(program: Program, strokes: Strokes, k: number): boolean {
  if (k + 2 >= strokes.count || strokes.last[k + 1]! - strokes.first[k + 1]! > 2) return false;
  const way = strokes.length[k]! + strokes.length[k + 1]!;
  if (way > TURNS.longest || way > TURNS.short * Math.min(strokes.length[k - 1]!, strokes.length[k + 2]!)) return false;
  return against(strokes, k - 1, k + 2) < TURNS.against && overlap(program, strokes, k - 1, k + 2) > TURNS.shared;
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
    const usual = ROW_COSTS.lean + ROW_COSTS.leanOfShort / Math.max(ROW_COSTS.leastLength, length);
    let cost = (away / usual) ** 2 / 2;
    // An open zigzag leans more, but each of its throws runs with the one before the last.
    if (a >= 1 && !isTurn[k - 1] && away < ROW_COSTS.zigzag && along(strokes, a - 1, k) < ROW_COSTS.same)
      cost = Math.min(cost, ROW_COSTS.zigzagCost);
    const [near, far] = endOffsets(program, strokes, a, k);
    const side = (near + far) / 2;
    const apart = Math.abs(side);
    // In a fan every second throw turns on the inner edge and makes no headway: two together tell the pitch.
    const both = Math.abs(near) + Math.abs(far);
    pitch[k] = Math.max(both, lastApart);
    lastApart = both;
    const shared = overlap(program, strokes, a, k);
    const longer = Math.max(strokes.length[a]!, strokes.length[k]!);
    if (longer > ROW_COSTS.long && longer > ROW_COSTS.unlike * length) cost += ROW_COSTS.unlikeCost;
    if (shared < ROW_COSTS.shared) cost += ROW_COSTS.apartCost * (1 - Math.max(0, shared) / ROW_COSTS.shared);
    if (apart > ROW_COSTS.far) cost += ROW_COSTS.farCost;
    else if (apart > ROW_COSTS.apart) cost += ROW_COSTS.apartRowsCost;
    const isOver =
      apart < ROW_COSTS.over &&
      Math.abs(far) < ROW_COSTS.overEnds &&
      strokes.last[k]! - strokes.first[k]! > 1 &&
      length > ROW_COSTS.overLength;
    if (isOver && !makesHeadway(program, strokes, k - 2, k) && !makesHeadway(program, strokes, k - 1, k + 1)) {
      cost += ROW_COSTS.overCost;
      isBack[k] = 1;
    }
    parity = -parity;
    const headway = parity * side;
    const two = headway + lastHeadway;
    lastHeadway = headway;
    if (Math.abs(two) > 2 * ROW_COSTS.over) {
      if (way * two < 0) cost += ROW_COSTS.backCost;
      way = two;
    }
    misfit[k] = Math.min(MOST, cost);
  }
  return { misfit, pitch, isBack };
}

/** Whether of two strokes that run the same way, side by side, the second lies beside the first: rows do, passes of a run do not. */
function makesHeadway(program: Program, s: Strokes, a: number, b: number): boolean {
  if (a < 0 || b >= s.count || along(s, a, b) > ROW_COSTS.along || overlap(program, s, a, b) < ROW_COSTS.shared) return false;
  const [near, far] = endOffsets(program, s, a, b);
  return Math.abs(near + far) / 2 > ROW_COSTS.over;
}

/** What a lasting change of pitch costs where it is greatest. */
function findPitchJumps({ pitch, misfit }: Steps): Float64Array {
  const rows: number[] = [];
  for (let k = 0; k < pitch.length; k++) if (pitch[k]! > 0) rows.push(k);
  const jump = new Float64Array(pitch.length);
  const change = new Float64Array(rows.length);
  const mean = (from: number, to: number): number => {
    let sum = 0;
    for (let q = Math.max(0, from); q < Math.min(rows.length, to); q++) sum += Math.min(2 * ROW_COSTS.far, pitch[rows[q]!]!);
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
    const at = Math.abs(Math.log(mean(r, r + PITCH.window) / mean(r - PITCH.window, r)));
    // A pitch that changes all along, as at a round tip, has no one place where it changes.
    if (at >= PITCH.sudden * Math.max(spread(r, r + PITCH.window), spread(r - PITCH.window, r))) change[r] = at;
  }
  for (let r = 0; r < rows.length; r++) {
    if (change[r]! < Math.log(PITCH.ratio)) continue;
    let isGreatest = true;
    for (let q = Math.max(0, r - PITCH.window); q <= Math.min(rows.length - 1, r + PITCH.window); q++)
      if (change[q]! > change[r]! || (change[q] === change[r] && q < r)) isGreatest = false;
    if (isGreatest && !isNearBreak(rows, misfit, r)) jump[rows[r]!] = PITCH.changeCost;
  }
  return jump;
}

function isNearBreak(rows: readonly number[], misfit: Float64Array, r: number): boolean {
  for (let q = Math.max(0, r - PITCH.breakReach); q <= Math.min(rows.length - 1, r + PITCH.breakReach); q++)
    if (misfit[rows[q]!]! >= PITCH.break) return true;
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
