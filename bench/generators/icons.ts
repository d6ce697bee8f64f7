import * as icons from '@mdi/js';
import { flattenPath } from '@isola/core';

/** The rings of an icon (@mdi/js, Apache 2.0), y up, its middle at the origin, `scale` mm for each of its 24 units. */
export function iconShape(name: string, scale: number): Float64Array[] {
  const data = (icons as Readonly<Record<string, string>>)[name];
  if (data === undefined) throw new RangeError(`there is no icon ${name}`);
  const flat = flattenPath(data, `scale(${scale} -${scale}) translate(-12 -12)`, 1, 0.4);
  if (!flat.ok) throw new Error(`${name}: ${flat.error.found}`);
  return flat.value.map((ring) => Float64Array.from(ring.slice(0, -2)));
}
