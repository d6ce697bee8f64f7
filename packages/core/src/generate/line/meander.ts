import { offsetRings } from '../../geometry/offset.ts';
import { findPlaces, type GridLay, type MeanderGrid, placeAt } from './meanderGrid.ts';
import { type MeanderTours, tourPlaces } from './meanderTour.ts';
import { repairShape } from '../sew/repairShape.ts';
import { evenSteps } from './run.ts';

export interface MeanderSpec {
  /** Distance between neighbouring ways of the line, mm. */
  readonly spacing: number;
  readonly stitchLength: number;
  /** Another number gives another line. */
  readonly seed?: number;
}

/** The line keeps this share of a spacing away from the edge. */
const FROM_EDGE = 0.35;
/** How the grid is turned (degrees) and moved about (steps): in all these ways over shapes of few places, in some over others, where it says less. */
const ANGLES = [0, 15, 30, 45, 60, 75];
const PHASES = [0, 0.5, 1, 1.5];
const FEW_PLACES = 250;
const MANY_PLACES = 1200;

/**
 * Penetrations (xyxy) of one unbroken line that wanders through the shape at an even distance from itself, closed, one for each part of the
 * shape that is broad enough. Gives none where nothing is. Its places lie on a grid of one spacing, in the lay that takes the fewest lines
 * and then takes in the most places.
 *
 * @throws when the spacing or the stitch is not positive, or the shape has too many places for the line.
 */
export function generateMeander(rings: readonly Float64Array[], spec: MeanderSpec, from?: { x: number; y: number }): Float64Array[] {
  const { spacing, stitchLength, seed = 1 } = spec;
  if (!(spacing >= 0.4)) throw new RangeError(`a meander fill needs a spacing of 0.4 mm or more, got ${spacing}`);
  if (!(stitchLength >= 0.5)) throw new RangeError(`a meander fill needs stitches of 0.5 mm or more, got ${stitchLength}`);
  const shape = repairShape(rings);
  if (!shape.ok) return [];
  const inner = offsetRings(shape.value.rings, -FROM_EDGE * spacing);
  let best: { grid: MeanderGrid; tours: MeanderTours; worth: number } | undefined;
  for (const lay of laysOver(inner, spacing)) {
    const grid = findPlaces(inner, spacing, lay);
    if (grid === undefined) return [];
    const tours = tourPlaces(grid, seed);
    const worth = tours.once + WORTH_TWICE * tours.twice - LINE_COSTS * tours.tours.length;
    if (best === undefined || worth > best.worth) best = { grid, tours, worth };
  }
  const { grid, tours } = best!;
  return tours.tours.map((tour) => sewTour(grid, tour, stitchLength, from));
}

/** A place that is passed there and back is worth this much of one passed once; a line of its own, with a way to it that shows, costs so many. */
const WORTH_TWICE = 0.5;
const LINE_COSTS = 6;

function laysOver(rings: readonly Float64Array[], step: number): GridLay[] {
  const places = findPlaces(rings, step, { angle: 0, dx: 0, dy: 0 })?.inside.reduce((sum, v) => sum + v, 0) ?? 0;
  const angles = places > MANY_PLACES ? [0] : ANGLES;
  const phases = places > FEW_PLACES ? [0, 1] : PHASES;
  return angles.flatMap((angle) => phases.flatMap((dx) => phases.map((dy) => ({ angle, dx, dy }))));
}

/** Chords over a turn are off by no more than this, mm, unless stitches shorter than that would come of it. Common practice. */
const CHORD_ERROR = 0.1;
const SHORTEST = 1;
/** A turn begins and ends this share of a step from its place; the less where the line turns to the other side at the next one, so that a stair keeps its straights. */
const ROUND = 0.5;
const ROUND_STAIR = 0.25;

/**
 * The closed line of a tour, from its place nearest to `from` on: straights in even steps, turns rounded, or left as corners where stitches
 * on them would be too short. Either way straights lie on the grid, so that ways beside one another are as far apart as asked.
 */
function sewTour(grid: MeanderGrid, tour: readonly number[], stitchLength: number, from?: { x: number; y: number }): Float64Array {
  const places = tour.map((at) => placeAt(grid, at));
  const handed = places.map((_, k) => turnOf(places, k));
  const line: number[] = [];
  for (let k = 0; k < places.length; k++) {
    if (handed[k] === 0) continue;
    const [before, after] = [k === 0 ? places.length - 1 : k - 1, (k + 1) % places.length];
    const shareTo = (n: number): number => (handed[n] === -handed[k]! ? ROUND_STAIR : ROUND);
    line.push(
      ...roundTurn(places[k]!, along(places[k]!, places[before]!, shareTo(before)), along(places[k]!, places[after]!, shareTo(after))),
    );
  }
  return startNear(stepAlong(line, stitchLength), from);
}

type Place = readonly [x: number, y: number];

function along([ax, ay]: Place, [bx, by]: Place, share: number): Place {
  return [ax + (bx - ax) * share, ay + (by - ay) * share];
}

/** To which side a closed line turns at a place: 1 left, −1 right, 0 where it goes straight on, 2 where it goes back. */
function turnOf(places: readonly Place[], k: number): number {
  const [[ax, ay], [bx, by], [cx, cy]] = [places.at(k - 1)!, places[k]!, places[(k + 1) % places.length]!];
  const turn = (bx - ax) * (cy - by) - (by - ay) * (cx - bx);
  if (Math.abs(turn) > 1e-6) return Math.sign(turn);
  return (bx - ax) * (cx - bx) + (by - ay) * (cy - by) < 0 ? 2 : 0;
}

/** Points (xyxy) of a turn at a place that touches the ways to it and from it at two others. */
function roundTurn(at: Place, from: Place, to: Place): number[] {
  const chord = Math.hypot(to[0] - from[0], to[1] - from[1]);
  if (chord < SHORTEST) return [...at];
  // The height of the parabola over its chord is half of the corner's.
  const height = Math.hypot(at[0] - (from[0] + to[0]) / 2, at[1] - (from[1] + to[1]) / 2) / 2;
  const parts = Math.max(1, Math.min(Math.ceil(Math.sqrt(height / CHORD_ERROR)), Math.floor(chord / SHORTEST)));
  return Array.from({ length: parts + 1 }, (_, n) => {
    const t = n / parts;
    return [0, 1].map((i) => (1 - t) ** 2 * from[i]! + 2 * t * (1 - t) * at[i]! + t ** 2 * to[i]!);
  }).flat();
}

/** Penetrations on a closed line, no farther apart than a stitch; without the last, which is the first again. */
function stepAlong(line: readonly number[], stitchLength: number): number[] {
  const out: number[] = [];
  for (let k = 0; k < line.length; k += 2) {
    const [x, y] = [line[(k + 2) % line.length]!, line[(k + 3) % line.length]!];
    out.push(...evenSteps(line[k]!, line[k + 1]!, x, y, stitchLength));
  }
  return out;
}

/** The closed line from its point nearest to a place, back to it. */
function startNear(points: readonly number[], from?: { x: number; y: number }): Float64Array {
  let start = 0;
  let least = Infinity;
  for (let k = 0; from !== undefined && k < points.length; k += 2) {
    const d = (points[k]! - from.x) ** 2 + (points[k + 1]! - from.y) ** 2;
    if (d < least) [least, start] = [d, k];
  }
  const line = [...points.slice(start), ...points.slice(0, start)];
  return Float64Array.from([...line, line[0]!, line[1]!]);
}
