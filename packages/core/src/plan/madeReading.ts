import { lineAcross, rungsOf } from '../generate/column/leanLines.ts';
import { widthsAlong } from '../generate/column/satin.ts';
import { ringOfColumn } from '../generate/sew/convertShape.ts';
import { columnFor } from '../generate/sew/sewSatin.ts';
import { axisAngle } from '../geometry/axis.ts';
import { lengthOfPath } from '../geometry/path.ts';
import type { LinePattern, SpecKind, StitchKind, UnderlayKind } from '../model/kinds.ts';
import type { ObjectShape, ObjectSpec } from '../model/objectSpec.ts';
import { type Program, STITCH } from '../model/program.ts';
import type { Point, RowSpan, StitchObject } from '../model/stitchObject.ts';
import { ringsOfShape } from './ringsOfShape.ts';

/** Rows of one part of a generated object, both ends included, counted from the object's first. */
export interface MadePart extends RowSpan {
  readonly role: 'underlay' | 'travel' | 'cover' | 'tie';
  readonly layer?: UnderlayKind | undefined;
}

/** Who an object is, apart from how it is sewn. */
type Identity = Pick<StitchObject, 'id' | 'name' | 'role' | 'thread' | 'color'>;

const PATTERNS: Readonly<Record<SpecKind, LinePattern | undefined>> = {
  run: undefined,
  satin: undefined,
  fill: undefined,
  contour: 'contour',
  meander: 'meander',
  'edge-stitch': 'edge-stitch',
};

/** What an object is that was generated from a spec, told from that rather than from its stitches; and its parts. Rows as in the object. */
export function readMade(
  { id, name, role, thread, color }: Identity,
  spec: ObjectSpec,
  shape: ObjectShape,
  rows: Program,
  start: Point,
  made: readonly MadePart[],
): { readonly reading: StitchObject; readonly parts: readonly StitchObject[] } {
  const covers = made.filter((part) => part.role === 'cover');
  const others = made.filter((part) => part.role !== 'cover');
  const ids = new Map(others.map((part, k) => [part, `${id}.${k + 1}`]));
  const whole = { first: covers[0]?.first ?? 0, last: covers[covers.length - 1]?.last ?? rows.rowCount - 1 };
  const pattern = PATTERNS[spec.kind];
  const parts = others.map((part): StitchObject => {
    const layer = part.role === 'underlay' ? part.layer : undefined;
    return {
      ...bare(rows, start, part),
      ...{ id: ids.get(part)!, name: `${layer?.replace('-', ' ') ?? part.role} of ${name}`, role: part.role, thread, color },
      ...lineOf(rows, start, part),
      ...(layer === undefined ? {} : { layer, ...layerReading(spec, shape, layer) }),
      ...(part.role === 'tie' ? {} : { parent: id }),
    };
  });
  const reading: StitchObject = {
    ...bare(rows, start, whole, covers),
    ...{ id, name, role, thread, color },
    ...(pattern === undefined ? {} : { pattern }),
    ...coverReading(spec, shape, rows, start, whole),
    underlay: others.flatMap((part) =>
      part.role !== 'underlay' || part.layer === undefined
        ? []
        : [{ kind: part.layer, object: ids.get(part)!, first: part.first, last: part.last, ...pitchOf(spec, part.layer) }],
    ),
  };
  return { reading, parts };
}

function bare(rows: Program, start: Point, { first, last }: RowSpan, spans: readonly RowSpan[] = [{ first, last }]) {
  let stitches = 0;
  for (const span of spans) for (let i = span.first; i <= span.last; i++) if (rows.command[i] === STITCH) stitches++;
  return {
    ...{ first, last, spans: spans.map((s) => ({ first: s.first, last: s.last })), stitches },
    ...{ outline: new Float64Array(0), holes: [], underlay: [], confidence: 1 },
    entry: first <= 0 ? start : { x: rows.x[first - 1]!, y: rows.y[first - 1]! },
    exit: { x: rows.x[last] ?? start.x, y: rows.y[last] ?? start.y },
  };
}

type Measured = Pick<StitchObject, 'kind' | 'stitchLength'> & Partial<StitchObject>;

function lineOf({ x, y }: Program, start: Point, { first, last }: RowSpan): Measured {
  const path = new Float64Array(2 * (last - first + 2));
  path.set(first <= 0 ? [start.x, start.y] : [x[first - 1]!, y[first - 1]!]);
  for (let i = first; i <= last; i++) path.set([x[i]!, y[i]!], 2 * (i - first + 1));
  return { kind: 'run', path, passes: 1, stitchLength: lengthOfPath(path) / Math.max(1, last - first + 1) };
}

/** Penetrations of tatami underlay lie so far apart, mm, and are shifted by so much of that from row to row. */
const LAYER_STITCH = 3.5;
const LAYER_OFFSET = 0.5;

/** What a layer with a pitch is made with; runs are as they lie. */
function layerReading(spec: ObjectSpec, shape: ObjectShape, kind: UnderlayKind): Partial<StitchObject> {
  const layer = spec.underlay.find((l) => l.kind === kind);
  if (layer?.spacing === undefined || (kind !== 'tatami' && kind !== 'zigzag')) return {};
  const [outline, ...holes] = ringsOfShape(shape);
  return {
    ...{ kind: 'fill', angle: axis(layer.angle ?? spec.angle + 90), spacing: layer.spacing, stitchLength: LAYER_STITCH },
    ...{ offset: LAYER_OFFSET, rowEnds: 'slanted', outline: outline ?? new Float64Array(0), holes },
  };
}

function pitchOf(spec: ObjectSpec, kind: UnderlayKind): { spacing?: number; angle?: number } {
  const layer = spec.underlay.find((l) => l.kind === kind);
  if (layer?.spacing === undefined || (kind !== 'tatami' && kind !== 'zigzag')) return {};
  return kind === 'tatami' ? { spacing: layer.spacing, angle: axis(layer.angle ?? spec.angle + 90) } : { spacing: layer.spacing };
}

function axis(angle: number): number {
  return ((angle % 180) + 180) % 180;
}

/** Widths of a column are taken at so many places. */
const WIDTHS = 21;

function coverReading(spec: ObjectSpec, shape: ObjectShape, rows: Program, start: Point, whole: RowSpan): Measured {
  const column = spec.kind === 'satin' ? columnFor(shape, spec) : undefined;
  if (column?.ok === true) {
    const rails = column.value;
    const { rungs } = rungsOf(rails, spec.angleLines);
    const widths = widthsAlong(rails.left, rails.right, { pull: spec.pull, rungs }, WIDTHS);
    const [lx, ly, rx, ry] = lineAcross(rails, 0.5);
    const [mx, my] = [rx - lx, ry - ly];
    const mean = widths.reduce((a, b) => a + b, 0) / widths.length;
    const width = { mean, min: Math.min(...widths), max: Math.max(...widths) };
    const kind: StitchKind = 'satin';
    return { kind, rails, outline: ringOfColumn(rails), spacing: spec.spacing, angle: axisAngle(mx, my), width, stitchLength: mean };
  }
  if (spec.kind === 'run' || spec.kind === 'edge-stitch' || shape.kind === 'line') {
    const line = lineOf(rows, start, whole);
    if (spec.kind === 'edge-stitch') return line;
    const path = shape.kind === 'line' ? Float64Array.from(shape.path) : line.path!;
    return { kind: 'run', path, passes: spec.passes, stitchLength: spec.stitchLength };
  }
  const [outline, ...holes] = ringsOfShape(shape);
  return {
    ...{ kind: 'fill', angle: axis(spec.angle), spacing: spec.spacing, stitchLength: spec.stitchLength, rowEnds: spec.rowEnds },
    ...(spec.offset === 'random' ? {} : { offset: spec.offset }),
    ...{ outline: outline ?? new Float64Array(0), holes },
  };
}
