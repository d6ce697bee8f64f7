import type { Patch } from '../model/patch.ts';
import type { ObjectId, Plan } from '../model/plan.ts';
import { STITCH } from '../model/program.ts';
import { assemble, type ObjectPlace } from '../plan/assemble.ts';
import type { RowEdit } from './operations/editRows.ts';
import { printRows } from './operations/printOf.ts';
import type { SimpleOperation } from './operations/registry.ts';

/**
 * Patches of assembled rows (ascending) as edits of whose rows they are: of objects, and of the ways between them. A way of which nothing is left but
 * the penetration where the next object starts is carried over. What is inserted where a way and an object meet belongs to the way, as locks do.
 */
export function operationsOfPatches(plan: Plan, patches: readonly Patch[]): SimpleOperation[] {
  const { places, program, ending } = assemble(plan);
  const spans = spansOf(places, ending.first, program.rowCount);
  const edits = new Map<string, RowEdit & { patches: Patch[] }>();
  const carried: ObjectId[] = [];
  let from = 0;
  for (const patch of patches) {
    const end = patch.at + patch.removed.length;
    while (from < spans.length - 1 && spans[from]!.end < patch.at) from++;
    let isInserted = false;
    for (let k = from; k < spans.length && spans[k]!.first <= end; k++) {
      const span = spans[k]!;
      const [a, b] = [Math.max(patch.at, span.first), Math.min(end, span.end)];
      const takesIn: boolean = !isInserted && (patch.removed.length === 0 ? span.part === 'way' || patch.at < span.end : b > a);
      if (b <= a && !(takesIn && patch.inserted.length > 0)) continue;
      const part: Patch = {
        at: a - span.first,
        removed: patch.removed.slice(a - patch.at, b - patch.at),
        inserted: takesIn ? patch.inserted : [],
      };
      isInserted ||= takesIn;
      if (span.part === 'way' && span.object !== null && isCarry(plan, span.object, span, part)) carried.push(span.object);
      else {
        const key = `${span.object ?? ''} ${span.part}`;
        const known = edits.get(key);
        if (known === undefined)
          edits.set(key, { object: span.object, part: span.part, was: printRows(program, span.first, span.end), patches: [part] });
        else known.patches.push(part);
      }
    }
  }
  return [
    ...(edits.size === 0 ? [] : [{ id: 'edit-rows' as const, edits: [...edits.values()] }]),
    ...carried.map((object) => ({ id: 'set-link' as const, object, way: 'carry' as const })),
  ];
}

interface Span {
  readonly object: ObjectId | null;
  readonly part: RowEdit['part'];
  readonly first: number;
  readonly end: number;
}

function spansOf(places: readonly ObjectPlace[], ending: number, rowCount: number): Span[] {
  return [
    ...places.flatMap(({ id, link, first, end }): Span[] => [
      { object: id, part: 'way', first: link, end: first },
      { object: id, part: 'rows', first, end },
    ]),
    { object: null, part: 'way', first: ending, end: rowCount },
  ];
}

/** Whether a patch leaves of a way what carrying over makes of it. */
function isCarry(plan: Plan, id: ObjectId, span: Span, { at, removed, inserted }: Patch): boolean {
  const { program } = assemble(plan);
  if (at > 0 || inserted.length > 0 || removed.length === 0) return false;
  if (removed.some(({ command }) => command === 'color' || command === 'stop')) return false;
  const before = span.first - 1;
  if (before < 0 || program.command[before] !== STITCH || program.notes.has(span.end - 1)) return false;
  const left = span.end - span.first - removed.length;
  const { start, isOwnStart } = plan.objects[id]!.sewn;
  const last = span.end - 1;
  if (left === 0) return !isOwnStart;
  return isOwnStart && left === 1 && program.x[last] === start.x && program.y[last] === start.y;
}
