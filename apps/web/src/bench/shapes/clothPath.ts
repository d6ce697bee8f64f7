import { flattenNodes, type Nodes } from '@isola/core';
import { type Size, toScreen, type Viewport } from '../cloth/viewport.ts';

/** Points (xyxy, mm) as the path of an SVG that lies over the cloth. */
export function pathOnScreen(points: Float64Array | readonly number[], isClosed: boolean, view: Viewport, size: Size): string {
  let d = '';
  for (let k = 0; k + 1 < points.length; k += 2) {
    const at = toScreen(view, size, points[k]!, points[k + 1]!);
    d += `${k === 0 ? 'M' : 'L'}${at.x.toFixed(1)} ${at.y.toFixed(1)}`;
  }
  return isClosed && d !== '' ? `${d}Z` : d;
}

/** The same of nodes, along their curves as finely as the screen shows. */
export function nodesOnScreen(nodes: Nodes, isClosed: boolean, view: Viewport, size: Size): string {
  return pathOnScreen(flattenNodes(nodes, isClosed, 0.4 / view.scale), isClosed, view, size);
}
