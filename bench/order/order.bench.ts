import { countProgram, proposeOrder } from '@isola/core';
import { readArguments, readShapes } from '../recognition/shapes.ts';
import { pieceByPiece, sewn, tiles, underBand } from './laid.ts';

// How much of what a bad order loses is found again, on shapes that nobody here drew.

const { part } = readArguments(process.argv.slice(2));
const shapes = readShapes().filter((shape) => shape.part === part);

const groups = Array.from({ length: Math.floor(shapes.length / 8) }, (_, k) => shapes.slice(k * 8, k * 8 + 8));
const scenarios = {
  'piece by piece': groups.map(pieceByPiece),
  'under a band': groups.map(underBand),
  'tiles in any order': [12, 24, 36].map((count) => tiles(count)),
};
const table = Object.entries(scenarios).map(([scenario, laid]) => {
  const sum = {
    designs: 0,
    objects: 0,
    before: 0,
    needed: 0,
    after: 0,
    added: 0,
    changes: 0,
    changesNeeded: 0,
    changed: 0,
    ms: 0,
    sewn: 0,
  };
  for (const one of laid) {
    const design = sewn(one);
    const start = performance.now();
    const found = proposeOrder(design);
    sum.ms = Math.max(sum.ms, performance.now() - start);
    const [a, b] = [countProgram(design.program), countProgram(found.design.program)];
    sum.designs++;
    sum.objects += Object.keys(design.plan.objects).length;
    sum.before += a.trims;
    sum.needed += one.cuts;
    sum.after += b.trims;
    sum.added += Math.max(0, b.trims - a.trims);
    sum.changes += b.colorChanges;
    sum.changesNeeded += one.changes;
    sum.changed = Math.max(sum.changed, found.changed);
    sum.sewn += found.sewn.length;
  }
  const gone = (100 * (sum.before - sum.after)) / (sum.before - sum.needed);
  return {
    scenario,
    ...{ designs: sum.designs, objects: sum.objects, 'cuts before': sum.before, needed: sum.needed, after: sum.after },
    ...{ 'avoidable gone %': gone.toFixed(1), added: sum.added, 'thread changes': `${sum.changes} of ${sum.changesNeeded}` },
    ...{ 'sewn anew': sum.sewn, 'picture changed, at most %': (100 * sum.changed).toFixed(3), 'slowest ms': sum.ms.toFixed(0) },
  };
});
console.log(`shapes: ${part}`);
console.table(table);
