import type { StitchObject } from '@isola/core';

/** What is gone to is shown no nearer than this (px a mm), so that what is around it is seen too. */
export const CLOSE_SCALE = 22;

/** Places around an object, or along it, mm: what is brought into sight where it is gone to. */
export function placesOf({ outline, path, entry }: StitchObject): { readonly x: number; readonly y: number }[] {
  const line = outline.length > 0 ? outline : (path ?? new Float64Array([entry.x, entry.y]));
  return Array.from({ length: line.length / 2 }, (_, k) => ({ x: line[k * 2]!, y: line[k * 2 + 1]! }));
}
