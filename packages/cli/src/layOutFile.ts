import { type Design, HoopLayout, inspectProgram, layOutCopies, sayCount } from '@isola/core';
import type { WrittenFile } from './orderFile.ts';
import { UsageError } from './usageError.ts';

/** Room between copies where nothing is said, mm. */
const USUAL_GAP = 6;

export interface LayOutSettings {
  readonly copies?: string | undefined;
  readonly gap?: string | undefined;
  readonly marks?: boolean | undefined;
  readonly turned?: boolean | undefined;
}

/** Copies of a design, which came from `file`, in its hoop. @throws UsageError for settings without sense and for what does not fit. */
export function layOutFile(design: Design, file: string, { copies, gap, marks, turned }: LayOutSettings): WrittenFile {
  const layout = HoopLayout.safeParse({
    copies: copies === undefined ? null : Number(copies),
    gap: gap === undefined ? USUAL_GAP : Number(gap),
    hasMarks: marks === true,
    isTurned: turned === true,
  });
  if (!layout.success) throw new UsageError('--copies takes a whole number from 1, --gap mm from 0 to 200');
  const laid = layOutCopies(design, layout.data);
  if (!laid.ok) throw new UsageError(`${file}: ${laid.error}`);
  const { program, placed } = laid.value;
  const before = inspectProgram(design.program, design.target);
  const after = inspectProgram(program, design.target);
  const each = after.run.seconds / placed.length;
  return {
    program,
    json: { copies: placed.length, placed, before, after },
    text: `${placed.length} copies, seconds a piece ${sayCount(before.run.seconds)} → ${sayCount(each)} (an estimate: sew a sample)\n`,
  };
}
