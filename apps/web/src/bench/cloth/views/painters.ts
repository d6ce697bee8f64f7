import { coverPainter } from './cover.ts';
import { directionsPainter } from './directions.ts';
import type { FigurePainter } from './figurePainter.ts';
import { layersPainter } from './layers.ts';
import { pathsPainter } from './paths.ts';
import { penetrationsPainter } from './penetrations.ts';
import type { FigureViewKind } from './views.ts';

/** How the views of figures are drawn, in the drawing worker. */
export const PAINTERS: Readonly<Record<FigureViewKind, FigurePainter>> = {
  penetrations: penetrationsPainter,
  cover: coverPainter,
  paths: pathsPainter,
  directions: directionsPainter,
  layers: layersPainter,
};
