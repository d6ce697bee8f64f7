import { ringOfColumn } from '../generate/sew/convertShape.ts';
import type { ObjectShape } from '../model/objectSpec.ts';

/** The rings (xyxy, mm) around what a shape covers, holes after the outline; none of a line. */
export function ringsOfShape(shape: ObjectShape): Float64Array[] {
  switch (shape.kind) {
    case 'area':
      return shape.rings.map((ring) => Float64Array.from(ring));
    case 'column':
      return [ringOfColumn({ left: Float64Array.from(shape.left), right: Float64Array.from(shape.right) })];
    case 'line':
      return [];
  }
}
