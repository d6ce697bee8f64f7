<script setup lang="ts">
import { computed, onMounted, shallowRef, useTemplateRef } from 'vue';
import type { ClothViewHandle } from '../../bench/cloth/handles.ts';
import { sayCount } from '../../bench/figures/sayFigures.ts';
import { CLOSE_SCALE, placesOf } from '../../bench/objects/placesOf.ts';
import { useBenchKeys } from '../../bench/useBenchKeys.ts';
import { useBench } from '../../stores/bench.ts';
import { useObjects } from '../../stores/objects.ts';
import { useViewing } from '../../stores/viewing.ts';
import { compareFigures, compareOrder } from './figureRows.ts';
import FigureTable from './FigureTable.vue';
import TwoCloths from './TwoCloths.vue';
import WhatDiffers from './WhatDiffers.vue';

const bench = useBench();
const viewing = useViewing();
const objects = useObjects();
const cloths = useTemplateRef<Pick<ClothViewHandle, 'fit' | 'zoomBy' | 'goTo'>>('cloths');
/** Indices of objects that differ from the file as it came. */
const differing = shallowRef<readonly number[]>([]);

onMounted(() => (viewing.time = undefined));
useBenchKeys({ fit: () => cloths.value?.fit(), zoomBy: (factor) => cloths.value?.zoomBy(factor) });

const before = computed(() => bench.before!.view.figures);
const now = computed(() => bench.now!.view.figures);
const rows = computed(() => compareFigures(before.value, now.value, bench.before!.view.maxCover, bench.now!.view.maxCover));
const orderRows = computed(() => compareOrder(before.value, now.value, bench.now!.view.target));
const steps = computed(() => bench.done.filter((step) => !step.isTarget));

/** Brings an object into sight on both sides. */
function look(id: string): void {
  const object = objects.objects.find((one) => one.id === id);
  if (object !== undefined) cloths.value?.goTo(placesOf(object), CLOSE_SCALE);
}
</script>

<template>
  <main class="compare">
    <TwoCloths ref="cloths" :differing="differing" />
    <aside tabindex="0" aria-label="Figures and steps">
      <FigureTable title="One piece" :rows="rows" />
      <FigureTable
        :title="`The order, ${bench.now!.view.target.quantity === 1 ? '1 piece' : `${sayCount(bench.now!.view.target.quantity)} pieces`}`"
        :rows="orderRows"
      />
      <WhatDiffers @changes="differing = $event" @look="look" />
      <section>
        <h3>What was done</h3>
        <ol v-if="steps.length > 0" class="steps">
          <li v-for="(step, index) in steps" :key="index">
            {{ step.name }}
            <em v-if="step.reason">because: {{ step.reason }}</em>
          </li>
        </ol>
        <p v-else class="muted">
          Nothing yet: the file is as it came. Its findings stand under <router-link :to="{ name: 'audit' }">Audit</router-link>.
        </p>
      </section>
      <p class="muted small">
        Times and lengths are estimates for {{ bench.now!.view.target.machine.name }}. Sew a sample on the real cloth before the run.
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

h3 {
  font-size: 14px;
  font-weight: 600;
}

.steps {
  counter-reset: step;
}

.steps li {
  padding: 5px 0;
  border-bottom: 1px solid var(--line-soft);
}

.steps em {
  display: block;
  color: var(--ink-2);
}

.small {
  font-size: 12px;
}
</style>
