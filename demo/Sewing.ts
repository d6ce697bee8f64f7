import {
  generateCenterRun,
  generateColumnEdgeRun,
  generateEdgeRun,
  generateFill,
  generateLock,
  generateRun,
  generateSatin,
  generateReturnRun,
  generateTatamiUnderlay,
  generateZigzag,
  type FillSpec,
  generateObject,
  type LinePattern,
  type ObjectShape,
  type ObjectSpec,
  lengthOfPath,
  type Program,
  ProgramBuilder,
  roundToThousandth,
  type RowSpan,
  SHORTEST,
  type UnderlayKind,
} from '@isola/core';
import { type Rails, widen } from './shapes.ts';

/** Same-direction pitch of tatami underlay, mm. */
const TATAMI_SPACING = 3.5;

/** How the needle gets to the next part. `best`: a stitch within 2 mm, else a trim. The others are what careless files do. */
export type Approach = 'best' | 'trim' | 'jump' | 'stitch';

/** From a shape's underlay to its cover the needle walks this far (mm); beyond, the way could lead over open cloth. */
const LONGEST_WALK = 9;

/** A layer of underlay as it was sewn: rows of the program, both ends included; pitch in mm, angle in degrees. */
export interface DrawnLayer {
  readonly kind: UnderlayKind;
  readonly first: number;
  readonly last: number;
  readonly spacing?: number;
  readonly angle?: number;
}

/** What was drawn and where its stitches are: what recognition should find again. Outline and holes as rings, x y pairs in mm. */
export interface DrawnObject {
  readonly kind: 'run' | 'satin' | 'fill';
  readonly first: number;
  readonly last: number;
  readonly spacing?: number;
  readonly angle?: number;
  readonly stitchLength: number;
  readonly passes?: number;
  /** What its line does that is more than a line. */
  readonly pattern?: LinePattern;
  readonly rings: readonly (readonly number[])[];
  readonly underlay: readonly DrawnLayer[];
}

export interface PartOptions {
  readonly approach?: Approach;
  /** Whether thread ends are locked where the thread starts and is cut. */
  readonly isLocked?: boolean;
  /** Whether penetrations are set however near they are. */
  readonly isRaw?: boolean;
}

export interface FillOptions extends PartOptions {
  readonly angle: number;
  readonly spacing?: number;
  readonly stitchLength?: number;
  readonly offset?: number;
  readonly rowEnds?: FillSpec['rowEnds'];
  readonly underlay?: 'none' | 'tatami' | 'edge' | 'tatami+edge';
}

export interface SatinOptions extends PartOptions {
  readonly spacing?: number;
  readonly pull?: number;
  readonly splitLength?: number;
  readonly underlay?: 'none' | 'center' | 'edge' | 'zigzag';
}

/** Sews shapes one after another into a program, as a digitizer would draw them: underlay, cover, locks, and the way from part to part. */
export class Sewing {
  private readonly builder = new ProgramBuilder();
  private readonly objects: DrawnObject[] = [];
  private readonly dx: number;
  private readonly dy: number;
  private x = 0;
  private y = 0;
  private isThreaded = false;
  private locksAtCut = true;
  private before: readonly [number, number] = [0, 0];

  /** Everything is moved by (`dx`, `dy`) mm as it is sewn. */
  constructor(dx = 0, dy = 0) {
    this.dx = dx;
    this.dy = dy;
  }

  thread(color: string, name: string): this {
    this.cut();
    this.builder.color(color, name);
    return this;
  }

  stop(note: string): this {
    this.cut();
    this.builder.stop(note);
    return this;
  }

  fill(rings: readonly Float64Array[], options: FillOptions): this {
    const { angle, spacing = 0.4, stitchLength = 4, offset = 0.3, rowEnds, underlay = 'tatami+edge' } = options;
    const layers: DrawnLayer[] = [];
    if (underlay.startsWith('tatami'))
      this.layer(layers, 'tatami', generateTatamiUnderlay(rings, angle), options, { spacing: TATAMI_SPACING, angle: (angle + 90) % 180 });
    if (underlay.endsWith('edge'))
      this.layer(layers, 'edge-run', generateEdgeRun(rings), layers.length > 0 ? { ...options, approach: 'stitch' } : options);
    const spec = { angle, spacing, stitchLength, offset, ...(rowEnds === undefined ? {} : { rowEnds }) };
    const paths = generateFill(rings, spec, { from: { x: this.x, y: this.y } });
    const spans = paths.map((path, k) => this.lay(path, k === 0 && layers.length > 0 ? { ...options, approach: 'stitch' } : options));
    this.note(spans, { kind: 'fill', spacing, angle: angle % 180, stitchLength, rings: rings.map((r) => this.shift(r)), underlay: layers });
    return this;
  }

  satin(rails: Rails, options: SatinOptions = {}): this {
    const { spacing = 0.38, pull = 0.2, splitLength = 7, underlay = 'center' } = options;
    const { left, right } = rails;
    const layers: DrawnLayer[] = [];
    if (underlay === 'center') this.layer(layers, 'center-run', [generateCenterRun(left, right)], options);
    if (underlay === 'edge') this.layer(layers, 'edge-run', [generateColumnEdgeRun(left, right)], options);
    if (underlay === 'zigzag') {
      this.layer(layers, 'zigzag', [generateZigzag(left, right, 2)], options, { spacing: 2 });
      this.layer(layers, 'center-run', [generateReturnRun(left, right)], { ...options, approach: 'stitch' });
    }
    const cover = generateSatin(left, right, { spacing, pull, splitLength });
    const span = this.lay(cover, layers.length > 0 ? { ...options, approach: 'stitch' } : options);
    const stitchLength = lengthOfPath(cover) / (cover.length / 2 - 1);
    this.note([span], { kind: 'satin', spacing, stitchLength, rings: [this.shift(widen(rails, pull))], underlay: layers });
    return this;
  }

  /** A line of runs; every second pass goes back. */
  run(path: Float64Array, passes = 1, stitchLength = 2.5, options: PartOptions = {}): this {
    const there = [...generateRun(path, { stitchLength })];
    const all = [...there];
    for (let pass = 1; pass < passes; pass++) {
      const points = all.slice(-there.length);
      for (let i = points.length - 4; i >= 0; i -= 2) all.push(points[i]!, points[i + 1]!);
    }
    this.note([this.lay(Float64Array.from(all), options)], { kind: 'run', stitchLength, passes, rings: [], underlay: [] });
    return this;
  }

  /**
   * A shape as its spec says, its underlay before it.
   *
   * @throws when it cannot be sewn so.
   */
  object(shape: ObjectShape, spec: ObjectSpec, pattern?: LinePattern, options: PartOptions = {}): this {
    const generated = generateObject(shape, spec);
    if (!generated.ok) throw new Error(generated.error);
    const layers: DrawnLayer[] = [];
    const spans: (RowSpan | undefined)[] = [];
    for (const { role, layer, points, isApart } of generated.value.parts) {
      const span = isApart
        ? this.lay(points, options)
        : this.lay(Float64Array.of(this.x, this.y, ...points), { ...options, approach: 'stitch' });
      if (role === 'cover') spans.push(span);
      const last = layers[layers.length - 1];
      if (layer === undefined || span === undefined) continue;
      if (last?.kind === layer) layers[layers.length - 1] = { ...last, last: span.last };
      else layers.push({ kind: layer, ...span });
    }
    const kind = spec.kind === 'satin' || spec.kind === 'run' ? spec.kind : spec.kind === 'edge-stitch' ? 'run' : 'fill';
    const { spacing, stitchLength } = spec;
    const rings = shape.kind === 'area' ? shape.rings.map((r) => this.shift(Float64Array.from(r))) : [];
    this.note(spans, {
      kind,
      ...(kind === 'run' ? {} : { spacing }),
      ...(pattern === undefined ? {} : { pattern }),
      stitchLength,
      rings,
      underlay: layers,
    });
    return this;
  }

  part(path: Float64Array, options: PartOptions = {}): this {
    this.lay(path, options);
    return this;
  }

  /** What was drawn so far, in sewing order. */
  get drawn(): readonly DrawnObject[] {
    return this.objects;
  }

  /** Sews a path and gives the rows of its own stitches: the way to it and its locks are not among them. */
  private lay(path: Float64Array, options: PartOptions): RowSpan | undefined {
    const { approach = 'best', isLocked = true, isRaw = false } = options;
    if (path.length < 4) return undefined;
    const [x, y] = [path[0]!, path[1]!];
    const gap = Math.hypot(x - this.x, y - this.y);
    const isCarried = this.isThreaded && ((approach === 'stitch' && gap <= LONGEST_WALK) || (approach === 'best' && gap <= 2));
    if (!isCarried) {
      if (this.isThreaded && approach !== 'jump') this.cut();
      const isStart = !this.isThreaded;
      this.builder.jump(roundToThousandth(x + this.dx), roundToThousandth(y + this.dy));
      this.stitch(x, y);
      if (isLocked && isStart) this.sew(generateLock(x, y, path[2]!, path[3]!));
    } else if (gap > 0.4) {
      this.sew(generateRun(Float64Array.of(this.x, this.y, x, y), { stitchLength: 3.5 }).subarray(2));
    }
    this.isThreaded = true;
    this.locksAtCut = isLocked;
    const first = this.builder.rowCount;
    this.sew(isRaw ? path.subarray(2) : this.spread(path.subarray(2)));
    return { first, last: this.builder.rowCount - 1 };
  }

  private layer(
    layers: DrawnLayer[],
    kind: UnderlayKind,
    paths: readonly Float64Array[],
    options: PartOptions,
    figures: Pick<DrawnLayer, 'spacing' | 'angle'> = {},
  ): void {
    const spans = paths.map((path, k) => this.lay(path, k === 0 || kind === 'tatami' ? options : { ...options, approach: 'stitch' }));
    const span = wholeOf(spans);
    if (span !== undefined) layers.push({ kind, ...span, ...figures });
  }

  private note(spans: readonly (RowSpan | undefined)[], object: Omit<DrawnObject, 'first' | 'last'>): void {
    const span = wholeOf(spans);
    if (span !== undefined) this.objects.push({ ...object, ...span });
  }

  private shift(ring: Float64Array): number[] {
    return Array.from(ring, (v, k) => roundToThousandth(v + (k % 2 === 0 ? this.dx : this.dy)));
  }

  finish(): Program {
    this.cut();
    return this.builder.end().build();
  }

  /** The points without those that stand too near to the one before: no careful digitizer sets them. */
  private spread(points: Float64Array): Float64Array {
    const out: number[] = [];
    let [x, y] = [this.x, this.y];
    for (let k = 0; k < points.length; k += 2) {
      if (Math.hypot(points[k]! - x, points[k + 1]! - y) < SHORTEST) continue;
      [x, y] = [points[k]!, points[k + 1]!];
      out.push(x, y);
    }
    return Float64Array.from(out);
  }

  private sew(points: Float64Array): void {
    for (let k = 0; k < points.length; k += 2) this.stitch(points[k]!, points[k + 1]!);
  }

  private stitch(x: number, y: number): void {
    this.before = [this.x, this.y];
    this.x = roundToThousandth(x);
    this.y = roundToThousandth(y);
    this.builder.stitch(roundToThousandth(this.x + this.dx), roundToThousandth(this.y + this.dy));
  }

  private cut(): void {
    if (!this.isThreaded) return;
    if (this.locksAtCut) this.sew(generateLock(this.x, this.y, ...this.before));
    this.builder.trim();
    this.isThreaded = false;
  }
}

function wholeOf(spans: readonly (RowSpan | undefined)[]): RowSpan | undefined {
  const there = spans.filter((s) => s !== undefined);
  return there.length === 0 ? undefined : { first: there[0]!.first, last: there[there.length - 1]!.last };
}
