import { saveFile } from '../../api/saveFile.ts';
import { paintSmall } from '../../bench/paintSmall.ts';
import { forget, showView } from '../../stores/trials.ts';
import type { DesignView } from '../../workers/protocol.ts';

/** Pixels of a preview along its longer side, at the least; screens with more of them get more. */
const LONGER_SIDE = 1400;

/** Saves a picture of a design on its cloth as PNG. @throws Error where there is nothing to draw */
export async function savePreview(view: DesignView, name: string): Promise<void> {
  const { extents } = view.figures;
  if (view.figures.stitches === 0) throw new Error('There is no stitch to draw yet.');
  const scale = LONGER_SIDE / Math.max(extents.width, extents.height);
  const size = { width: Math.max(200, Math.round(extents.width * scale)), height: Math.max(200, Math.round(extents.height * scale)) };
  const canvas = document.createElement('canvas');
  const shown = await showView(view);
  try {
    const isDrawn = await paintSmall(() => canvas, 'preview', { program: shown.number, extents, target: view.target, size });
    if (!isDrawn) throw new Error('The picture was not drawn. Try again.');
  } finally {
    forget(shown);
  }
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'));
  if (blob === null) throw new Error('The picture is too large for this browser.');
  saveFile(`${name}.png`, 'image/png', blob);
}
