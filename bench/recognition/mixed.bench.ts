import { type Program, ProgramBuilder, STITCH, JUMP, TRIM } from '@isola/core';
import { stitchSet } from './stitchSet.ts';

/** A program of at least `rows` rows put together from the shapes of the score, side by side, in their many manners. The same every time. */
export function mixedProgram(rows: number): Program {
  const set = stitchSet(4, 'tune');
  const builder = new ProgramBuilder(rows + 8192);
  for (let n = 0; builder.rowCount < rows; n++) {
    const { program } = set[n % set.length]!;
    const dx = (n % 17) * 30 - 250;
    builder.color(n % 2 === 0 ? '#1f4e5f' : '#b8552f', `Thread ${n}`);
    for (let i = 0; i < program.rowCount; i++) {
      if (program.command[i] === STITCH) builder.stitch(program.x[i]! + dx, program.y[i]!);
      else if (program.command[i] === JUMP) builder.jump(program.x[i]! + dx, program.y[i]!);
      else if (program.command[i] === TRIM) builder.trim();
    }
    builder.trim();
  }
  return builder.end().build();
}
