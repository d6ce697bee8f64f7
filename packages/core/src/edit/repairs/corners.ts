import { type Fan, fansOf } from '../../audit/rules/look/cornerFan.ts';
import type { ObjectFault } from '../../audit/rules/objectFault.ts';
import { generateEdgeStitch } from '../../generate/line/edgeStitch.ts';
import { roundToThousandth } from '../../geometry/number.ts';
import type { Design } from '../../model/design.ts';
import { type Patch, replaceRows } from '../../model/patch.ts';
import { placeOf } from '../../plan/assemble.ts';
import type { RowEdit } from '../operations/editRows.ts';
import { printRows } from '../operations/printOf.ts';
import { readObjectShape, readObjectSpec } from '../sewSpecs.ts';
import { asRepairer, type Repaired, type Repairer } from './repairer.ts';
import { layOutAnew } from './specRepairs.ts';

/** A foot that was laid out lies so near (as a share of the way from prong to prong) to the one that it stands for. */
const NEAR = 0.6;

/**
 * Lays corners of edge stitches out anew. Where all that fan out are meant, the whole stitch is sewn anew; where some are, each of those gets one prong
 * on its bisector in place of its fan, and every other stitch stays where it is.
 */
export const rebuildCorners: Repairer = asRepairer<ObjectFault>((ask) => {
  const whole: ObjectFault[] = [];
  const edits: RowEdit[] = [];
  const refused: { objects: string[]; why: string }[] = [];
  for (const object of new Set(ask.faults.map((fault) => fault.object))) {
    const asked = ask.faults.filter((fault) => fault.object === object);
    const fans = fansOf(ask.context, asked[0]!.of).filter(({ prongs }) => prongs > ask.limit);
    if (asked.length >= fans.length) whole.push(...asked);
    else {
      const edit = setProngs(
        ask.design,
        object,
        fans.filter(({ at }) => asked.some(({ x, y }) => x === at.x && y === at.y)),
      );
      if (typeof edit === 'string') refused.push({ objects: [object], why: `${asked[0]!.of.name}: ${edit}` });
      else edits.push(edit);
    }
  }
  const anew: Repaired = whole.length === 0 ? { operations: [], refused: [] } : layOutAnew({ ...ask, faults: whole });
  return {
    operations: [...(edits.length === 0 ? [] : [{ id: 'edit-rows' as const, edits }]), ...anew.operations],
    refused: [...refused, ...anew.refused],
  };
});

/** One prong for each of some fans of an object, as it would be laid out; the reason where nothing tells how. */
function setProngs(design: Design, object: string, fans: readonly Fan[]): RowEdit | string {
  const [spec, shape] = [readObjectSpec(design, object), readObjectShape(design, object)];
  if (!spec.ok) return spec.error;
  if (!shape.ok) return shape.error;
  if (shape.value.kind !== 'line') return 'its line could not be told';
  const laid = generateEdgeStitch(Float64Array.from(shape.value.path), { spacing: spec.value.spacing, prong: spec.value.width });
  const { first, end } = placeOf(design.plan, object);
  const patches: Patch[] = [];
  for (const { row, last, at } of fans) {
    const prong = nearestProng(laid, at, NEAR * spec.value.spacing);
    if (prong === undefined) return 'a corner of it could not be told';
    const tip = { x: roundToThousandth(at.x + prong[0]), y: roundToThousandth(at.y + prong[1]) };
    const patch = replaceRows(design.program, row + 1, last - row, [
      { command: 'stitch', ...tip },
      { command: 'stitch', x: at.x, y: at.y },
    ]);
    patches.push({ ...patch, at: patch.at - first });
  }
  return { object, part: 'rows', was: printRows(design.program, first, end), patches };
}

/** What the prong adds to the foot that was laid out nearest to a place. */
function nearestProng(laid: Float64Array, { x, y }: Fan['at'], within: number): readonly [number, number] | undefined {
  let best: readonly [number, number] | undefined;
  let least = within;
  for (let k = 0; k + 5 < laid.length; k += 2) {
    if (laid[k] !== laid[k + 4] || laid[k + 1] !== laid[k + 5]) continue;
    const away = Math.hypot(laid[k]! - x, laid[k + 1]! - y);
    if (away <= least) [best, least] = [[laid[k + 2]! - laid[k]!, laid[k + 3]! - laid[k + 1]!], away];
  }
  return best;
}
