import type { Extents } from '../../../measure/counts.ts';
import { centered } from '../../../measure/inHoop.ts';
import { AS_FILED, type HoopPlace, toHoop } from '../../../model/place.ts';
import { type Program, STITCH } from '../../../model/program.ts';
import type { Hoop } from '../../../model/target.ts';
import { findWorst } from '../../findFaults.ts';
import type { Fault } from '../../fault.ts';
import type { Rule } from '../../rule.ts';

/** How far a design may stand over a limit before it is said, mm: below what a hoop can be set by. */
const SLACK = 0.05;

export const hoopOverflow: Rule<Outside> = {
  id: 'hoop-overflow',
  group: 'fit',
  scope: 'design',
  title: 'Outside the hoop',
  measures: "how far penetrations reach beyond the hoop's field, as the design lies in it",
  unit: 'mm',
  why: 'A needle that hits the frame breaks and flies. The machine may refuse the design, or not.',
  source: 'common practice',
  follows: 'itself',
  limit: () => 0,
  list({ inHoop, target, program }) {
    const { hoop, place } = target;
    return overBy(inHoop, hoop) <= SLACK ? [] : listOutside(program, hoop, place ?? AS_FILED, { x: 0, y: 0 });
  },
  say(context, faults) {
    const { target, inHoop } = context;
    const { hoop } = target;
    const over = overBy(inHoop, hoop);
    const fits = fitsIn(inHoop, hoop);
    const isTurnEnough = fitsIn(inHoop, quarterOf(hoop));
    return {
      worst: findWorst(faults, (f) => f.over),
      severity: 'stop',
      measured: over,
      limit: 0,
      message: `The needle would leave the field of the ${hoop.name} hoop by ${over.toFixed(1)} mm`,
      reason: 'A needle that hits the frame breaks and flies. Check that the design clears the hoop, and wear eye protection.',
      cost: NO_COST,
      ...(fits
        ? { fix: 'Center it in the hoop' }
        : isTurnEnough
          ? { advice: 'It fits when it is turned by a quarter: set that on Take in, and hoop the garment so.' }
          : { advice: 'Take a larger hoop, or have the design made smaller.' }),
    };
  },
  retarget: {
    name: 'centered in the hoop',
    target({ program, counts, target, inHoop }) {
      // What fits only when it is turned is not turned for somebody who does not know it: the garment has to be hooped so.
      return fitsIn(inHoop, target.hoop) ? { ...target, place: centered(program, counts.extents, target.place) } : undefined;
    },
  },
};

export const zoneOverflow: Rule<Outside> = {
  id: 'zone-overflow',
  group: 'fit',
  scope: 'design',
  title: 'Larger than its place',
  measures: "width and height against the garment place's zone",
  unit: 'mm',
  why: 'What reaches over seams, plackets and pocket edges sews on two thicknesses, shifts, and looks lost on the garment.',
  source: 'from memory',
  follows: 'place',
  limit: (target) => target.garment?.width ?? Infinity,
  list({ target, inHoop, program }) {
    const { garment, place } = target;
    if (garment === null || Math.max(inHoop.width - garment.width, inHoop.height - garment.height) <= SLACK) return [];
    const middle = { x: (inHoop.minX + inHoop.maxX) / 2, y: (inHoop.minY + inHoop.maxY) / 2 };
    return listOutside(program, garment, place ?? AS_FILED, middle);
  },
  say({ target, inHoop: extents }, faults) {
    const garment = target.garment!;
    const isWide = extents.width - garment.width >= extents.height - garment.height;
    const measured = isWide ? extents.width : extents.height;
    const limit = isWide ? garment.width : garment.height;
    return {
      worst: findWorst(faults, (f) => f.over),
      severity: measured > limit * 1.1 ? 'stop' : 'fix',
      measured,
      limit,
      message: `${measured.toFixed(1)} mm ${isWide ? 'wide' : 'high'}; the ${garment.name} takes ${limit}`,
      reason: 'It reaches onto seams and edges, where it sews on two thicknesses and shifts.',
      cost: NO_COST,
      advice: 'Have it made smaller, or choose another place. Scaling stitches changes their spacing with the size.',
    };
  },
};

const NO_COST = { seconds: 0, stitches: 0 };

/** A penetration outside, and by how much, mm. */
interface Outside extends Fault {
  readonly over: number;
}

function overBy({ minX, maxX, minY, maxY }: Extents, { width, height }: Hoop): number {
  return Math.max(maxX - width / 2, -width / 2 - minX, maxY - height / 2, -height / 2 - minY);
}

/** So many penetrations outside are told apart; the farthest of all is among them. */
const MOST_OUTSIDE = 2000;

function fitsIn(extents: Extents, { width, height }: Pick<Hoop, 'width' | 'height'>): boolean {
  return extents.width <= width && extents.height <= height;
}

const quarterOf = ({ width, height }: Hoop): Pick<Hoop, 'width' | 'height'> => ({ width: height, height: width });

/** The smallest of some hoops that takes a design of a size (mm), as it is or turned by a quarter; nothing where none does. */
export function smallestHoop(hoops: readonly Hoop[], extents: Extents): Hoop | undefined {
  return hoops
    .filter((hoop) => fitsIn(extents, hoop) || fitsIn(extents, quarterOf(hoop)))
    .reduce<Hoop | undefined>((best, hoop) => (best === undefined || areaOf(hoop) < areaOf(best) ? hoop : best), undefined);
}

const areaOf = ({ width, height }: Hoop): number => width * height;

/** Penetrations outside of a field around a place in the hoop; rows and places of the faults are the design's. */
function listOutside(
  { rowCount, command, x, y }: Program,
  { width, height }: { readonly width: number; readonly height: number },
  place: HoopPlace,
  middle: { readonly x: number; readonly y: number },
): Outside[] {
  const found: Outside[] = [];
  let worst: Outside | undefined;
  for (let row = 0; row < rowCount; row++) {
    if (command[row] !== STITCH) continue;
    const at = toHoop(place, x[row]!, y[row]!);
    const over = Math.max(Math.abs(at.x - middle.x) - width / 2, Math.abs(at.y - middle.y) - height / 2);
    if (over <= 0 || (found.length >= MOST_OUTSIDE && over <= worst!.over)) continue;
    const outside = { row, x: x[row]!, y: y[row]!, over };
    if (worst === undefined || over > worst.over) worst = outside;
    if (found.length < MOST_OUTSIDE) found.push(outside);
  }
  return worst === undefined || worst.row <= found[found.length - 1]!.row ? found : [...found, worst];
}
