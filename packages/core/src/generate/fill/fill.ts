import { offsetRings } from '../../geometry/offset.ts';
import { FillSewing, type Order } from './fillSewing.ts';
import { checkSpec, type FillEnds, type FillSpec } from './fillSpec.ts';
import { repairShape } from '../sew/repairShape.ts';
import { densify } from '../line/ringTour.ts';
import { EdgeWays } from '../line/ringWay.ts';
import { shortenCrowded } from './rowEnds.ts';
import { parallelLines, turningLines } from './rowLines.ts';
import { type Sewn, shorter } from '../sew/shorter.ts';
import { cutSpans, findSections } from './spans.ts';

/** From this pitch on (mm) rows hide no thread under them; ways along the edge lie so far inside it then. */
const OPEN_SPACING = 0.9;
const EDGE_INSET = 0.4;
/** Ways are looked for between lines no farther apart than this, mm. */
const FINE_STEP = 0.4;
/** Of more sections than this the order is not planned: the nearest comes next. */
const MOST_PLANNED = 160;

/**
 * Penetrations of a fill of rings (xyxy; even-odd, so holes may be among them) as paths (xyxy): one for each part of the shape that hangs together,
 * since sections are joined by walks inside it, under rows that come later where it can be. Begins at `from` and ends at `to` where these lie
 * on the shape. A shape that no row meets gives none; what cannot be a shape, too ({@link repairShape} says why).
 *
 * @throws when the spec has no sense: a pitch or stitch that is not positive, an angle that is no number.
 */
export function generateFill(rings: readonly Float64Array[], spec: FillSpec, ends: FillEnds = {}): Float64Array[] {
  checkSpec(spec);
  const shape = repairShape(rings);
  if (!shape.ok) return [];
  const step = spec.spacing / 2;
  const turns = spec.angleLines !== undefined && spec.angleLines.length >= 2;
  const lines = turns
    ? turningLines(shape.value.rings, spec.angleLines, step)
    : parallelLines(shape.value.rings, spec.angle, step, spec.origin);
  const spans = cutSpans(shape.value.rings, lines);
  if (spans.count === 0) return [];
  if (turns) shortenCrowded(spans, step);
  // Between rows far apart an edge may do anything: ways are looked for on lines of their own.
  const ways =
    !turns && step <= FINE_STEP
      ? spans
      : cutSpans(shape.value.rings, parallelLines(shape.value.rings, spec.angle, Math.min(step, FINE_STEP), spec.origin));
  const isOpen = spec.spacing >= OPEN_SPACING;
  const edges = new EdgeWays(isOpen ? offsetRings(shape.value.rings, -EDGE_INSET).map((ring) => densify(ring)) : []);
  if (ways.count === 0) return [];
  const sew = (order: Order): Sewn => new FillSewing(spans, ways, edges, spec, ends, order).sew();
  const sections = findSections(spans).sections.length;
  const hasChoice = sections > 1;
  // Walking to the way out from wherever the rows end may be shorter than keeping a section for it.
  const waysOut = ends.to !== undefined && hasChoice ? [false, true] : [false];
  // Ways between open rows show, and are worth planning.
  return [false, ...(isOpen && hasChoice && sections <= MOST_PLANNED ? [true] : [])]
    .flatMap((isPlanned) => waysOut.map((isFree) => sew({ isPlanned, isFree })))
    .reduce(shorter).paths;
}
