import { decodeLayout } from '../formats/layout/decodeLayout.ts';
import { encodeLayout } from '../formats/layout/encodeLayout.ts';
import type { MachineLayout } from '../formats/layout/machineLayout.ts';
import { SIMULATED_LAYOUT } from '../formats/layout/simulatedLayout.ts';
import { runClock } from '../measure/runClock.ts';
import { COLOR, JUMP, type Program, ProgramBuilder, STITCH, STOP } from '../model/program.ts';
import type { Hoop, Machine } from '../model/target.ts';

/** Something that a machine does not sew: it stands still there. */
export interface Refused {
  /** Of the program; −1: the file as a whole. */
  readonly row: number;
  readonly why: string;
}

export interface SimulatedRun {
  /** Whether it sews to the end. */
  readonly ok: boolean;
  /** Of all that is sewn, machine time and the operator's; an estimate. */
  readonly seconds: number;
  /** Stitches that are sewn before it stands still for good. */
  readonly sewn: number;
  /** Where it waits for the operator, with the words in the file, seconds from the start. */
  readonly stops: readonly { readonly row: number; readonly note: string; readonly at: number }[];
  readonly refused: readonly Refused[];
}

/** A jump longer than this (mm) is parted by whoever writes files for machines; a frame that is told more at once does not move. Common practice. */
const LONGEST_JUMP = 12.7;
/** Rounding of a file's places to counts may add this much, mm. */
const SLACK = 0.03;
/** As many refusals of one kind are told one by one. */
const MOST_TOLD = 5;

/**
 * Sews a program as a machine would: within its field (the hoop, about its center, mm), no step longer than it makes, no more threads than needles.
 * It stops for good at the first row that it refuses; the others are told all the same, so that one look is enough. O(rows).
 */
export function simulateRun(program: Program, machine: Machine, hoop: Hoop): SimulatedRun {
  const refused: Refused[] = [];
  const told = new Map<string, number>();
  const refuse = (row: number, kind: string, why: string): void => {
    const count = (told.get(kind) ?? 0) + 1;
    told.set(kind, count);
    if (count <= MOST_TOLD) refused.push({ row, why });
  };
  const { x, y, command, rowCount, threads, notes } = program;
  const needles = new Map<string, number>();
  const stops: { row: number; note: string }[] = [];
  let [fromX, fromY, color, isPlaced, stitches, sewn] = [0, 0, 0, false, 0, -1];
  const longestStitch = machine.maxStitch + SLACK;
  for (let row = 0; row < rowCount; row++) {
    const what = command[row]!;
    const before = refused.length;
    if (what === COLOR) {
      const { color: code, name } = threads[color++]!;
      const known = needles.has(`${code} ${name}`);
      needles.set(`${code} ${name}`, needles.size);
      if (!known && needles.size > machine.needles)
        refuse(
          row,
          'needles',
          `thread ${needles.size}${name === '' ? '' : `, ${name}`}: ${machine.name} has ${machine.needles === 1 ? '1 needle' : `${machine.needles} needles`}`,
        );
    } else if (what === STOP) stops.push({ row, note: notes.get(row) ?? '' });
    else if (what === STITCH || what === JUMP) {
      const [px, py] = [x[row]!, y[row]!];
      const reach = outside(px, py, hoop);
      if (reach > SLACK)
        refuse(
          row,
          'field',
          `${px.toFixed(1)}, ${py.toFixed(1)} mm lies ${reach.toFixed(1)} mm outside of ${hoop.name}: the needle would hit the frame`,
        );
      const length = isPlaced ? Math.hypot(px - fromX, py - fromY) : 0;
      if (what === STITCH && length > longestStitch)
        refuse(row, 'stitch', `a stitch of ${length.toFixed(1)} mm; ${machine.name} makes ${machine.maxStitch.toFixed(1)}`);
      else if (what === JUMP && isPlaced && Math.max(Math.abs(px - fromX), Math.abs(py - fromY)) > LONGEST_JUMP + SLACK)
        refuse(row, 'jump', `a jump of ${length.toFixed(1)} mm in one; ${LONGEST_JUMP} each way is the most that a frame is told at once`);
      [fromX, fromY, isPlaced] = [px, py, true];
    }
    if (refused.length > before && sewn < 0) sewn = stitches;
    if (what === STITCH) stitches++;
  }
  for (const [kind, count] of told)
    if (count > MOST_TOLD) refused.push({ row: -1, why: `${count - MOST_TOLD} more of the same: ${WORDS[kind]!}` });
  if (stitches === 0) refused.push({ row: -1, why: 'there is no stitch in it' });
  const { done, totals } = runClock(program, machine);
  const last = refused.find(({ row }) => row >= 0)?.row;
  return {
    ok: refused.length === 0,
    seconds: last === undefined ? totals.seconds : (done[last - 1] ?? 0),
    sewn: sewn < 0 ? stitches : sewn,
    stops: stops.filter(({ row }) => last === undefined || row < last).map((stop) => ({ ...stop, at: done[stop.row]! })),
    refused,
  };
}

const WORDS: Readonly<Record<string, string>> = {
  needles: 'threads without a needle',
  field: 'places outside of the field',
  stitch: 'stitches too long',
  jump: 'jumps too long in one',
};

/** How far outside of a hoop's field a place is, mm. */
const outside = (x: number, y: number, { width, height }: Hoop): number => Math.max(Math.abs(x) - width / 2, Math.abs(y) - height / 2, 0);

/** A machine's file as it sews: the program that its layout makes of it, and what was said while it was written. */
export interface MachineRun extends SimulatedRun {
  readonly program: Program;
  readonly notes: readonly string[];
}

/**
 * Writes a program for the simulated machine, reads the file back as that does and sews it. Rows count those of the file, in which long moves are parted; what the operator
 * is told at each stop stands on the production sheet, and is given with it here.
 */
export function simulateProgram(program: Program, machine: Machine, hoop: Hoop, layout: MachineLayout = SIMULATED_LAYOUT): MachineRun {
  const written = encodeLayout(program, layout);
  const read = written.ok ? decodeLayout(written.value.bytes, layout) : undefined;
  if (!written.ok || read?.ok !== true) {
    const why = written.ok ? (read?.ok === false ? read.error.message : '') : written.error;
    return { ok: false, seconds: 0, sewn: 0, stops: [], refused: [{ row: -1, why }], program, notes: [] };
  }
  const run = simulateRun(read.value.program, machine, hoop);
  const words = [...program.command.keys()].filter((row) => program.command[row] === STOP).map((row) => program.notes.get(row) ?? '');
  // Where color changes are written as stops there are more of these than words.
  const isToldApart = layout.record.commands.some(({ command }) => command === 'color');
  const stops = run.stops.map((stop, k) => ({ ...stop, note: isToldApart ? (words[k] ?? '') : stop.note }));
  return { ...run, stops, program: read.value.program, notes: written.value.notes };
}

/**
 * Sews a file that the simulated machine was given. One that is cut short or is none stands still at once, with the byte; where it is not the file of `program`, it is said from
 * which byte on it is another one.
 */
export function simulateFile(
  bytes: Uint8Array,
  program: Program,
  machine: Machine,
  hoop: Hoop,
  layout: MachineLayout = SIMULATED_LAYOUT,
): MachineRun {
  const read = decodeLayout(bytes, layout);
  if (!read.ok) {
    const nothing = new ProgramBuilder().end().build();
    return { ok: false, seconds: 0, sewn: 0, stops: [], refused: [{ row: -1, why: read.error.message }], program: nothing, notes: [] };
  }
  const { program: sewn, warnings, byteOfRow } = read.value;
  const written = encodeLayout(program, layout);
  const other = written.ok ? differsFrom(bytes, written.value.bytes, layout.header.length) : undefined;
  const row = other === undefined ? -1 : byteOfRow.findLastIndex((from) => from >= 0 && from <= other);
  const where =
    other === undefined
      ? []
      : [`It is not the file of this design: from byte ${other} on${row < 0 ? '' : ` (row ${row})`} it is another one.`];
  return { ...simulateRun(sewn, machine, hoop), program: sewn, notes: [...where, ...warnings] };
}

/** The first byte after the header in which two files differ; none where they are the same there. */
function differsFrom(one: Uint8Array, other: Uint8Array, from: number): number | undefined {
  for (let k = from; k < Math.max(one.length, other.length); k++) if (one[k] !== other[k]) return k;
  return undefined;
}
