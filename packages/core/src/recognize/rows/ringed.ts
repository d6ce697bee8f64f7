import type { Measured } from './piece.ts';

/** The rings of what covers an area; none of a run. */
export function ringsOf(measured: Measured): readonly Float64Array[] {
  if (measured.kind === 'fill') return [measured.outline, ...measured.holes];
  return measured.kind === 'satin' ? [measured.outline] : [];
}

/** Distance of a point from the nearest edge of rings, mm; infinite where there is none. */
export function distanceToRings(rings: readonly Float64Array[], x: number, y: number): number {
  let least = Infinity;
  for (const ring of rings) {
    const n = ring.length / 2;
    for (let i = 0, j = n - 1; i < n; j = i++) {
      const ax = ring[j * 2]!;
      const ay = ring[j * 2 + 1]!;
      const dx = ring[i * 2]! - ax;
      const dy = ring[i * 2 + 1]! - ay;
      const square = dx * dx + dy * dy;
      const t = square > 0 ? Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / square)) : 0;
      const ex = ax + t * dx - x;
      const ey = ay + t * dy - y;
      const d = ex * ex + ey * ey;
      if (d < least) least = d;
    }
  }
  return Math.sqrt(least);
}

/** The length around rings, mm. */
export function perimeterOf(rings: readonly Float64Array[]): number {
  let sum = 0;
  for (const ring of rings) {
    const n = ring.length / 2;
    for (let i = 0, j = n - 1; i < n; j = i++) sum += Math.hypot(ring[i * 2]! - ring[j * 2]!, ring[i * 2 + 1]! - ring[j * 2 + 1]!);
  }
  return sum;
}
