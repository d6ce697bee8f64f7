import type { HistoryStep } from '@isola/contract';
import { type ObjectChange, partingOf, type StateName, type StitchObject } from '@isola/core';
import { computed, ref, shallowRef, watch } from 'vue';
import type { Comparison, Judged } from '../workers/compareProtocol.ts';
import type { DesignView } from '../workers/protocol.ts';
import { clothWorker } from '../workers/startWorkers.ts';
import { useBench } from './bench.ts';
import { defineDocumentStore } from './documentStore.ts';
import { useHistory } from './history.ts';
import { forget, type ShownDesign, showView } from './trials.ts';

export interface ShownSide {
  readonly shown: ShownDesign;
  /** Indices of its objects that differ from the other side. */
  readonly differing: readonly number[];
}

/** Two states of the job on the bench beside each other: by default the file as it came and the design as it is now. */
export const useComparing = defineDocumentStore('comparing', (document) => {
  const bench = useBench(document);
  const history = useHistory(document);
  const one = ref<StateName>('file');
  const other = ref<StateName>('now');
  const sides = shallowRef<{ readonly one: ShownSide; readonly other: ShownSide; readonly changes: Comparison['changes'] }>();
  /** What takes longer to know of both; none until it is known. */
  const judged = shallowRef<Judged>();
  const isWorking = ref(false);
  const problem = ref<string>();
  /** Counts what the drawing worker was told of both, so that pictures of it are drawn anew. */
  const stamp = ref(0);
  let ticket = 0;
  let isShown = false;

  async function compare(): Promise<void> {
    const mine = ++ticket;
    isWorking.value = true;
    problem.value = undefined;
    try {
      const result = await bench.compareStates(one.value, other.value);
      if (mine !== ticket || result === undefined) return;
      const [a, b] = await Promise.all([handOver(result.one, result.changes), handOver(result.other, result.changes)]);
      if (mine !== ticket) return [a, b].forEach(({ shown }) => forget(shown));
      const old = sides.value;
      judged.value = undefined;
      sides.value = { one: a, other: b, changes: result.changes };
      stamp.value++;
      [old?.one.shown, old?.other.shown].forEach(forget);
      const known = await bench.judgeStates();
      if (mine === ticket) judged.value = known;
    } catch (error) {
      if (mine === ticket) problem.value = error instanceof Error ? error.message : String(error);
    } finally {
      if (mine === ticket) isWorking.value = false;
    }
  }

  watch([one, other, () => bench.now?.view], () => {
    if (isShown) void compare();
  });

  /** Compares until what is given back is called. */
  function show(): () => void {
    isShown = true;
    void compare();
    const stopHistory = history.show();
    return () => {
      isShown = false;
      ticket++;
      stopHistory();
      [sides.value?.one.shown, sides.value?.other.shown].forEach(forget);
      sides.value = undefined;
    };
  }

  /** What of each is seen for a view of the cloth. */
  async function showAs(kind: 'cover' | 'sewn'): Promise<void> {
    const at = sides.value;
    if (at === undefined) return;
    const act = kind === 'cover' ? bench.cover : bench.predict;
    await Promise.all([act('one', at.one.shown), act('other', at.other.shown)]);
    stamp.value++;
  }

  const stepOf = (name: StateName): string | null => (name === 'now' ? history.now : name === 'file' || name === 'start' ? null : name);
  /** The steps from a state to the one where both part, oldest first; nothing where no steps lead to one of them. */
  function stepsSince(name: StateName, parting: string | null): readonly HistoryStep[] {
    const known = new Map(history.steps.map((step) => [step.id, step]));
    const steps: HistoryStep[] = [];
    for (let at = stepOf(name); at !== null && at !== parting; at = known.get(at)?.parent ?? null) {
      const step = known.get(at);
      if (step !== undefined) steps.push(step);
    }
    return steps.reverse();
  }
  const isOfSteps = computed(() => ![one.value, other.value].some((name) => name.startsWith('kept ')));
  const parting = computed(() => partingOf(history.steps, stepOf(one.value), stepOf(other.value)));
  /** What leads to each of the two from where they part. */
  const onlyIn = computed(() => ({
    one: isOfSteps.value ? stepsSince(one.value, parting.value) : [],
    other: isOfSteps.value ? stepsSince(other.value, parting.value) : [],
  }));

  return { one, other, sides, judged, isWorking, problem, stamp, show, showAs, onlyIn, isOfSteps };
});

async function handOver(view: DesignView, changes: readonly ObjectChange[] | undefined): Promise<ShownSide> {
  const shown = await showView(view);
  const { objects } = view;
  if (objects === undefined) return { shown, differing: [] };
  await clothWorker().setObjects(shown.number, {
    ownerOfRow: objects.ownerOfRow.slice(),
    roles: objects.objects.map(({ role }) => role),
    levels: new Int32Array(objects.objects.length),
  });
  return { shown, differing: differingOf(view, changes ?? []) };
}

/** Objects that are not sewn alike, with what belongs to them; those that only moved in the order are not seen to. */
function differingOf({ objects }: DesignView, changes: readonly ObjectChange[]): number[] {
  const isSeen = ({ kinds }: ObjectChange): boolean => kinds.some((kind) => kind !== 'moved' && kind !== 'renamed' && kind !== 'way');
  const ids = new Set(changes.filter(isSeen).map(({ object }) => object));
  const whole = ({ id, parent }: StitchObject): string => parent ?? id.split('.')[0]!;
  return objects!.objects.flatMap((object, k) => (ids.has(object.id) || ids.has(whole(object)) ? [k] : []));
}
