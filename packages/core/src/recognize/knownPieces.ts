import { lengthOfPath } from '../geometry/path.ts';
import { ringOfColumn } from '../generate/sew/convertShape.ts';
import { columnFor } from '../generate/sew/sewSatin.ts';
import type { Program } from '../model/program.ts';
import type { RebuiltObject } from '../model/rebuilt.ts';
import type { Gap, Stretch } from '../model/stretches.ts';
import { makePiece } from './rows/makePiece.ts';
import type { LinePattern } from '../model/kinds.ts';
import type { Measured, Piece } from './rows/piece.ts';
import { axisAngle } from '../geometry/axis.ts';

/** A part of a stretch that is to be recognized, or the pieces that are known in its place. */
export type StretchPart = Stretch & { readonly known?: readonly Piece[] };

/** Cuts rebuilt objects out of a stretch. What begins where such a one ends goes on with its thread, so it has no tie there. */
export function cutAroundKnown(program: Program, stretch: Stretch, index: number, rebuilt: readonly RebuiltObject[]): StretchPart[] {
  const known = rebuilt.filter((o) => o.first <= stretch.last && o.last >= stretch.first);
  if (known.length === 0) return [stretch];
  const parts: StretchPart[] = [];
  let from = stretch.first;
  for (const object of known) {
    if (object.first > from) parts.push({ ...stretch, first: from, last: object.first - 1, ...gaps(stretch, from, object.first - 1) });
    // An object that goes over several stretches gives its pieces once.
    if (object.parts.length > 0 && Math.max(object.parts[0]!.first, stretch.first) === object.parts[0]!.first)
      parts.push({ ...stretch, first: object.first, last: object.last, known: piecesOf(program, object, stretch.thread, index) });
    from = object.last + 1;
  }
  if (from <= stretch.last) parts.push({ ...stretch, first: from, ...gaps(stretch, from, stretch.last) });
  return parts;
}

function gaps({ first, last, before, after }: Stretch, from: number, to: number): { before: Gap; after: Gap } {
  const none = (row: number): Gap => ({ first: row, end: row, trims: 0, jumps: 0, colors: 0, stops: 0 });
  return { before: from === first ? before : none(from), after: to === last ? after : none(to + 1) };
}

function piecesOf(program: Program, object: RebuiltObject, thread: number, stretch: number): Piece[] {
  const covers = object.parts.filter((p) => p.role === 'cover');
  const first = covers[0];
  const last = covers[covers.length - 1];
  let cover: Piece | undefined;
  if (first !== undefined && last !== undefined) {
    const pattern = PATTERNS[object.spec.kind];
    cover = {
      ...makePiece(program, thread, stretch, first.first, last.last, 'cover', 1),
      measured: measuredOf(program, object, first.first, last.last),
      isKnown: true,
      rebuilt: object,
      ...(pattern === undefined ? {} : { pattern }),
    };
  }
  const out: Piece[] = [];
  for (const part of object.parts) {
    if (part === first && cover !== undefined) out.push(cover);
    if (part.role === 'cover' || (first !== undefined && part.first > first.first && part.last < last!.last)) continue;
    const piece = makePiece(program, thread, stretch, part.first, part.last, part.role, 1);
    const layer = part.role === 'underlay' ? layerOf(object, part.layer) : undefined;
    out.push({
      ...piece,
      isKnown: true,
      underlayKind: part.role === 'underlay' ? part.layer : undefined,
      parent: part.role === 'tie' ? undefined : cover,
      ...(layer === undefined ? {} : { measured: layer }),
    });
  }
  return out;
}

const PATTERNS: Readonly<Record<RebuiltObject['spec']['kind'], LinePattern | undefined>> = {
  run: undefined,
  satin: undefined,
  fill: undefined,
  contour: 'contour',
  meander: 'meander',
  'edge-stitch': 'edge-stitch',
};

/** What a layer with a pitch is made with; runs are measured as they lie. */
function layerOf({ spec, shape }: RebuiltObject, kind: Piece['underlayKind']): Measured | undefined {
  const layer = spec.underlay.find((l) => l.kind === kind);
  if (layer?.spacing === undefined || (kind !== 'tatami' && kind !== 'zigzag')) return undefined;
  const [outline, ...holes] = ringsOfShape(shape);
  const angle = (((layer.angle ?? spec.angle + 90) % 180) + 180) % 180;
  return {
    kind: 'fill',
    angle,
    spacing: layer.spacing,
    stitchLength: 3.5,
    offset: 0.5,
    rowEnds: 'slanted',
    outline: outline ?? new Float64Array(0),
    holes,
  };
}

function ringsOfShape(shape: RebuiltObject['shape']): Float64Array[] {
  if (shape.kind === 'area') return shape.rings.map((ring) => Float64Array.from(ring));
  if (shape.kind === 'line') return [];
  return [ringOfColumn({ left: Float64Array.from(shape.left), right: Float64Array.from(shape.right) })];
}

function measuredOf(program: Program, { spec, shape }: RebuiltObject, first: number, last: number): Measured {
  const column = spec.kind === 'satin' ? columnFor(shape, spec) : undefined;
  if (column?.ok === true) {
    const rails = column.value;
    const widths = Array.from({ length: 21 }, (_, k) => {
      const at = (rail: Float64Array): number => Math.round(((rail.length / 2 - 1) * k) / 20) * 2;
      const [l, r] = [at(rails.left), at(rails.right)];
      return [rails.right[r]! - rails.left[l]!, rails.right[r + 1]! - rails.left[l + 1]!] as const;
    });
    const lengths = widths.map(([dx, dy]) => Math.hypot(dx, dy));
    const [mx, my] = widths[10]!;
    const mean = lengths.reduce((a, b) => a + b, 0) / lengths.length;
    return {
      kind: 'satin',
      rails,
      outline: ringOfColumn(rails),
      spacing: spec.spacing,
      angle: axisAngle(mx, my),
      width: { mean, min: Math.min(...lengths), max: Math.max(...lengths) },
      stitchLength: mean,
    };
  }
  if (spec.kind === 'run' || spec.kind === 'edge-stitch' || shape.kind === 'line') {
    const { measured } = makePiece(program, 0, 0, first, last, 'cover', 1);
    if (measured.kind !== 'run' || shape.kind !== 'line') return measured;
    const path = Float64Array.from(shape.path);
    return { ...measured, path, passes: spec.passes, stitchLength: spec.stitchLength, length: lengthOfPath(path) * spec.passes };
  }
  const [outline, ...holes] = ringsOfShape(shape);
  return {
    kind: 'fill',
    angle: ((spec.angle % 180) + 180) % 180,
    spacing: spec.spacing,
    stitchLength: spec.stitchLength,
    offset: spec.offset === 'random' ? undefined : spec.offset,
    rowEnds: spec.rowEnds,
    outline: outline ?? new Float64Array(0),
    holes,
  };
}
