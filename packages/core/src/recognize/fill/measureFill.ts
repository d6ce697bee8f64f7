import type { FillGeometry } from './fillGeometry.ts';
import { areaOfRing } from '../../geometry/region.ts';
import type { Program } from '../../model/program.ts';
import { agreedStep, findGrid, followRows, waysOf } from './gridRows.ts';
import { hangsTogether, outlineOfRows } from './outlineRows.ts';
import { LARGE_PART, outlineOfSections } from './outlineSections.ts';
import { endsOf, endsOfChains, measureEndStitch } from './measureRowEnds.ts';
import { type RowSet } from '../rows/rows.ts';
import { median } from '../../geometry/statistics.ts';
import { areSlanted, chainSlanted, leanOfLines } from '../rows/slantedRows.ts';

/** Over how many rows a pitch is measured, so that rounding to 0.1 mm hardly moves it. */
const PITCH_ROWS = 10;
/** A step to the next row greater than this many usual ones begins another section. */
const SECTION_STEP = 2.2;

/**
 * What rows of a fill were made with: angle, pitch, stitch length and shift measured over many rows, and the area that they cover, from their
 * ends. Where rows branch round a hole or an arm, each branch is a section, and the area is the union of all. O(rows), and a union.
 */
export function measureFill(program: Program, rows: RowSet): FillGeometry {
  const { x, y } = program;
  const isSlanted = areSlanted(program, rows);
  let angle = isSlanted ? rows.angle : refineAngle(program, rows);
  let turn = (angle * Math.PI) / 180;
  let c = Math.cos(turn);
  let s = Math.sin(turn);
  const along = (row: number): number => x[row]! * c + y[row]! * s;
  const across = (row: number): number => y[row]! * c - x[row]! * s;
  if (isSlanted) {
    angle = (angle + leanOfLines(rows, along, across) + 180) % 180;
    turn = (angle * Math.PI) / 180;
    [c, s] = [Math.cos(turn), Math.sin(turn)];
  }

  const v = new Float64Array(rows.count);
  const low = new Float64Array(rows.count);
  const high = new Float64Array(rows.count);
  // How far across the ends of a row lie: a row that begins without a turn begins where the one before ended.
  const lowAt = new Float64Array(rows.count);
  const highAt = new Float64Array(rows.count);
  for (let r = 0; r < rows.count; r++) {
    // A row that is reached by a slanting stitch starts at the height of the row before.
    const from = rows.hasTurn[r] ? rows.first[r]! : rows.first[r]! + 1;
    const heights: number[] = [];
    low[r] = Infinity;
    high[r] = -Infinity;
    for (let i = rows.first[r]!; i <= rows.last[r]!; i++) {
      if (i >= from) heights.push(across(i));
      const u = along(i);
      if (u < low[r]!) [low[r], lowAt[r]] = [u, across(i)];
      if (u > high[r]!) [high[r], highAt[r]] = [u, across(i)];
    }
    // A long way from the row before may have penetrations of its own: those at the row's end are sure.
    if (isSlanted && !rows.hasTurn[r]) v[r] = (across(rows.first[r]!) + across(rows.last[r]!)) / 2;
    else v[r] = heights.length < 4 ? mean(heights) : median(heights);
  }

  const step = usualStep(v);
  const sections = cutSections(v, low, high, step);
  const lengths = high.map((to, r) => to - low[r]!);
  const pitch = measurePitch(v, sections, step);
  const agreed = agreedStep(v, lengths, pitch);
  const spacing = 2 * (isSlanted ? stepOfSlanted(v, rows, agreed) : agreed);
  const grid = findGrid(v, lengths, spacing / 2);
  const chains =
    grid === undefined ? [] : isSlanted ? chainSlanted(rows, grid, along, v) : followRows(waysOf(program, rows, along, across), grid);
  const onGrid = grid === undefined ? [] : outlineOfRows(chains, grid);
  const isWhole = onGrid.length > 0 && hangsTogether(onGrid, LARGE_PART);
  const area = (isWhole ? onGrid : outlineOfSections({ v, low, high, lowAt, highAt }, sections, spacing)).map((ring) =>
    turnBack(ring, c, s),
  );
  const outline = area.reduce((most, ring) => (areaOfRing(ring) > areaOfRing(most) ? ring : most), area[0] ?? new Float64Array(0));
  const { stitchLength, offset } = measureGrid(rows, v, step, along);
  const endStitch = measureEndStitch(rows, step, along, across);
  return {
    angle,
    spacing,
    stitchLength,
    offset,
    ...(endStitch === undefined ? {} : { endStitch }),
    ...((isSlanted ? undefined : endsOfChains(chains, spacing / 2)) ?? endsOf(program, rows, step, across)),
    outline,
    holes: area.filter((ring) => areaOfRing(ring) < 0),
  };
}

function mean(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0) / values.length;
}

/** Stitches of a row lie on its line where they lean from it by no more than this, degrees, as the line is known better and better. */
const LEANING = [6, 3, 2];
/** So many stitches tell an angle. */
const LEAST_STITCHES = 8;

/** The axis of stitches that lie on their rows' lines, degrees; that of whole rows leans where their first stitches lead there from the row before. */
function refineAngle({ x, y }: Program, rows: RowSet): number {
  let { angle } = rows;
  for (const leaning of LEANING) {
    const turn = (angle * Math.PI) / 180;
    const [c, s, most] = [Math.cos(turn), Math.sin(turn), Math.tan((leaning * Math.PI) / 180)];
    let [along, across, count] = [0, 0, 0];
    for (let r = 0; r < rows.count; r++) {
      for (let i = rows.hasTurn[r] ? rows.first[r]! : rows.first[r]! + 1; i < rows.last[r]!; i++) {
        const [dx, dy] = [x[i + 1]! - x[i]!, y[i + 1]! - y[i]!];
        const [du, dv] = [dx * c + dy * s, dy * c - dx * s];
        if (Math.abs(dv) > most * Math.abs(du)) continue;
        // Longer ones are surer by as much as they are longer.
        along += du * du;
        across += dv * du;
        count++;
      }
    }
    if (count < LEAST_STITCHES) return angle;
    angle = (angle + (Math.atan2(across, along) * 180) / Math.PI + 180) % 180;
  }
  return angle;
}

/** A step that differs by more than this share from what rows show one by one is another one. */
const OTHER_STEP = 0.1;

/**
 * The step from row to row of slanted rows, mm: the one that they agree about, unless rows that follow one another show another. With each section
 * they start anew, on no lines that all share, and may agree about something else by chance.
 */
function stepOfSlanted(v: Float64Array, { count, first, last }: RowSet, agreed: number): number {
  for (const span of [PITCH_ROWS, 4, 2]) {
    const steps: number[] = [];
    let start = 0;
    for (let r = 1; r < count; r++) {
      const isBack = r - start >= 2 && (v[r]! - v[r - 1]!) * (v[r - 1]! - v[r - 2]!) < 0;
      if (first[r] !== last[r - 1] || isBack) start = r;
      if (r - start >= span) steps.push(Math.abs(v[r]! - v[r - span]!) / span);
    }
    if (steps.length < 3) continue;
    const own = median(steps);
    return Math.abs(agreed / own - 1) > OTHER_STEP ? own : agreed;
  }
  return agreed;
}

/** The usual distance from row to row, mm. */
function usualStep(v: Float64Array): number {
  const steps: number[] = [];
  for (let r = 1; r < v.length; r++) steps.push(Math.abs(v[r]! - v[r - 1]!));
  const most = median(steps.filter((d) => d > 0.03));
  return Number.isNaN(most) ? 0.2 : most;
}

/** Rows that follow one another in one direction, beside each other, as pairs of first and last. */
function cutSections(v: Float64Array, low: Float64Array, high: Float64Array, step: number): [number, number][] {
  const sections: [number, number][] = [];
  let start = 0;
  let sign = 0;
  for (let r = 1; r <= v.length; r++) {
    const d = r < v.length ? v[r]! - v[r - 1]! : 0;
    const isBeside = r < v.length && Math.min(high[r]!, high[r - 1]!) > Math.max(low[r]!, low[r - 1]!);
    const isOnward = Math.abs(d) < SECTION_STEP * step + 0.1 && (sign === 0 || d * sign > -0.12);
    if (isBeside && isOnward) {
      if (Math.abs(d) > 0.12 || sign === 0) sign = Math.sign(d);
      continue;
    }
    sections.push([start, r - 1]);
    start = r;
    sign = 0;
  }
  return sections;
}

/** Below this (mm) a step that rounding to 0.1 mm made may be twice another. */
const SURE_STEP = 0.4;
/** So much of a step or less, and a row goes back on the line of the one before; told only where there are so many rows that slips even out. */
const SAME_LINE = 0.4;
const MANY_ROWS = 60;

/** From row to row in the middle of many, mm. A step over a row that was not told counts as the steps that it
 * is, one from a part of a row to its other part as none. */
function measurePitch(v: Float64Array, sections: readonly [number, number][], step: number): number {
  const line = new Float64Array(v.length);
  const linesOver = (r: number): number => {
    const steps = Math.abs(v[r]! - v[r - 1]!) / step;
    if (step >= SURE_STEP) return Math.round(steps);
    return v.length < MANY_ROWS || steps > SAME_LINE ? 1 : 0;
  };
  for (let r = 1; r < v.length; r++) line[r] = line[r - 1]! + linesOver(r);
  const pitches: number[] = [];
  for (const span of [PITCH_ROWS, 4, 1]) {
    for (const [a, b] of sections)
      for (let r = a; r + span <= b; r++)
        if (line[r + span]! > line[r]!) pitches.push(Math.abs(v[r + span]! - v[r]!) / (line[r + span]! - line[r]!));
    if (pitches.length >= 3) return median(pitches);
  }
  return step;
}

function turnBack(ring: Float64Array, c: number, s: number): Float64Array {
  for (let k = 0; k < ring.length; k += 2) {
    const u = ring[k]!;
    const w = ring[k + 1]!;
    ring[k] = u * c - w * s;
    ring[k + 1] = u * s + w * c;
  }
  return ring;
}

/** So many of a row's inner stitches may be parts of one, and so few are walks. */
const WHOLE = 0.7;
const LONGEST = 0.95;

function shareOf(values: readonly number[], share: number): number {
  return Float64Array.from(values).sort()[Math.floor(share * values.length)] ?? 0;
}

/** The usual stitch inside a row, and by how much of it the penetrations of the next row are shifted. */
function measureGrid(rows: RowSet, v: Float64Array, step: number, along: (row: number) => number) {
  const all: number[] = [];
  const inner: number[] = [];
  for (let r = 0; r < rows.count; r++) {
    for (let i = rows.first[r]! + 1; i <= rows.last[r]!; i++) {
      const length = Math.abs(along(i) - along(i - 1));
      all.push(length);
      if (i > rows.first[r]! + 1 && i < rows.last[r]!) inner.push(length);
    }
  }
  // A row that begins with a turn has a part of a stitch after it; where rows are so short that few have whole ones, the longest tell best.
  const stitchLength = inner.length >= 5 ? shareOf(inner, WHOLE) : Math.max(shareOf(all, LONGEST), ...inner);
  const shifts: number[] = [];
  for (let r = 1; r < rows.count; r++) {
    if (rows.last[r]! - rows.first[r]! < 3 || rows.last[r - 1]! - rows.first[r - 1]! < 3) continue;
    const d = v[r]! - v[r - 1]!;
    if (Math.abs(Math.abs(d) - step) > 0.5 * step) continue;
    const shift = ((along(rows.first[r]! + 1) - along(rows.first[r - 1]! + 1)) / stitchLength) * Math.sign(d);
    shifts.push(shift - Math.floor(shift));
  }
  return { stitchLength, offset: findOffset(shifts) };
}

/** The shift that most rows share, from 0 to below 1; none where they share none. */
function findOffset(shifts: readonly number[]): number | undefined {
  if (shifts.length < 4) return undefined;
  let c = 0;
  let s = 0;
  for (const shift of shifts) {
    c += Math.cos(2 * Math.PI * shift);
    s += Math.sin(2 * Math.PI * shift);
  }
  if (Math.hypot(c, s) < 0.7 * shifts.length) return undefined;
  const mean = Math.atan2(s, c) / (2 * Math.PI);
  return mean < 0 ? mean + 1 : mean;
}
