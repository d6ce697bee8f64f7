import type { MovedEnds, Operation, OrderAsk, ShapeAsk, SpecEdit, Target, WantedEnds } from '@isola/core';
import type { Remote } from 'comlink';
import { computed, ref, type Ref, type ShallowRef, shallowRef } from 'vue';
import type { DesignView, EngineApi, OrderReport, PlanReport, PlanRequest, Trial } from '../workers/protocol.ts';
import { clothWorker, nextProgramNumber } from '../workers/startWorkers.ts';

/** A design as shown: what was measured, and the number by which the drawing worker knows its program. */
export interface ShownDesign {
  readonly number: number;
  readonly view: DesignView;
}

/** What a design would be after a step that is not made yet. */
export interface TriedDesign {
  readonly shown: ShownDesign;
  readonly trial: Trial;
  /** Findings that it would repair, and of one of them the place alone, where that is meant. */
  readonly keys: readonly string[];
  readonly place?: string | undefined;
}

const NOT_OPEN = 'the job is not open any more';
/** Figures wait for the picture no longer than this, ms: a canvas that is not shown never has one. */
const LONGEST_WAIT = 120;

/** Makes a view's program known to the drawing worker. */
export async function showView(view: DesignView): Promise<ShownDesign> {
  const number = nextProgramNumber();
  await clothWorker().setProgram(number, view.program);
  return { number, view };
}

export function forget(shown: ShownDesign | undefined): void {
  if (shown !== undefined) void clothWorker().dropProgram(shown.number);
}

/** A promise that is kept when a trial is dropped. */
function createDrop(): { readonly done: Promise<undefined>; readonly now: () => void } {
  let now: () => void = () => undefined;
  const done = new Promise<undefined>((resolve) => (now = () => resolve(undefined)));
  return { done, now };
}

/** What is being tried on the design `now`: one trial at a time, its stitches on the cloth before its figures are there. */
export function createTrials(
  engine: () => Remote<EngineApi> | undefined,
  now: Readonly<ShallowRef<ShownDesign | undefined>>,
  isBusy: Ref<boolean>,
) {
  const trial = shallowRef<TriedDesign>();
  /** A trial that is still being measured: what the drawing worker knows by its number is sewn anew, all else is as it was. */
  const early = shallowRef<ShownDesign>();
  /** The number of a trial that is being sewn and goes to the drawing worker by itself. */
  const coming = ref<number>();
  const painted = ref(0);
  const shown = computed(() => trial.value?.shown ?? now.value);
  /** What the cloth shows. */
  const pictured = computed(() => early.value ?? shown.value);
  let onPainted: (() => void) | undefined;
  let drop = createDrop();
  const unlessDropped = <T>(work: T): Promise<Awaited<T> | undefined> => Promise.race([work, drop.done]);

  /** Tries the repair of findings; gives whether there is something to repair, or why it cannot be. */
  async function tryRepairs(keys: readonly string[], place?: string): Promise<boolean | string> {
    isBusy.value = true;
    try {
      const result = await engine()?.tryRepairs([...keys], place);
      dropTrial();
      if (result === undefined) return false;
      if ('why' in result) return result.why;
      trial.value = { shown: await showView(result.after), trial: result, keys, place };
      return true;
    } finally {
      isBusy.value = false;
    }
  }

  /** Tries a step as it is said; gives the reason where it does not fit. */
  async function tryOperation(name: string, operation: Operation): Promise<string | undefined> {
    const mine = drop;
    const result = await unlessDropped(engine()?.tryOperation(name, structuredClone(operation)));
    if (drop !== mine) return undefined;
    if (result === undefined || 'why' in result) return result?.why ?? NOT_OPEN;
    await put(result);
    return undefined;
  }

  /** Tries shapes drawn, cut or joined; gives the reason where they cannot be. */
  async function tryShape(name: string, ask: ShapeAsk): Promise<string | undefined> {
    const mine = drop;
    const result = await unlessDropped(engine()?.tryShape(name, structuredClone(ask)));
    if (drop !== mine) return undefined;
    if (result === undefined || 'why' in result) return result?.why ?? NOT_OPEN;
    await put(result);
    return undefined;
  }

  /** Tries an object begun or ended elsewhere; gives where it does then, or why it cannot, or nothing where it was dropped meanwhile. */
  async function tryEnds(id: string, wanted: WantedEnds): Promise<MovedEnds | string | undefined> {
    const mine = drop;
    const result = await unlessDropped(engine()?.tryEnds(id, wanted));
    if (drop !== mine) return undefined;
    if (result === undefined || 'why' in result) return result?.why ?? NOT_OPEN;
    await put(result);
    return result.ends;
  }

  /** Tries a proposed order; gives what it comes to, or nothing where it was dropped meanwhile. */
  async function tryOrder(ask: OrderAsk): Promise<OrderReport | undefined> {
    isBusy.value = true;
    const mine = drop;
    try {
      const result = await unlessDropped(engine()?.proposeOrder(ask));
      if (result === undefined || drop !== mine) return undefined;
      if (result.operation.id === 'sequence' && result.operation.operations.length === 0) dropTrial();
      else await put(result);
      return result.order;
    } finally {
      isBusy.value = false;
    }
  }

  /** Tries a plan of repair up to one of its steps; gives the plan, or nothing where it was dropped meanwhile. */
  async function tryPlan(request: PlanRequest, upTo?: number): Promise<PlanReport | undefined> {
    isBusy.value = true;
    const mine = drop;
    try {
      const result = await unlessDropped(engine()?.planRepairs({ ...request, without: [...request.without] }, upTo));
      if (result === undefined || drop !== mine) return undefined;
      await put(result);
      return result.plan;
    } finally {
      isBusy.value = false;
    }
  }

  async function put(result: Trial): Promise<void> {
    const mine = drop;
    const shown = await showView(result.after);
    // Put back while its picture was on its way: it is not wanted any more.
    if (drop !== mine) return forget(shown);
    const old = trial.value?.shown;
    forget(early.value);
    early.value = undefined;
    trial.value = { shown, trial: result, keys: [] };
    forget(old);
  }

  /**
   * Tries objects sewn anew: the cloth shows them as soon as they are sewn, and what they take is measured after that, unless `isOvertaken` says
   * that something else is wanted by then. Gives the reason where nothing can be sewn.
   */
  async function trySpecs(
    name: string,
    edits: readonly SpecEdit[],
    target?: Target,
    isOvertaken = () => false,
  ): Promise<string | undefined> {
    const mine = drop;
    // With another thread or cloth all of the picture changes: it is shown when it is measured.
    const on = target === undefined ? now.value : undefined;
    const number = on === undefined ? undefined : nextProgramNumber();
    coming.value = number;
    try {
      const sewn = await unlessDropped(
        engine()?.sewSpecs(
          name,
          structuredClone([...edits]),
          target && structuredClone(target),
          on && { number: number!, from: on.number },
        ),
      );
      if (drop !== mine) return undefined;
      if (sewn === undefined || 'why' in sewn) {
        if (number !== undefined) void clothWorker().dropProgram(number);
        // The picture that stays may be one that was overtaken: what can be kept has to be what is shown.
        if (sewn !== undefined && early.value !== undefined) await measureSewn();
        return sewn?.why ?? NOT_OPEN;
      }
      if (on !== undefined) await showEarly({ ...on, number: number! });
    } finally {
      if (coming.value === number) coming.value = undefined;
    }
    if (drop !== mine || isOvertaken() || (await measureSewn())) return undefined;
    return drop === mine ? NOT_OPEN : undefined;
  }

  /** Waits until the cloth shows stitches that are not measured yet, but not for long. */
  async function showEarly(sewn: ShownDesign): Promise<void> {
    forget(early.value);
    early.value = sewn;
    coming.value = undefined;
    if (painted.value === sewn.number) return;
    const isSeen = new Promise<void>((resolve) => (onPainted = resolve));
    await unlessDropped(Promise.race([isSeen, new Promise<void>((resolve) => setTimeout(resolve, LONGEST_WAIT))]));
  }

  async function measureSewn(): Promise<boolean> {
    const mine = drop;
    const measured = await unlessDropped(engine()?.measureSewn());
    if (measured === undefined || drop !== mine) return false;
    const [old, seen] = [trial.value?.shown, early.value];
    early.value = undefined;
    // What the cloth shows already keeps its number and its target, so that it is not drawn again.
    const after = seen === undefined ? await showView(measured.after) : { ...seen, view: { ...measured.after, target: seen.view.target } };
    // The picture of the trial before stays until this one is known to the drawing worker.
    trial.value = { shown: after, trial: measured, keys: [] };
    forget(old);
    return true;
  }

  /** The cloth has a new picture, of the program with this number. */
  function notePicture(number: number): void {
    painted.value = number;
    onPainted?.();
  }

  /** What is being worked out is not wanted any more, whether it is ever done or not. */
  function dropTrial(): void {
    drop.now();
    drop = createDrop();
    if (coming.value !== undefined) void clothWorker().dropProgram(coming.value);
    coming.value = undefined;
    forget(early.value);
    forget(trial.value?.shown);
    early.value = undefined;
    trial.value = undefined;
  }

  return {
    trial,
    shown,
    pictured,
    coming,
    tryRepairs,
    trySpecs,
    tryOperation,
    tryShape,
    tryOrder,
    tryPlan,
    tryEnds,
    painted,
    notePicture,
    dropTrial,
  };
}
