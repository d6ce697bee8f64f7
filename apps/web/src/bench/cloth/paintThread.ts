import { shade } from './colors.ts';
import { batchesInSight, colorOfBatch, rowsOfBatch, type Sheet, strokeBatch, traceBatch } from './sheet.ts';
import { SHADES } from './strokes.ts';

/** Drawn a little fuller than the thread is thick: fibers bulge where they are not pressed. */
const FULLNESS = 1.3;
/** How much lighter or darker thread looks by the way it runs. */
const SHEEN = 0.24;
/** Thinner than this many pixels, a thread has no edge and no light of its own. */
const HAS_EDGE = 1.5;
const HAS_LIGHT = 3.2;
/** Added to so thin a thread (px), since edges that share a pixel would let the cloth through between closed rows. */
const SPREAD = 0.4;

/** Paints batches `from` ≤ k < `to` as thread of a thickness in mm. */
export function paintThread(sheet: Sheet, thickness: number, from: number, to: number): void {
  const { ctx, strokes, projection } = sheet;
  const drawn = thickness * FULLNESS * projection.scale;
  const width = Math.max(0.7, drawn < HAS_EDGE ? drawn + SPREAD : drawn);
  // On thin thread a full dark edge would draw seams where one batch lies on the next.
  const darkness = Math.round(Math.min(1, Math.max(0.25, (width - HAS_EDGE) / 3)) * 8) / 8;
  ctx.lineCap = 'round';
  ctx.lineJoin = 'round';
  for (const k of batchesInSight(sheet, from, to)) {
    const { edge, body, light } = shadeOf(colorOfBatch(sheet, k), strokes.shades[k]!, darkness);
    if (drawn < HAS_EDGE) {
      strokeBatch(sheet, k, body, width);
      continue;
    }
    strokeBatch(sheet, k, edge, width);
    strokeBatch(sheet, k, body, width * 0.66);
    if (width >= HAS_LIGHT) strokeLights(sheet, k, light, width * 0.24);
  }
}

/** Paints the shadow that the design throws on the cloth: one soft stroke under everything. */
export function paintShadow(sheet: Sheet, thickness: number, from: number, to: number): void {
  const { ctx, projection } = sheet;
  const drop = 0.14 * projection.scale;
  const shifted = { ...sheet, projection: { ...projection, originX: projection.originX + drop, originY: projection.originY + drop * 1.4 } };
  ctx.strokeStyle = 'rgba(0, 0, 0, 0.3)';
  ctx.lineWidth = Math.max(1, thickness * 2.4 * projection.scale);
  ctx.lineCap = 'round';
  ctx.lineJoin = 'round';
  ctx.beginPath();
  for (const k of batchesInSight(sheet, from, to)) traceBatch(shifted, k);
  ctx.stroke();
}

/** The light that lies on each stitch for itself, on its upper half: it is what makes a satin look like satin. */
function strokeLights(sheet: Sheet, k: number, style: string, width: number): void {
  const {
    ctx,
    program: { x, y },
    projection: { scale, originX, originY },
  } = sheet;
  ctx.strokeStyle = style;
  ctx.lineWidth = width;
  ctx.beginPath();
  for (const row of rowsOfBatch(sheet, k)) {
    const ax = originX + x[row - 1]! * scale;
    const ay = originY - y[row - 1]! * scale;
    const bx = originX + x[row]! * scale;
    const by = originY - y[row]! * scale;
    const [from, to] = by < ay ? [0.5, 0.86] : [0.14, 0.5];
    ctx.moveTo(ax + (bx - ax) * from, ay + (by - ay) * from);
    ctx.lineTo(ax + (bx - ax) * to, ay + (by - ay) * to);
  }
  ctx.stroke();
}

const shades = new Map<string, { edge: string; body: string; light: string }>();

function shadeOf(color: string, level: number, darkness: number): { edge: string; body: string; light: string } {
  const key = `${color}${level} ${darkness}`;
  let known = shades.get(key);
  if (known === undefined) {
    const lit = (level / (SHADES - 1) - 0.55) * SHEEN;
    const body = shade(color, lit);
    known = { edge: shade(body, -0.34 * darkness), body, light: shade(body, 0.34) };
    shades.set(key, known);
  }
  return known;
}
