import { generateFill, generateSatin, ProgramBuilder, writeStitchCsv } from '@isola/core';

/** A fill, a narrow column of another thread on it, and two columns alike beside it. */
export function fourObjectsFile(): Uint8Array {
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor');
  const sew = (path: Float64Array): void => {
    builder.trim().jump(path[0]!, path[1]!);
    for (let k = 0; k < path.length; k += 2) builder.stitch(Math.round(path[k]! * 1000) / 1000, Math.round(path[k + 1]! * 1000) / 1000);
  };
  const column = (x: number, y: number, width: number): Float64Array =>
    generateSatin(Float64Array.of(x, y, x + 12, y), Float64Array.of(x, y + width, x + 12, y + width), {
      spacing: 0.4,
      pull: 0,
      splitLength: 7,
    });
  sew(generateFill([Float64Array.of(0, 0, 20, 0, 20, 20, 0, 20)], { angle: 30, spacing: 0.4, stitchLength: 4, offset: 0.3 })[0]!);
  builder.color('#b8552f', 'Brick');
  sew(column(4, 8, 2));
  sew(column(30, 0, 3));
  sew(column(30, 8, 3));
  return new TextEncoder().encode(writeStitchCsv(builder.trim().end().build()));
}
