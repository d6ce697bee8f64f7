import type { Program } from '../../model/program.ts';
import type { RunGeometry } from '../line/measureRun.ts';
import { median } from '../../geometry/statistics.ts';
import type { RowSpan } from '../../model/stitchObject.ts';

/** Two penetrations nearer than this (mm) are one hole. */
const SAME_HOLE = 0.15;
/** So many stitches of a line, each gone over at once, make a bean line: fewer are a lock or chance. */
const LEAST_STEPS = 4;
/** A stitch shorter than this (mm) is a lock's. */
const LEAST_STEP = 0.7;
/** Each stitch is sewn there, back and there again, or twice back and there. */
const MOST_PASSES = 5;

/** Penetrations of a line each stitch of which is gone over before the next: it turns back in the same hole. */
export interface BeanSpan extends RowSpan {
  /** How often each stitch is sewn: 3 or 5. */
  readonly passes: number;
}

/** Bean lines among the stitches from penetration `first` to `last`; `first` of a span is where its first stitch starts. O(rows). */
export function findBeans(program: Program, first: number, last: number): BeanSpan[] {
  const spans: BeanSpan[] = [];
  for (let i = first; i < last;) {
    const passes = passesAt(program, i, last);
    if (passes === 1) {
      i++;
      continue;
    }
    let end = i;
    while (end < last && passesAt(program, end, last) === passes) end += passes;
    if (end - i >= LEAST_STEPS * passes) spans.push({ first: i, last: end, passes });
    i = end - i >= LEAST_STEPS * passes ? end : i + 1;
  }
  return spans;
}

/** How often the stitch that starts at a penetration is sewn before the needle goes on. */
function passesAt(program: Program, i: number, last: number): number {
  const { x, y } = program;
  if (i + 3 > last || Math.hypot(x[i + 1]! - x[i]!, y[i + 1]! - y[i]!) < LEAST_STEP) return 1;
  let passes = 1;
  while (passes < MOST_PASSES && i + passes + 2 <= last && isSame(program, i, i + passes + 1) && isSame(program, i + 1, i + passes + 2))
    passes += 2;
  return passes;
}

function isSame({ x, y }: Program, a: number, b: number): boolean {
  return Math.hypot(x[a]! - x[b]!, y[a]! - y[b]!) <= SAME_HOLE;
}

/** A bean line as a run: its way is that of its stitches, each counted once. */
export function measureBean({ x, y }: Program, { first, last, passes }: BeanSpan): RunGeometry {
  const way: number[] = [x[first]!, y[first]!];
  const steps: number[] = [];
  for (let i = first + passes; i <= last; i += passes) {
    steps.push(Math.hypot(x[i]! - x[i - passes]!, y[i]! - y[i - passes]!));
    way.push(x[i]!, y[i]!);
  }
  return {
    stitchLength: median(steps),
    passes,
    path: Float64Array.from(way),
    length: passes * steps.reduce((sum, step) => sum + step, 0),
    isBean: true,
  };
}
