import { offsetRings } from '../../geometry/offset.ts';
import type { Design } from '../../model/design.ts';
import type { ObjectSpec } from '../../model/objectSpec.ts';
import type { ObjectId } from '../../model/plan.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import type { StitchObject } from '../../model/stitchObject.ts';
import { asClosedLine, coversAmong, Drawing, type Drawn, type NewId, edgesOf, nextAfter, specFor, threadOf } from './drawing.ts';

export const APPLIQUE_COVERS = ['satin', 'edge'] as const;

export interface AppliqueAsk {
  readonly objects: readonly ObjectId[];
  /** Width of the satin that covers the cloth's edge, mm: 2, or half a millimetre more with batting. */
  readonly cover: number;
  readonly tack: 'zigzag' | 'run';
  readonly as: (typeof APPLIQUE_COVERS)[number];
  readonly batting: boolean;
  /** Each step for all pieces one after another, or all steps of a piece before the next one. */
  readonly regroup: boolean;
  readonly lay?: string | undefined;
  readonly cut?: string | undefined;
  /** The color of the cloth that is laid; none: that of what the piece was sewn with. */
  readonly cloth?: string | undefined;
}

/** The tack-down lies in the middle of the inner half of the cover, which hides it; a zigzag is as wide as that, and so far (mm) from stitch to stitch. */
const TACK_SHARE = 0.25;
const TACK_PITCH = 2;
/** Batting under the cloth takes so much more cover, mm. Common practice. */
const BATTING = 0.5;

interface Piece {
  readonly object: StitchObject;
  readonly outline: Float64Array;
}

interface Step {
  readonly role: 'placement' | 'tackdown' | 'cover';
  readonly what: string;
  readonly spec: ObjectSpec;
  /** How far inside the edge it lies, mm. */
  readonly inset: number;
  /** What the machine stops for before it. */
  readonly stop: string | undefined;
}

/**
 * Makes closed shapes applique: placement lines, a stop to lay the cloth, tack-downs, a stop to cut it, covers, each step with a color of its own so
 * that the machine stops; for all pieces together, or piece by piece. The shapes themselves are not sewn any more: the cloth takes their place.
 */
export function applique(design: Design, ask: AppliqueAsk, newId: NewId): Result<Drawn, string> {
  const pieces = coversAmong(design, ask.objects).flatMap((object) => {
    const [outline] = edgesOf(design, object.id);
    return outline === undefined ? [] : [{ object, outline }];
  });
  if (pieces.length === 0) return fail('only closed shapes can be applique');
  const drawing = new Drawing(design, newId);
  const before = nextAfter(
    design,
    pieces.map(({ object }) => object.id),
  );
  const steps = stepsOf(design, ask);
  for (const group of ask.regroup ? [pieces] : pieces.map((piece) => [piece]))
    for (const step of steps) {
      const sewn = sewStep(drawing, step, group, before, ask.cloth);
      if (!sewn.ok) return sewn;
    }
  const removed = drawing.remove(pieces.map(({ object }) => object.id));
  if (!removed.ok) return removed;
  drawing.notes.push('stop the machine before reaching in: the cloth is laid and cut while it stands still');
  return drawing.finish();
}

function stepsOf({ target }: Design, { cover, tack, as, batting, lay, cut }: AppliqueAsk): Step[] {
  const line = specFor(target, 'run');
  const width = cover + (batting ? BATTING : 0);
  // Prongs of an edge stitch reach inward from the edge; a satin lies on it.
  const over = as === 'edge' ? specFor(target, 'edge-stitch', { width }) : { ...specFor(target, 'satin', { width }), pull: 0 };
  const inset = TACK_SHARE * width;
  const tackSpec = { ...specFor(target, 'satin', { width: 2 * inset, spacing: TACK_PITCH, underlay: [] }), pull: 0 };
  return [
    { role: 'placement', what: 'Placement line', spec: line, inset: 0, stop: undefined },
    { role: 'tackdown', what: 'Tack-down', spec: tack === 'run' ? line : tackSpec, inset, stop: lay ?? LAY },
    { role: 'cover', what: 'Cover', spec: over, inset: 0, stop: cut ?? CUT },
  ];
}

const LAY = 'Lay the cloth over the lines';
const CUT = 'Cut the cloth close to the stitches';

/** Sews one step of some pieces. */
function sewStep(
  drawing: Drawing,
  { role, what, spec, inset, stop }: Step,
  pieces: readonly Piece[],
  before: ObjectId | null,
  cloth: string | undefined,
): Result<undefined, string> {
  const { target } = drawing.design;
  let first: ObjectId | undefined;
  for (const { object, outline } of pieces) {
    const [ring] = inset === 0 ? [outline] : offsetRings([outline], -inset);
    if (ring === undefined) return fail(`${object.name} is too narrow for a tack-down ${inset} mm inside its edge`);
    const thread = threadOf(drawing.design, object.color);
    const name = `${what} of ${object.name}`.slice(0, 200);
    // The first of each step opens a block of its own, which the others join where they have its thread.
    const isJoining = first !== undefined && object.color === pieces[0]!.object.color;
    const opens = isJoining ? { beside: first } : { isApart: true as const };
    const added = drawing.add({ name, role, thread, before, spec, shape: asClosedLine(ring), ...opens });
    if (!added.ok) return added;
    if (role === 'placement') {
      const piece = { color: cloth ?? object.color, look: target.fabric.look };
      const laid = drawing.perform({ id: 'lay-cloth', object: added.value, piece });
      if (!laid.ok) return laid;
    }
    if (first === undefined && stop !== undefined) {
      const stopped = drawing.stop(added.value, stop);
      if (!stopped.ok) return stopped;
    }
    first ??= added.value;
  }
  return succeed(undefined);
}
