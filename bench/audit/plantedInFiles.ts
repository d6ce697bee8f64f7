import { type Program, sewFault, SPEC_FAULTS, startDesign, type Target } from '@isola/core';
import type { Planted } from './plantedFaults.ts';

/** Kinds of faults that are put into objects of files of other hands. */
export const IN_FILES = SPEC_FAULTS;

/** An object of a file sewn with a fault, written and read again; nothing where the file has no such object or it cannot be sewn so. */
export function plantInFile(program: Program, target: Target, fault: (typeof IN_FILES)[number], chance: () => number): Planted | undefined {
  const made = sewFault(startDesign(program, target), fault, chance);
  return made && { design: made.design, box: made.planted.box };
}
