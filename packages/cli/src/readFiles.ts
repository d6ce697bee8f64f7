import {
  defaultTarget,
  FABRICS,
  type FileProblem,
  formatOfName,
  GARMENTS,
  GOALS,
  HOOPS,
  type Program,
  readStitchFile,
  type Target,
  THREADS,
} from '@isola/core';
import { layoutFrom, readBytes, readMachineFile } from './machineFiles.ts';
import type { Values } from './usage.ts';
import { UsageError } from './usageError.ts';

/** The program in a file of any format, or in a machine's own by its layout. */
export function readProgram(file: string, values: Values): Program {
  const bytes = readBytes(file);
  const read = readStitchFile(bytes);
  if (read.ok) return read.value.program;
  if (values.layout !== undefined && formatOfName(file) === undefined)
    return readMachineFile(file, bytes, layoutFrom(values.layout)).program;
  throw new UsageError(sayProblem(file, read.error));
}

function sayProblem(file: string, problem: FileProblem): string {
  return `${file}: ${problem.message}`;
}

export function readTarget(values: Values): Target {
  if (values.fabric === undefined) throw new UsageError('--fabric ID is needed');
  const base = defaultTarget();
  const fabric = pick(FABRICS, values.fabric, 'fabric');
  const garment = values.garment === undefined ? null : pick(GARMENTS, values.garment, 'garment');
  // Without a place there is no telling the hoop: take the largest, so that only what fits nowhere is said.
  const hoop = garment === null ? HOOPS[HOOPS.length - 1]! : HOOPS.find((h) => h.id === garment.hoopId)!;
  const thread = values.thread === undefined ? base.thread : pick(THREADS, values.thread, 'thread');
  const goal = GOALS.find((g) => g === (values.goal ?? base.goal));
  if (goal === undefined) throw new UsageError(`--goal takes ${GOALS.join(', ')}, got ${values.goal}`);
  return { ...base, fabric, clothColor: fabric.color, garment, hoop, thread, goal };
}

export function pick<T extends { readonly id: string }>(list: readonly T[], id: string, what: string): T {
  const found = list.find((item) => item.id === id);
  if (found === undefined) throw new UsageError(`there is no ${what} ${id}; there are ${list.map((item) => item.id).join(', ')}`);
  return found;
}
