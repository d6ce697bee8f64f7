import { baseToJson, defaultTarget, makeBase, type Program, ProgramBuilder, writeStitchCsv, readStitchFile } from '@isola/core';
import { createEngine } from './createEngine.ts';

/**
 * Opens small designs while nobody waits, so that what opening takes has been run, and is fast, when a large one is opened. Ends where
 * `isWanted` says that there is other work; lets it in every few ten ms.
 */
export async function rehearse(isWanted: () => boolean): Promise<void> {
  const program = smallDesign();
  const bytes = new TextEncoder().encode(writeStitchCsv(program));
  let base: string | undefined;
  for (let round = 0; round < ROUNDS; round++) {
    const engine = createEngine();
    const parts = [
      () => engine.read(bytes),
      () => Promise.resolve((base ??= baseOf(bytes))),
      () => engine.open(base!, [], 0),
      () => engine.audit(),
    ];
    for (const part of parts) {
      await new Promise((resolve) => setTimeout(resolve, 0));
      if (!isWanted()) return;
      await part();
    }
  }
}

/** So often it is opened: code is compiled when it has run a few times. */
const ROUNDS = 3;

function baseOf(bytes: Uint8Array): string {
  const read = readStitchFile(bytes);
  const base = read.ok ? makeBase(read.value.program, defaultTarget(), []) : undefined;
  if (base?.ok !== true) throw new Error('a small design could not be made');
  return baseToJson(base.value);
}

/** Nine squares (12 mm) of rows, each with a column (4 mm wide) on it, in two colors. */
function smallDesign(): Program {
  const design = new ProgramBuilder();
  for (const color of ['#1f4e79', '#c8a13a']) {
    design.color(color);
    for (let k = 0; k < 9; k++) {
      const [left, top] = [(k % 3) * 20, Math.floor(k / 3) * 20];
      design.jump(left, top);
      if (color === '#1f4e79')
        for (let row = 0; row <= 30; row++)
          for (let step = 0; step <= 4; step++) design.stitch(left + 3 * (row % 2 === 0 ? step : 4 - step), top + row * 0.4);
      else for (let row = 0; row <= 48; row++) design.stitch(left + (row % 2 === 0 ? 4 : 8), top + row * 0.2);
      design.trim();
    }
  }
  return design.end().build();
}
