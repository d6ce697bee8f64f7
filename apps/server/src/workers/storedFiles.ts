import { createHash } from 'node:crypto';
import {
  type AboutDesign,
  decodeLayout,
  type FileProblem,
  type FormatId,
  type MachineLayout,
  type Program,
  programBytes,
  readDesignJson,
  readStitchFile,
  type ReadProgram,
  type Result,
  succeed,
  writeStitchFile,
} from '@isola/core';

/** A file that was sent: of an open format, or a machine's own, whose program is then what is worked on. */
export function readSent(
  bytes: Uint8Array,
  layout: MachineLayout | undefined,
): Result<ReadProgram & { readonly kind: FormatId; readonly bytes: Uint8Array }, FileProblem> {
  const read = readStitchFile(bytes);
  if (read.ok) return succeed({ ...read.value, bytes });
  if (layout === undefined) return read;
  const decoded = decodeLayout(bytes, layout);
  if (!decoded.ok) return decoded;
  const { program, warnings } = decoded.value;
  return succeed({
    program,
    kind: 'csv',
    warnings: [`Read by the layout of ${layout.name}.`, ...warnings],
    bytes: writeStitchFile(program, 'csv'),
  });
}

/** What a design JSON says of its job. */
export function aboutOf(bytes: Uint8Array): AboutDesign | undefined {
  const read = readDesignJson(new TextDecoder().decode(bytes));
  return read.ok ? read.value.about : undefined;
}

/** By which two machines tell whether they worked out the same program. */
export function hashProgram(program: Program): string {
  return createHash('sha256').update(programBytes(program)).digest('hex');
}

export function readStored(bytes: Uint8Array): Program {
  const read = readStitchFile(bytes);
  if (!read.ok) throw new Error(`a stored file does not read: ${read.error.message}`);
  return read.value.program;
}
