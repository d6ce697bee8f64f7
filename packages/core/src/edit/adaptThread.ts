import { habitFactor, pitchFactor } from '../materials/pitchFactor.ts';
import type { Design } from '../model/design.ts';
import { threadThickness, type ThreadType } from '../model/thread.ts';
import type { StitchObject } from '../model/stitchObject.ts';
import { objectsOf } from '../plan/objectsOf.ts';
import { readObjectSpec, type SpecEdit } from './sewSpecs.ts';

/** By thickness a pitch goes with the root of tex; by the habit a third comes off the density with each weight down. */
export const ADAPT_WAYS = ['thickness', 'third-off'] as const;
export type AdaptWay = (typeof ADAPT_WAYS)[number];

/** One layer of cover takes no more than this share of what a cloth bears. */
const SHARE_OF_LIMIT = 0.9;

export interface ThreadAdaption {
  readonly edits: readonly SpecEdit[];
  /** By how much pitches grow. */
  readonly factor: number;
  /** How many objects were held by the cloth's cover limit. */
  readonly held: number;
}

/** How many times as wide pitches get when one thread gives way to another. */
export function adaptFactor(from: Pick<ThreadType, 'weight'>, to: Pick<ThreadType, 'weight'>, way: AdaptWay): number {
  return way === 'thickness' ? pitchFactor(to) / pitchFactor(from) : habitFactor(to.weight) / habitFactor(from.weight);
}

/** What of a design goes to the other thread: all of it, what is sewn in one color, or some objects by their ids. */
export type AdaptScope = { readonly color: string } | { readonly objects: readonly string[] };

/** The spec edits that fit a design, or a part of it, to another thread from the one that it was made for; never closer than the cloth bears. */
export function adaptThread(design: Design, thread: ThreadType, way: AdaptWay, scope?: AdaptScope): ThreadAdaption {
  const isMeant = ({ id, color }: StitchObject): boolean =>
    scope === undefined || ('color' in scope ? scope.color === color : scope.objects.includes(id));
  const { fabric, thread: used, madeFor = used } = design.target;
  const factor = adaptFactor(madeFor, thread, way);
  const closest = (2 * threadThickness(thread)) / (SHARE_OF_LIMIT * fabric.maxCover);
  let held = 0;
  const edits = objectsOf(design.plan).objects.flatMap((object): SpecEdit[] => {
    if (design.plan.objects[object.id] === undefined || object.role !== 'cover' || object.spacing === undefined || !isMeant(object))
      return [];
    const spec = readObjectSpec(design, object.id);
    if (!spec.ok) return [];
    const wanted = spec.value.spacing * factor;
    if (wanted < closest) held++;
    const spacing = Math.round(Math.max(wanted, closest) * 1000) / 1000;
    return Math.abs(spacing - spec.value.spacing) < 0.005
      ? []
      : [{ object: object.id, spec: { ...spec.value, spacing: Math.min(20, spacing) } }];
  });
  return { edits, factor, held };
}
