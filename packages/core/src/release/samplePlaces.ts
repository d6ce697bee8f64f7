import { containsPoint } from '../geometry/ring.ts';
import { startLoss, runClock } from '../measure/runClock.ts';
import { predictGaps } from '../measure/predictedGaps.ts';
import { pullShareOf, shareOfChord } from '../measure/sewnPrediction.ts';
import { type Program, TRIM } from '../model/program.ts';
import type { StitchObject } from '../model/stitchObject.ts';
import { cutStrokes } from '../model/strokes.ts';
import type { Machine, Target } from '../model/target.ts';
import type { ExpectedRun, SamplePlace } from './sewOut.ts';
import { expectedAt } from './expectedAt.ts';

/** Widths under this (mm) are hard to measure on cloth; over the other one a rule lies across folds. */
const WIDTHS = { low: 2, high: 120 };
/** So many widths and gaps are proposed. */
const MOST_WIDTHS = 4;
const MOST_GAPS = 4;
/** A throw or row that passes a place nearer than this (mm) is measured there. */
const REACH = 1;

/**
 * Where a sample of a design tells most about the cloth: across the middle of its largest covers, and where gaps are expected, widest first. `objects` are
 * those of `program`. O(rows + pairs of covers near each other × their edges).
 */
export function proposePlaces(program: Program, objects: readonly StitchObject[], target: Target): SamplePlace[] {
  const covers = objects.filter(isMeasurable).sort((a, b) => b.stitches - a.stitches);
  const widths: SamplePlace[] = [];
  for (const object of covers) {
    if (widths.length === MOST_WIDTHS) break;
    const place = middleWidth(program, object, target);
    if (place !== undefined) widths.push(place);
  }
  const gaps = predictGaps(objects, target)
    .slice(0, MOST_GAPS)
    .map(({ objects: [a, b], width, at, to, perPull }): SamplePlace => {
      const name = `${objects[a]!.name} and ${objects[b]!.name}`;
      return { kind: 'gap', name, from: at, to, designed: width - perPull * target.fabric.pull, perPull, expected: width, measured: null };
    });
  return [...widths, ...gaps];
}

/** The width of the topmost cover at a place, along the thread that passes there; nothing where none is near. O(rows of the cover). */
export function widthAt(
  program: Program,
  objects: readonly StitchObject[],
  target: Target,
  at: { readonly x: number; readonly y: number },
): SamplePlace | undefined {
  const covers = objects.filter((o) => isMeasurable(o) && containsPoint([o.outline, ...o.holes], at.x, at.y));
  // The later one lies on top.
  for (const object of covers.sort((a, b) => b.last - a.last)) {
    let best: { place: SamplePlace; distance: number } | undefined;
    for (const [place, distance] of widthsOf(program, object, target, at)) {
      if (distance < (best?.distance ?? REACH)) best = { place, distance };
    }
    if (best !== undefined) return best.place;
  }
  return undefined;
}

const isMeasurable = ({ kind, role, outline }: StitchObject): boolean =>
  role === 'cover' && (kind === 'satin' || kind === 'fill') && outline.length >= 6;

/** Of an object the width that lies in the middle of those that are as wide as most. */
function middleWidth(program: Program, object: StitchObject, target: Target): SamplePlace | undefined {
  const all: SamplePlace[] = [];
  for (const [place] of widthsOf(program, object, target))
    if (place.designed >= WIDTHS.low && place.designed <= WIDTHS.high) all.push(place);
  if (all.length === 0) return undefined;
  const sorted = [...all].sort((a, b) => a.designed - b.designed);
  const usual = sorted[Math.floor(sorted.length * 0.6)]!.designed;
  const alike = all.filter(({ designed }) => Math.abs(designed - usual) < 0.1 * usual);
  return alike[Math.floor(alike.length / 2)];
}

function* widthsOf(
  program: Program,
  object: StitchObject,
  target: Target,
  at?: { readonly x: number; readonly y: number },
): Generator<[SamplePlace, number]> {
  const share = pullShareOf(object, target);
  for (const { first, last } of object.spans) {
    const strokes = cutStrokes(program, Math.max(0, first - 1), last);
    for (let k = 0; k < strokes.count; k++) {
      const [a, b, designed] = [strokes.first[k]!, strokes.last[k]!, strokes.length[k]!];
      if (designed < 0.5) continue;
      const from = { x: program.x[a]!, y: program.y[a]! };
      const to = { x: program.x[b]!, y: program.y[b]! };
      const distance = at === undefined ? 0 : distanceTo(from, to, designed, at);
      if (distance > REACH) continue;
      // Drawn in at both ends, but never by more than 0.45 of it at each.
      const perPull = -2 * share * shareOfChord(designed);
      const expected = expectedAt({ kind: 'width', designed, perPull }, target.fabric.pull);
      yield [{ kind: 'width', name: object.name, from, to, designed, perPull, expected, measured: null }, distance];
    }
  }
}

interface Spot {
  readonly x: number;
  readonly y: number;
}

function distanceTo(from: Spot, to: Spot, length: number, { x, y }: Spot): number {
  const t = Math.max(0, Math.min(1, ((x - from.x) * (to.x - from.x) + (y - from.y) * (to.y - from.y)) / length ** 2));
  return Math.hypot(from.x + t * (to.x - from.x) - x, from.y + t * (to.y - from.y) - y);
}

/** What the clock of a machine expects of a program, in the parts that a sample teaches about. O(rows). */
export function expectRun(program: Program, machine: Machine): ExpectedRun {
  const { totals } = runClock(program, machine);
  let trims = 0;
  for (let row = 0; row < program.rowCount; row++) if (program.command[row] === TRIM) trims++;
  const slow = trims * Math.min(startLoss(machine), machine.trimCycle);
  return {
    sewing: Math.max(0, totals.sewing - slow),
    trims,
    rest: totals.jumps + totals.colorChanges + totals.stops,
    seconds: totals.seconds,
  };
}
