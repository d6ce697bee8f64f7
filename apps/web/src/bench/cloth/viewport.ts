import type { Extents } from '@isola/core';

/** Pixels of CSS in a millimetre of the world, by which “1 : 1” is true size: CSS fixes 96 px to the inch. */
export const TRUE_SIZE = 96 / 25.4;
const LEAST_SCALE = 0.4;
const MOST_SCALE = 160;

/** What part of the cloth is seen: the point (mm, y up) in the middle, and CSS pixels to a millimetre. */
export interface Viewport {
  readonly x: number;
  readonly y: number;
  readonly scale: number;
}

export interface Size {
  readonly width: number;
  readonly height: number;
}

/** The viewport that shows a rectangle whole, with a margin around it. */
export function fitViewport(extents: Extents, size: Size, margin = 0.11): Viewport {
  const room = 1 - 2 * margin;
  const scale = Math.min((size.width * room) / Math.max(extents.width, 5), (size.height * room) / Math.max(extents.height, 5));
  return { x: (extents.minX + extents.maxX) / 2, y: (extents.minY + extents.maxY) / 2, scale: holdScale(scale) };
}

/** The viewport with another scale, the point under a pixel staying under it. */
export function zoomAt(view: Viewport, size: Size, px: number, py: number, factor: number): Viewport {
  const scale = holdScale(view.scale * factor);
  const point = toCloth(view, size, px, py);
  return { x: point.x - (px - size.width / 2) / scale, y: point.y + (py - size.height / 2) / scale, scale };
}

export function pan(view: Viewport, dx: number, dy: number): Viewport {
  return { ...view, x: view.x - dx / view.scale, y: view.y + dy / view.scale };
}

/** The point of the cloth (mm, y up) under a pixel (y down). */
export function toCloth(view: Viewport, size: Size, px: number, py: number): { x: number; y: number } {
  return { x: view.x + (px - size.width / 2) / view.scale, y: view.y - (py - size.height / 2) / view.scale };
}

/** The pixel (y down) over a point of the cloth (mm, y up). */
export function toScreen(view: Viewport, size: Size, x: number, y: number): { x: number; y: number } {
  return { x: size.width / 2 + (x - view.x) * view.scale, y: size.height / 2 - (y - view.y) * view.scale };
}

/** A scale as people say it: so many times true size. */
export function sayScale(scale: number): string {
  const times = scale / TRUE_SIZE;
  return times >= 1 ? `${times.toFixed(times < 9.95 ? 1 : 0)} : 1` : `1 : ${(1 / times).toFixed(1)}`;
}

function holdScale(scale: number): number {
  return Math.min(MOST_SCALE, Math.max(LEAST_SCALE, scale));
}
