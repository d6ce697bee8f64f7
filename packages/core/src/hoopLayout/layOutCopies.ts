import type { Design } from '../model/design.ts';
import { orderOf } from '../model/plan.ts';
import { JUMP, type Program, ProgramBuilder, type ProgramThread, STITCH, STOP, TRIM } from '../model/program.ts';
import { fail, type Result, succeed } from '../model/result.ts';
import type { Point } from '../model/stitchObject.ts';
import type { Hoop, HoopLayout } from '../model/target.ts';
import { countProgram } from '../measure/counts.ts';
import { AS_FILED, placeProgram } from '../model/place.ts';
import { assemble } from '../plan/assemble.ts';
import { addLock } from '../plan/joining.ts';
import { hasStop, listStops } from '../plan/stops.ts';

/** Several copies of a design in one hoop, sewn step by step and color by color. */
export interface LaidOut {
  readonly program: Program;
  /** Where the middle of each copy lies, in the order in which rows go to and fro, mm. */
  readonly placed: readonly Point[];
  /** So many would fit with that gap; and so many were they turned by another quarter. */
  readonly most: number;
  readonly mostTurned: number;
}

/** A registration mark is a cross of this reach, mm, in steps of this length. */
const MARK = 3;
const MARK_STITCH = 1.5;
/** Marks stand so far beside a copy's corners, mm, or half the gap where that is less. */
const BESIDE = 3;

/** How many copies of a piece of this size (mm) fit into a hoop's field, and in how many columns; to-and-fro rows. */
export function roomFor(
  { width, height }: Pick<Hoop, 'width' | 'height'>,
  piece: { readonly width: number; readonly height: number },
  gap: number,
): { readonly columns: number; readonly rows: number } {
  const along = (room: number, size: number): number => Math.max(0, Math.floor((room + gap + 1e-9) / (size + gap)));
  return { columns: along(width, piece.width), rows: along(height, piece.height) };
}

/**
 * Lays copies of a design out in its hoop: all registration marks first, where they are wanted, then each step of the design for all copies before the
 * next, so that each thread is put on and each stop made as often as for one piece; what lies on what within a copy stays. Rows of copies go to and
 * fro, and back again with the next step. Refused with the number that fits where there are too many.
 */
export function layOutCopies(design: Design, { copies, gap, hasMarks, isTurned = false }: HoopLayout): Result<LaidOut, string> {
  const { hoop, place = AS_FILED } = design.target;
  const piece = placeProgram(design.program, isTurned ? { ...place, turn: (place.turn + 90) % 360 } : place);
  const { extents } = countProgram(piece);
  // Marks lie within the field, too.
  const margin = hasMarks ? 2 * (MARK + besideOf(gap)) : 0;
  const field = { width: hoop.width - margin, height: hoop.height - margin };
  const { columns, rows } = roomFor(field, extents, gap);
  const most = columns * rows;
  const other = roomFor(field, { width: extents.height, height: extents.width }, gap);
  const mostTurned = other.columns * other.rows;
  const orTurned = mostTurned > most ? `; turned by a quarter ${mostTurned} ${mostTurned === 1 ? 'does' : 'do'}` : '';
  const size = `${extents.width.toFixed(0)} × ${extents.height.toFixed(0)} mm`;
  if (most === 0)
    return fail(
      `not one copy of ${size} fits into ${hoop.name}, whose field is ${hoop.width} × ${hoop.height} mm${hasMarks ? ', of which the marks take some' : ''}${orTurned}`,
    );
  const count = copies ?? most;
  if (count > most)
    return fail(
      `${count} copies of ${size} with ${gap} mm between them do not fit into ${hoop.name}: ${most} do, ${columns} by ${rows}${orTurned}`,
    );
  const placed = toAndFro(count, columns, extents, gap);
  const middle = { x: (extents.minX + extents.maxX) / 2, y: (extents.minY + extents.maxY) / 2 };
  const out = new ProgramBuilder(design.program.rowCount * count + 64);
  const steps = stepsOf(design, piece);
  if (hasMarks) sewMarks(out, placed, extents, gap, steps[0]?.thread ?? null);
  let isBack = false;
  let thread: ProgramThread | null | undefined;
  for (const step of steps) {
    if (out.rowCount > 0 && out.commandAt() === STITCH) out.trim();
    // Marks are a step of their own, and so is a block that is kept apart: the machine stops between them.
    if (step.thread !== null && (step.isNew || thread === undefined)) out.color(step.thread.color, step.thread.name);
    thread = step.thread;
    if (step.stop !== undefined) out.stop(step.stop);
    for (const { x, y } of isBack ? [...placed].reverse() : placed) sewCopy(out, piece, step, x - middle.x, y - middle.y);
    isBack = !isBack;
  }
  if (out.commandAt() === STITCH) out.trim();
  return succeed({ program: out.end().build(), placed, most, mostTurned });
}

/** Middles of copies, in rows from the top that run to and fro, centred in the hoop. */
function toAndFro(
  count: number,
  columns: number,
  { width, height }: { readonly width: number; readonly height: number },
  gap: number,
): Point[] {
  const across = Math.min(columns, count);
  const down = Math.ceil(count / across);
  return Array.from({ length: count }, (_, k): Point => {
    const row = Math.floor(k / across);
    const inRow = Math.min(across, count - row * across);
    const along = row % 2 === 0 ? k % across : inRow - 1 - (k % across);
    return { x: (along - (inRow - 1) / 2) * (width + gap), y: ((down - 1) / 2 - row) * (height + gap) };
  });
}

/** A part of a design that is sewn without the operator: with one thread on, between stops. */
interface Step {
  readonly thread: ProgramThread | null;
  /** Whether the thread is put on for it. */
  readonly isNew: boolean;
  readonly stop?: string;
  /** Rows of the piece, `end` not included, and the penetration where they begin. */
  readonly first: number;
  readonly end: number;
  readonly start: Point;
}

function stepsOf({ plan }: Design, piece: Program): Step[] {
  const { places } = assemble(plan);
  const stops = new Map(listStops(plan).map(({ object, note }) => [object, note]));
  const out: Step[] = [];
  for (const [k, { id, block, first, end }] of places.entries()) {
    const isNew = k === 0 || places[k - 1]!.block !== block;
    const last = out[out.length - 1];
    if (!isNew && !hasStop(plan, id) && last !== undefined) {
      out[out.length - 1] = { ...last, end };
      continue;
    }
    const stop = stops.get(id);
    const before = Math.max(0, first - 1);
    out.push({
      ...{ thread: plan.blocks[block]!.thread, isNew, first, end, start: { x: piece.x[before]!, y: piece.y[before]! } },
      ...(stop === undefined ? {} : { stop }),
    });
  }
  return orderOf(plan).length === 0 ? [] : out;
}

/** One copy's rows of a step, locked at both ends. */
function sewCopy(out: ProgramBuilder, { x, y, command }: Program, { first, end, start }: Step, dx: number, dy: number): void {
  if (out.commandAt() === STITCH) out.trim();
  const at = (px: number, py: number): [number, number] => [thousandth(px + dx), thousandth(py + dy)];
  const [sx, sy] = at(start.x, start.y);
  out.jump(sx, sy).stitch(sx, sy);
  if (end > first) {
    const [nx, ny] = at(x[first]!, y[first]!);
    addLock(out, { x: sx, y: sy }, { x: nx, y: ny }, 'to-and-fro');
  }
  for (let i = first; i < end; i++) {
    const [px, py] = at(x[i]!, y[i]!);
    if (command[i] === STITCH) out.stitch(px, py);
    else if (command[i] === JUMP) out.jump(px, py);
    else if (command[i] === TRIM) out.trim();
    else if (command[i] === STOP) out.stop();
  }
  if (out.commandAt() === STITCH && out.commandAt(1) === STITCH) addLock(out, out.placeAt(), out.placeAt(1), 'to-and-fro');
}

/** Crosses beside two opposite corners of each copy. */
function sewMarks(
  out: ProgramBuilder,
  placed: readonly Point[],
  { width, height }: { readonly width: number; readonly height: number },
  gap: number,
  thread: ProgramThread | null,
): void {
  out.color(thread?.color ?? '#14262b', 'Registration marks');
  const beside = besideOf(gap);
  for (const { x, y } of placed)
    for (const side of [-1, 1]) {
      const [cx, cy] = [thousandth(x + side * (width / 2 + beside)), thousandth(y + side * (height / 2 + beside))];
      if (out.commandAt() === STITCH) out.trim();
      out.jump(thousandth(cx - MARK), cy).stitch(thousandth(cx - MARK), cy);
      addLock(out, out.placeAt(), { x: cx, y: cy }, 'to-and-fro');
      const ways = [
        [-1, 0],
        [1, 0],
        [0, 0],
        [0, 1],
        [0, -1],
      ] as const;
      for (let k = 1; k < ways.length; k++) {
        const [a, b] = [ways[k - 1]!, ways[k]!];
        const count = Math.max(1, Math.round((Math.hypot(b[0] - a[0], b[1] - a[1]) * MARK) / MARK_STITCH));
        for (let n = 1; n <= count; n++) {
          const t = n / count;
          out.stitch(thousandth(cx + MARK * (a[0] + (b[0] - a[0]) * t)), thousandth(cy + MARK * (a[1] + (b[1] - a[1]) * t)));
        }
      }
      addLock(out, out.placeAt(), out.placeAt(1), 'to-and-fro');
    }
}

function besideOf(gap: number): number {
  return Math.min(BESIDE, gap / 2);
}

function thousandth(v: number): number {
  return Math.round(v * 1000) / 1000;
}
