import { brokenBy, findSeenLayers, orderOf, proposeOrder } from '@isola/core';
import { sewn, tiles } from './order/laid.ts';

const AGAIN = 3;

const once = (act: () => unknown): number => {
  const start = performance.now();
  act();
  return performance.now() - start;
};
const best = (act: () => unknown): string => Math.min(...Array.from({ length: AGAIN }, () => once(act))).toFixed(0);

console.table(
  ([40, 300] as const).map((count) => {
    const design = sewn(tiles(count, 3));
    const first = once(() => proposeOrder(design));
    const again = best(() => proposeOrder({ ...design }));
    const ids = orderOf(design.plan);
    const layers = findSeenLayers(design.plan);
    // An object dragged from the front to the end of the tape.
    const dragged = [...ids.slice(1), ids[0]!];
    return {
      'tiles in three threads': count,
      'order, first time ms': first.toFixed(0),
      'again, best ms': again,
      target: count === 40 ? '200' : '2,000',
      'layers ms': best(() => findSeenLayers({ ...design.plan })),
      'drag ms': once(() => brokenBy(layers, dragged)).toFixed(1),
      'drag target': '50',
    };
  }),
);
