import { thinPath } from '../../geometry/smoothPath.ts';
import { END_STITCH } from '../../model/objectSpec.ts';
import { type Exploration, explore, pullTight } from './corridor.ts';
import type { FillEnds, FillSpec } from './fillSpec.ts';
import { BEYOND, type Job, planSections } from './planSections.ts';
import type { EdgeWays } from '../line/ringWay.ts';
import { widenSpans } from './rowEnds.ts';
import { isSquare, shiftOf } from './rowGrid.ts';
import { evenSteps, generateRun } from '../line/run.ts';
import { type Entry, orderSections, type Place } from './sectionOrder.ts';
import type { Sewn } from '../sew/shorter.ts';
import { alongLine, findParts, findSections, nearestSpan, type Spans } from './spans.ts';

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

/** How the sections of a fill follow one another. */
export interface Order {
  /** All at once, for the shortest ways between them; else the nearest comes next. */
  readonly isPlanned: boolean;
  /** Whether no section is kept for the way out. */
  readonly isFree: boolean;
}

/** Rows of one shape on their way to penetrations. The place of the needle moves on with each part that is sewn. */
export class FillSewing {
  private readonly spans: Spans;
  /** Where the needle may walk; `at` is a span of these. */
  private readonly ways: Spans;
  /** Ways a little inside the edge, to which those between open rows keep. */
  private readonly edges: EdgeWays;
  private readonly spec: FillSpec;
  private readonly ends: FillEnds;
  private readonly low: Float64Array;
  private readonly high: Float64Array;
  private readonly sewn: Uint8Array;
  private readonly paths: number[][] = [];
  private out: number[] = [];
  private at = -1;

  private readonly order: Order;
  /** How far ways that show go across rows, mm. */
  private shown = 0;

  constructor(spans: Spans, ways: Spans, edges: EdgeWays, spec: FillSpec, ends: FillEnds, order: Order) {
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
    this.begin();
    if (this.order.isPlanned) this.sewPlanned(jobs, last);
    else this.sewNearest(jobs, last);
    this.finish();
    const paths = this.paths.map((path) => Float64Array.from(path));
    return { paths, count: paths.reduce((sum, path) => sum + path.length / 2, 0), shown: this.shown };
  }

  private sewPlanned(jobs: readonly Job[], last: Job | undefined): void {
    const parts = findParts(this.ways);
    const entries = jobs.flatMap((job) => this.entriesOf(job, parts));
    const { from, to } = this.ends;
    for (const entry of orderSections(entries, this.edges, (a, b) => this.across(a, b), {
      last,
      from,
      to: last === undefined ? to : undefined,
    })) {
      this.goTo(entry);
      this.sewSection(entry);
    }
  }

  private sewNearest(jobs: readonly Job[], last: Job | undefined): void {
    const left = new Map<Job, readonly Entry[]>();
    const byWay = new Map<number, Entry[]>();
    const add = (job: Job): void => {
      const entries = this.entriesOf(job);
      left.set(job, entries);
      for (const entry of entries) byWay.set(entry.way, [...(byWay.get(entry.way) ?? []), entry]);
    };
    for (const job of jobs) if (job !== last) add(job);
    for (let isLastAdded = last === undefined; left.size > 0 || !isLastAdded;) {
      if (left.size === 0) {
        add(last!);
        isLastAdded = true;
      }
      // Where nothing more hangs together with the needle's place, what is left is another part of the shape.
      const entry = this.goToNearest(byWay) ?? this.jumpTo(left.values().next().value![0]!);
      for (const { way } of left.get(entry.job)!)
        byWay.set(
          way,
          byWay.get(way)!.filter((e) => e.job !== entry.job),
        );
      left.delete(entry.job);
      this.sewSection(entry);
    }
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

  /** The ways to sew a section: from its first row or its last, each from either end, unless it is fixed which. */
  private entriesOf(job: Job, parts?: Int32Array): Entry[] {
    const { spans } = job.section;
    return [false, true]
      .filter((isTop) => job.isTop === undefined || job.isTop === isTop)
      .flatMap((isTop) => {
        const [first, last] = isTop ? [spans[spans.length - 1]!, spans[0]!] : [spans[0]!, spans[spans.length - 1]!];
        const way = this.nearestWay(...this.point(first, (this.spans.a[first]! + this.spans.b[first]!) / 2)).span;
        return this.sidesOf(job, last).map((isRight): Entry => {
          // Rows go to and fro: after an odd number the needle is on the other side.
          const [start, end] = [this.endOf(first, isRight), this.endOf(last, isRight !== (spans.length % 2 === 1))];
          return { job, isTop, isRight, way, start, end, part: parts?.[way] ?? 0 };
        });
      });
  }

  /** From which ends of its first row a section can be sewn: from the one from which its last row ends at the way out, where it has to. */
  private sidesOf({ section, endsAt }: Job, last: number): boolean[] {
    if (endsAt === undefined) return [false, true];
    const [left, right] = [this.endOf(last, false), this.endOf(last, true)];
    const isRightLast = Math.hypot(right.x - endsAt.x, right.y - endsAt.y) < Math.hypot(left.x - endsAt.x, left.y - endsAt.y);
    return [isRightLast !== (section.spans.length % 2 === 1)];
  }

  private endOf(span: number, isRight: boolean): Place {
    const [x, y] = this.point(span, isRight ? this.high[span]! : this.low[span]!);
    return { x, y };
  }

  /** The nearest section that is left, entered at the nearer end of its row. Walks there. */
  private goToNearest(byWay: ReadonlyMap<number, readonly Entry[]>): Entry | undefined {
    if (this.at < 0) return undefined;
    const [x, y] = this.needle();
    const found = this.explore(x, y, (span) => (byWay.get(span)?.length ?? 0) > 0);
    if (found === undefined) return undefined;
    const [first, ...others] = byWay.get(found.target)!;
    const away = ({ start }: Entry): number => Math.hypot(start.x - x, start.y - y);
    const entry = others
      .filter(({ job, isTop }) => job === first!.job && isTop === first!.isTop)
      .reduce((best, other) => (away(other) < away(best) ? other : best), first!);
    this.walkTo(entry, found);
    return entry;
  }

  private goTo(entry: Entry): void {
    const found = this.at < 0 ? undefined : this.explore(...this.needle(), (span) => span === entry.way);
    if (found === undefined) this.jumpTo(entry);
    else this.walkTo(entry, found);
  }

  private walkTo({ start: { x, y } }: Entry, found: Exploration): void {
    const [x0, y0] = this.needle();
    if (this.paths.length === 0) this.start(x, y);
    else if (Math.hypot(x - x0, y - y0) > LEAST_WALK) this.walk(found, x, y);
  }

  private needle(): [number, number] {
    return [this.out[this.out.length - 2]!, this.out[this.out.length - 1]!];
  }

  private explore(x: number, y: number, isWanted: (span: number) => boolean): Exploration | undefined {
    return explore(this.ways, this.at, alongLine(this.ways, this.at, x, y), isWanted, (span) => this.sewn[span] === 1);
  }

  private walk(found: Exploration, x: number, y: number, isOnTop = false): void {
    const [x0, y0] = [this.out[this.out.length - 2]!, this.out[this.out.length - 1]!];
    // Open rows hide nothing: the way keeps to the edge there, where it reads as an outline.
    const edge = this.edges.along(x0, y0, x, y);
    const way = edge ?? pullTight(this.ways, found, x0, y0, x, y);
    if (edge === undefined && (isOnTop || !this.edges.isNone)) this.shown += this.across({ x: x0, y: y0 }, { x, y });
    const run = generateRun(way, { stitchLength: this.spec.travelLength ?? TRAVEL_STITCH });
    for (let k = 2; k < run.length - 2; k++) this.out.push(run[k]!);
  }

  /** A new path, at an end of a section. */
  private jumpTo(entry: Entry): Entry {
    this.start(entry.start.x, entry.start.y);
    this.at = entry.way;
    return entry;
  }

  /** Rows to and fro; penetrations on a grid that shifts from row to row, so that they form bricks and no furrow. */
  private sewSection({ job, isTop, isRight }: Entry): void {
    const { spans } = job.section;
    const { stitchLength, spacing, endStitch = END_STITCH } = this.spec;
    const { out } = this;
    const isFar = spacing / 2 > FAR_ROWS;
    let toLeft = isRight;
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
    this.walk(found, to.x, to.y, true);
    this.out.push(to.x, to.y);
  }

  /** How far two places lie apart across the rows, mm. */
  private across(a: Place, b: Place): number {
    const { dx, dy } = this.ways.lines;
    return Math.abs((b.x - a.x) * dy[0]! - (b.y - a.y) * dx[0]!);
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
