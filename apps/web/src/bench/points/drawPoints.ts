import { type Program, STITCH } from '@isola/core';
import { type Size, toCloth, type Viewport } from '../cloth/viewport.ts';

/** Penetrations are shown from so many px a mm on; below that they would be a haze. */
const SHOWN_FROM = 3;
const DOT = 2.4;
const PICKED = 4;
/** As many picked ones as are drawn round while they are moved. */
const ROUND = 400;

/** Penetrations over the cloth: those that may be picked as dots, picked ones larger, and what is not sewn yet (from row `upTo` on) as faint lines. */
export function drawPoints(
  ctx: CanvasRenderingContext2D,
  { x, y, command, rowCount }: Program,
  {
    view,
    size,
    mayPick,
    picked,
    upTo,
  }: { view: Viewport; size: Size; mayPick: (row: number) => boolean; picked: ReadonlySet<number>; upTo: number },
): void {
  ctx.clearRect(0, 0, size.width, size.height);
  const [low, high] = [toCloth(view, size, 0, size.height), toCloth(view, size, size.width, 0)];
  const isSeen = (row: number): boolean => x[row]! >= low.x && x[row]! <= high.x && y[row]! >= low.y && y[row]! <= high.y;
  const px = (row: number): number => size.width / 2 + (x[row]! - view.x) * view.scale;
  const py = (row: number): number => size.height / 2 - (y[row]! - view.y) * view.scale;
  if (upTo < rowCount) {
    ctx.strokeStyle = 'rgba(255, 253, 248, 0.4)';
    ctx.lineWidth = 1;
    ctx.beginPath();
    for (let row = Math.max(1, upTo); row < rowCount; row++) {
      if (command[row] !== STITCH || (!isSeen(row) && !isSeen(row - 1))) continue;
      ctx.moveTo(px(row - 1), py(row - 1));
      ctx.lineTo(px(row), py(row));
    }
    ctx.stroke();
  }
  if (view.scale >= SHOWN_FROM) {
    ctx.fillStyle = '#fffdf8';
    ctx.strokeStyle = 'rgba(20, 38, 43, 0.75)';
    ctx.lineWidth = 1;
    for (let row = 0; row < rowCount; row++) {
      if (command[row] !== STITCH || !isSeen(row) || !mayPick(row) || picked.has(row)) continue;
      dot(ctx, px(row), py(row), DOT);
    }
  }
  ctx.fillStyle = '#0f5c66';
  ctx.strokeStyle = '#ffe9a8';
  ctx.lineWidth = 1.6;
  for (const row of picked) if (row < rowCount && isSeen(row)) dot(ctx, px(row), py(row), PICKED);
}

function dot(ctx: CanvasRenderingContext2D, x: number, y: number, radius: number): void {
  ctx.beginPath();
  ctx.arc(x, y, radius, 0, 2 * Math.PI);
  ctx.fill();
  ctx.stroke();
}

/** Picked penetrations moved by (dx, dy) mm, with the stitches that lead to them and on from them. */
export function drawMoved(
  ctx: CanvasRenderingContext2D,
  { x, y, command, rowCount }: Program,
  { view, size, picked, dx, dy }: { view: Viewport; size: Size; picked: ReadonlySet<number>; dx: number; dy: number },
): void {
  ctx.clearRect(0, 0, size.width, size.height);
  const px = (row: number): number => size.width / 2 + (x[row]! + (picked.has(row) ? dx : 0) - view.x) * view.scale;
  const py = (row: number): number => size.height / 2 - (y[row]! + (picked.has(row) ? dy : 0) - view.y) * view.scale;
  ctx.strokeStyle = '#ffe9a8';
  ctx.lineWidth = 1.4;
  ctx.beginPath();
  for (const row of picked) {
    for (const to of picked.has(row + 1) ? [row] : [row, row + 1]) {
      if (to < 1 || to >= rowCount || command[to] !== STITCH) continue;
      ctx.moveTo(px(to - 1), py(to - 1));
      ctx.lineTo(px(to), py(to));
    }
  }
  ctx.stroke();
  ctx.fillStyle = '#0f5c66';
  if (picked.size <= ROUND) {
    for (const row of picked) dot(ctx, px(row), py(row), PICKED);
    return;
  }
  // So many are squares of one path: each frame has to draw all of them.
  ctx.beginPath();
  for (const row of picked) ctx.rect(px(row) - PICKED / 2, py(row) - PICKED / 2, PICKED, PICKED);
  ctx.fill();
}
