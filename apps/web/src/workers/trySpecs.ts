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
import type { SpecPairs, SpecRefusal } from './protocol.ts';

/** Objects sewn anew and not kept yet. */
export interface TriedSpecs {
  readonly design: Design;
  readonly operation: Operation;
  readonly applied: readonly AppliedRepair[];
  readonly refused: readonly RefusedRepair[];
  readonly pairs: SpecPairs;
  readonly firstRows: Readonly<Record<string, number>>;
  /** The objects as they would be, for predictions. */
  readonly objects: readonly StitchObject[];
  readonly maxCover: number;
}

/** Sews objects anew on a design and measures both sides; the reason where none could be. */
export function trySpecs(
  design: Design,
  recognition: Recognition,
  name: string,
  edits: readonly SpecEdit[],
  target?: Target,
): TriedSpecs | SpecRefusal {
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
  const objects = asSewn(recognition.objects, after, specs, keys, operations);
  const changed = new Set(recognition.objects.flatMap((o, k) => (specs.has(o.id) ? [k] : [])));
  const sum = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0);
  const maxCover = mapCover(after.program, after.target.thread).maxCover;
  const seconds = (of: Design): number => runClock(of.program, of.target.machine).totals.seconds;
  return {
    design: after,
    operation,
    applied: done.map((d) => ({ rule: 'spec', objects: [d.object], change: [name, ...d.notes].join('; ') })),
    refused: refused.map((r) => ({ rule: 'spec', objects: [r.object], why: `${r.name}: ${r.why}` })),
    pairs: {
      stitches: [sum(done.map((d) => d.before)), sum(done.map((d) => d.after))],
      seconds: [seconds(design), seconds(after)],
      cover: [mapCover(design.program, design.target.thread).maxCover, maxCover],
      gap: [
        predictGaps(recognition.objects, design.target, changed)[0]?.width ?? 0,
        predictGaps(objects, after.target, changed)[0]?.width ?? 0,
      ],
    },
    firstRows: Object.fromEntries(
      done.flatMap((d) => {
        const cover = after.rebuilt.find((r) => r.key === d.key)?.parts.find((p) => p.role === 'cover');
        return cover === undefined ? [] : [[d.object, cover.first]];
      }),
    ),
    objects,
    maxCover,
  };
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
