import svgpath from 'svgpath';
import { flattenCubic } from '../../geometry/flattenCubic.ts';
import { roundToThousandth } from '../../geometry/number.ts';
import { lengthOfPath, resamplePath } from '../../geometry/path.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import { MAX_ROWS, quote } from '../fileProblem.ts';
import type { ShapeProblem } from './outlineOfShape.ts';
import { sayCount } from '../../words/sayCount.ts';

/** How far apart penetrations are set on a curve, mm: a running stitch in the open. Common practice. */
const CURVE_STEP = 2.5;
/** A control point farther out than this (mm) cannot belong to a drawing that fits ±1000 mm. */
const FARTHEST = 100_000;

/**
 * The runs of SVG path data (one a subpath) as penetrations x, y, x, y… in mm, y up: vertices of straight parts as they are, curves stepped
 * evenly by `step` mm at most. `transform` is an SVG transform list, `scale` mm a unit. Subpaths of a single point are left out.
 */
export function flattenPath(data: string, transform: string, scale: number, step = CURVE_STEP): Result<number[][], ShapeProblem> {
  const path = svgpath(data);
  const problem = errorOf(path);
  if (problem !== undefined) return fail({ found: `path data that reads ${quote(data)} (${problem})`, expected: 'path data as in SVG' });
  path.transform(`scale(${scale} ${-scale}) ${transform}`).abs().unshort().unarc();
  const runs: number[][] = [];
  let run: number[] = [];
  let isFar = false;
  let left = MAX_ROWS;
  path.iterate((segment, _index, x, y) => {
    const [name, ...values] = segment as [string, ...number[]];
    for (const v of values) if (!(Math.abs(v) <= FARTHEST)) isFar = true;
    if (isFar || left < 0) return;
    switch (name) {
      case 'M':
        startRun(values[0]!, values[1]!);
        break;
      case 'H':
        add(values[0]!, y);
        break;
      case 'V':
        add(x, values[0]!);
        break;
      case 'L':
        add(values[0]!, values[1]!);
        break;
      case 'C':
        addCurve(x, y, values[0]!, values[1]!, values[2]!, values[3]!, values[4]!, values[5]!);
        break;
      case 'Q': {
        const [qx, qy, ex, ey] = values as [number, number, number, number];
        addCurve(x, y, x + (2 / 3) * (qx - x), y + (2 / 3) * (qy - y), ex + (2 / 3) * (qx - ex), ey + (2 / 3) * (qy - ey), ex, ey);
        break;
      }
      case 'Z': {
        const [startX, startY] = [run[0], run[1]];
        if (startX === undefined || startY === undefined) break;
        add(startX, startY);
        startRun(startX, startY);
        break;
      }
    }
  });
  if (isFar) return fail({ found: 'a point far outside', expected: "a drawing within 1000 mm of the hoop's centre" });
  if (left < 0) return fail({ found: `curves of more than ${sayCount(MAX_ROWS)} stitches`, expected: 'a smaller drawing' });
  startRun(0, 0);
  return succeed(runs);

  function startRun(x: number, y: number): void {
    if (run.length > 2) runs.push(run);
    run = [roundToThousandth(x), roundToThousandth(y)];
  }

  function add(x: number, y: number): void {
    const px = roundToThousandth(x);
    const py = roundToThousandth(y);
    if (run[run.length - 2] !== px || run[run.length - 1] !== py) run.push(px, py);
  }

  function addCurve(x0: number, y0: number, x1: number, y1: number, x2: number, y2: number, x3: number, y3: number): void {
    const fine = [x0, y0];
    flattenCubic(fine, x0, y0, x1, y1, x2, y2, x3, y3);
    const line = Float64Array.from(fine);
    const count = Math.max(2, Math.ceil(lengthOfPath(line) / step) + 1);
    left -= count;
    if (left < 0) return;
    const points = resamplePath(line, count);
    for (let k = 2; k < points.length; k += 2) add(points[k]!, points[k + 1]!);
  }
}

/** What svgpath's parser found wrong; it keeps this in a field that its types do not list. */
function errorOf(path: unknown): string | undefined {
  const { err } = path as { err?: string };
  return err === undefined || err === '' ? undefined : err.replace(/^SvgPath: /, '');
}
