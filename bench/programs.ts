import { seededChance } from './recognition/stitchSet.ts';
import { generateFill, type Program, ProgramBuilder, roundToThousandth } from '@isola/core';

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

/** Penetrations anywhere in 200 mm, in one unbroken stretch. The same every time. */
export function makeNoise(rows: number): Program {
  const builder = new ProgramBuilder(rows + 8).color('#1f4e79', 'Noise');
  const chance = seededChance(7);
  for (let k = 0; k < rows; k++) builder.stitch(roundToThousandth(chance() * 200 - 100), roundToThousandth(chance() * 200 - 100));
  return builder.end().build();
}

/** Fills of 7 × 4 mm and a hundred penetrations, side by side in one color, cut from each other. */
export function makeSquares(rows: number): Program {
  const builder = new ProgramBuilder(rows + 256).color('#1f4e79', 'Squares');
  for (let n = 0; builder.rowCount < rows; n++) {
    const [x, y] = [(n % 100) * 8.2 - 410, Math.floor(n / 100) * 4.8 - 480];
    builder.trim().jump(x, y);
    for (let row = 0; row < 20; row++) {
      const places = [0, 1 + (row % 3) / 3, 2.5 + (row % 3) / 3, 4 + (row % 3) / 3, 7];
      for (const u of row % 2 === 0 ? places : places.reverse()) builder.stitch(x + u, y + row * 0.2);
    }
  }
  return builder.end().build();
}
