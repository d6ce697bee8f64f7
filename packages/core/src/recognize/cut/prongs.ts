import type { Program } from '../../model/program.ts';
import type { RowSpan } from '../../model/stitchObject.ts';

/** Two penetrations nearer than this (mm) are one hole. */
const SAME_HOLE = 0.15;
/** A prong reaches so far at least, mm. */
const LEAST_REACH = 0.6;
/** It stands off the edge: the cosine between the two is at most this, and this for most of them; those in corners lean. */
const LEANS = 0.8;
const SQUARE = 0.5;
const MOSTLY = 0.7;
/** From one prong to the next are so many stitches at most, and so many prongs make an edge stitch. */
const MOST_STEPS = 9;
const LEAST_PRONGS = 6;

/** Rows of edge (blanket) stitch among the stitches from penetration `first` to `last`: along, out, back to the same hole, along. O(rows). */
export function findProngs({ x, y }: Program, first: number, last: number): RowSpan[] {
  const spans: RowSpan[] = [];
  let tips: number[] = [];
  let square = 0;
  const close = (): void => {
    if (tips.length >= LEAST_PRONGS && square >= MOSTLY * tips.length) {
      const end = tips[tips.length - 1]! + 1;
      // Of a closed line the last way along belongs to it.
      const step = Math.ceil((end - tips[0]!) / (tips.length - 1));
      spans.push({ first: tips[0]!, last: last - end <= step ? last : end });
    }
    [tips, square] = [[], 0];
  };
  for (let i = first + 1; i < last; i++) {
    if (Math.hypot(x[i + 1]! - x[i - 1]!, y[i + 1]! - y[i - 1]!) > SAME_HOLE) continue;
    const [px, py] = [x[i]! - x[i - 1]!, y[i]! - y[i - 1]!];
    const reach = Math.hypot(px, py);
    if (reach < LEAST_REACH) continue;
    // Along is where the needle goes on to, when it has gone out as often as it does; after the last prong where it came from.
    let foot = i + 1;
    while (foot + 2 <= last && Math.hypot(x[foot + 1]! - x[i]!, y[foot + 1]! - y[i]!) <= SAME_HOLE) foot += 2;
    const [from, to] = foot + 1 <= last ? [foot, foot + 1] : [Math.max(first, i - 2), i - 1];
    const [ax, ay] = [x[to]! - x[from]!, y[to]! - y[from]!];
    const lean = Math.abs(px * ax + py * ay) / Math.max(1e-9, reach * Math.hypot(ax, ay));
    if (lean > LEANS) continue;
    if (tips.length > 0 && i - tips[tips.length - 1]! > MOST_STEPS) close();
    tips.push(i);
    if (lean < SQUARE) square++;
  }
  close();
  return spans;
}
