import type { ClothObjects } from '../../../workers/clothProtocol.ts';
import type { Sheet } from '../sheet.ts';
import type { FigurePainter } from './figurePainter.ts';
import { paintSorted } from './paintSorted.ts';

/** How deep something lies, from bare cloth up; the last stands for all above. */
export const LEVEL_COLORS = ['#8fb8b0', '#3f8a8c', '#c98a2b', '#a33b2c', '#4a2038'];
const BENEATH = 'rgba(90, 100, 105, 0.35)';

export const layersPainter: FigurePainter = { paintBatches: ({ objects }, sheet, from, to) => paintLayers(sheet, objects, from, to) };

/** Paints covers by how many others lie under them; what is not cover faintly. */
export function paintLayers(sheet: Sheet, objects: ClothObjects | undefined, from: number, to: number): void {
  paintSorted(sheet, from, to, (row) => {
    const owner = objects?.ownerOfRow[row] ?? -1;
    if (objects === undefined || owner < 0 || objects.roles[owner] !== 'cover') return BENEATH;
    return LEVEL_COLORS[Math.min(LEVEL_COLORS.length - 1, objects.levels[owner]!)]!;
  });
}
