import { z } from 'zod';
import { fail, type Result, succeed } from '../model/result.ts';

const Place = z.object({ x: z.number(), y: z.number() });

/** A point of a photo (pixels from its top left corner, y down) and where that is in the design (mm, y up). */
export const PhotoPoint = z.object({ photo: Place, design: Place });
export type PhotoPoint = z.infer<typeof PhotoPoint>;

/** Where a pixel of a photo lies in the design: x = a·px + c·py + e, y = b·px + d·py + f, mm. */
export interface PhotoPlace {
  readonly a: number;
  readonly b: number;
  readonly c: number;
  readonly d: number;
  readonly e: number;
  readonly f: number;
  /** How many times as large the photo shows one direction as another: 1 where it was taken from straight above. */
  readonly slant: number;
}

/** Three points say little where the triangle that they make is flatter than this share of its longest side. */
const LEAST_HEIGHT = 0.05;

/**
 * How a photo lies over the design, from three of its points. Fails where they lie on one line, in the photo or in the design: then they do not tell
 * how it is turned.
 */
export function placePhoto([p, q, r]: readonly [PhotoPoint, PhotoPoint, PhotoPoint]): Result<PhotoPlace, string> {
  for (const [side, words] of [
    ['photo', 'in the photo'],
    ['design', 'on the design'],
  ] as const)
    if (isFlat(p[side], q[side], r[side], LEAST_APART[side]))
      return fail(`The three points lie almost on one line ${words}. Choose points that make a wide triangle.`);
  const [ux, uy] = [q.photo.x - p.photo.x, q.photo.y - p.photo.y];
  const [vx, vy] = [r.photo.x - p.photo.x, r.photo.y - p.photo.y];
  const determinant = ux * vy - uy * vx;
  const solve = (s: number, t: number): [number, number] => [(s * vy - t * uy) / determinant, (t * ux - s * vx) / determinant];
  const [a, c] = solve(q.design.x - p.design.x, r.design.x - p.design.x);
  const [b, d] = solve(q.design.y - p.design.y, r.design.y - p.design.y);
  if (a * d - b * c > 0)
    return fail('The photo would lie mirrored. Mark the points in the photo in the order in which they are marked on the design.');
  // Singular values of the linear part.
  const [sum, square] = [a * a + b * b + c * c + d * d, (a * d - b * c) ** 2];
  const spread = Math.sqrt(Math.max(0, sum * sum - 4 * square));
  const slant = Math.sqrt((sum + spread) / Math.max(sum - spread, 1e-12));
  return succeed({ a, b, c, d, e: p.design.x - a * p.photo.x - c * p.photo.y, f: p.design.y - b * p.photo.x - d * p.photo.y, slant });
}

interface Spot {
  readonly x: number;
  readonly y: number;
}

/** Points that are nearer to each other than this (pixels of the photo, mm of the design) are one. */
const LEAST_APART = { photo: 4, design: 0.5 } as const;

function isFlat(p: Spot, q: Spot, r: Spot, least: number): boolean {
  const longest = Math.max(Math.hypot(q.x - p.x, q.y - p.y), Math.hypot(r.x - p.x, r.y - p.y), Math.hypot(r.x - q.x, r.y - q.y));
  const twiceArea = Math.abs((q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x));
  return longest < least || twiceArea < LEAST_HEIGHT * longest * longest;
}
