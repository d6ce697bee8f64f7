import { axisDifference } from '../../geometry/axis.ts';
import type { PairFault } from '../../audit/rules/objectFault.ts';
import { asRepairer, type Repairer } from './repairer.ts';
import { respecting } from './respec.ts';

/** Directions that are tried, degrees; one that opposes its neighbors by so much is good enough to prefer the smaller turn. */
const STEP = 15;
const OPPOSED = 45;

/** Turns the smaller fill of each pair to the direction that opposes all its neighbors, the nearest to its own among those that do. */
export const turnAngles: Repairer = asRepairer<PairFault>((ask) => {
  const { areas, pairs } = ask.context;
  // Those that were turned already oppose the others as they run then.
  const turned = new Map<string, number>();
  return respecting((spec, { object, of }) => {
    const at = areas.indexOf(of);
    const beside = pairs
      .flatMap(({ a, b, relation }) => (relation.contact < MEETS ? [] : a === at ? [areas[b]!] : b === at ? [areas[a]!] : []))
      .filter(({ kind, angle }) => kind === 'fill' && angle !== undefined)
      .map(({ id, angle }) => turned.get(id) ?? angle!);
    const score = (angle: number): number => Math.min(OPPOSED, ...beside.map((other) => axisDifference(angle, other)));
    let best = spec.angle;
    for (let by = STEP; by <= 90; by += STEP)
      for (const angle of [spec.angle + by, spec.angle - by]) if (score(angle) > score(best) + 1e-6) best = angle;
    if (best === spec.angle) return 'no direction opposes all its neighbors better';
    const angle = ((best % 180) + 180) % 180;
    turned.set(object, angle);
    // Lines that rows follow turn with them: a fill that bends keeps its own.
    return spec.angleLines.length > 0 ? 'its rows follow lines; turn these' : { ...spec, angle };
  })(ask);
});

/** Neighbors meet along so many mm. */
const MEETS = 5;
