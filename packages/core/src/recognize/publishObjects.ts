import type { Finding } from '../audit/finding.ts';
import type { Recognition } from './recognizeProgram.ts';
import type { StitchObject } from './stitchObject.ts';

/** An object as it stands in JSON: plain numbers and lists, rings as pairs, lengths in mm to the thousandth. */
export function publishObject(object: StitchObject): object {
  const { outline, holes, rails, path, thread: _, entry, exit, ...rest } = object;
  return {
    ...rest,
    outline: pairs(outline),
    holes: holes.map(pairs),
    ...(rails === undefined ? {} : { rails: { left: pairs(rails.left), right: pairs(rails.right) } }),
    ...(path === undefined ? {} : { path: pairs(path) }),
    entry,
    exit,
  };
}

function pairs(points: Float64Array): [number, number][] {
  return Array.from({ length: points.length / 2 }, (_, k) => [thousandth(points[k * 2]!), thousandth(points[k * 2 + 1]!)]);
}

function thousandth(value: number): number {
  return Math.round(value * 1000) / 1000;
}

/** A finding names no more objects than this; the rows have the others. */
const MOST_NAMED = 24;

/** Findings with the ids of the objects whose rows they were found at, in sewing order. */
export function nameFindings(findings: readonly Finding[], { objects, ownerOfRow }: Recognition): Finding[] {
  return findings.map((finding) => {
    const owners = new Set<number>();
    for (const row of finding.rows) {
      const owner = ownerOfRow[row] ?? -1;
      // A row that lays no thread, such as a trim, speaks of the object before it.
      for (let i = row; owner < 0 && i >= 0 && i > row - 8; i--) {
        if (ownerOfRow[i]! < 0) continue;
        owners.add(ownerOfRow[i]!);
        break;
      }
      if (owner >= 0) owners.add(owner);
      if (owners.size >= MOST_NAMED) break;
    }
    return { ...finding, objects: [...owners].sort((a, b) => a - b).map((k) => objects[k]!.id) };
  });
}
