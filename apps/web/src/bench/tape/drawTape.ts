import { luminance } from '../cloth/colors.ts';
import type { TapePiece } from './planTape.ts';

/** From this luminance on a thread hardly stands out from the paper around it. */
const LIGHT = 0.7;

/** Draws pieces as a strip of `height` px at `y`: sewing solid, lost time hatched. Coordinates are CSS pixels. */
export function drawTape(ctx: CanvasRenderingContext2D, pieces: readonly TapePiece[], y: number, height: number, isFaint: boolean): void {
  ctx.globalAlpha = isFaint ? 0.72 : 1;
  for (const piece of pieces) {
    ctx.fillStyle = piece.isLost ? '#f6dfd9' : piece.color;
    ctx.fillRect(piece.x, y, Math.max(0.6, piece.width), height);
    // Light thread would be lost on paper.
    if (!piece.isLost && piece.width > 2 && luminance(piece.color) > LIGHT) {
      ctx.strokeStyle = 'rgba(20, 38, 43, 0.35)';
      ctx.strokeRect(piece.x + 0.5, y + 0.5, piece.width - 1, height - 1);
    }
  }
  ctx.save();
  ctx.beginPath();
  for (const piece of pieces) if (piece.isLost) ctx.rect(piece.x, y, Math.max(0.6, piece.width), height);
  ctx.clip();
  ctx.strokeStyle = '#b0322a';
  ctx.lineWidth = 1;
  ctx.beginPath();
  const last = pieces[pieces.length - 1];
  const end = last === undefined ? 0 : last.x + last.width;
  for (let x = -height; x < end; x += 5) {
    ctx.moveTo(x, y + height);
    ctx.lineTo(x + height * 0.45, y);
  }
  ctx.stroke();
  ctx.restore();
  ctx.globalAlpha = 1;
  ctx.strokeStyle = 'rgba(20, 38, 43, 0.22)';
  ctx.strokeRect(0.5, y + 0.5, Math.max(0, end - 1), height - 1);
}

/** Draws a scale of marks along the top of a strip, with their minutes. */
export function drawScale(ctx: CanvasRenderingContext2D, seconds: number, perSecond: number, every: number, y: number): void {
  ctx.fillStyle = '#67777a';
  ctx.strokeStyle = '#c9c3b4';
  ctx.font = '11px "IBM Plex Sans", sans-serif';
  ctx.beginPath();
  for (let s = 0; s <= seconds; s += every) {
    const x = Math.round(s * perSecond) + 0.5;
    ctx.moveTo(x, y);
    ctx.lineTo(x, y + 5);
    // The last mark may have no room for its time.
    if ((seconds - s) * perSecond > 34)
      ctx.fillText(every < 60 ? `${Math.floor(s / 60)}:${String(s % 60).padStart(2, '0')}` : `${s / 60} min`, x + 3, y + 9);
  }
  ctx.stroke();
}
