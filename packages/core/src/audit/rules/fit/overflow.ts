import { STITCH } from '../../../model/program.ts';
import type { AuditContext } from '../../AuditContext.ts';
import { describeRows } from '../../describeRows.ts';
import type { Finding } from '../../finding.ts';
import type { Rule } from '../../rule.ts';

/** How far a design may stand over a limit before it is said, mm: below what a hoop can be set by. */
const SLACK = 0.05;

export const hoopOverflow: Rule = {
  id: 'hoop-overflow',
  group: 'fit',
  title: 'Outside the hoop',
  measures: "how far penetrations reach beyond the hoop's field, which is centred on the origin",
  unit: 'mm',
  why: 'A needle that hits the frame breaks and flies. The machine may refuse the design, or not.',
  source: 'common practice',
  limit: () => 0,
  find(context) {
    const { hoop } = context.target;
    const { extents } = context.counts;
    const over = Math.max(
      extents.maxX - hoop.width / 2,
      -hoop.width / 2 - extents.minX,
      extents.maxY - hoop.height / 2,
      -hoop.height / 2 - extents.minY,
    );
    if (over <= SLACK) return [];
    const fits = extents.width <= hoop.width && extents.height <= hoop.height;
    const dx = -(extents.minX + extents.maxX) / 2;
    const dy = -(extents.minY + extents.maxY) / 2;
    return [
      describeOverflow(context, hoopOverflow, hoop.width, hoop.height, 0, 0, {
        severity: 'stop',
        measured: over,
        limit: 0,
        message: `The needle would leave the field of the ${hoop.name} hoop by ${over.toFixed(1)} mm`,
        reason: 'A needle that hits the frame breaks and flies. Check that the design clears the hoop, and wear eye protection.',
        advice: fits
          ? `It fits when it is moved by ${dx.toFixed(1)}, ${dy.toFixed(1)} mm to the hoop's center.`
          : 'Take a larger hoop, or have the design made smaller.',
      }),
    ];
  },
};

export const zoneOverflow: Rule = {
  id: 'zone-overflow',
  group: 'fit',
  title: 'Larger than its place',
  measures: "width and height against the garment place's zone",
  unit: 'mm',
  why: 'What reaches over seams, plackets and pocket edges sews on two thicknesses, shifts, and looks lost on the garment.',
  source: 'from memory',
  limit: (target) => target.garment?.width ?? Infinity,
  find(context) {
    const { garment } = context.target;
    if (garment === null) return [];
    const { extents } = context.counts;
    const wide = extents.width - garment.width;
    const high = extents.height - garment.height;
    if (Math.max(wide, high) <= SLACK) return [];
    const isWide = wide >= high;
    const measured = isWide ? extents.width : extents.height;
    const limit = isWide ? garment.width : garment.height;
    const x = (extents.minX + extents.maxX) / 2;
    const y = (extents.minY + extents.maxY) / 2;
    return [
      describeOverflow(context, zoneOverflow, garment.width, garment.height, x, y, {
        severity: measured > limit * 1.1 ? 'stop' : 'fix',
        measured,
        limit,
        message: `${measured.toFixed(1)} mm ${isWide ? 'wide' : 'high'}; the ${garment.name} takes ${limit}`,
        reason: 'It reaches onto seams and edges, where it sews on two thicknesses and shifts.',
        advice: 'Have it made smaller, or choose another place. Scaling stitches changes their spacing with the size.',
      }),
    ];
  },
};

function describeOverflow(
  context: AuditContext,
  rule: Rule,
  width: number,
  height: number,
  centerX: number,
  centerY: number,
  words: Pick<Finding, 'severity' | 'measured' | 'limit' | 'message' | 'reason' | 'advice'>,
): Finding {
  const { program } = context;
  const rows: number[] = [];
  let worst = 0;
  let farthest = -1;
  for (let i = 0; i < program.rowCount; i++) {
    if (program.command[i] !== STITCH) continue;
    const over = Math.max(Math.abs(program.x[i]! - centerX) - width / 2, Math.abs(program.y[i]! - centerY) - height / 2);
    if (over <= 0) continue;
    rows.push(i);
    if (over > farthest) {
      farthest = over;
      worst = i;
    }
  }
  return { ...describeRows(context, rule.id, rows, worst), key: rule.id, unit: 'mm', cost: { seconds: 0, stitches: 0 }, ...words };
}
