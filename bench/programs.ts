import { generateFill, type Program, ProgramBuilder, readStitchFile, roundToThousandth } from '@isola/core';

/**
 * A program of about `rows` rows such as shops get: fills of 40 × 40 mm in several colors and angles, side by side and partly on each other,
 * cut between parts. The same every time.
 */
export function makeProgram(rows: number): Program {
  const builder = new ProgramBuilder(rows + 64);
  for (let part = 0; builder.rowCount < rows; part++) {
    const x = -120 + (part % 7) * 36;
    const y = -120 + (Math.floor(part / 7) % 7) * 36;
    const ring = Float64Array.of(x, y, x + 40, y + 4, x + 36, y + 40, x + 3, y + 37);
    builder.color(`#${((part * 2654435761) % 0xffffff).toString(16).padStart(6, '0')}`, `Thread ${part}`);
    for (const path of generateFill([ring], { angle: part * 37, spacing: 0.4, stitchLength: 3.6, offset: 0.3 })) {
      builder.jump(roundToThousandth(path[0]!), roundToThousandth(path[1]!));
      for (let k = 0; k < path.length && builder.rowCount < rows - 2; k += 2)
        builder.stitch(roundToThousandth(path[k]!), roundToThousandth(path[k + 1]!));
      builder.trim();
    }
  }
  return builder.end().build();
}

/** A file's program. @throws when it does not read. */
export function parse(bytes: Uint8Array): Program {
  const read = readStitchFile(bytes);
  if (!read.ok) throw new Error(read.error.message);
  return read.value.program;
}
