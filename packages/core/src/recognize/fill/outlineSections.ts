import { areaOfRing, closeGaps } from '../../geometry/region.ts';

/** Where rows lie across, from where to where along, and how far across their ends lie, mm. */
export interface RowPlaces {
  readonly v: Float64Array;
  readonly low: Float64Array;
  readonly high: Float64Array;
  readonly lowAt: Float64Array;
  readonly highAt: Float64Array;
}

/** The area of rows that keep to no grid, by the sections that they form. */
export function outlineOfSections(places: RowPlaces, sections: readonly [number, number][], spacing: number): Float64Array[] {
  const rings = sections.map(([a, b]) => sectionRing(places, a, b, spacing / 4));
  return rings.length === 1 ? [counterClockwise(rings[0]!)] : joinOutlines(rings, spacing);
}

/**
 * The union of sections (rings of places along and across their rows), with seams closed across, and gaps along them only where they are small by the
 * pitch (mm); wider, where that is what it takes for what is large to hang together.
 */
function joinOutlines(rings: readonly Float64Array[], spacing: number): Float64Array[] {
  const reach = Math.min(0.6, Math.max(0.25, 0.6 * spacing));
  const along = Math.min(reach, Math.max(ALONG_REACH, 0.6 * spacing - 0.2));
  const flat = rings.map((ring) => stretchAcross(ring, along / reach));
  for (let wider = 1; ; wider *= 1.5) {
    const area = closeGaps(flat, wider * along).map((ring) => stretchAcross(ring, reach / along));
    const sizes = area.map(areaOfRing).sort((a, b) => b - a);
    if (!(sizes[1]! > LARGE_PART * sizes[0]!) || wider * reach * 1.5 > WIDEST_GAP) return area;
  }
}

function stretchAcross(ring: Float64Array, by: number): Float64Array {
  return ring.map((value, k) => (k % 2 === 1 ? value * by : value));
}

/** A part this large, by the largest, is no scrap; gaps wider than twice this (mm) part two shapes. */
export const LARGE_PART = 0.03;
const WIDEST_GAP = 1;
/** Between the ends of two rows on one line the cloth shows where they lie farther apart than twice this, mm. */
const ALONG_REACH = 0.1;

/** The ring around rows a…b, reaching half the way to the next row beyond the first and the last; its sides go on there as they came. */
function sectionRing({ v, low, high, lowAt, highAt }: RowPlaces, a: number, b: number, reach: number): Float64Array {
  const up = v[b]! >= v[a]! ? 1 : -1;
  const [start, end] = [capOf(v, low, high, a, a === b ? a : a + 1, reach), capOf(v, low, high, b, a === b ? b : b - 1, reach)];
  const right: number[] = [start.high, v[a]! - up * reach];
  const left: number[] = [start.low, v[a]! - up * reach];
  for (let r = a; r <= b; r++) {
    right.push(high[r]!, highAt[r]!);
    left.push(low[r]!, lowAt[r]!);
  }
  right.push(end.high, v[b]! + up * reach);
  left.push(end.low, v[b]! + up * reach);
  const ring = new Float64Array(right.length + left.length);
  ring.set(right);
  for (let k = 0; k < left.length; k += 2) {
    ring[right.length + k] = left[left.length - 2 - k]!;
    ring[right.length + k + 1] = left[left.length - 1 - k]!;
  }
  return ring;
}

/** A side goes on beyond the last row by no more than so many mm for each mm that it goes across. */
const STEEPEST = 2;

/** How far a section goes along its rows half way beyond row `r`, by how it changed since row `before`; a row by itself narrows on both sides. */
function capOf(v: Float64Array, low: Float64Array, high: Float64Array, r: number, before: number, reach: number) {
  const across = Math.abs(v[r]! - v[before]!);
  const moved = (from: number, to: number, alone: number): number =>
    reach * (before === r ? alone : Math.max(-STEEPEST, Math.min(STEEPEST, (to - from) / Math.max(across, reach))));
  const [l, h] = [low[r]! + moved(low[before]!, low[r]!, 1), high[r]! + moved(high[before]!, high[r]!, -1)];
  return l < h ? { low: l, high: h } : { low: (l + h) / 2, high: (l + h) / 2 };
}

function counterClockwise(ring: Float64Array): Float64Array {
  if (areaOfRing(ring) >= 0) return ring;
  const turned = new Float64Array(ring.length);
  for (let k = 0; k < ring.length; k += 2) turned.set(ring.subarray(k, k + 2), ring.length - 2 - k);
  return turned;
}
