import { computed, ref, shallowRef, watch } from 'vue';
import type { PlanReport } from '../workers/protocol.ts';
import { useBench } from './bench.ts';
import { defineDocumentStore } from './documentStore.ts';

/** The plan of repair on the bench: worked out, walked through step by step, with steps left out, made as one. */
export const useRepairPlan = defineDocumentStore('repairPlan', (document) => {
  const bench = useBench(document);
  const report = shallowRef<PlanReport>();
  const isWorking = ref(false);
  /** Ids of steps that were left out. */
  const without = ref<ReadonlySet<string>>(new Set());
  /** Whether a plan is what is being tried. */
  const isShown = computed(() => report.value !== undefined && bench.trial?.trial.plan !== undefined);

  watch(
    () => bench.trial?.trial.plan,
    (plan) => {
      if (plan === undefined) report.value = undefined;
    },
  );

  async function ask(isFree: boolean, upTo?: number): Promise<void> {
    isWorking.value = true;
    try {
      report.value = await bench.tryPlan({ without: [...without.value].sort(), isFree }, upTo);
    } finally {
      isWorking.value = false;
    }
  }

  /** Works out the whole repair, or what of it costs nothing; steps left out before come in again. */
  async function propose(isFree = false): Promise<void> {
    without.value = new Set();
    await ask(isFree);
  }

  /** Leaves a step out, or takes it in again. */
  async function toggle(id: string): Promise<void> {
    const next = new Set(without.value);
    if (!next.delete(id)) next.add(id);
    without.value = next;
    await ask(report.value?.isFree ?? false);
  }

  /** Shows the design after so many steps. */
  async function walkTo(upTo: number): Promise<void> {
    if (report.value !== undefined) await ask(report.value.isFree, upTo);
  }

  return { report, isWorking, isShown, without, propose, toggle, walkTo };
});
