import { FillRule, simplifyPathsD, unionD } from 'clipper2-ts';
import { signedArea } from '../../geometry/ring.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import { sayCount } from '../../words/sayCount.ts';

/** A shape that can be sewn: outlines counter-clockwise, holes clockwise, none crossing or touching another. Rings xyxy, mm. */
export interface SoundShape {
  readonly rings: readonly Float64Array[];
  /** What had to be put right, in words. */
  readonly notes: readonly string[];
}

/** More corners than this are thinned before anything else, and more than the second are refused. */
const MANY_CORNERS = 20_000;
const MOST_CORNERS = 2_000_000;
/** How far thinning may move an edge, mm: less than rounding of a file does. */
const THINNING = 0.02;
/** A ring of less area than this (mm²) is a spike or a seam. */
const LEAST_AREA = 0.05;
/** The farthest that a machine's field reaches, mm. */
const FARTHEST = 1000;

/** Rings that are sound already: a shape is repaired once, whatever is sewn in it. */
const known = new WeakSet<readonly Float64Array[]>();

/**
 * Rings as a sound shape by the even-odd rule: self-crossings are cut apart, spikes, seams and rings without area left out, holes that touch the
 * edge opened into it. Refused with the reason: corners that are no numbers or beyond any field, too many of them, nothing left.
 */
export function repairShape(rings: readonly Float64Array[]): Result<SoundShape, string> {
  if (known.has(rings)) return succeed({ rings, notes: [] });
  const corners = rings.reduce((sum, ring) => sum + ring.length / 2, 0);
  if (corners > MOST_CORNERS) return fail(`the outline has ${sayCount(corners)} corners; draw it with fewer than 2,000,000`);
  for (const ring of rings) {
    for (let k = 0; k < ring.length; k++) {
      const value = ring[k]!;
      if (!Number.isFinite(value)) return fail(`corner ${Math.floor(k / 2) + 1} of the outline is not a number`);
      if (Math.abs(value) > FARTHEST)
        return fail(`corner ${Math.floor(k / 2) + 1} of the outline lies ${Math.abs(value).toFixed(0)} mm from the middle`);
    }
  }
  const notes: string[] = [];
  let paths = rings.filter((ring) => ring.length >= 6).map((ring) => withoutSpikes(asPath(ring)));
  paths = paths.filter((path) => path.length >= 3);
  if (corners > MANY_CORNERS) {
    paths = simplifyPathsD(paths, THINNING);
    notes.push(`the outline was thinned from ${sayCount(corners)} corners, moved by ${THINNING} mm at most`);
  }
  const united = unionD(paths, [], FillRule.EvenOdd, PRECISION).map((path) => Float64Array.from(path.flatMap((p) => [p.x, p.y])));
  const sound = united.filter((ring) => Math.abs(signedArea(ring)) >= LEAST_AREA);
  if (sound.length === 0) return fail('the outline encloses no area that a needle could fill');
  const drawn = paths.filter((_, k) => Math.abs(signedArea(rings[k] ?? NOTHING)) >= LEAST_AREA).length;
  if (sound.length !== drawn || united.length !== rings.length) notes.push(sayRings(rings.length, sound.length));
  known.add(sound);
  return succeed({ rings: sound, notes });
}

/** Decimals that clipping keeps: finer than a file holds. */
const PRECISION = 4;
const NOTHING = new Float64Array(0);

function sayRings(before: number, after: number): string {
  const rings = (count: number): string => `${count} ring${count === 1 ? '' : 's'}`;
  return `the outline crosses or touches itself, or has parts without area: ${rings(before)} became ${rings(after)}`;
}

function asPath(ring: Float64Array): Corner[] {
  return Array.from({ length: ring.length / 2 }, (_, k) => ({ x: ring[k * 2]!, y: ring[k * 2 + 1]! }));
}

/** A ring without points said twice and without spikes that go out and straight back: they have no area, and clipping does not end on some of them. */
function withoutSpikes(path: readonly Corner[]): Corner[] {
  const out: Corner[] = [];
  for (const point of path) {
    out.push(point);
    while (out.length >= 2 && isSame(out.at(-2)!, out.at(-1)!)) out.pop();
    while (out.length >= 3 && isBack(out.at(-3)!, out.at(-2)!, out.at(-1)!)) {
      out.splice(-2, 1);
      if (isSame(out.at(-2)!, out.at(-1)!)) out.pop();
    }
  }
  // Where the ring closes, as often as there is something to take away.
  for (;;) {
    const n = out.length;
    if (n < 3) return [];
    if (isSame(out[0]!, out[n - 1]!) || isBack(out[n - 2]!, out[n - 1]!, out[0]!)) out.pop();
    else if (isBack(out[n - 1]!, out[0]!, out[1]!)) out.shift();
    else return out;
  }
}

interface Corner {
  readonly x: number;
  readonly y: number;
}

/** Places nearer than clipping keeps apart (mm) are one. */
const ONE_PLACE = 5e-5;

const isSame = (a: Corner, b: Corner): boolean => Math.abs(a.x - b.x) < ONE_PLACE && Math.abs(a.y - b.y) < ONE_PLACE;

/** Whether the way from `a` to `b` turns straight back to `c`. */
function isBack(a: Corner, b: Corner, c: Corner): boolean {
  const [ax, ay, bx, by] = [b.x - a.x, b.y - a.y, c.x - b.x, c.y - b.y];
  const lengths = Math.hypot(ax, ay) * Math.hypot(bx, by);
  return ax * bx + ay * by < 0 && Math.abs(ax * by - ay * bx) <= 1e-9 * lengths;
}
