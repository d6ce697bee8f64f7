import { findCrossing } from '../../geometry/findCrossing.ts';
import { flattenNodes, type Nodes } from '../../geometry/nodes.ts';
import { smoothPath } from '../../geometry/smoothPath.ts';
import { repairShape } from '../../generate/sew/repairShape.ts';
import type { Design } from '../../model/design.ts';
import { SPEC_KINDS, type SpecKind } from '../../model/kinds.ts';
import type { ObjectShape, ObjectSpec } from '../../model/objectSpec.ts';
import { type ObjectId, orderOf } from '../../model/plan.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import { Drawing, type Drawn, type NewId, nextAfter, specFor, threadOf } from './drawing.ts';
import { shapeOfNodes } from './nodes.ts';

export const DRAWN_FORMS = ['line', 'closed', 'sides', 'middle'] as const;
/** What is drawn: a line, a closed shape with holes, a column by points on its two sides in turn, or one by its middle and widths. */
export type DrawnForm = (typeof DRAWN_FORMS)[number];
export const DRAWN_KINDS = SPEC_KINDS;

/** What each form is sewn as where nothing is said. */
const USUAL_KINDS: Readonly<Record<DrawnForm, SpecKind>> = { line: 'run', closed: 'fill', sides: 'satin', middle: 'satin' };

export interface DrawAsk {
  readonly form: DrawnForm;
  /** Nodes of each line: one, but for a closed shape, whose further ones are its holes. Sides: one, its places in turn on either side. */
  readonly lines: readonly Nodes[];
  /** At each node of a middle line how wide the column is there, mm. */
  readonly widths?: readonly number[] | undefined;
  readonly kind?: SpecKind | undefined;
  /** mm; of a satin along a line, and of an edge stitch. */
  readonly width?: number | undefined;
  readonly passes?: number | undefined;
  readonly angle?: number | undefined;
  readonly name?: string | undefined;
  readonly color?: string | undefined;
  /** What it is sewn right after; null: before everything; none: last. */
  readonly after?: ObjectId | null | undefined;
  /** What it is sewn right before, in place of that. */
  readonly before?: ObjectId | undefined;
}

/** Draws an object that no file had; it begins where the thread comes from and ends toward where it goes on, as far as its shape allows. */
export function drawNew(design: Design, ask: DrawAsk, newId: NewId): Result<Drawn, string> {
  const { after, before } = ask;
  if (before !== undefined && design.plan.objects[before] === undefined) return fail(`there is no object ${before}`);
  if (typeof after === 'string' && design.plan.objects[after] === undefined) return fail(`there is no object ${after}`);
  const notes: string[] = [];
  const shape = shapeDrawn(ask, notes);
  if (!shape.ok) return shape;
  const kind = ask.kind ?? USUAL_KINDS[ask.form];
  const neighbour = before ?? after ?? orderOf(design.plan).at(-1);
  const color = ask.color ?? (neighbour === undefined ? INK : colorOf(design, neighbour));
  const drawing = new Drawing(design, newId);
  const added = drawing.add({
    name: (ask.name ?? freshName(design, ask.form)).slice(0, 200),
    thread: threadOf(design, color),
    before: before ?? (after === undefined ? null : after === null ? (orderOf(design.plan)[0] ?? null) : nextAfter(design, [after])),
    spec: specOfDrawn(design, kind, ask),
    shape: shape.value,
  });
  if (!added.ok) return added;
  drawing.notes.push(...notes);
  return drawing.finish();
}

/** What is drawn first of all is drawn so. */
const INK = '#1f4e5f';

const colorOf = ({ plan }: Design, id: ObjectId): string => plan.blocks.find((block) => block.objects.includes(id))?.thread?.color ?? INK;

const FORM_NAMES: Readonly<Record<DrawnForm, string>> = { line: 'Line', closed: 'Shape', sides: 'Column', middle: 'Column' };

/** “Shape 3”: a name that no object has. */
function freshName({ plan }: Design, form: DrawnForm): string {
  const taken = new Set(Object.values(plan.objects).map(({ name }) => name));
  for (let k = 1; ; k++) if (!taken.has(`${FORM_NAMES[form]} ${k}`)) return `${FORM_NAMES[form]} ${k}`;
}

function specOfDrawn({ target }: Design, kind: SpecKind, { form, width, passes, angle }: DrawAsk): ObjectSpec {
  const spec = specFor(target, kind, {
    ...(width === undefined ? {} : { width }),
    ...(passes === undefined ? {} : { passes }),
    ...(angle === undefined ? {} : { angle }),
  });
  // A satin along a line is as wide as it was asked for: nobody drew its edges for the cloth to pull in.
  return kind === 'satin' && form === 'line' ? { ...spec, pull: 0 } : spec;
}

function shapeDrawn(ask: DrawAsk, notes: string[]): Result<ObjectShape, string> {
  const { form, lines } = ask;
  const [first] = lines;
  if (first === undefined || first.length === 0) return fail('nothing was drawn');
  switch (form) {
    case 'line':
      return shapeOfNodes({ kind: 'line', lines: [first], isClosed: false });
    case 'closed': {
      const shape = shapeOfNodes({ kind: 'area', lines, isClosed: true });
      if (!shape.ok || shape.value.kind !== 'area') return shape;
      const sound = repairShape(shape.value.rings.map((ring) => Float64Array.from(ring)));
      if (!sound.ok) return sound;
      if (sound.value.notes.length === 0) return shape;
      // What crosses itself is sewn as the parts that it falls into.
      notes.push(...sound.value.notes);
      return succeed({ kind: 'area', rings: sound.value.rings.map(rounded) });
    }
    case 'sides':
      return columnOfSides(first);
    case 'middle':
      return columnOfMiddle(first, ask.widths ?? [], ask.width ?? USUAL_WIDTH, notes);
  }
}

const USUAL_WIDTH = 3;

/** A column by places that were set left and right in turn; a last one without a partner closes it to a point. */
function columnOfSides(nodes: Nodes): Result<ObjectShape, string> {
  const sides: [number[], number[]] = [[], []];
  for (let k = 0; k * 6 < nodes.length; k++) sides[k % 2]!.push(nodes[k * 6]!, nodes[k * 6 + 1]!);
  const [left, right] = sides;
  if (left.length > right.length) right.push(left.at(-2)!, left.at(-1)!);
  if (left.length < 4) return fail('a column takes two places on each side, left and right in turn');
  const [a, b] = [left, right].map((side) => smoothPath(Float64Array.from(side)));
  const crossing = findCrossing(a!, b!);
  if (crossing !== undefined)
    return fail(
      `its sides cross at (${crossing.map((v) => v.toFixed(1)).join(', ')}): set places left and right in turn, always in the same way`,
    );
  return succeed({ kind: 'column', left: rounded(a!), right: rounded(b!) });
}

/** A column narrower than this (mm) has no throws that hold; it tapers to no less. */
const NARROWEST = 0.2;
const WIDEST = 30;

/** A column by its middle line and the widths at its nodes; where it bends tighter than it is wide its inner edge waits instead of folding back. */
function columnOfMiddle(nodes: Nodes, widths: readonly number[], usual: number, notes: string[]): Result<ObjectShape, string> {
  const count = nodes.length / 6;
  if (count < 2) return fail('a middle line takes two nodes or more');
  const wide = Array.from({ length: count }, (_, k) => widths[k] ?? usual);
  const strange = wide.find((w) => !(w >= 0 && w <= WIDEST));
  if (strange !== undefined) return fail(`a column of ${strange} mm makes no sense: up to ${WIDEST} mm wide`);
  const left: number[] = [];
  const right: number[] = [];
  let folds = 0;
  for (let k = 0; k + 1 < count; k++) {
    const piece = flattenNodes(nodes.slice(k * 6, k * 6 + 12), false, 0.005);
    const long = piece.length / 2 - 1;
    for (let p = k === 0 ? 0 : 1; p <= long; p++) {
      // Straights have no points of their own between nodes; widths go over from one to the next all the same.
      const [x, y] = [piece[p * 2]!, piece[p * 2 + 1]!];
      const [b, a] = [Math.max(0, p - 1) * 2, Math.min(long, p + 1) * 2];
      const [dx, dy] = directionAt(nodes, k, p, long, [piece[a]! - piece[b]!, piece[a + 1]! - piece[b + 1]!]);
      const half = Math.max(NARROWEST, wide[k]! + ((wide[k + 1]! - wide[k]!) * p) / long) / 2;
      if (!forth(left, x - dy * half, y + dx * half, dx, dy)) folds++;
      if (!forth(right, x + dy * half, y - dx * half, dx, dy)) folds++;
    }
  }
  if (folds > 0) notes.push('it bends tighter than it is wide: its inner edge is gathered there');
  return succeed({ kind: 'column', left: rounded(left), right: rounded(right) });
}

/** Which way the line goes at a point of its piece; at a corner the mean of both sides. */
function directionAt(nodes: Nodes, k: number, p: number, long: number, own: readonly [number, number]): readonly [number, number] {
  const unit = ([x, y]: readonly [number, number]): readonly [number, number] => {
    const length = Math.hypot(x, y) || 1;
    return [x / length, y / length];
  };
  const mine = unit(own);
  if (p !== long || (k + 2) * 6 >= nodes.length) return mine;
  const next = flattenNodes(nodes.slice((k + 1) * 6, (k + 1) * 6 + 12), false, 0.005);
  const other = unit([next[2]! - next[0]!, next[3]! - next[1]!]);
  return unit([mine[0] + other[0], mine[1] + other[1]]);
}

/** Adds a point to an edge; one that would lie behind the last stays there instead. */
function forth(edge: number[], x: number, y: number, dx: number, dy: number): boolean {
  const n = edge.length;
  if (n >= 2 && (x - edge[n - 2]!) * dx + (y - edge[n - 1]!) * dy < 0) {
    edge.push(edge[n - 2]!, edge[n - 1]!);
    return false;
  }
  edge.push(x, y);
  return true;
}

// Adding 0 makes −0 a plain 0.
const rounded = (points: Iterable<number>): number[] => Array.from(points, (v) => Math.round(v * 1000) / 1000 + 0);
