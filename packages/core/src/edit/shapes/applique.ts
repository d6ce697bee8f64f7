import { offsetRings } from '../../geometry/offset.ts';
import type { Design } from '../../model/design.ts';
import type { ObjectSpec } from '../../model/objectSpec.ts';
import type { ObjectId } from '../../model/plan.ts';
import { fail, type Result } from '../../model/result.ts';
import { asClosedLine, coversAmong, Drawing, type Drawn, type NewId, edgesOf, nextAfter, specFor, threadOf } from './drawing.ts';

export interface AppliqueAsk {
  readonly objects: readonly ObjectId[];
  /** Width of the satin that covers the cloth's edge, mm: 2, or 2.5 to 3 with batting. */
  readonly cover: number;
  readonly tack: 'zigzag' | 'run';
}

/** The tack-down lies in the middle of the inner half of the cover, which hides it; a zigzag is as wide as that, and so far (mm) from stitch to stitch. */
const TACK_SHARE = 0.25;
const TACK_PITCH = 2;

/**
 * Makes closed shapes applique: placement lines, a stop to lay the cloth, tack-downs, a stop to cut it, covers, each step for all pieces, with a color of
 * its own so that the machine stops. The shapes themselves are not sewn any more: the cloth takes their place.
 */
export function applique(design: Design, { objects, cover, tack }: AppliqueAsk, newId: NewId): Result<Drawn, string> {
  const pieces = coversAmong(design, objects).flatMap((object) => {
    const [outline] = edgesOf(design, object.id);
    return outline === undefined ? [] : [{ object, outline }];
  });
  if (pieces.length === 0) return fail('only closed shapes can be applique');
  const drawing = new Drawing(design, newId);
  const before = nextAfter(
    design,
    pieces.map(({ object }) => object.id),
  );
  const { target } = design;
  const line = specFor(target, 'run');
  const steps = [
    { role: 'placement', what: 'Placement line', spec: line, inset: 0, stop: undefined },
    {
      role: 'tackdown',
      what: 'Tack-down',
      spec: tack === 'run' ? line : tackSpec(target, 2 * TACK_SHARE * cover),
      inset: TACK_SHARE * cover,
      stop: LAY,
    },
    { role: 'cover', what: 'Cover', spec: { ...specFor(target, 'satin', { width: cover }), pull: 0 }, inset: 0, stop: CUT },
  ] as const;
  for (const { role, what, spec, inset, stop } of steps) {
    let first: ObjectId | undefined;
    for (const [k, { object, outline }] of pieces.entries()) {
      const [ring] = inset === 0 ? [outline] : offsetRings([outline], -inset);
      if (ring === undefined) return fail(`${object.name} is too narrow for a tack-down ${inset} mm inside its edge`);
      const thread = threadOf(design, object.color);
      const name = `${what} of ${object.name}`.slice(0, 200);
      // The first of each step opens a block of its own, which the others join where they have its thread.
      const isJoining = first !== undefined && object.color === pieces[0]!.object.color;
      const opens = isJoining ? { beside: first } : { isApart: true as const };
      const added = drawing.add({ name, role, thread, before, spec, shape: asClosedLine(ring), ...opens });
      if (!added.ok) return added;
      first ??= added.value;
      if (k > 0 || stop === undefined) continue;
      const stopped = drawing.stop(added.value, stop);
      if (!stopped.ok) return stopped;
    }
  }
  const removed = drawing.remove(pieces.map(({ object }) => object.id));
  if (!removed.ok) return removed;
  drawing.notes.push('stop the machine before reaching in: the cloth is laid and cut while it stands still');
  return drawing.finish();
}

const LAY = 'Lay the cloth over the lines';
const CUT = 'Cut the cloth close to the stitches';

function tackSpec(target: Design['target'], width: number): ObjectSpec {
  return { ...specFor(target, 'satin', { width, spacing: TACK_PITCH, underlay: [] }), pull: 0 };
}
