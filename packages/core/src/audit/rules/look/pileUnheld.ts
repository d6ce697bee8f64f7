import { boxOfRing } from '../../../geometry/ring.ts';
import { OPEN_FROM } from '../../../materials/specBands.ts';
import { areaOf, liesOn } from '../../../order/areas.ts';
import type { StitchObject } from '../../../model/stitchObject.ts';
import type { AuditContext } from '../../AuditContext.ts';
import type { Rule } from '../../rule.ts';
import { faultOf, type ObjectFault, priceOfStitches } from '../objectFault.ts';
import { USUAL_RULES } from '../../../model/target.ts';

/** Cloth whose pile stands this high (mm) has to be held down. From memory. */
const STANDS = 1.5;
/** A layer that reaches under so much of the design (percent) holds it. */
const HELD = 80;

export const pileUnheld: Rule<ObjectFault> = {
  id: 'pile-unheld',
  group: 'look',
  scope: 'design',
  title: 'Nothing holds the pile down',
  measures: 'how much of the design has a nap-holding layer under it',
  unit: '%',
  why: 'On pile, lay an open fill in the cloth’s color first, a margin wider than the design: what is sewn on it stays on top, for good. A soluble topping holds for the sewing only.',
  source: 'common practice',
  limit: () => HELD,
  list(context, limit) {
    if (context.target.fabric.pile < STANDS || context.areas.length === 0) return [];
    const held = shareHeld(context) * 100;
    return held < limit ? [faultOf(context, context.covers[0]!, held)] : [];
  },
  say(context, faults, limit) {
    const { target } = context;
    const { topping } = (target.rules ?? USUAL_RULES).schools;
    const film = topping === 'without' ? '' : '; the topping goes on after it and before the design';
    return {
      severity: 'fix',
      ...{ measured: faults[0]!.value, limit },
      message:
        faults[0]!.value < 5
          ? 'no nap-holding layer under the design'
          : `the nap-holding layer reaches under ${Math.round(faults[0]!.value)} % of the design`,
      reason: `${target.fabric.name} stands ${target.fabric.pile.toFixed(1)} mm high and will come up between the stitches.`,
      cost: priceOfStitches(context, -STITCHES_PER_AREA * context.areas.reduce((sum, area) => sum + areaOf(area), 0)),
      fix: `Sew an open layer in the cloth’s color first, a margin wider than the design${film}`,
    };
  },
  mend: 'open layer under the design',
};

/** Rows 0.8 mm apart in stitches of 4 mm, on an area a quarter larger than what lies on it: stitches on each mm² of the design. */
const STITCHES_PER_AREA = 1.25 / (0.8 * 4);

/** Which share of all areas lies on an open layer that is sewn before any closed one. */
function shareHeld({ covers }: AuditContext): number {
  const layers = covers.slice(0, firstClosed(covers)).filter((object) => object.outline.length >= 6);
  if (layers.length === 0) return 0;
  let [inside, held] = [0, 0];
  for (const object of covers) {
    if (layers.includes(object) || object.outline.length < 6) continue;
    const [minX, minY, maxX, maxY] = boxOfRing(object.outline);
    for (let x = minX + LOOK / 2; x < maxX; x += LOOK)
      for (let y = minY + LOOK / 2; y < maxY; y += LOOK) {
        if (!liesOn(object, x, y)) continue;
        inside++;
        if (layers.some((layer) => liesOn(layer, x, y))) held++;
      }
  }
  return inside === 0 ? 1 : held / inside;
}

/** Areas are looked at every so many mm. */
const LOOK = 1.5;

function firstClosed(covers: readonly StitchObject[]): number {
  const at = covers.findIndex(({ spacing, kind, pattern }) => pattern === undefined && (kind === 'run' || (spacing ?? 0) < OPEN_FROM));
  return at < 0 ? covers.length : at;
}
