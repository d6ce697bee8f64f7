import type { Program } from '../model/program.ts';
import { splitIntoStretches, type Stretch } from '../model/stretches.ts';
import { describePieces, type Recognition } from './recognizeProgram.ts';
import type { Piece } from './rows/piece.ts';

/** What stands for the recognizer of a file that was taken as it is. */
export const PLAIN_RECOGNIZER = 0;

/**
 * Takes every stretch as one object of kind `other`, without looking at how it is sewn: for files that take longer to recognize than anybody waits.
 * Parts of it can be read anew later. O(rows).
 */
export function recognizePlainly(program: Program): Recognition {
  return describePieces(
    program,
    splitIntoStretches(program).map((stretch, k) => pieceOf(program, stretch, k)),
  );
}

function pieceOf({ x, y }: Program, { first, last, thread }: Stretch, stretch: number): Piece {
  let length = 0;
  for (let i = first + 1; i <= last; i++) length += Math.hypot(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!);
  return {
    ...{ first, last, thread, stretch, rows: undefined, confidence: 0, pattern: undefined, underlayKind: undefined, parent: undefined },
    measured: { kind: 'other', stitchLength: length / Math.max(1, last - first) },
    role: 'cover',
  };
}
