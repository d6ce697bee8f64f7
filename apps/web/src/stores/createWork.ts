import type { AdaptScope, AdaptWay, HoopLayout, PointsAsk, PredictedGap, Rereading, StitchKind, StitchRole, ThreadType } from '@isola/core';
import type { Remote } from 'comlink';
import { ref, type ShallowRef } from 'vue';
import type { EngineApi, Proposal, Side } from '../workers/protocol.ts';
import { clothWorker } from '../workers/startWorkers.ts';
import type { ShownDesign, TriedDesign } from './trials.ts';

/** Steps that take objects for others, worked out and not made; nothing while no job is open. */
interface Proposals {
  join: (ids: readonly string[]) => Promise<Proposal | undefined>;
  split: (id: string, row: number) => Promise<Proposal | undefined>;
  tell: (id: string, as: StitchKind, role: StitchRole) => Promise<Proposal | undefined>;
  readAnew: (ids?: readonly string[]) => Promise<Rereading | undefined>;
}

interface Sides {
  readonly now: ShallowRef<ShownDesign | undefined>;
  readonly before: ShallowRef<ShownDesign | undefined>;
  readonly trial: ShallowRef<TriedDesign | undefined>;
}

/** What the engine of the job on the bench works out without changing it. */
export function createWork(engine: () => Remote<EngineApi> | undefined, { now, before, trial }: Sides) {
  /** Counts the cover maps that were handed to the drawing worker, so that pictures of them are drawn anew. */
  const coverCount = ref(0);

  const propose: Proposals = {
    join: async (ids) => engine()?.join([...ids]),
    split: async (id, row) => engine()?.split(id, row, crypto.randomUUID()),
    tell: async (id, as, role) => engine()?.tell(id, as, role),
    readAnew: async (ids) => engine()?.readAnew(ids && [...ids]),
  };

  const layers = async () => engine()?.layers();
  const layOut = async (layout: HoopLayout) => engine()?.layOut(layout);
  /** `file`: what a machine was given, in place of what the design is written as. */
  const simulate = async (file?: Uint8Array) => engine()?.simulate(file);
  const regroupApplique = async () => engine()?.regroupApplique();
  const orderView = async () => engine()?.orderView();
  const proposeWay = async (id: string, isCutForbidden: boolean) => engine()?.proposeWay(id, isCutForbidden);
  const nodesOf = async (id: string) => engine()?.nodesOf(id);
  const editPoints = async (ask: PointsAsk) => engine()?.editPoints(structuredClone(ask));
  const adaptThread = (thread: ThreadType, way: AdaptWay, scope?: AdaptScope) => engine()?.adaptThread(structuredClone(thread), way, scope);
  const proposeOpening = (budget: number) => engine()?.proposeOpening(budget);

  /** Hands the drawing worker where the penetrations will lie, and gives the gaps that will open. `shown`: one side of a comparison. */
  async function predict(side: Side, shown?: ShownDesign): Promise<readonly PredictedGap[]> {
    const target = shown ?? (side === 'trial' ? trial.value?.shown : now.value);
    const prediction = await engine()?.predict(side);
    if (prediction === undefined || target === undefined) return [];
    await clothWorker().setSewn(target.number, prediction.x, prediction.y);
    coverCount.value++;
    return prediction.gaps;
  }

  async function cover(side: Side, shown?: ShownDesign): Promise<void> {
    const target = shown ?? (side === 'trial' ? trial.value?.shown : side === 'before' ? before.value : now.value);
    const map = target === undefined ? undefined : await engine()?.cover(side);
    if (map === undefined || target === undefined) return;
    await clothWorker().setCover(target.number, map);
    coverCount.value++;
  }

  return {
    coverCount,
    propose,
    layers,
    layOut,
    regroupApplique,
    simulate,
    orderView,
    proposeWay,
    nodesOf,
    editPoints,
    adaptThread,
    proposeOpening,
    predict,
    cover,
  };
}
