import { type StitchObject, sayCount } from '@isola/core';

/** So many objects are named. */
const MOST_NAMED = 4;

/** What of a file leaves otherwise than it came, in words: objects that were sewn from their spec, and those with rows changed by hand or by a repair. */
export function sayRebuilt(objects: readonly StitchObject[]): string {
  const made = objects.filter(({ made: spec }) => spec !== undefined);
  const edited = objects.filter(({ made: spec, edited: rows }) => spec === undefined && (rows ?? 0) > 0);
  if (made.length === 0 && edited.length === 0) return 'All objects leave with the stitches they came with, to the last decimal.';
  const said = [
    ...(made.length > 0 ? [`sewn anew from their specs: ${name(made)}`] : []),
    ...(edited.length > 0 ? [`some stitches changed: ${name(edited)}`] : []),
  ].join('; ');
  const left = objects.length - made.length - edited.length;
  const rest = left === 0 ? '' : ` The other ${sayCount(left)} leave with the stitches they came with, to the last decimal.`;
  return `${said[0]!.toUpperCase()}${said.slice(1)}.${rest}`;
}

function name(objects: readonly StitchObject[]): string {
  const names = objects.slice(0, MOST_NAMED).map((object) => object.name);
  const more = objects.length - names.length;
  return more > 0 ? `${names.join(', ')} and ${more} more` : names.join(', ');
}
