import { areaOfRing } from '../../geometry/region.ts';
import { lengthOfPath } from '../../geometry/path.ts';
import { middleOf } from '../../generate/column/columns.ts';
import { USUAL_SPEC } from '../../model/objectSpec.ts';
import type { Program } from '../../model/program.ts';
import { railsOf } from './readColumn.ts';
import { stitchLengths } from '../rows/rows.ts';
import type { RowSpan, StitchObject, UnderlayLayer } from '../../model/stitchObject.ts';
import type { UnderlayKind } from '../../model/kinds.ts';

/**
 * The layers under an object, as one would ask for them: each ring of a shape has an edge run of its own, each section its rows, and a zigzag may have
 * been told in parts; together they are one layer, told best by the longest.
 */
export function layersUnder(program: Program, object: StitchObject): UnderlayLayer[] {
  return object.underlay
    .filter((layer) => isWholeLayer(program, object, layer.kind))
    .reduce<UnderlayLayer[]>((all, layer) => {
      const last = all[all.length - 1];
      if (last?.kind !== layer.kind || layer.kind === 'center-run') return [...all, layer];
      if (layer.kind === 'zigzag' && isBack(program, last, layer)) return [...all, layer];
      return layer.last - layer.first > last.last - last.first ? [...all.slice(0, -1), layer] : all;
    }, [])
    .flatMap((layer) => runsOf(program, object, layer));
}

/** Underlay of a fill that covers less than this share of it, or follows less of its edge, is a few stitches that only seem to be a layer. */
const LEAST_COVERED = 0.2;
const LEAST_FOLLOWED = 0.25;

/** Whether what is told as underlay of a kind under a fill is so much that it is a layer of all of it. */
function isWholeLayer(program: Program, { kind, outline, holes, underlay }: StitchObject, of: UnderlayKind): boolean {
  if (kind !== 'fill' || of === 'center-run') return true;
  const own = underlay.filter((layer) => layer.kind === of);
  const laid = own.map(({ first, last }) => stitchLengths(program, [{ first: first + 1, last }]).reduce((sum, step) => sum + step, 0));
  const rings = [outline, ...holes];
  if (of === 'edge-run') return sumOf(laid) > LEAST_FOLLOWED * sumOf(rings.map((ring) => lengthOfPath(ring)));
  const covered = sumOf(laid.map((length, n) => (length * (own[n]!.spacing ?? USUAL_SPEC.spacing)) / 2));
  return covered > LEAST_COVERED * sumOf(rings.map(areaOfRing));
}

function sumOf(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0);
}

/** Of a satin an edge run shorter than this many times the way down its middle goes one way, and a center run longer than this goes back, too. */
const ONE_WAY = 1.4;
const THERE_AND_BACK = 1.6;

/** A run under a satin as what it is by its length: down the middle once or there and back, or along both edges. */
function runsOf(program: Program, { kind, rails }: StitchObject, layer: UnderlayLayer): UnderlayLayer[] {
  if (kind !== 'satin' || rails === undefined || (layer.kind !== 'edge-run' && layer.kind !== 'center-run')) return [layer];
  const { left, right } = railsOf(rails);
  const share =
    stitchLengths(program, [{ first: layer.first + 1, last: layer.last }]).reduce((sum, step) => sum + step, 0) /
    lengthOfPath(middleOf(left, right));
  if (layer.kind === 'edge-run') return share < ONE_WAY ? [{ ...layer, kind: 'center-run' }] : [layer];
  return share > THERE_AND_BACK ? [layer, layer] : [layer];
}

/** Whether one layer of a column goes back over the other: then it ends nearer to where that one began than that one does. */
function isBack({ x, y }: Program, there: RowSpan, back: RowSpan): boolean {
  const fromStart = (row: number): number => Math.hypot(x[row]! - x[there.first]!, y[row]! - y[there.first]!);
  return fromStart(back.last) < fromStart(there.last) / 2;
}
