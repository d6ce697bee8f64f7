import { readFileSync } from 'node:fs';
import path from 'node:path';
import {
  decodeLayout,
  encodeLayout,
  HOOPS,
  type LayoutProblem,
  type Machine,
  type MachineLayout,
  MACHINES,
  type Program,
  readLayout,
  sayCount,
  SIMULATED_LAYOUT,
  simulateProgram,
} from '@isola/core';
import { reasonOf, UsageError } from './usageError.ts';

/** By this name instead of a file the layout of the simulated machine is meant. */
const SIMULATED = 'simulated';

/** A machine layout from its file, or what is wrong with it. @throws UsageError where it is no JSON. */
function loadLayout(file: string): { readonly layout?: MachineLayout; readonly problems: readonly LayoutProblem[] } {
  if (file === SIMULATED) return { layout: SIMULATED_LAYOUT, problems: [] };
  let json: unknown;
  try {
    json = JSON.parse(readFileSync(file, 'utf8'));
  } catch (error) {
    throw new UsageError(`${file}: ${error instanceof SyntaxError ? `no JSON (${error.message})` : reasonOf(error)}`);
  }
  const read = readLayout(json);
  return read.ok ? { layout: read.value, problems: [] } : { problems: read.error };
}

/** The same, where it has to be sound. */
export function layoutFrom(file: string): MachineLayout {
  const { layout, problems } = loadLayout(file);
  if (layout === undefined) throw new UsageError(`${file}: ${problems.map(({ at, message }) => `${at}: ${message}`).join('; ')}`);
  return layout;
}

/** The program of a machine's file. */
export function readMachineFile(file: string, bytes: Uint8Array, layout: MachineLayout): { program: Program; warnings: readonly string[] } {
  const read = decodeLayout(bytes, layout);
  if (!read.ok) throw new UsageError(`${file}: ${read.error.message}`);
  return read.value;
}

/** A program as a machine's file, with what was lost on the way. */
export function machineFile(program: Program, layout: MachineLayout, output: string): { bytes: Uint8Array; notes: readonly string[] } {
  const written = encodeLayout(program, layout, path.parse(output).name);
  if (!written.ok) throw new UsageError(`${output}: ${written.error}`);
  return written.value;
}

/** Checks a layout, and reads a file by it: what is wrong, with its place, and how much there is. */
export function checkLayoutFile(layoutName: string, file: string | undefined): { status: 0 | 2; json: object; text: string } {
  const { layout, problems } = loadLayout(layoutName);
  if (layout === undefined) {
    const text = problems.map(({ at, message }) => `${at}: ${message}\n`).join('');
    return { status: 2, json: { ok: false, problems }, text };
  }
  if (file === undefined)
    return { status: 0, json: { ok: true, problems: [] }, text: `${layout.name}: nothing in it contradicts itself\n` };
  const read = decodeLayout(readBytes(file), layout);
  if (!read.ok) {
    const { byte, message } = read.error;
    return {
      status: 2,
      json: { ok: false, problems: [{ at: byte === undefined ? file : `byte ${byte}`, message }] },
      text: `${file}: ${message}\n`,
    };
  }
  const { records, program, warnings } = read.value;
  const text = `${sayCount(records)} records, ${sayCount(program.rowCount)} rows\n${warnings.map((warning) => `${warning}\n`).join('')}`;
  return { status: 0, json: { ok: true, problems: [], records, rows: program.rowCount, warnings }, text };
}

export function readBytes(file: string): Uint8Array {
  try {
    return readFileSync(file);
  } catch (error) {
    throw new UsageError(`${file}: ${reasonOf(error)}`);
  }
}

/** Sews a program on the simulated machine in the shop's largest hoop, or in one by its id. */
export function simulateFile(program: Program, machineId: string | undefined, hoopId: string | undefined): { json: object; text: string } {
  const machine = pickBy(MACHINES, machineId, 'machine');
  const hoop = hoopId === undefined ? largest() : pickBy(HOOPS, hoopId, 'hoop');
  const { ok, seconds, sewn, stops, refused, notes } = simulateProgram(program, machine, hoop);
  const lines = [
    `${ok ? 'sewn to the end' : 'stands still'} on ${machine.name}, ${hoop.name}: ${sayCount(sewn)} stitches in ${sayTime(seconds)} (an estimate)`,
    ...stops.map(({ at, note }) => `stop at ${sayTime(at)}${note === '' ? '' : `: ${note}`}`),
    ...refused.map(({ row, why }) => `refused${row < 0 ? '' : ` at row ${row}`}: ${why}`),
    ...notes,
  ];
  return { json: { ok, seconds, sewn, stops, refused, notes }, text: `${lines.join('\n')}\n` };
}

const largest = () => [...HOOPS].sort((a, b) => b.width * b.height - a.width * a.height)[0]!;
const sayTime = (seconds: number): string => `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;

function pickBy<T extends { readonly id: string }>(list: readonly T[], id: string | undefined, what: string): T {
  const found = id === undefined ? list[0] : list.find((one) => one.id === id);
  if (found === undefined) throw new UsageError(`there is no ${what} ${id}; there are ${list.map((one) => one.id).join(', ')}`);
  return found;
}

/** What a machine is called on the command line. */
export const machineIds = (list: readonly Pick<Machine, 'id'>[] = MACHINES): string => list.map(({ id }) => id).join(', ');
