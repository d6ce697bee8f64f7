import type { Extents } from '../../../measure/counts.ts';
import { type Program, STITCH } from '../../../model/program.ts';
import type { Hoop } from '../../../model/target.ts';
import { findWorst } from '../../findFaults.ts';
import type { Fault, Rule } from '../../rule.ts';

/** How far a design may stand over a limit before it is said, mm: below what a hoop can be set by. */
const SLACK = 0.05;

export const hoopOverflow: Rule<Outside> = {
  id: 'hoop-overflow',
  group: 'fit',
  scope: 'design',
  by: 'all',
  title: 'Outside the hoop',
  measures: "how far penetrations reach beyond the hoop's field, which is centred on the origin",
  unit: 'mm',
  why: 'A needle that hits the frame breaks and flies. The machine may refuse the design, or not.',
  source: 'common practice',
  limit: () => 0,
  list({ counts, target, program }) {
    const { hoop } = target;
    return overBy(counts.extents, hoop) <= SLACK ? [] : listOutside(program, hoop.width, hoop.height, 0, 0);
  },
  say({ target, counts }, faults) {
    const { hoop } = target;
    const { extents } = counts;
    const over = overBy(extents, hoop);
    const fits = extents.width <= hoop.width && extents.height <= hoop.height;
    const dx = -(extents.minX + extents.maxX) / 2;
    const dy = -(extents.minY + extents.maxY) / 2;
    return {
      worst: findWorst(faults, (f) => f.over),
      severity: 'stop',
      measured: over,
      limit: 0,
      message: `The needle would leave the field of the ${hoop.name} hoop by ${over.toFixed(1)} mm`,
      reason: 'A needle that hits the frame breaks and flies. Check that the design clears the hoop, and wear eye protection.',
      cost: NO_COST,
      advice: fits
        ? `It fits when it is moved by ${dx.toFixed(1)}, ${dy.toFixed(1)} mm to the hoop's center.`
        : 'Take a larger hoop, or have the design made smaller.',
    };
  },
};

export const zoneOverflow: Rule<Outside> = {
  id: 'zone-overflow',
  group: 'fit',
  scope: 'design',
  by: 'all',
  title: 'Larger than its place',
  measures: "width and height against the garment place's zone",
  unit: 'mm',
  why: 'What reaches over seams, plackets and pocket edges sews on two thicknesses, shifts, and looks lost on the garment.',
  source: 'from memory',
  limit: (target) => target.garment?.width ?? Infinity,
  list({ target, counts, program }) {
    const { garment } = target;
    const { extents } = counts;
    if (garment === null || Math.max(extents.width - garment.width, extents.height - garment.height) <= SLACK) return [];
    const x = (extents.minX + extents.maxX) / 2;
    const y = (extents.minY + extents.maxY) / 2;
    return listOutside(program, garment.width, garment.height, x, y);
  },
  say({ target, counts }, faults) {
    const garment = target.garment!;
    const { extents } = counts;
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

function listOutside({ rowCount, command, x, y }: Program, width: number, height: number, centerX: number, centerY: number): Outside[] {
  const found: Outside[] = [];
  let worst: Outside | undefined;
  for (let row = 0; row < rowCount; row++) {
    if (command[row] !== STITCH) continue;
    const over = Math.max(Math.abs(x[row]! - centerX) - width / 2, Math.abs(y[row]! - centerY) - height / 2);
    if (over <= 0 || (found.length >= MOST_OUTSIDE && over <= worst!.over)) continue;
    const outside = { row, x: x[row]!, y: y[row]!, over };
    if (worst === undefined || over > worst.over) worst = outside;
    if (found.length < MOST_OUTSIDE) found.push(outside);
  }
  return worst === undefined || worst.row <= found[found.length - 1]!.row ? found : [...found, worst];
}
