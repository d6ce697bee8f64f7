import { formatHex, parse as parseColor } from 'culori';
import type { SaxesTagPlain } from 'saxes';
import { ProgramBuilder } from '../../model/program.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import { type FileProblem, MAX_COORDINATE, MAX_ROWS, noStitchProblem, problemAt, quote, type ReadProgram } from '../fileProblem.ts';
import { flattenPath } from './flattenPath.ts';
import { outlineOfShape } from './outlineOfShape.ts';
import type { ElementReader } from './ElementReader.ts';
import { sayCount } from '../../words/sayCount.ts';

/** Ends nearer than this are joined by a stitch (mm): below what a machine can step. */
const JOINED = 0.05;
/** Beyond this gap (mm) the thread is trimmed. Common practice. */
const TRIMMED = 2;
const PIXEL = 25.4 / 96;
const UNIT: Readonly<Record<string, number>> = { mm: 1, cm: 10, in: 25.4, px: PIXEL, '': PIXEL, pt: 25.4 / 72, pc: 25.4 / 6 };
const SHAPES = ['path', 'polyline', 'polygon', 'line', 'rect', 'circle', 'ellipse'];
const NOT_DRAWN = ['defs', 'symbol', 'clipPath', 'mask', 'pattern', 'marker', 'metadata', 'script', 'style', 'foreignObject'];
const UNREAD = ['text', 'image', 'use'];

/** Each level adds its transform to those of the levels around it. */
const DEEPEST = 200;

/** What an element passes on to its children. */
interface Context {
  readonly transform: string;
  readonly stroke: string;
  readonly fill: string;
  readonly isHidden: boolean;
}

/** Reads any SVG as line work: outlines in document order become runs, changes of color become color changes. */
export class LineWorkReader implements ElementReader {
  private readonly builder = new ProgramBuilder();
  private readonly warnings = new Set<string>();
  private readonly stack: Context[] = [];
  private color = '';
  private hasStitch = false;
  private x = 0;
  private y = 0;
  private readonly scale: Result<number, string>;

  constructor(root: SaxesTagPlain) {
    this.scale = findScale(root);
  }

  open(tag: SaxesTagPlain, line: number): FileProblem | undefined {
    if (!this.scale.ok)
      return problemAt({ line }, this.scale.error, 'width and height in mm, cm, in or px, and a viewBox of positive size');
    if (this.stack.length >= DEEPEST) return problemAt({ line }, `elements nested more than ${DEEPEST} deep`, 'a flatter drawing');
    const parent = this.stack[this.stack.length - 1] ?? { transform: '', stroke: 'none', fill: '#000000', isHidden: false };
    const style = readStyle(tag.attributes);
    const own = tag.attributes['transform'] ?? '';
    const context: Context = {
      transform: own === '' ? parent.transform : `${parent.transform} ${own}`,
      stroke: style('stroke') ?? parent.stroke,
      fill: style('fill') ?? parent.fill,
      isHidden: parent.isHidden || NOT_DRAWN.includes(tag.name) || style('display') === 'none' || style('visibility') === 'hidden',
    };
    this.stack.push(context);
    if (context.isHidden) return undefined;
    if (UNREAD.includes(tag.name)) this.warnings.add(`<${tag.name}> is not read; convert it to paths to have it sewn.`);
    if (!SHAPES.includes(tag.name)) return undefined;
    const paint = isPainted(context.stroke) ? context.stroke : isPainted(context.fill) ? context.fill : undefined;
    if (paint === undefined) return undefined;
    const outline = outlineOfShape(tag.name, tag.attributes);
    if (!outline.ok) return problemAt({ line }, outline.error.found, outline.error.expected);
    const runs = flattenPath(outline.value, context.transform, this.scale.value);
    if (!runs.ok) return problemAt({ line }, runs.error.found, runs.error.expected);
    for (const run of runs.value) {
      const problem = this.sew(run, this.readPaint(paint), line);
      if (problem !== undefined) return problem;
    }
    return undefined;
  }

  close(): void {
    this.stack.pop();
  }

  finish(): Result<ReadProgram, FileProblem> {
    const program = this.builder.end().build();
    return this.hasStitch ? succeed({ program, warnings: [...this.warnings] }) : fail(noStitchProblem(program));
  }

  private sew(run: readonly number[], color: string, line: number): FileProblem | undefined {
    if (this.builder.rowCount + run.length / 2 + 3 > MAX_ROWS)
      return problemAt({ line }, `more than ${sayCount(MAX_ROWS)} rows`, 'a smaller drawing');
    for (const value of run) {
      if (!(Math.abs(value) <= MAX_COORDINATE)) {
        return problemAt({ line }, `a point at ${quote(String(value))} mm`, `no more than ${MAX_COORDINATE} mm from the hoop's centre`);
      }
    }
    const gap = Math.hypot(run[0]! - this.x, run[1]! - this.y);
    const isNewColor = color !== this.color;
    if (isNewColor) {
      if (this.hasStitch) this.builder.trim();
      this.builder.color(color).jump(run[0]!, run[1]!);
      this.color = color;
    } else if (gap > JOINED) {
      if (gap > TRIMMED) this.builder.trim();
      this.builder.jump(run[0]!, run[1]!);
    }
    // Where a run goes on from the very end of the last one, the needle is down there already.
    for (let k = !isNewColor && gap === 0 ? 2 : 0; k < run.length; k += 2) this.builder.stitch(run[k]!, run[k + 1]!);
    this.hasStitch = true;
    this.x = run[run.length - 2]!;
    this.y = run[run.length - 1]!;
    return undefined;
  }

  private readPaint(paint: string): string {
    if (paint === 'currentColor') return '#000000';
    const parsed = parseColor(paint);
    if (parsed !== undefined) return formatHex(parsed).slice(0, 7);
    this.warnings.add(`The paint ${quote(paint)} is no plain color; black is taken instead.`);
    return '#000000';
  }
}

/** mm for one unit of the drawing. A width without viewBox scales nothing: then one unit is one pixel of 1/96 inch. */
function findScale(root: SaxesTagPlain): Result<number, string> {
  const viewBox = root.attributes['viewBox'];
  if (viewBox === undefined) return succeed(PIXEL);
  const box = viewBox
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  const [, , boxWidth = NaN, boxHeight = NaN] = box;
  if (box.length !== 4 || !box.every(Number.isFinite) || boxWidth <= 0 || boxHeight <= 0) return fail(`the viewBox ${quote(viewBox)}`);
  const scales: number[] = [];
  for (const [name, size] of [
    ['width', boxWidth],
    ['height', boxHeight],
  ] as const) {
    const text = root.attributes[name]?.trim();
    if (text === undefined || text === 'auto' || text.endsWith('%')) continue;
    const match = /^\+?(\d+(?:\.\d*)?|\.\d+)(?:[eE]([+-]?\d+))?([a-z]*)$/.exec(text);
    const unit = UNIT[match?.[3] ?? '?'];
    const length = match === null || unit === undefined ? NaN : Number(`${match[1]}e${match[2] ?? 0}`) * unit;
    if (!(length > 0 && length < 1e6)) return fail(`the ${name} ${quote(text)}`);
    scales.push(length / size);
  }
  return succeed(scales.length === 0 ? PIXEL : Math.min(...scales));
}

/** Looks a property up in an element's style attribute, then among its attributes; inherited values are left to the caller. */
function readStyle(attributes: Record<string, string>): (name: string) => string | undefined {
  const declared = new Map<string, string>();
  for (const part of (attributes['style'] ?? '').split(';')) {
    const colon = part.indexOf(':');
    if (colon > 0) declared.set(part.slice(0, colon).trim(), part.slice(colon + 1).trim());
  }
  return (name) => {
    const value = (declared.get(name) ?? attributes[name])?.trim();
    return value === 'inherit' ? undefined : value;
  };
}

function isPainted(paint: string): boolean {
  return paint !== 'none' && paint !== 'transparent' && paint !== '';
}
