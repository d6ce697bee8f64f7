import type { RowSpan, StitchObject } from '../model/stitchObject.ts';

/** An object with its rows counted from row `first` on. */
export function countedFrom(object: StitchObject, first: number): StitchObject {
  if (first === 0) return object;
  const move = <T extends RowSpan>(rows: T): T => ({ ...rows, first: rows.first - first, last: rows.last - first });
  return { ...move(object), spans: object.spans.map(move), underlay: object.underlay.map(move) };
}
