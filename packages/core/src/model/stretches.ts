import { COLOR, JUMP, type Program, STITCH, STOP, TRIM } from './program.ts';

/** What stands between two stretches, or before the first and after the last one. */
export interface Gap {
  /** First row of the gap, and the row after its last: equal when the gap is empty. */
  readonly first: number;
  readonly end: number;
  readonly trims: number;
  readonly jumps: number;
  readonly colors: number;
  readonly stops: number;
}

/** Stitch rows without any other command between them. */
export interface Stretch {
  /** First and last stitch row. */
  readonly first: number;
  readonly last: number;
  /** Index into the program's threads; −1 before the first color row. */
  readonly thread: number;
  readonly before: Gap;
  readonly after: Gap;
}

/** The program's stretches in sewing order; neighbours share the gap between them. O(rows). */
export function splitIntoStretches(program: Program): Stretch[] {
  const stretches: Stretch[] = [];
  let thread = -1;
  let row = 0;
  let before = readGap();
  while (row < program.rowCount) {
    const first = row;
    while (row < program.rowCount && program.command[row] === STITCH) row++;
    const last = row - 1;
    const mine = thread;
    const after = readGap();
    stretches.push({ first, last, thread: mine, before, after });
    before = after;
  }
  return stretches;

  function readGap(): Gap {
    const gap = { first: row, end: row, trims: 0, jumps: 0, colors: 0, stops: 0 };
    for (; row < program.rowCount && program.command[row] !== STITCH; row++) {
      const command = program.command[row];
      if (command === TRIM) gap.trims++;
      else if (command === JUMP) gap.jumps++;
      else if (command === STOP) gap.stops++;
      else if (command === COLOR) {
        gap.colors++;
        thread++;
      }
    }
    gap.end = row;
    return gap;
  }
}

/** Whether the thread is cut in a gap: by a trim, or by changing to another thread. */
export function isThreadCut(gap: Gap): boolean {
  return gap.trims > 0 || gap.colors > 0;
}

/**
 * The length of thread that each row lays, in mm: for a stitch its distance from the penetration or jump target before it, for a jump
 * without a cut the distance of the float, 0 where the thread is cut or starts (the needle only comes down there) and for every other row.
 */
export function layLengths(program: Program): Float64Array {
  const lengths = new Float64Array(program.rowCount);
  let isHeld = false;
  let px = 0;
  let py = 0;
  for (let i = 0; i < program.rowCount; i++) {
    const command = program.command[i];
    if (command === TRIM || command === COLOR) isHeld = false;
    else if (command === STITCH || command === JUMP) {
      const x = program.x[i]!;
      const y = program.y[i]!;
      // Not Math.hypot, which guards against an overflow that millimetres cannot cause, at ten times the price.
      if (isHeld) lengths[i] = Math.sqrt((x - px) * (x - px) + (y - py) * (y - py));
      if (command === STITCH) isHeld = true;
      px = x;
      py = y;
    }
  }
  return lengths;
}

/** For each row the index into the program's threads of what is on the machine there; −1 before the first color row. */
export function threadOfRows(program: Program): Int32Array {
  const out = new Int32Array(program.rowCount);
  let thread = -1;
  for (let i = 0; i < program.rowCount; i++) {
    if (program.command[i] === COLOR) thread++;
    out[i] = thread;
  }
  return out;
}
