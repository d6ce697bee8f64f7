import { STITCHES_PER_TRIM } from '../materials/shop.ts';
import { COLOR, JUMP, type Program, STITCH, STOP, TRIM } from '../model/program.ts';
import { layLengths } from '../model/stretches.ts';
import type { Machine } from '../model/target.ts';

/** Stitches up to this length (mm) run at full speed; at {@link SLOW_LENGTH} the machine is down to {@link SLOW_SHARE}. From memory. */
const FULL_SPEED_LENGTH = 4;
const SLOW_LENGTH = 12;
const SLOW_SHARE = 0.55;
/** A start is over after this many stitches. From memory. */
const START_STITCHES = 8;

export type ClockKind = 'sewing' | 'trim' | 'jump' | 'color' | 'stop';

/** A piece of machine time: rows `first`…`last` of one kind with one thread, from `start` to `end` in seconds. */
export interface ClockEvent {
  readonly kind: ClockKind;
  readonly first: number;
  readonly last: number;
  readonly thread: number;
  readonly start: number;
  readonly end: number;
}

/** Seconds by cause. `sewing` holds the slow stitches after each start, less those that the trim cycle already counts. */
export interface RunTotals {
  readonly seconds: number;
  readonly sewing: number;
  readonly trims: number;
  readonly jumps: number;
  readonly colorChanges: number;
  readonly stops: number;
  /** The whole run as so many stitches at top speed: stitches + 120 × trims + color changes and stops. Common practice. */
  readonly equivalentStitches: number;
}

export interface RunClock {
  /** Seconds from the start at which each row is done. */
  readonly done: Float64Array;
  readonly events: readonly ClockEvent[];
  readonly totals: RunTotals;
}

/**
 * Estimates when the machine does each row. Stitches take the time of their length, slower after every start (program start, trim, color
 * change, stop, frame move). A trim cycle by its definition holds that slow start, so the trim itself is charged less by as much; a trim
 * without sewing after it is thereby under by half a second. O(rows).
 */
export function runClock(program: Program, machine: Machine, lengths: Float64Array = layLengths(program)): RunClock {
  const done = new Float64Array(program.rowCount);
  const events: ClockEvent[] = [];
  const seconds: Record<ClockKind, number> = { sewing: 0, trim: 0, jump: 0, color: 0, stop: 0 };
  const trimSeconds = Math.max(0, machine.trimCycle - startLoss(machine));
  let time = 0;
  let sinceStart = 0;
  let thread = -1;
  let stitches = 0;
  let trims = 0;
  let isMoving = false;
  let px = 0;
  let py = 0;
  let open: { kind: ClockKind; first: number; thread: number; start: number } | undefined;

  for (let i = 0; i < program.rowCount; i++) {
    const command = program.command[i]!;
    let kind: ClockKind | undefined;
    let took = 0;
    if (command === STITCH) {
      kind = 'sewing';
      took = stitchSeconds(machine, lengths[i]!, sinceStart++);
      stitches++;
      isMoving = false;
    } else if (command === JUMP) {
      kind = 'jump';
      took = Math.hypot(program.x[i]! - px, program.y[i]! - py) / machine.moveSpeed + (isMoving ? 0 : machine.moveSettle);
      isMoving = true;
      sinceStart = 0;
    } else if (command === TRIM) {
      kind = 'trim';
      took = trimSeconds;
      trims++;
      sinceStart = 0;
    } else if (command === STOP) {
      kind = 'stop';
      took = machine.stop;
      sinceStart = 0;
    } else if (command === COLOR) {
      thread++;
      if (thread > 0) {
        kind = 'color';
        took = machine.colorChange;
      }
      sinceStart = 0;
    }
    px = program.x[i]!;
    py = program.y[i]!;
    if (kind !== undefined) {
      if (open === undefined || open.kind !== kind || open.thread !== thread) {
        close(i - 1);
        open = { kind, first: i, thread, start: time };
      }
      seconds[kind] += took;
      time += took;
    } else close(i - 1);
    done[i] = time;
  }
  close(program.rowCount - 1);

  return {
    done,
    events,
    totals: {
      seconds: time,
      sewing: seconds.sewing,
      trims: seconds.trim,
      jumps: seconds.jump,
      colorChanges: seconds.color,
      stops: seconds.stop,
      equivalentStitches: stitches + STITCHES_PER_TRIM * trims + ((seconds.color + seconds.stop) * machine.topSpeed) / 60,
    },
  };

  function close(last: number): void {
    if (open !== undefined) events.push({ ...open, last, end: time });
    open = undefined;
  }
}

/** Seconds one stitch takes: `length` in mm, `sinceStart` stitches after the machine last started. */
export function stitchSeconds(machine: Machine, length: number, sinceStart: number): number {
  let speed = machine.topSpeed;
  if (length > FULL_SPEED_LENGTH) {
    const t = Math.min(1, (length - FULL_SPEED_LENGTH) / (SLOW_LENGTH - FULL_SPEED_LENGTH));
    speed *= 1 - (1 - SLOW_SHARE) * t;
  }
  if (sinceStart < START_STITCHES) speed = Math.min(speed, rampSpeed(machine, sinceStart));
  return 60 / speed;
}

function rampSpeed(machine: Machine, sinceStart: number): number {
  return machine.startSpeed + ((machine.topSpeed - machine.startSpeed) * sinceStart) / START_STITCHES;
}

/** Seconds that the first stitches after a start take more than at top speed. */
export function startLoss(machine: Machine): number {
  let loss = 0;
  for (let k = 0; k < START_STITCHES; k++) loss += 60 / rampSpeed(machine, k) - 60 / machine.topSpeed;
  return loss;
}
