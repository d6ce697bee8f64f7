import { COLOR, type Program, STITCH, UNNAMED_THREAD } from '../model/program.ts';
import { type Link, type Plan, type PlanObject } from '../model/plan.ts';
import { rememberFew } from '../model/remember.ts';
import type { StitchObject } from '../model/stitchObject.ts';
import type { Recognition } from '../recognize/recognizeProgram.ts';
import { assemble, type ObjectPlace } from './assemble.ts';
import { countedFrom } from './countedFrom.ts';

/**
 * All objects of a plan with their underlay, travel and ties, in sewing order, their rows counted in the program that is assembled from it; and
 * which of them each row belongs to. Objects whose rows did not move are the same values as before. Worked out once for the plans asked for last. O(rows).
 */
export const objectsOf: (plan: Plan) => Recognition = rememberFew((plan) => {
  const { program, places, ending } = assemble(plan);
  const out: StitchObject[] = [];
  let thread = -1;
  let row = 0;
  let before: PlanObject | undefined;
  for (const place of places) {
    for (; row < place.first; row++) if (program.command[row] === COLOR) thread++;
    const object = plan.objects[place.id]!;
    out.push(...waysOf(program, plan.links[place.id]!, place.link, place.first, place.isWayFound, before ?? object, thread));
    out.push(...placed(object, place, thread, (program.threads[thread] ?? UNNAMED_THREAD).color));
    before = object;
  }
  if (before !== undefined) out.push(...waysOf(program, plan.ending, ending.first, program.rowCount, ending.isFound, before, thread));
  const objects = withLayers(out);
  const ownerOfRow = new Int32Array(program.rowCount).fill(-1);
  for (const [k, { first, last }] of objects.entries())
    for (let i = first; i <= last; i++) if (program.command[i] === STITCH) ownerOfRow[i] = k;
  return { objects, ownerOfRow };
});

const PLACED = new WeakMap<PlanObject, { first: number; thread: number; color: string; isDown: boolean; list: readonly StitchObject[] }>();

/** An object and its parts where they lie, in sewing order. */
function placed(object: PlanObject, { first, isDown }: ObjectPlace, thread: number, color: string): readonly StitchObject[] {
  const known = PLACED.get(object);
  if (known?.first === first && known.thread === thread && known.color === color && known.isDown === isDown) return known.list;
  const { reading, parts, made, edited } = object.sewn;
  const list = [reading, ...parts]
    .map((part): StitchObject => {
      const { made: _, edited: __, ...found } = countedFrom(isDown ? part : fromRow(part, 0), -first);
      const isMain = part === reading;
      return {
        ...found,
        thread,
        color,
        ...(isMain ? { id: object.id, name: object.name } : {}),
        ...(isMain && made !== null ? { made } : {}),
        ...(isMain && object.isLocked === true ? { isLocked: true } : {}),
        ...(isMain && object.piece !== undefined ? { piece: object.piece } : {}),
        ...(isMain && object.heldPull !== undefined ? { heldPull: object.heldPull } : {}),
        ...(isMain && object.own !== null ? { hasOwn: true } : {}),
        ...(isMain && edited > 0 ? { edited } : {}),
      };
    })
    .sort((a, b) => a.first - b.first || b.last - a.last);
  PLACED.set(object, { first, thread, color, isDown, list });
  return list;
}

/** An object without rows before row `least`: those that belong to the way to it, where that leads elsewhere now. */
function fromRow(object: StitchObject, least: number): StitchObject {
  if (object.first >= least) return object;
  const spans = object.spans.map((span) => ({ ...span, first: Math.max(least, span.first) })).filter((span) => span.last >= span.first);
  return { ...object, first: least, spans, stitches: object.stitches - (least - object.first) };
}

/** Ties and travel on a way: as found there, or as was made. */
function waysOf(
  program: Program,
  link: Link,
  first: number,
  end: number,
  isFound: boolean,
  owner: PlanObject,
  thread: number,
): StitchObject[] {
  const color = (program.threads[thread] ?? UNNAMED_THREAD).color;
  if (isFound) return link.ties.map((tie) => ({ ...countedFrom(tie, -first), thread, color }));
  const out: StitchObject[] = [];
  let hasGap = false;
  for (let i = first; i < end; i++) if (program.command[i] !== STITCH) hasGap = true;
  for (let i = first; i < end; i++) {
    if (program.command[i] !== STITCH) continue;
    let last = i;
    while (last + 1 < end && program.command[last + 1] === STITCH) last++;
    // The needle's coming down is no tie.
    const from = i > 0 && program.command[i - 1] === STITCH ? i : i + 1;
    if (from <= last)
      out.push(
        wayPart(program, owner, hasGap ? 'tie' : 'travel', from, last, `${owner.id}.${hasGap ? 'tie' : 'way'}${i - first}`, thread, color),
      );
    i = last;
  }
  return out;
}

function wayPart(
  program: Program,
  owner: PlanObject,
  role: 'tie' | 'travel',
  first: number,
  last: number,
  id: string,
  thread: number,
  color: string,
): StitchObject {
  const { x, y } = program;
  const path = new Float64Array(2 * (last - first + 2));
  for (let i = first - 1; i <= last; i++) path.set([x[i]!, y[i]!], 2 * (i - first + 1));
  return {
    ...{ id, name: `${role} of ${owner.name}`, kind: 'run', role, thread, color, first, last, spans: [{ first, last }] },
    ...(role === 'travel' ? { parent: owner.id } : {}),
    stitches: last - first + 1,
    stitchLength: Math.hypot(x[last]! - x[last - 1]!, y[last]! - y[last - 1]!),
    ...{ passes: 1, path, outline: new Float64Array(0), holes: [], underlay: [], confidence: 1 },
    entry: { x: x[first - 1]!, y: y[first - 1]! },
    exit: { x: x[last]!, y: y[last]! },
  };
}

/** Covers name their layers by rows, too, where these lie now; layers that are gone are not named any more. */
function withLayers(objects: readonly StitchObject[]): StitchObject[] {
  const byId = new Map(objects.map((o) => [o.id, o]));
  return objects.map((object) => {
    if (object.underlay.every((layer) => isWhereItSays(byId.get(layer.object), layer))) return object;
    return {
      ...object,
      underlay: object.underlay.flatMap((layer) => {
        const found = byId.get(layer.object);
        return found === undefined ? [] : [{ ...layer, first: found.first, last: found.last }];
      }),
    };
  });
}

function isWhereItSays(found: StitchObject | undefined, { first, last }: { first: number; last: number }): boolean {
  return found !== undefined && found.first === first && found.last === last;
}
