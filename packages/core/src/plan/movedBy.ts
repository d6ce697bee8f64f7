import type { Patch } from '../model/patch.ts';
import { type Program, STITCH } from '../model/program.ts';
import type { RowSpan, StitchObject } from '../model/stitchObject.ts';

/** An object with its rows counted as after patches of them; `rows` are those after. Rows that came in between belong to it, too. */
export function movedBy(object: StitchObject, patches: readonly Patch[], rows: Program): StitchObject {
  const move = <T extends RowSpan>(span: T): T => ({ ...span, first: moveFirst(span.first, patches), last: moveLast(span.last, patches) });
  const spans = object.spans.map(move).filter((span) => span.last >= span.first);
  const whole = move(object);
  let stitches = 0;
  for (const { first, last } of spans) for (let i = first; i <= last; i++) if (i < 0 || rows.command[i] === STITCH) stitches++;
  return { ...whole, spans, stitches, underlay: object.underlay.map(move) };
}

/** Where a row is after patches; one that is gone gives way to what follows it. */
function moveFirst(row: number, patches: readonly Patch[]): number {
  let shift = 0;
  for (const { at, removed, inserted } of patches) {
    if (row < at || (row === at && removed.length === 0)) break;
    if (row < at + removed.length) return at + shift + (inserted.length > 0 ? Math.min(row - at, inserted.length - 1) : 0);
    shift += inserted.length - removed.length;
  }
  return row + shift;
}

/** The same for the last row of a span; one that is gone gives way to what stands before it. */
function moveLast(row: number, patches: readonly Patch[]): number {
  let shift = 0;
  for (const { at, removed, inserted } of patches) {
    if (row < at) break;
    if (row < at + removed.length) return at + shift + (inserted.length > 0 ? Math.min(row - at, inserted.length - 1) : -1);
    shift += inserted.length - removed.length;
  }
  return row + shift;
}
