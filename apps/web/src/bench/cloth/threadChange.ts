import type { ProgramChange } from '../../workers/clothProtocol.ts';

/** minX, minY, maxX, maxY, mm. */
export type ClothBox = readonly [number, number, number, number];

/** Where a program differs from the one whose picture is there. */
export interface ThreadChange {
  readonly box: ClothBox;
  /** Its last `rows` rows are the same in all programs with this `key`, and were sewn upon what differs. */
  readonly top: { readonly key: string; readonly rows: number };
}

/** A program by its number, and how it was made from another one. */
export interface NumberedProgram {
  readonly number: number;
  readonly change: ProgramChange | undefined;
}

/** How a program differs from the shown one; not known where neither was made from the other nor both from the same. */
export function changeBetween(shown: NumberedProgram, next: NumberedProgram): ThreadChange | undefined {
  const [a, b] = [shown.change, next.change];
  if (shown.number === next.number) return undefined;
  if (b !== undefined && b.from === shown.number) return changeOf(b.from, [b]);
  if (a !== undefined && a.from === next.number) return changeOf(a.from, [a]);
  if (a !== undefined && b !== undefined && a.from === b.from) return changeOf(a.from, [a, b]);
  return undefined;
}

function changeOf(from: number, changes: readonly ProgramChange[]): ThreadChange {
  const boxes = changes.map((c) => c.box);
  const rows = Math.min(...changes.map((c) => c.kept));
  return {
    box: [
      Math.min(...boxes.map((box) => box[0])),
      Math.min(...boxes.map((box) => box[1])),
      Math.max(...boxes.map((box) => box[2])),
      Math.max(...boxes.map((box) => box[3])),
    ],
    top: { key: `${from} ${rows}`, rows },
  };
}
