import {
  generateCenterRun,
  generateColumnEdgeRun,
  generateEdgeRun,
  generateFill,
  generateLock,
  generateRun,
  generateSatin,
  generateTatamiUnderlay,
  generateZigzag,
  type Program,
  ProgramBuilder,
  roundToThousandth,
} from '@isola/core';
import type { Rails } from './shapes.ts';

/** How the needle gets to the next part. `best`: a stitch within 2 mm, else a trim. The others are what careless files do. */
export type Approach = 'best' | 'trim' | 'jump' | 'stitch';

/** Penetrations that would stand nearer to the last one than this (mm) are left out: no careful digitizer sets them. */
const LEAST_STEP = 0.36;

/** From a shape's underlay to its cover the needle walks this far (mm); beyond, the way could lead over open cloth. */
const LONGEST_WALK = 9;

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
  readonly underlay?: 'none' | 'tatami' | 'tatami+edge';
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
    const { angle, spacing = 0.4, stitchLength = 4, underlay = 'tatami+edge' } = options;
    if (underlay !== 'none') for (const path of generateTatamiUnderlay(rings, angle)) this.part(path, options);
    if (underlay === 'tatami+edge') for (const path of generateEdgeRun(rings)) this.part(path, { ...options, approach: 'stitch' });
    const paths = generateFill(rings, { angle, spacing, stitchLength, offset: 0.3 }, { x: this.x, y: this.y });
    paths.forEach((path, k) => this.part(path, k === 0 && underlay !== 'none' ? { ...options, approach: 'stitch' } : options));
    return this;
  }

  satin(rails: Rails, options: SatinOptions = {}): this {
    const { spacing = 0.38, pull = 0.2, splitLength = 7, underlay = 'center' } = options;
    const { left, right } = rails;
    const base =
      underlay === 'none'
        ? undefined
        : underlay === 'center'
          ? generateCenterRun(left, right)
          : underlay === 'edge'
            ? generateColumnEdgeRun(left, right)
            : generateZigzag(left, right, 2);
    if (base !== undefined) this.part(base, options);
    return this.part(
      generateSatin(left, right, { spacing, pull, splitLength }),
      base === undefined ? options : { ...options, approach: 'stitch' },
    );
  }

  /** A line of runs; every second pass goes back. */
  run(path: Float64Array, passes = 1, stitchLength = 2.5, options: PartOptions = {}): this {
    const there = [...generateRun(path, { stitchLength })];
    const all = [...there];
    for (let pass = 1; pass < passes; pass++) {
      const points = all.slice(-there.length);
      for (let i = points.length - 4; i >= 0; i -= 2) all.push(points[i]!, points[i + 1]!);
    }
    return this.part(Float64Array.from(all), options);
  }

  part(path: Float64Array, options: PartOptions = {}): this {
    const { approach = 'best', isLocked = true, isRaw = false } = options;
    if (path.length < 4) return this;
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
    this.sew(isRaw ? path.subarray(2) : this.spread(path.subarray(2)));
    return this;
  }

  finish(): Program {
    this.cut();
    return this.builder.end().build();
  }

  /** The points without those that stand too near to the one before. */
  private spread(points: Float64Array): Float64Array {
    const out: number[] = [];
    let [x, y] = [this.x, this.y];
    for (let k = 0; k < points.length; k += 2) {
      if (Math.hypot(points[k]! - x, points[k + 1]! - y) < LEAST_STEP) continue;
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
