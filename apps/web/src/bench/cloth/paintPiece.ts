import type { ShownPiece } from '../../workers/clothProtocol.ts';
import { paintCloth } from './paintCloth.ts';
import type { Size, Viewport } from './viewport.ts';

/** Paints a piece of cloth that lies on the cloth, with the shadow of its edge. */
export function paintPiece(
  ctx: OffscreenCanvasRenderingContext2D,
  view: Viewport,
  size: Size,
  ratio: number,
  { edge, look, color }: ShownPiece,
): void {
  const path = new Path2D();
  for (let k = 0; k < edge.length; k += 2) {
    const x = ((edge[k]! - view.x) * view.scale + size.width / 2) * ratio;
    const y = ((view.y - edge[k + 1]!) * view.scale + size.height / 2) * ratio;
    if (k === 0) path.moveTo(x, y);
    else path.lineTo(x, y);
  }
  path.closePath();
  ctx.save();
  ctx.setTransform(1, 0, 0, 1, 0, 0);
  ctx.shadowColor = 'rgba(20, 30, 34, 0.5)';
  ctx.shadowBlur = EDGE_SHADOW * view.scale * ratio;
  ctx.fillStyle = color;
  ctx.fill(path);
  ctx.shadowColor = 'transparent';
  ctx.clip(path);
  paintCloth(ctx, view, size, ratio, look, color);
  ctx.restore();
}

/** How far the shadow of a piece's edge reaches, mm. */
const EDGE_SHADOW = 0.8;
