import type { SaxesTagPlain } from 'saxes';
import { ProgramBuilder, UNNAMED_THREAD } from '../../model/program.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import { type FileProblem, MAX_COORDINATE, MAX_ROWS, noStitchProblem, problemAt, quote, type ReadProgram } from '../fileProblem.ts';
import type { ElementReader } from './ElementReader.ts';
import { sayCount } from '../../words/sayCount.ts';

const COLOR_CODE = /^#[0-9a-fA-F]{6}$/;
const NUMBER = /^[+-]?(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][+-]?\d+)?$/;
const BREAKS = ['start', 'jump', 'trim', 'color', 'stop'];

/** Reads the polylines of an SVG that says it carries stitches, row by row as they were written. */
export class StitchDrawingReader implements ElementReader {
  private readonly builder = new ProgramBuilder();
  /** Texts of rows that are no color and no stop, waiting until their row is built. */
  private rowNotes: Record<string, string> = {};
  private runStart = 0;
  private afterAttributes: Record<string, string> | undefined;
  private afterLine = 0;

  open(tag: SaxesTagPlain, line: number): FileProblem | undefined {
    if (tag.name !== 'polyline') return undefined;
    const attributes = tag.attributes;
    if (attributes['transform'] !== undefined) return problemAt({ line }, 'a transform', 'stitches at their place, without transforms');
    if (this.afterAttributes !== undefined)
      return problemAt({ line }, 'a run after the one with data-after', 'data-after on the last run only');
    const notes = readRowNotes(attributes['data-row-notes'], line);
    if (!notes.ok) return notes.error;
    this.rowNotes = notes.value;
    this.runStart = this.builder.rowCount;
    const points = readPoints(attributes['points'] ?? '', line);
    if (!points.ok) return points.error;
    if (points.value.length === 0) return problemAt({ line }, 'a run without points', 'at least one penetration');
    const problem = this.readGap(attributes, 'data-before', 'data-', points.value, line) ?? this.readStroke(attributes, line);
    if (problem !== undefined) return problem;
    if (this.builder.rowCount + points.value.length / 2 > MAX_ROWS) {
      return problemAt({ line }, `more than ${sayCount(MAX_ROWS)} rows`, 'a smaller file');
    }
    for (let k = 0; k < points.value.length; k += 2) this.builder.stitch(points.value[k]!, points.value[k + 1]!, this.noteHere());
    if (attributes['data-after'] !== undefined) {
      this.afterAttributes = attributes;
      this.afterLine = line;
    }
    return undefined;
  }

  close(): void {
    // Polylines are empty elements: all there is stands in their attributes.
  }

  finish(): Result<ReadProgram, FileProblem> {
    if (this.afterAttributes !== undefined) {
      const problem = this.readGap(this.afterAttributes, 'data-after', 'data-after-', undefined, this.afterLine);
      if (problem !== undefined) return fail(problem);
    }
    const program = this.builder.end(this.noteHere()).build();
    return program.command.includes(0) ? succeed({ program, warnings: [] }) : fail(noStitchProblem(program));
  }

  private readGap(
    attributes: Record<string, string>,
    list: string,
    prefix: string,
    points: readonly number[] | undefined,
    line: number,
  ): FileProblem | undefined {
    const notes = (attributes[`${prefix}note`] ?? '')
      .split('\n')
      .map((n) => n.replace(/\\(.)/g, (_, c: string) => (c === 'n' ? '\n' : c === 'r' ? '\r' : c)));
    const jumps = readPoints(attributes[`${prefix}jumps`] ?? '', line);
    if (!jumps.ok) return jumps.error;
    const colors = (attributes[`${prefix}colors`] ?? '').split(' ').filter((c) => c !== '');
    for (const token of (attributes[list] ?? '').split(/\s+/).filter((t) => t !== '')) {
      if (!BREAKS.includes(token)) return problemAt({ line }, quote(token), `one of ${BREAKS.join(', ')}`);
      if (token === 'trim') this.builder.trim(this.noteHere());
      else if (token === 'stop') this.builder.stop(notes.shift() ?? '');
      else if (token === 'jump') {
        const [x, y] = jumps.value.length > 0 ? jumps.value.splice(0, 2) : [points?.[0], points?.[1]];
        if (x === undefined || y === undefined) return problemAt({ line }, 'a jump without a place', 'its place in data-after-jumps');
        this.builder.jump(x, y, this.noteHere());
      } else if (token === 'color') {
        const color = colors.shift() ?? attributes['stroke'] ?? '';
        if (!COLOR_CODE.test(color)) return problemAt({ line }, quote(color), 'a color as #rrggbb');
        this.builder.color(color, notes.shift() ?? '');
      }
    }
    return undefined;
  }

  /**
   * The stroke is the thread. A first run that says nothing of what comes before it puts its thread on; any other run whose stroke is not the thread
   * that is on contradicts itself.
   */
  private readStroke(attributes: Record<string, string>, line: number): FileProblem | undefined {
    const { stroke } = attributes;
    if (stroke === undefined) return undefined;
    if (!COLOR_CODE.test(stroke)) return problemAt({ line }, `the stroke ${quote(stroke)}`, 'a color as #rrggbb');
    if (this.runStart === 0 && attributes['data-before'] === undefined) {
      this.builder.color(stroke, '');
      return undefined;
    }
    const on = this.builder.thread ?? UNNAMED_THREAD.color;
    return stroke.toLowerCase() === on
      ? undefined
      : problemAt(
          { line },
          `the stroke ${quote(stroke)} where the thread is ${on}`,
          'the stroke in the color of the thread, or “color” in data-before',
        );
  }

  private noteHere(): string {
    return this.rowNotes[this.builder.rowCount - this.runStart] ?? '';
  }
}

/** The points of a list as x, y, x, y… in mm, y up. */
function readPoints(list: string, line: number): Result<number[], FileProblem> {
  const out: number[] = [];
  for (const word of list.split(/[\s,]+/)) {
    if (word === '') continue;
    const value = NUMBER.test(word) ? Number(word) : NaN;
    if (!(Math.abs(value) <= MAX_COORDINATE)) {
      return fail(problemAt({ line }, quote(word), `a number in mm, no more than ${MAX_COORDINATE} from the hoop's centre`));
    }
    out.push(out.length % 2 === 0 ? value : 0 - value);
  }
  return out.length % 2 === 0 ? succeed(out) : fail(problemAt({ line }, 'an x without its y', 'points as x,y pairs'));
}

function readRowNotes(json: string | undefined, line: number): Result<Record<string, string>, FileProblem> {
  if (json === undefined) return succeed({});
  try {
    const value: unknown = JSON.parse(json);
    if (typeof value === 'object' && value !== null && Object.values(value).every((v) => typeof v === 'string'))
      return succeed(value as Record<string, string>);
  } catch {
    // Said below, as for JSON of another shape.
  }
  return fail(problemAt({ line }, quote(json), 'data-row-notes as a JSON object of texts'));
}
