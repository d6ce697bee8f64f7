import { EndType, inflatePathsD, JoinType } from 'clipper2-ts';
import { offsetRings } from '../../geometry/offset.ts';
import { areaOfRing } from '../../geometry/region.ts';
import { median } from '../../geometry/statistics.ts';

/** A line that fills an area by going beside itself: from which point of the way on, how far apart, over what. */
export interface FillingLine {
  /** Index of the point where it begins; what comes before is something else, its underlay most often. */
  readonly start: number;
  readonly pattern: 'contour' | 'meander';
  /** Distance between neighbouring ways of the line, mm. */
  readonly spacing: number;
  readonly outline: Float64Array;
  readonly holes: readonly Float64Array[];
}

/** A line that fills an area is this long (mm) and goes beside itself at an even distance between these (mm). */
export const LEAST_LINE = 120;
const LINE_APART = { from: 0.35, to: 5 };
const UNEVEN = 0.45;
/** A neighbour is so many times as far along the line as across, and so many millimetres at least. */
const AWAY = 1.9;
const LEAST_AWAY = 1.5;
/** Ways no farther apart than this (mm) lie on one another. */
const SAME_WAY = 0.15;
/** So much of the line has itself for a neighbour. */
const BESIDE_ITSELF = 0.7;
/**
 * A contour line runs along its neighbour, turns once for each ring, and bends little; a meander turns about, and closes on itself, so that its
 * turns add up to one. The share of the line that runs along its neighbour, that of so many rings, and how far it wanders are weighed
 * together (logistic regression over contours and meanders of the shapes that are worked on).
 */
const MANY_RINGS = 6;
const RINGS_COUNT = 0.6;
const WANDERS_COUNT = 0.6;
const CONTOUR = 0.46;
/** Places of a meander that run along their neighbour as straight as this (cosine) tell how far apart its ways are, if they are no fewer than this. */
const STRAIGHT = 0.985;
const FEW_STRAIGHT = 12;
/** Shares of a way that something else may take up before the line begins, and how long a way is looked at so. */
const LATER = [0, 0.12, 0.24, 0.36, 0.48, 0.6];
const MOST_BEFORE = 0.75;
const MOST_POINTS = 60_000;
/** What lies nearer to the line after it than this share of a spacing lies across or between it: by so much more often before the line begins. */
const BETWEEN = 0.62;
const RARER = 0.42;
/** So many penetrations before the line are something of their own. */
const LEAST_BEFORE = 12;
/** So many places of a line are looked at. */
const MOST_PLACES = 600;

/** What a place of a line has beside it. */
interface Place {
  readonly at: number;
  /** Distance from the nearest other way of the line, mm, and from the nearest that comes later; infinite where none is near. */
  readonly gap: number;
  readonly later: number;
  /** Cosine between the two ways. */
  readonly along: number;
}

/** The line that fills an area on a way (xyxy), if there is one that reaches its end. O(points), a union of outlines. */
export function findFillingLine(way: Float64Array): FillingLine | undefined {
  const places = lookBeside(way);
  if (nearOnes(places).length < BESIDE_ITSELF * places.length) return undefined;
  const start = findStart(way, places);
  const line = start === 0 ? way : way.subarray(start * 2);
  const own = start === 0 ? places : lookBeside(line);
  const spacing = evenSpacing(own);
  if (spacing === undefined || lengthOf(line) < LEAST_LINE) return undefined;
  const near = nearOnes(own);
  const along = near.filter((p) => p.along > 0.9).length / near.length;
  const rings = Math.min(1, Math.abs(turnsOf(line)) / MANY_RINGS);
  const isContour = along + RINGS_COUNT * rings - WANDERS_COUNT * wanderOf(line, spacing) > CONTOUR;
  const pattern = isContour ? 'contour' : 'meander';
  // Chords of a contour cut its bends, and corners of a meander are rounded: away from both lies the spacing that was asked for.
  const straight = near.filter((p) => p.along > STRAIGHT);
  const gaps = (isContour || straight.length < FEW_STRAIGHT ? near : straight).map((p) => p.gap).sort((a, b) => a - b);
  const exact = gaps[Math.floor(gaps.length * (isContour ? 0.62 : 0.5))]!;
  return { start, pattern, spacing: exact, ...coveredBy(line, exact, JOINS[pattern]) };
}

function nearOnes(places: readonly Place[]): Place[] {
  return places.filter((p) => p.gap <= LINE_APART.to);
}

/** The distance at which a line goes beside itself, mm; none where it mostly does not, or not evenly. */
function evenSpacing(places: readonly Place[]): number | undefined {
  const gaps = nearOnes(places).map((p) => p.gap);
  if (gaps.length < BESIDE_ITSELF * places.length || gaps.length < 20) return undefined;
  gaps.sort((a, b) => a - b);
  const spacing = median(gaps);
  const spread = (gaps[Math.floor(gaps.length * 0.8)]! - gaps[Math.floor(gaps.length * 0.2)]!) / 2;
  return spacing < LINE_APART.from || spread > UNEVEN * spacing ? undefined : spacing;
}

/**
 * Where a filling line begins on a way, as the index of a point: later and later parts of the way are asked for an even spacing, and the first
 * that has one tells what comes before and lies across it or between its ways.
 */
function findStart(way: Float64Array, places: readonly Place[]): number {
  const count = way.length / 2;
  for (const share of count > MOST_POINTS ? [0] : LATER) {
    const pitch = evenSpacing(share === 0 ? places : lookBeside(way.subarray(2 * Math.floor(share * count))));
    if (pitch === undefined) continue;
    const best = changeOf(places.map((p) => p.later < BETWEEN * pitch));
    const start = (places[best]?.at ?? 1) - 1;
    return start < LEAST_BEFORE ? 0 : start;
  }
  return 0;
}

/**
 * After how many of its values a yes or no becomes rarer, as the most likely of all cuts into two parts of one rate each; 0 where no cut makes
 * much of a difference (D. V. Hinkley and E. A. Hinkley, Inference about the change-point in a sequence of binomial variables, 1970).
 */
function changeOf(values: readonly boolean[]): number {
  const likelihood = (yes: number, count: number): number =>
    yes === 0 || yes === count ? 0 : yes * Math.log(yes / count) + (count - yes) * Math.log(1 - yes / count);
  const all = values.filter(Boolean).length;
  let [best, most, before] = [0, -Infinity, 0];
  for (let k = 1; k < MOST_BEFORE * values.length; k++) {
    if (values[k - 1]) before++;
    const here = likelihood(before, k) + likelihood(all - before, values.length - k);
    if (here > most && before / k - (all - before) / (values.length - k) > RARER) [most, best] = [here, k];
  }
  return best;
}

/** For some hundred places of a way what lies beside them. */
function lookBeside(way: Float64Array): Place[] {
  const count = way.length / 2;
  const cell = LINE_APART.to;
  const grid = new Map<string, number[]>();
  const walked = new Float64Array(count);
  for (let k = 0; k < count; k++) {
    if (k > 0) walked[k] = walked[k - 1]! + Math.hypot(way[k * 2]! - way[k * 2 - 2]!, way[k * 2 + 1]! - way[k * 2 - 1]!);
    const key = `${Math.floor(way[k * 2]! / cell)} ${Math.floor(way[k * 2 + 1]! / cell)}`;
    const there = grid.get(key);
    if (there === undefined) grid.set(key, [k]);
    else if (there.length < 256) there.push(k);
  }
  const places: Place[] = [];
  const step = Math.max(1, Math.floor(count / MOST_PLACES));
  for (let k = 1; k + 1 < count; k += step) {
    const [px, py] = [way[k * 2]!, way[k * 2 + 1]!];
    const [cx, cy] = [Math.floor(px / cell), Math.floor(py / cell)];
    let [gap, later, along] = [Infinity, Infinity, 0];
    const here = directionOf(way, k - 1, k + 1);
    for (let gx = cx - 1; gx <= cx + 1; gx++)
      for (let gy = cy - 1; gy <= cy + 1; gy++)
        for (const n of grid.get(`${gx} ${gy}`) ?? []) {
          if (n + 1 >= count) continue;
          const [ax, ay] = [way[n * 2]!, way[n * 2 + 1]!];
          const [dx, dy] = [way[n * 2 + 2]! - ax, way[n * 2 + 3]! - ay];
          const square = dx * dx + dy * dy;
          const t = square > 0 ? Math.max(0, Math.min(1, ((px - ax) * dx + (py - ay) * dy) / square)) : 0;
          const d = Math.hypot(ax + t * dx - px, ay + t * dy - py);
          const on = walked[n]! + t * (walked[n + 1]! - walked[n]!) - walked[k]!;
          // The same way a little on or back is no neighbour: there it is as far along the line as across.
          if (Math.abs(on) < Math.max(LEAST_AWAY, AWAY * d)) continue;
          if (on > 0 && d < later) later = d;
          // Nor is one gone there and back.
          if (d < SAME_WAY || d >= gap) continue;
          [gap, along] = [d, Math.abs(here[0] * dx + here[1] * dy) / Math.max(1e-9, Math.sqrt(square))];
        }
    places.push({ at: k, gap, later, along });
  }
  return places;
}

/** The direction (unit vector) from one point of a way to another; none where they are one. */
function directionOf(way: Float64Array, from: number, to: number): [number, number] {
  const [dx, dy] = [way[to * 2]! - way[from * 2]!, way[to * 2 + 1]! - way[from * 2 + 1]!];
  const length = Math.max(1e-9, Math.hypot(dx, dy));
  return [dx / length, dy / length];
}

function lengthOf(way: Float64Array): number {
  let length = 0;
  for (let k = 2; k < way.length; k += 2) length += Math.hypot(way[k]! - way[k - 2]!, way[k + 1]! - way[k - 1]!);
  return length;
}

/** How often a way turns round altogether, counter-clockwise positive; where it comes straight back, to neither side, does not count. */
function turnsOf(way: Float64Array): number {
  return turnsAlong(way).reduce((sum, turn) => sum + turn, 0) / (2 * Math.PI);
}

/** How far a way turns to either side for each spacing of its length, radians; where it comes straight back does not count. */
function wanderOf(way: Float64Array, spacing: number): number {
  return (turnsAlong(way).reduce((sum, turn) => sum + Math.abs(turn), 0) * spacing) / lengthOf(way);
}

/** The turns of a way from stitch to stitch, radians, counter-clockwise positive. */
function turnsAlong(way: Float64Array): number[] {
  const turns: number[] = [];
  for (let k = 2; k < way.length / 2; k++) {
    const [[ux, uy], [vx, vy]] = [directionOf(way, k - 2, k - 1), directionOf(way, k - 1, k)];
    const turn = Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy);
    if (Math.abs(turn) < STRAIGHT_BACK) turns.push(turn);
  }
  return turns;
}

const STRAIGHT_BACK = 2.8;

/** Ways a spacing apart hang together when they are grown by this share of it; half of it is what a way covers on its side. */
const JOINS = { contour: 0.62, meander: 1.05 };
const HALF = 0.5;

/** Ways that meet from both sides leave up to this share of a spacing uncovered on either side of their middle, which is no hole. */
const LEFT_BETWEEN = 0.5;

/** The area that a line covers with half a spacing on either side. */
function coveredBy(way: Float64Array, spacing: number, joins: number): Pick<FillingLine, 'outline' | 'holes'> {
  const points = Array.from({ length: way.length / 2 }, (_, k) => ({ x: way[k * 2]!, y: way[k * 2 + 1]! }));
  const grown = inflatePathsD([points], spacing * joins, JoinType.Round, EndType.Round, 2, 3, 0.05);
  const area = inflatePathsD(grown, spacing * (HALF - joins), JoinType.Round, EndType.Polygon, 2, 3, 0.05)
    .map((ring) => Float64Array.from(ring.flatMap((p) => [p.x, p.y])))
    .filter((ring) => Math.abs(areaOfRing(ring)) > 1);
  const outline = area.reduce((most, ring) => (areaOfRing(ring) > areaOfRing(most) ? ring : most), area[0] ?? new Float64Array(0));
  const isHole = (ring: Float64Array): boolean => areaOfRing(ring) < 0 && offsetRings([ring.slice()], -LEFT_BETWEEN * spacing).length > 0;
  return { outline, holes: area.filter(isHole) };
}
