<script setup lang="ts">
import { mdiSwapHorizontal } from '@mdi/js';
import { computed, onBeforeUnmount, onMounted, useTemplateRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import type { ClothViewHandle } from '../../bench/cloth/handles.ts';
import ChoiceField from '../../bench/fields/ChoiceField.vue';
import { sayCount } from '../../bench/figures/sayFigures.ts';
import { CLOSE_SCALE, placesOf } from '../../bench/objects/placesOf.ts';
import { useBenchKeys } from '../../bench/useBenchKeys.ts';
import { useBench } from '../../stores/bench.ts';
import { useComparing } from '../../stores/comparing.ts';
import { useHistory } from '../../stores/history.ts';
import { useViewing } from '../../stores/viewing.ts';
import CompareCharts from './CompareCharts.vue';
import { compareFigures, compareJudged, compareOrder, compareThreads } from './figureRows.ts';
import FigureTable from './FigureTable.vue';
import { sayState, stateChoices } from './stateChoices.ts';
import StepList from './StepList.vue';
import TwoCloths from './TwoCloths.vue';
import WhatDiffers from './WhatDiffers.vue';

const bench = useBench();
const viewing = useViewing();
const comparing = useComparing();
const history = useHistory();
const route = useRoute();
const router = useRouter();
const cloths = useTemplateRef<Pick<ClothViewHandle, 'fit' | 'zoomBy' | 'goTo'>>('cloths');

const asked = (name: 'one' | 'other', usual: string): string => {
  const value = route.query[name];
  return typeof value === 'string' && value !== '' ? value : usual;
};
watch(
  () => [asked('one', 'file'), asked('other', 'now')] as const,
  ([one, other]) => ([comparing.one, comparing.other] = [one, other]),
  { immediate: true },
);
let stop: (() => void) | undefined;
onMounted(() => {
  viewing.time = undefined;
  stop = comparing.show();
});
onBeforeUnmount(() => {
  stop?.();
  if (viewing.kind === 'sewn') viewing.kind = 'thread';
});
useBenchKeys({ fit: () => cloths.value?.fit(), zoomBy: (factor) => cloths.value?.zoomBy(factor) });

const choices = computed(() => stateChoices(history, bench.job?.revisions ?? [], [comparing.one, comparing.other]));
const heads = computed(() => [sayState(comparing.one, choices.value), sayState(comparing.other, choices.value)] as const);
const sides = computed(() => comparing.sides);
const one = computed(() => sides.value!.one.shown.view);
const other = computed(() => sides.value!.other.shown.view);
const rows = computed(() => compareFigures(one.value.figures, other.value.figures));
const judgedRows = computed(() => (comparing.judged === undefined ? [] : compareJudged(comparing.judged.one, comparing.judged.other)));
const orderRows = computed(() => compareOrder(one.value.figures, other.value.figures, other.value.target));
const isUsual = computed(() => comparing.one === 'file' && comparing.other === 'now');
/** What leads from the one to the other; of the design on the bench as it stands there. */
const done = computed(() =>
  isUsual.value
    ? bench.done.filter((step) => !step.isTarget).map(({ name, reason }) => ({ name, reason: reason ?? null }))
    : comparing.onlyIn.other.filter((step) => !step.isTarget),
);
const left = computed(() => (isUsual.value ? [] : comparing.onlyIn.one.filter((step) => !step.isTarget)));

function choose(name: 'one' | 'other', state: string): void {
  void router.replace({ query: { one: comparing.one, other: comparing.other, [name]: state } });
}

function swap(): void {
  void router.replace({ query: { one: comparing.other, other: comparing.one } });
}

/** Brings an object into sight on both sides. */
function look(id: string): void {
  const object = [other.value, one.value].flatMap((view) => view.objects?.objects ?? []).find((each) => each.id === id);
  if (object !== undefined) cloths.value?.goTo(placesOf(object), CLOSE_SCALE);
}
</script>

<template>
  <main class="compare" :aria-busy="comparing.isWorking">
    <TwoCloths
      v-if="sides"
      ref="cloths"
      :one="{ ...sides.one, title: heads[0] }"
      :other="{ ...sides.other, title: heads[1] }"
      :stamp="bench.coverCount + comparing.stamp"
      @view="comparing.showAs"
    />
    <p v-else class="empty muted" role="status">{{ comparing.problem ?? 'Laying both on the cloth…' }}</p>
    <aside tabindex="0" aria-label="Figures and steps">
      <div class="states">
        <ChoiceField label="Compare" :value="comparing.one" :choices="choices" @change="choose('one', $event)" />
        <v-btn icon variant="text" size="x-small" title="Change sides" aria-label="Change sides" @click="swap">
          <v-icon :icon="mdiSwapHorizontal" />
        </v-btn>
        <ChoiceField label="With" :value="comparing.other" :choices="choices" @change="choose('other', $event)" />
      </div>
      <p v-if="comparing.problem" role="alert" class="problem">{{ comparing.problem }}</p>
      <template v-if="sides">
        <FigureTable title="One piece" :rows="[...rows, ...judgedRows]" :heads="heads" />
        <p v-if="!comparing.judged" class="muted small" role="status">Covers, gaps and findings are being counted…</p>
        <FigureTable
          :title="`The order, ${other.target.quantity === 1 ? '1 piece' : `${sayCount(other.target.quantity)} pieces`}`"
          :rows="orderRows"
          :heads="heads"
        />
        <CompareCharts :one="one.figures" :other="other.figures" :titles="heads" />
        <FigureTable title="Thread by color" :rows="compareThreads(one.figures, other.figures)" :heads="heads" />
        <WhatDiffers v-if="sides.changes" :changes="sides.changes" :than="heads[0]" @look="look" />
        <p v-else class="muted">
          One of the two is from before steps were kept by objects: its stitches and figures are compared, not its objects.
        </p>
      </template>
      <StepList v-if="done.length > 0 || isUsual" title="What was done" :steps="done">
        Nothing yet: the file is as it came. Its findings stand under <router-link :to="{ name: 'audit' }">Audit</router-link>.
      </StepList>
      <StepList v-if="left.length > 0" :title="`Done only in: ${heads[0]}`" :steps="left" />
      <p class="muted small">
        Both are measured on {{ bench.now!.view.target.fabric.name }}, as the job is now. Times, lengths and gaps are estimates for
        {{ bench.now!.view.target.machine.name }}. Sew a sample on the real cloth before the run.
      </p>
    </aside>
  </main>
</template>

<style scoped>
.compare {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 392px;
  min-height: 0;
}

aside {
  display: grid;
  gap: 18px;
  align-content: start;
  padding: 14px 18px;
  overflow-y: auto;
  background: var(--card);
  border-left: 1px solid var(--line);
}

.states {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto minmax(0, 1fr);
  gap: 4px;
  align-items: center;
}

.empty {
  place-self: center;
}

.problem {
  color: var(--stop);
}

.small {
  font-size: 12px;
}
</style>
