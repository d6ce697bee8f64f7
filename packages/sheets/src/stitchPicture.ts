import { COLOR, type Extents, JUMP, type Program, STITCH, TRIM, UNNAMED_THREAD } from '@isola/core';

/** Points of a page in a millimetre. */
export const POINT = 72 / 25.4;
/** Width of a thread on paper, mm, and of the line beneath that pale ones are seen by. */
const THREAD = 0.35;
const BENEATH = 0.6;
const PALE = 0.72;

/** Unbroken runs of stitches with their thread's color, xyxy in mm. */
export function runsOf(program: Program): { readonly color: string; readonly points: readonly number[] }[] {
  const { x, y, command, rowCount, threads } = program;
  const runs: { color: string; points: number[] }[] = [];
  let color = UNNAMED_THREAD.color;
  let n = 0;
  let current: number[] | undefined;
  for (let row = 0; row < rowCount; row++) {
    const what = command[row]!;
    if (what === STITCH) {
      if (current === undefined) runs.push({ color, points: (current = []) });
      current.push(x[row]!, y[row]!);
    } else if (what === JUMP || what === TRIM || what === COLOR) {
      current = undefined;
      if (what === COLOR) color = threads[n++]!.color;
    }
  }
  return runs.filter(({ points }) => points.length > 2);
}

/** Draws stitches as lines at true size, the middle of the design at a place of the page (points). */
export function drawStitches(
  doc: PDFKit.PDFDocument,
  program: Program,
  extents: Extents,
  at: { readonly x: number; readonly y: number },
): void {
  const [middleX, middleY] = [(extents.minX + extents.maxX) / 2, (extents.minY + extents.maxY) / 2];
  const tidy = (v: number): number => Math.round(v * 100) / 100;
  doc.save().lineCap('round').lineJoin('round');
  for (const { color, points } of runsOf(program)) {
    const path = (): void => {
      for (let k = 0; k < points.length; k += 2) {
        const [px, py] = [tidy(at.x + (points[k]! - middleX) * POINT), tidy(at.y - (points[k + 1]! - middleY) * POINT)];
        if (k === 0) doc.moveTo(px, py);
        else doc.lineTo(px, py);
      }
    };
    if (isPale(color)) {
      path();
      doc.lineWidth(BENEATH * POINT).stroke('#8d979a');
    }
    path();
    doc.lineWidth(THREAD * POINT).stroke(color);
  }
  doc.restore();
}

/** Whether a color would not be seen on white paper. */
function isPale(color: string): boolean {
  const [r, g, b] = [1, 3, 5].map((k) => Number.parseInt(color.slice(k, k + 2), 16) / 255);
  return 0.2126 * r! + 0.7152 * g! + 0.0722 * b! > PALE;
}
