import type { Program } from '../../model/program.ts';
import { containsPoint } from '../../geometry/ring.ts';
import { measureRows } from '../rows/measureRows.ts';
import { findLattice, latticeRows } from '../rows/lattice.ts';
import type { Measured, Piece } from '../rows/piece.ts';
import { distanceToRings, ringsOf } from '../rows/ringed.ts';
import { isSameAxis, type RowSet } from '../rows/rows.ts';

/** What a fill starts to be put together from runs this much one way. */
export const ONE_WAY = 0.97;
/** Sections farther apart than this (mm) are never of one fill. */
const FARTHEST = 10;
/** How much the figures of two sections of one fill may differ: degrees, and a share. Narrow ones have no stitch length to compare. */
const SAME_ANGLE = 5;
const SAME_PITCH = 0.15;
/** Sections of fewer rows than this are measured less surely, and may differ by so many times as much. */
const FEW_ROWS = 18;
const FEW_SLACK = 2.5;
const IN_LATTICE = 3;

/** What has so many rows, is at least so even and so surely told, is an area of its own and no stray travel. */
const OWN_ROWS = 12;
const OWN_EVENNESS = 0.9;
const OWN_CONFIDENCE = 0.85;
/** What lies between sections is no longer than this (mm), or than this share of what they are. */
const BETWEEN = 230;
const BETWEEN_SHARE = 0.35;

/** A piece as a section of a fill, whatever it was taken for by itself. */
export interface Section {
  readonly index: number;
  readonly rows: RowSet;
  readonly fill: FillMeasured;
  readonly rings: readonly Float64Array[];
  readonly box: readonly [minX: number, minY: number, maxX: number, maxY: number];
}

export type FillMeasured = Extract<Measured, { kind: 'fill' }>;

/** Each piece as a section by its own rows, kept once made; none where it has no rows that run one way. */
export function createSections(program: Program, pieces: readonly Piece[]): (index: number) => Section | undefined {
  const known = new Map<number, Section | undefined>();
  return (index) => {
    if (known.has(index)) return known.get(index);
    const { rows, measured } = pieces[index]!;
    const isOneWay = rows !== undefined && (measured.kind === 'fill' || rows.evenness >= ONE_WAY);
    const section = isOneWay
      ? makeSection(index, rows, measured.kind === 'fill' ? measured : (measureRows(program, rows, 'fill') as FillMeasured))
      : undefined;
    known.set(index, section);
    return section;
  };
}

/** Whether many rows, all one way and surely told, are sewn in a piece: where they are of another fill, its sections are over. */
export function isAreaOfItsOwn({ rows, measured, confidence }: Piece): boolean {
  if (rows === undefined || !('spacing' in measured)) return false;
  return rows.count >= OWN_ROWS && rows.evenness >= OWN_EVENNESS && confidence >= OWN_CONFIDENCE;
}

/** How much thread (mm) may lie between two sections of a fill of which so much (mm) is known. */
export function mostBetween(known: number): number {
  return Math.max(BETWEEN, BETWEEN_SHARE * known);
}

/** Whether two sections may be of one fill by their angle and pitch. */
export function isAlike(a: Section, b: Section): boolean {
  const slack = Math.min(a.rows.count, b.rows.count) < FEW_ROWS ? FEW_SLACK : 1;
  if (!isSameAxis(a.fill.angle, b.fill.angle, SAME_ANGLE * slack)) return false;
  return Math.abs(Math.log(a.fill.spacing / b.fill.spacing)) <= SAME_PITCH * slack;
}

/** What of a piece lies in the rows of another section, as a section; none where too little does. */
export function asSectionOf(program: Program, piece: Piece, index: number, seed: Section): Section | undefined {
  const leaning = piece.rows === undefined ? undefined : asLeaningRows(program, piece.rows, index, seed);
  if (leaning !== undefined) return leaning;
  const lattice = findLattice(program, piece.first - 1, piece.last, seed.fill.angle, seed.fill.spacing / 2);
  const inLattice = lattice === undefined ? undefined : latticeRows(program, piece.first - 1, piece.last, lattice);
  if (inLattice === undefined || inLattice.count < 2) return undefined;
  const fill = measureRows(program, inLattice, 'fill') as FillMeasured;
  // Open rows may lie on every so many lines of the lattice by chance; those of a section follow one another on it.
  return fill.spacing < IN_LATTICE * seed.fill.spacing ? makeSection(index, inLattice, fill) : undefined;
}

/** Short rows with slanted ends lean by what they advance: this share of them goes no farther across than so many steps from row to row. */
const MOST_LEANING = 0.85;
const LEAN_STEP = 1.6;
/** Fewer rows, or rows that run more all ways than this, are not told so. */
const LEAST_LEANING = 4;
const LEAST_EVEN = 0.7;

/** Rows that are as one-way as the seed's but for leaning to and fro by what they advance. */
function asLeaningRows(program: Program, rows: RowSet, index: number, seed: Section): Section | undefined {
  const { x, y } = program;
  if (rows.count < LEAST_LEANING || rows.evenness < LEAST_EVEN) return undefined;
  const turn = (seed.fill.angle * Math.PI) / 180;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  let leaning = 0;
  for (let r = 0; r < rows.count; r++) {
    const [dx, dy] = [x[rows.last[r]!]! - x[rows.first[r]!]!, y[rows.last[r]!]! - y[rows.first[r]!]!];
    if (Math.abs(dy * c - dx * s) <= (LEAN_STEP * seed.fill.spacing) / 2) leaning++;
  }
  if (leaning < MOST_LEANING * rows.count) return undefined;
  const section = makeSection(index, rows, measureRows(program, rows, 'fill') as FillMeasured);
  return isAlike(seed, section) ? section : undefined;
}

function makeSection(index: number, rows: RowSet, fill: FillMeasured): Section {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let k = 0; k < fill.outline.length; k += 2) {
    minX = Math.min(minX, fill.outline[k]!);
    maxX = Math.max(maxX, fill.outline[k]!);
    minY = Math.min(minY, fill.outline[k + 1]!);
    maxY = Math.max(maxY, fill.outline[k + 1]!);
  }
  return { index, rows, fill, rings: ringsOf(fill), box: [minX, minY, maxX, maxY] };
}

/**
 * A test whether two sections lie no farther apart than `reach` mm, by their edges' corners. What was measured once is kept, since the same two
 * are asked about from every seed near them.
 */
export function createNearness(): (a: Section, b: Section, reach: number) => boolean {
  const known = new Map<Section, Map<Section, number>>();
  return (a, b, reach) => {
    if (areBoxesApart(a.box, b.box, reach)) return false;
    const [low, high] = a.index < b.index ? [a, b] : [b, a];
    let gaps = known.get(low);
    if (gaps === undefined) known.set(low, (gaps = new Map<Section, number>()));
    let gap = gaps.get(high);
    if (gap === undefined) gaps.set(high, (gap = measureGap(a, b)));
    return gap <= reach;
  };
}

function areBoxesApart(a: Section['box'], b: Section['box'], reach: number): boolean {
  return a[0] > b[2] + reach || b[0] > a[2] + reach || a[1] > b[3] + reach || b[1] > a[3] + reach;
}

/** The distance between two areas, mm: 0 where they overlap, and never more than {@link FARTHEST} is told apart. */
function measureGap(a: Section, b: Section): number {
  let least = FARTHEST;
  for (const [from, to] of [
    [a, b],
    [b, a],
  ] as const) {
    for (const ring of from.rings) {
      for (let k = 0; k < ring.length; k += 2) {
        const [x, y] = [ring[k]!, ring[k + 1]!];
        if (x < to.box[0] - least || x > to.box[2] + least || y < to.box[1] - least || y > to.box[3] + least) continue;
        if (containsPoint(to.rings, x, y)) return 0;
        least = Math.min(least, distanceToRings(to.rings, x, y));
      }
    }
  }
  return least;
}
