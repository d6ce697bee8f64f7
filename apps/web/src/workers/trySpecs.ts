import {
  type AppliedRepair,
  applyOperation,
  type Design,
  mapCover,
  moveRow,
  type Operation,
  predictGaps,
  type Recognition,
  rebuildObjects,
  type RefusedRepair,
  type RowSpan,
  runClock,
  type SimpleOperation,
  type SpecEdit,
  type StitchObject,
  type Target,
} from '@isola/core';
import type { ProgramChange } from './clothProtocol.ts';
import type { SpecPairs, SpecRefusal } from './protocol.ts';

/** Objects sewn anew and not kept yet: all that a picture of them takes. */
export interface SewnSpecs {
  readonly design: Design;
  readonly operation: Operation;
  readonly applied: readonly AppliedRepair[];
  readonly refused: readonly RefusedRepair[];
  readonly firstRows: Readonly<Record<string, number>>;
  /** The objects as they would be, for predictions. */
  readonly objects: readonly StitchObject[];
  /** Indices of those sewn anew. */
  readonly changed: ReadonlySet<number>;
  /** Stitches of those, before and after. */
  readonly stitches: SpecPairs['stitches'];
  /** How the program differs from that of the design before. */
  readonly change: Omit<ProgramChange, 'from'>;
}

/** Sews objects anew on a design; the reason where none could be. */
export function sewSpecs(
  design: Design,
  recognition: Recognition,
  name: string,
  edits: readonly SpecEdit[],
  target?: Target,
): SewnSpecs | SpecRefusal {
  const { operations, done, refused } = rebuildObjects(design, recognition, edits);
  if (operations.length === 0 && target === undefined) return { why: refused[0]?.why ?? 'no object would change' };
  const operation: Operation = {
    id: 'sequence',
    operations: [...(target === undefined ? [] : [{ id: 'set-target' as const, target }]), ...operations],
  };
  const next = applyOperation(design, operation);
  if (!next.ok) return { why: next.error };
  const after = next.value;
  const specs = new Map(edits.map((e) => [e.object, e.spec]));
  const keys = new Map(done.map((d) => [d.object, d.key]));
  const sum = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0);
  return {
    design: after,
    operation,
    applied: done.map((d) => ({ rule: 'spec', objects: [d.object], change: [name, ...d.notes].join('; ') })),
    refused: refused.map((r) => ({ rule: 'spec', objects: [r.object], why: `${r.name}: ${r.why}` })),
    firstRows: Object.fromEntries(
      done.flatMap((d) => {
        const cover = after.rebuilt.find((r) => r.key === d.key)?.parts.find((p) => p.role === 'cover');
        return cover === undefined ? [] : [[d.object, cover.first]];
      }),
    ),
    objects: asSewn(recognition.objects, after, specs, keys, operations),
    changed: new Set(recognition.objects.flatMap((o, k) => (specs.has(o.id) ? [k] : []))),
    stitches: [sum(done.map((d) => d.before)), sum(done.map((d) => d.after))],
    change: changeOf(design, operations),
  };
}

/** What sewing so changes, in pairs; and the K of the densest spot after it. */
export function measureSpecs(design: Design, recognition: Recognition, sewn: SewnSpecs): { pairs: SpecPairs; maxCover: number } {
  const { maxCover, seconds } = figuresOf(sewn.design);
  const before = knownFigures.get(design) ?? figuresOf(design);
  knownFigures.set(design, before);
  const gapOf = (objects: readonly StitchObject[], target: Target): number => predictGaps(objects, target, sewn.changed)[0]?.width ?? 0;
  return {
    pairs: {
      stitches: sewn.stitches,
      seconds: [before.seconds, seconds],
      cover: [before.maxCover, maxCover],
      gap: [gapOf(recognition.objects, design.target), gapOf(sewn.objects, sewn.design.target)],
    },
    maxCover,
  };
}

/** The box around all rows that patches take away or bring, and the needle's places before and after them; and how many rows are after all of them. */
function changeOf({ program }: Design, operations: readonly SimpleOperation[]): SewnSpecs['change'] {
  const [first] = operations;
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  const take = (x: number, y: number): void => {
    [minX, minY, maxX, maxY] = [Math.min(minX, x), Math.min(minY, y), Math.max(maxX, x), Math.max(maxY, y)];
  };
  let kept = program.rowCount;
  for (const { at, removed, inserted } of first?.id === 'replace-rows' ? first.patches : []) {
    const hasThread = [...removed, ...inserted].some((row) => row.command === 'color');
    kept = Math.min(kept, hasThread ? 0 : program.rowCount - at - removed.length);
    for (const row of [at - 1, at + removed.length]) if (row >= 0 && row < program.rowCount) take(program.x[row]!, program.y[row]!);
    for (let row = at; row < at + removed.length; row++) take(program.x[row]!, program.y[row]!);
    for (const row of inserted) if ('x' in row) take(row.x, row.y);
  }
  return { box: [minX, minY, maxX, maxY], kept };
}

/** Figures of a design that was tried on; it is tried on many times while a slider moves. */
const knownFigures = new WeakMap<Design, ReturnType<typeof figuresOf>>();

function figuresOf({ program, target }: Design): { readonly maxCover: number; readonly seconds: number } {
  return { maxCover: mapCover(program, target.thread).maxCover, seconds: runClock(program, target.machine).totals.seconds };
}

/** The objects as they would be: those sewn anew where they would lie, with what they would be made with; the others where they would have moved to. */
function asSewn(
  objects: readonly StitchObject[],
  after: Design,
  specs: ReadonlyMap<string, SpecEdit['spec']>,
  keys: ReadonlyMap<string, string>,
  operations: readonly SimpleOperation[],
): StitchObject[] {
  const [first] = operations;
  const patches = first?.id === 'replace-rows' ? first.patches : [];
  const move = (span: RowSpan): RowSpan => ({ first: moveRow(span.first, patches), last: moveRow(span.last, patches) });
  return objects.map((object) => {
    const spec = specs.get(object.id);
    const key = keys.get(object.id);
    const record = key === undefined ? undefined : after.rebuilt.find((r) => r.key === key);
    if (spec === undefined || spec === null || record === undefined)
      return { ...object, ...move(object), spans: object.spans.map((span) => move(span)) };
    const { spacing: _, ...bare } = object;
    return {
      ...bare,
      ...(spec.kind === 'fill' || spec.kind === 'satin' ? { kind: spec.kind, spacing: spec.spacing } : {}),
      ...(spec.kind === 'fill' ? { angle: spec.angle } : {}),
      underlay: spec.underlay.map(({ kind }) => ({ kind, object: object.id, first: record.first, last: record.last })),
      rebuilt: record,
      first: record.first,
      last: record.last,
      spans: record.parts.filter((p) => p.role === 'cover').map((p) => ({ first: p.first, last: p.last })),
    };
  });
}
