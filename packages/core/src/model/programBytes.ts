import type { Program } from './program.ts';

/**
 * A program as bytes, the same for the same program wherever they are made: to be hashed where two machines compare what they worked out. Columns of
 * places (mm, 64 bits each, little end first) and commands, then threads and notes as JSON.
 */
export function programBytes({ rowCount, x, y, command, threads, notes }: Program): Uint8Array<ArrayBuffer> {
  const words = new TextEncoder().encode(
    JSON.stringify([threads.map(({ color, name }) => [color, name]), [...notes].sort(([a], [b]) => a - b)]),
  );
  const bytes = new Uint8Array(17 * rowCount + words.length);
  const view = new DataView(bytes.buffer);
  for (let row = 0; row < rowCount; row++) {
    // A zero has a sign that no file keeps.
    view.setFloat64(16 * row, x[row]! + 0, true);
    view.setFloat64(16 * row + 8, y[row]! + 0, true);
  }
  bytes.set(command.subarray(0, rowCount), 16 * rowCount);
  bytes.set(words, 17 * rowCount);
  return bytes;
}
