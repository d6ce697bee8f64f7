/** A place on the cloth's window, px from its upper left corner. */
export interface PointerAt {
  readonly x: number;
  readonly y: number;
  /** Shift is held: what moves goes in smaller steps. */
  readonly isFine: boolean;
}

/** Follows a pointer that was pressed on a part of a drawing until it is let go. Tools make what they change of where it is. */
export function followPointer(event: PointerEvent, move: (at: PointerAt) => void): void {
  const target = event.currentTarget as SVGElement;
  const frame = (target.ownerSVGElement ?? target).getBoundingClientRect();
  target.setPointerCapture(event.pointerId);
  const onMove = (e: PointerEvent): void => move({ x: e.clientX - frame.left, y: e.clientY - frame.top, isFine: e.shiftKey });
  const end = (): void => {
    target.removeEventListener('pointermove', onMove);
    target.removeEventListener('pointerup', end);
    target.removeEventListener('pointercancel', end);
  };
  target.addEventListener('pointermove', onMove);
  target.addEventListener('pointerup', end);
  target.addEventListener('pointercancel', end);
}
