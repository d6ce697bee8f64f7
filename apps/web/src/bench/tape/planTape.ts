import type { ClockEvent, ProgramThread } from '@isola/core';
import { UNNAMED_THREAD } from '@isola/core';

/** A piece of the tape in pixels from its start: sewing in its thread's color, or time lost. */
export interface TapePiece {
  readonly x: number;
  readonly width: number;
  readonly isLost: boolean;
  readonly color: string;
}

/** Pieces narrower than this (px) are put together with what follows of the same kind, so that no tape has more pieces than pixels. */
const NARROWEST = 0.75;

/** Lays a run's events out at `perSecond` pixels. Neighbours of one kind and color become one piece. O(events). */
export function planTape(events: readonly ClockEvent[], threads: readonly ProgramThread[], perSecond: number): TapePiece[] {
  const pieces: TapePiece[] = [];
  let open: { start: number; end: number; isLost: boolean; color: string } | undefined;
  for (const event of events) {
    const isLost = event.kind !== 'sewing';
    const color = (threads[event.thread] ?? UNNAMED_THREAD).color;
    if (open !== undefined) {
      const isSame = open.isLost === isLost && (isLost || open.color === color);
      if (isSame || (event.end - open.start) * perSecond < NARROWEST) {
        open.end = event.end;
        continue;
      }
      pieces.push(place(open, perSecond));
    }
    open = { start: event.start, end: event.end, isLost, color };
  }
  if (open !== undefined) pieces.push(place(open, perSecond));
  return pieces;
}

function place(of: { start: number; end: number; isLost: boolean; color: string }, perSecond: number): TapePiece {
  return { x: of.start * perSecond, width: (of.end - of.start) * perSecond, isLost: of.isLost, color: of.color };
}

/** Seconds between two marks of the scale, so that marks stand no closer than `apart` px. */
export function markEvery(perSecond: number, apart = 64): number {
  return [5, 10, 15, 30, 60, 120, 300, 600, 900, 1800, 3600].find((s) => s * perSecond >= apart) ?? 7200;
}
