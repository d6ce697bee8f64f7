import type { Finding } from '@isola/core';

/** The finding with a place nearest to a point of the cloth, no farther than `reach` mm; none where there is none. */
export function findFindingAt(findings: readonly Finding[], x: number, y: number, reach: number): Finding | undefined {
  let best: Finding | undefined;
  let least = reach;
  for (const finding of findings) {
    for (const place of finding.places) {
      const distance = Math.hypot(place.x - x, place.y - y);
      if (distance < least) {
        least = distance;
        best = finding;
      }
    }
  }
  return best;
}
