import { END_STITCH } from '../../model/objectSpec.ts';
import type { Program } from '../../model/program.ts';
import { agree } from '../rows/agree.ts';
import { fitGrid, type RowBetween, type RowPlace, rowsBetweenEnds } from '../fill/fitGrid.ts';
import type { FillGeometry } from '../fill/fillGeometry.ts';
import { AGREED, farthest, findBest, type Places, readShift, SLIP, thinned, tidy, TIDY_SLIP } from './readShift.ts';
import { median } from '../../geometry/statistics.ts';
import type { RowSpan } from '../../model/stitchObject.ts';

/** What is known of a fill's rows before their grid is read: degrees, mm, and the shift from row to row as a share of a stitch. */
export interface GridGuess {
  readonly angle: number;
  readonly spacing: number;
  readonly stitchLength: number;
  readonly offset: number | undefined;
  readonly rowEnds?: FillGeometry['rowEnds'];
}

/** The grid that a fill's penetrations lie on. */
export interface FillGrid {
  readonly spacing: number;
  readonly stitchLength: number;
  readonly offset: number | undefined;
  /** A place that a row runs through, with a penetration there. */
  readonly origin: readonly [x: number, y: number];
  /** Penetrations of the grid nearer than this to the ends of rows were left out, mm; none where too few tell. */
  readonly endStitch?: number;
}

/** A stitch lies on a row's line where it goes across by no more than this share of a step, and along by more than so many steps, or mm. */
const ON_LINE = 0.35;
const ALONG = 1.5;
const LEAST_ALONG = 0.5;
/** Fewer rows or penetrations inside rows than this tell no grid. */
const LEAST_ROWS = 6;
const LEAST_INNER = 6;
/** With more than this inside rows, and no grid found, there is none. */
const MANY_INNER = 120;
/** What leads to a row from the one before goes across by less than this many steps. */
const LED = 1.5;
/** A row of one slanting stitch goes across by a step, within this share of it, and is longer along than this, mm. */
const SLANT = 0.4;
const LEAST_SLANT = 1;
/** Inner stitches farther from the usual one than this share are no whole ones. */
const WHOLE = 0.15;
/** How far around what is known a pitch is looked for, as a share. */
const PITCH_REACH = 0.012;

/**
 * The grid of a fill's rows: their pitch and the stitch inside them read anew over all rows at once, and where the rows and their penetrations lie.
 * None where rows keep to none. O(penetrations log penetrations).
 */
export function readGrid(program: Program, spans: readonly RowSpan[], guess: GridGuess): FillGrid | undefined {
  const { heights, weights, inner, steps, rows: chains } = collectPlaces(program, spans, guess);
  if (heights.length < LEAST_ROWS) return undefined;
  // Counted from the middle, so that a pitch that is a little off moves rows at either end least.
  const middle = median(heights);
  const shifted = heights.map((v) => v - middle);
  const rows = (2 * farthest(shifted)) / guess.spacing;
  const [some, someWeights] = [thinned(shifted), thinned(weights)];
  const found = findBest(guess.spacing / 2, PITCH_REACH, SLIP / rows, (step) => agree(some, someWeights, (v) => v / step));
  if (found.agreement < AGREED) return undefined;
  const step = tidy(2 * found.value, 1000, (2 * found.value * TIDY_SLIP) / rows) / 2;
  const across = middle + agree(shifted, weights, (v) => v / step).phase * step;

  const usual = median(steps);
  const whole = steps.filter((length) => Math.abs(length / usual - 1) < WHOLE);
  const isKnown = inner.length >= LEAST_INNER && whole.length >= LEAST_INNER;
  const lineOf = (v: number): number => Math.round((v - across) / step);
  const shift = isKnown
    ? readShift(
        inner.map(({ u, v }) => ({ u, line: lineOf(v) })),
        mean(whole),
      )
    : undefined;
  const isNarrow = shift === undefined && inner.length < MANY_INNER;
  const known = rowsBetweenEnds(chains, lineOf, guess.rowEnds ?? 'slanted');
  const grid = shift ?? (isNarrow ? fitGrid(known) : undefined);
  const stitchLength = grid?.stitchLength ?? (isKnown ? mean(whole) : guess.stitchLength);
  const turn = (guess.angle * Math.PI) / 180;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const along = grid?.along ?? 0;
  const endStitch = grid && (readEnds(known, grid) ?? grid.endStitch);
  return {
    spacing: 2 * step,
    stitchLength,
    offset: grid?.offset ?? guess.offset,
    origin: [along * c - across * s, along * s + across * c],
    ...(endStitch === undefined ? {} : { endStitch }),
  };
}

/** How far across the rows lie and how long they are, their penetrations but for those at their ends, and the stitches between these; mm. */
function collectPlaces({ x, y }: Program, spans: readonly RowSpan[], { angle, spacing }: GridGuess) {
  const [c, s] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
  const step = spacing / 2;
  const least = Math.min(ALONG * step, LEAST_ALONG);
  const along = (i: number): number => x[i]! * c + y[i]! * s;
  const across = (i: number): number => y[i]! * c - x[i]! * s;
  const isOnLine = (i: number): boolean =>
    Math.abs(across(i) - across(i - 1)) <= ON_LINE * step && Math.abs(along(i) - along(i - 1)) >= least;
  const heights: number[] = [];
  const weights: number[] = [];
  const inner: { u: number; v: number }[] = [];
  const steps: number[] = [];
  const rows: RowPlace[] = [];
  for (const { first, last } of spans) {
    const start = Math.max(0, first - 1);
    for (let i = start; i < last;) {
      const from = i;
      let sum = across(i);
      for (let way = 0; i < last && isOnLine(i + 1) && (along(i + 1) - along(i)) * way >= 0; i++) {
        way = along(i + 1) - along(i);
        sum += across(i + 1);
      }
      if (i === from) {
        // A row may be one stitch that slants from the end of the one before.
        const [du, dv] = [Math.abs(along(i + 1) - along(i)), Math.abs(across(i + 1) - across(i))];
        const isRow = Math.abs(dv - step) < SLANT * step && du > LEAST_SLANT && !(i + 2 <= last && isOnLine(i + 2));
        if (isRow) rows.push({ v: across(i + 1), us: [along(i + 1)], before: along(i) });
        i++;
        continue;
      }
      const v = sum / (i - from + 1);
      heights.push(v);
      weights.push(Math.hypot(x[i]! - x[from]!, y[i]! - y[from]!));
      const isLed = from > start && Math.abs(v - across(from - 1)) < LED * step;
      const us = Array.from({ length: i - from + 1 }, (_, k) => along(from + k));
      rows.push({ v, us, before: isLed ? along(from - 1) : undefined });
      for (let k = from + 1; k < i; k++) {
        inner.push({ u: along(k), v: across(k) });
        if (k + 1 < i) steps.push(Math.hypot(x[k + 1]! - x[k]!, y[k + 1]! - y[k]!));
      }
    }
  }
  return { heights, weights, inner, steps, rows };
}

/** A penetration is one of the grid where it lies this near to it, as a share of a stitch. */
const ON_GRID = 0.1;
/** Fewer places of the grid near the ends of rows than this do not tell which of them are left out. */
const LEAST_NEAR = 12;
/** They tell it where so many of them are as they would be. */
const TOLD = 0.85;

/** From which distance to the end of a row on places of the grid are sewn, mm. */
function readEnds(rows: readonly RowBetween[], { stitchLength, offset, along }: Places): number | undefined {
  const near: { distance: number; isSewn: boolean }[] = [];
  for (const { line, low, high, places, unsure } of rows) {
    const at = along + line * offset * stitchLength;
    for (let k = Math.ceil((low - at) / stitchLength); at + k * stitchLength < high; k++) {
      const u = at + k * stitchLength;
      const distance = Math.min(u - low, high - u);
      if (distance > stitchLength / 2 || (unsure !== undefined && Math.abs(u - unsure) === distance)) continue;
      near.push({ distance, isSewn: places.some((p) => Math.abs(p - u) < ON_GRID * stitchLength) });
    }
  }
  if (near.length < LEAST_NEAR) return undefined;
  near.sort((p, q) => p.distance - q.distance);
  let right = near.filter(({ isSewn }) => isSewn).length;
  let [most, first, last] = [right, 0, 0];
  for (const [k, { isSewn }] of near.entries()) {
    right += isSewn ? -1 : 1;
    if (right > most) [most, first, last] = [right, k + 1, k + 1];
    else if (right === most) last = k + 1;
  }
  if (most < TOLD * near.length) return undefined;
  const asUsual = near.filter(({ distance, isSewn }) => isSewn === distance >= END_STITCH).length;
  if (asUsual >= most) return END_STITCH;
  const at = (k: number): number => near[k]?.distance ?? near[near.length - 1]!.distance;
  const best = (first + last) >> 1;
  return best === 0 ? 0 : (at(best - 1) + at(best)) / 2;
}

function mean(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0) / values.length;
}
