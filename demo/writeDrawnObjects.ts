import { roundToThousandth } from '@isola/core';
import type { DrawnObject } from './Sewing.ts';

/** Drawn objects as JSON, an object a line. Rings are left out where they stand in the drawing; numbers have three decimals. */
export function writeDrawnObjects(objects: readonly DrawnObject[]): string {
  const lines = objects.map(({ rings: _, ...object }) =>
    JSON.stringify(object, (_key, value: unknown) => (typeof value === 'number' ? roundToThousandth(value) : value)),
  );
  return `[\n  ${lines.join(',\n  ')}\n]\n`;
}
