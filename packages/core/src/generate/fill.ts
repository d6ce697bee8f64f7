import { offsetRings } from '../geometry/offset.ts';
import { thinPath } from '../geometry/smoothPath.ts';
import { END_STITCH } from '../model/objectSpec.ts';
import { checkSpec, type FillEnds, type FillSpec } from './fillSpec.ts';
import { parallelLines, turningLines } from './rowLines.ts';
import { type Exploration, explore, pullTight } from './corridor.ts';
import { BEYOND, type Job, planSections } from './planSections.ts';
import { repairShape } from './repairShape.ts';
import { densify } from './ringTour.ts';
import { alongEdges } from './ringWay.ts';
import { shortenCrowded, widenSpans } from './rowEnds.ts';
import { isSquare, shiftOf } from './rowGrid.ts';
import { evenSteps, generateRun } from './run.ts';
import { findShorter, type Order, type Sewn, shorter } from './tryOrders.ts';
import { alongLine, cutSpans, findSections, nearestSpan, type Spans } from './spans.ts';

/** From this pitch on (mm) rows hide no thread under them; ways along the edge lie so far inside it then. */
const OPEN_SPACING = 0.9;
const EDGE_INSET = 0.4;
/** Ways are looked for between lines no farther apart than this, mm. */
const FINE_STEP = 0.4;
/** Where rows lie farther apart than this (mm), a turn to a row that ends elsewhere keeps to the rows instead of cutting across. */
export const FAR_ROWS = 0.45;
/** Walks shorter than this (mm) are one stitch. */
const LEAST_WALK = 0.4;
/** Walking under rows that come later takes long stitches, mm. Common practice. */
const TRAVEL_STITCH = 4;
/** A way in or out that ends nearer to the row's end than this (mm) needs no walk. */
const AT_END = 0.3;
/** Turns between open rows longer than this many pitches are looked at, and may go as near to the edge as this, mm. */
export const STRAIGHT_TURN = 0.55;
const AT_EDGE = 0.02;
/** How far such a turn may cut a bend of the edge, mm. */
const CUT_OF_BEND = 0.15;

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
  const edges = isOpen ? offsetRings(shape.value.rings, -EDGE_INSET).map((ring) => densify(ring)) : [];
  if (ways.count === 0) return [];
  const sew = (order?: Order): Sewn => new FillSewing(spans, ways, edges, spec, ends, order).sew();
  const usual = sew();
  // Walking to the way out from wherever the rows end may be shorter than keeping a section for it.
  const best = ends.to === undefined || usual.choices === 0 ? usual : shorter(usual, sew({ passOver: [], isFree: true }));
  return (isOpen ? findShorter(best, sew, ends.to !== undefined) : best).paths;
}

/** A way into a section, and the span of the ways that it lies on. */
interface SectionEnd {
  readonly job: Job;
  readonly isTop: boolean;
  readonly way: number;
}

/** Rows of one shape on their way to penetrations. The place of the needle moves on with each part that is sewn. */
class FillSewing {
  private readonly spans: Spans;
  /** Where the needle may walk; `at` is a span of these. */
  private readonly ways: Spans;
  /** Rings a little inside the edge, with places close to each other, where ways keep to it. */
  private readonly edges: readonly Float64Array[];
  private readonly spec: FillSpec;
  private readonly ends: FillEnds;
  private readonly low: Float64Array;
  private readonly high: Float64Array;
  private readonly sewn: Uint8Array;
  private readonly paths: number[][] = [];
  private out: number[] = [];
  private at = -1;

  private readonly order: Order;
  private choices = 0;
  /** How far the way out goes across rows, and not along the edge, mm. */
  private shown = 0;

  constructor(
    spans: Spans,
    ways: Spans,
    edges: readonly Float64Array[],
    spec: FillSpec,
    ends: FillEnds,
    order: Order = { passOver: [], isFree: false },
  ) {
    this.order = order;
    this.edges = edges;
    this.spans = spans;
    this.ways = ways;
    this.spec = spec;
    this.ends = ends;
    this.sewn = new Uint8Array(ways.count);
    [this.low, this.high] = widenSpans(spans, spec.pull ?? 0);
  }

  sew(): Sewn {
    const { sections } = findSections(this.spans);
    const { jobs, last } = planSections(sections, this.spans, this.order.isFree ? undefined : this.ends.to);
    const left = new Map<Job, readonly SectionEnd[]>();
    const endsAt = new Map<number, SectionEnd[]>();
    const add = (job: Job): void => {
      const ends = this.endsOf(job);
      left.set(job, ends);
      for (const end of ends) endsAt.set(end.way, [...(endsAt.get(end.way) ?? []), end]);
    };
    for (const job of jobs) if (job !== last) add(job);
    this.begin();
    let isLastAdded = last === undefined;
    for (;;) {
      if (left.size === 0) {
        if (isLastAdded) break;
        add(last!);
        isLastAdded = true;
      }
      // Where nothing more hangs together with the needle's place, what is left is another part of the shape.
      const isPassed = left.size > 1 && this.order.passOver.includes(this.choices++);
      const end =
        (isPassed ? this.findNext(endsAt, true) : undefined) ?? this.findNext(endsAt) ?? this.jumpTo(left.values().next().value![0]!);
      for (const { way } of left.get(end.job)!)
        endsAt.set(
          way,
          endsAt.get(way)!.filter((e) => e.job !== end.job),
        );
      left.delete(end.job);
      this.sewSection(end.job, end.isTop);
    }
    this.finish();
    const paths = this.paths.map((path) => Float64Array.from(path));
    return {
      paths,
      count: paths.reduce((sum, path) => sum + path.length / 2, 0),
      choices: this.choices,
      shown: this.shown,
      order: this.order,
    };
  }

  private begin(): void {
    const { from } = this.ends;
    if (from === undefined) return;
    const { span, distance } = this.nearestWay(from.x, from.y);
    this.at = span;
    if (distance <= BEYOND) this.start(from.x, from.y);
    else this.out = [from.x, from.y];
  }

  private start(x: number, y: number): void {
    this.out = [x, y];
    this.paths.push(this.out);
  }

  /** Where a section can be entered: at its first row or its last, unless it is fixed which. */
  private endsOf(job: Job): SectionEnd[] {
    const { spans } = job.section;
    return [false, true]
      .filter((isTop) => job.isTop === undefined || job.isTop === isTop)
      .map((isTop) => {
        const span = spans[isTop ? spans.length - 1 : 0]!;
        const [x, y] = this.point(span, (this.spans.a[span]! + this.spans.b[span]!) / 2);
        return { job, isTop, way: this.nearestWay(x, y).span };
      });
  }

  /** The nearest section that is left, and the end to enter it at. Walks there. */
  private findNext(endsAt: ReadonlyMap<number, readonly SectionEnd[]>, isNextButOne = false): SectionEnd | undefined {
    if (this.at < 0) return undefined;
    const [x, y] = [this.out[this.out.length - 2]!, this.out[this.out.length - 1]!];
    const wanted = (span: number): boolean => (endsAt.get(span)?.length ?? 0) > 0;
    let found = this.explore(x, y, wanted);
    if (found !== undefined && isNextButOne) {
      const { job } = endsAt.get(found.target)![0]!;
      found = this.explore(x, y, (span) => wanted(span) && endsAt.get(span)![0]!.job !== job);
    }
    if (found === undefined) return undefined;
    const end = endsAt.get(found.target)![0]!;
    const [ex, ey] = this.entryOf(end.job, end.isTop, x, y);
    if (this.paths.length === 0) this.start(ex, ey);
    else if (Math.hypot(ex - x, ey - y) > LEAST_WALK) this.walk(found, ex, ey);
    return end;
  }

  private explore(x: number, y: number, isWanted: (span: number) => boolean): Exploration | undefined {
    return explore(this.ways, this.at, alongLine(this.ways, this.at, x, y), isWanted, (span) => this.sewn[span] === 1);
  }

  /** The end of a section's first row where it is entered: the nearer one, or the one from which its last row ends at the way out. */
  private entryOf(job: Job, isTop: boolean, x: number, y: number): [number, number] {
    const span = job.section.spans[isTop ? job.section.spans.length - 1 : 0]!;
    return this.isEnteredRight(job, isTop, x, y) ? this.point(span, this.high[span]!) : this.point(span, this.low[span]!);
  }

  private isEnteredRight({ section: { spans }, endsAt }: Job, isTop: boolean, x: number, y: number): boolean {
    const isNearerRight = (span: number, px: number, py: number): boolean => {
      const [lx, ly] = this.point(span, this.low[span]!);
      const [rx, ry] = this.point(span, this.high[span]!);
      return Math.hypot(rx - px, ry - py) < Math.hypot(lx - px, ly - py);
    };
    if (endsAt === undefined) return isNearerRight(spans[isTop ? spans.length - 1 : 0]!, x, y);
    const isLeftRight = isNearerRight(spans[isTop ? 0 : spans.length - 1]!, endsAt.x, endsAt.y);
    // Rows go to and fro: after an odd number the needle is on the other side.
    return spans.length % 2 === 1 ? !isLeftRight : isLeftRight;
  }

  private walk(found: Exploration, x: number, y: number): void {
    const [x0, y0] = [this.out[this.out.length - 2]!, this.out[this.out.length - 1]!];
    // Open rows hide nothing: the way keeps to the edge there, where it reads as an outline.
    const way = alongEdges(this.edges, x0, y0, x, y) ?? pullTight(this.ways, found, x0, y0, x, y);
    const run = generateRun(way, { stitchLength: this.spec.travelLength ?? TRAVEL_STITCH });
    for (let k = 2; k < run.length - 2; k++) this.out.push(run[k]!);
  }

  /** A new path, at an end of a section. */
  private jumpTo(end: SectionEnd): SectionEnd {
    const [x, y] = [this.out[this.out.length - 2] ?? 0, this.out[this.out.length - 1] ?? 0];
    this.start(...this.entryOf(end.job, end.isTop, x, y));
    this.at = end.way;
    return end;
  }

  /** Rows to and fro; penetrations on a grid that shifts from row to row, so that they form bricks and no furrow. */
  private sewSection(job: Job, isTop: boolean): void {
    const { spans } = job.section;
    const { stitchLength, spacing, endStitch = END_STITCH } = this.spec;
    const { out } = this;
    const isFar = spacing / 2 > FAR_ROWS;
    let toLeft = this.isEnteredRight(job, isTop, out[out.length - 2]!, out[out.length - 1]!);
    for (let n = 0; n < spans.length; n++) {
      const span = spans[isTop ? spans.length - 1 - n : n]!;
      const [a, b] = [this.low[span]!, this.high[span]!];
      const start = toLeft ? b : a;
      const [x, y] = this.point(span, start);
      const turn = n === 0 ? Infinity : Math.hypot(x - out[out.length - 2]!, y - out[out.length - 1]!);
      if (n > 0 && isFar && turn > STRAIGHT_TURN * spacing) this.turnInside(x, y);
      else if (n > 0 && turn > stitchLength) this.stepTo(x, y);
      else if (n === 0 ? Math.hypot(x - out[out.length - 2]!, y - out[out.length - 1]!) > 1e-9 : isSquare(turn, this.spec)) out.push(x, y);
      const shift = shiftOf(this.spans.lines, this.spans.row[span]!, this.spec);
      const first = Math.ceil((a + endStitch) / stitchLength - shift);
      const last = Math.floor((b - endStitch) / stitchLength - shift);
      for (let g = 0; g <= last - first; g++) out.push(...this.point(span, ((toLeft ? last - g : first + g) + shift) * stitchLength));
      out.push(...this.point(span, toLeft ? a : b));
      this.markSewn(span);
      toLeft = !toLeft;
    }
    this.at = this.nearestWay(out[out.length - 2]!, out[out.length - 1]!).span;
  }

  private markSewn(span: number): void {
    if (this.ways === this.spans) this.sewn[span] = 1;
    else this.sewn[this.nearestWay(...this.point(span, (this.spans.a[span]! + this.spans.b[span]!) / 2)).span] = 1;
  }

  /** From the end of an open row to the start of the next one, along the edge where the straight way would leave the shape. */
  private turnInside(x: number, y: number): void {
    const { out } = this;
    const [x0, y0] = [out[out.length - 2]!, out[out.length - 1]!];
    const { span } = this.nearestWay(x, y);
    this.at = this.nearestWay(x0, y0).span;
    const found = this.explore(x0, y0, (way) => way === span);
    const way = found === undefined ? Float64Array.of(x, y) : thinPath(pullTight(this.ways, found, x0, y0, x, y, AT_EDGE), CUT_OF_BEND);
    for (let k = found === undefined ? 0 : 2; k < way.length; k += 2) this.stepTo(way[k]!, way[k + 1]!);
  }

  /** Even steps to a point, none longer than a stitch. */
  private stepTo(x: number, y: number): void {
    const { out } = this;
    out.push(...evenSteps(out[out.length - 2]!, out[out.length - 1]!, x, y, this.spec.stitchLength));
  }

  private finish(): void {
    const { to } = this.ends;
    if (to === undefined || this.at < 0 || this.paths.length === 0) return;
    const [x, y] = [this.out[this.out.length - 2]!, this.out[this.out.length - 1]!];
    const gap = Math.hypot(to.x - x, to.y - y);
    const { span, distance } = this.nearestWay(to.x, to.y);
    if (gap < AT_END || distance > BEYOND) return;
    const found = this.explore(x, y, (way) => way === span);
    if (found === undefined) return;
    this.walk(found, to.x, to.y);
    this.out.push(to.x, to.y);
    const { dx, dy } = this.ways.lines;
    const row = this.ways.row[span]!;
    if (alongEdges(this.edges, x, y, to.x, to.y) === undefined) this.shown = Math.abs((to.x - x) * dy[row]! - (to.y - y) * dx[row]!);
  }

  private nearestWay(x: number, y: number): { span: number; distance: number } {
    return nearestSpan(this.ways, x, y);
  }

  private point(span: number, u: number): [number, number] {
    const { lines, row } = this.spans;
    const k = row[span]!;
    return [lines.x[k]! + u * lines.dx[k]!, lines.y[k]! + u * lines.dy[k]!];
  }
}
