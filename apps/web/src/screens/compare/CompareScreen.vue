<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue';
import ClothLens from '../../bench/cloth/ClothLens.vue';
import ClothView from '../../bench/cloth/ClothView.vue';
import { useElementSize } from '../../bench/cloth/useElementSize.ts';
import type { ClothViewHandle } from '../../bench/cloth/handles.ts';
import type { Viewport } from '../../bench/cloth/viewport.ts';
import { useBenchKeys } from '../../bench/useBenchKeys.ts';
import { useBench } from '../../stores/bench.ts';
import { sayCount } from '../../bench/figures/sayFigures.ts';
import { compareFigures, compareOrder } from './figureRows.ts';
import { useObjects } from '../../stores/objects.ts';
import FigureTable from './FigureTable.vue';
import WhatDiffers from './WhatDiffers.vue';
import { useViewing } from '../../stores/viewing.ts';

const bench = useBench();
const viewing = useViewing();
const objects = useObjects();
const right = useTemplateRef<ClothViewHandle>('right');
const view = ref<Viewport>({ x: 0, y: 0, scale: 1 });
const MODES = [
  ['beside', 'Side by side'],
  ['over', 'One over the other'],
  ['flicker', 'By turns'],
] as const;
/** How both are shown: beside each other, one over the other with an edge to move, or by turns in one place. */
const mode = ref<(typeof MODES)[number][0]>('beside');
const isSwipe = computed(() => mode.value === 'over');
/** By turns: whether the file as it came is seen. */
const isCameTurn = ref(false);
/** Indices of objects that differ, and whether only those are shown of the design as it is now. */
const differing = shallowRef<readonly number[]>([]);
const isOnlyDifferent = ref(false);
const TURN = 900;
let turns: ReturnType<typeof setInterval> | undefined;
watch(mode, (next) => {
  clearInterval(turns);
  isCameTurn.value = false;
  // Who wants no motion turns it by the button.
  const isStill = window.matchMedia('(prefers-reduced-motion: reduce)').matches;
  if (next === 'flicker' && !isStill) turns = setInterval(() => (isCameTurn.value = !isCameTurn.value), TURN);
});
onBeforeUnmount(() => clearInterval(turns));
/** Share of the picture, from the left, that shows the file as it came. */
const swipe = ref(0.5);

watch(
  [() => viewing.kind, () => bench.now?.number, () => bench.before?.number],
  ([kind]) => {
    if (kind !== 'cover') return;
    void bench.cover('before');
    void bench.cover('now');
  },
  { immediate: true },
);
onMounted(() => (viewing.time = undefined));
useBenchKeys({ fit: () => right.value?.fit(), zoomBy: (factor) => right.value?.zoomBy(factor) });

const before = computed(() => bench.before!.view.figures);
const now = computed(() => bench.now!.view.figures);
const cloths = useTemplateRef('cloths');
const size = useElementSize(cloths);
/** Side by side or one below the other, as both are seen larger. */
const isStacked = computed(() => {
  const { width: w, height: h } = now.value.extents;
  const { width, height } = size.value;
  return width > 0 && Math.min(width / w, height / 2 / h) > Math.min(width / 2 / w, height / h);
});
watch([isStacked, mode], () => void nextTick(() => requestAnimationFrame(() => right.value?.fit())));
const rows = computed(() => compareFigures(before.value, now.value, bench.before!.view.maxCover, bench.now!.view.maxCover));
const orderRows = computed(() => compareOrder(before.value, now.value, bench.now!.view.target));
const steps = computed(() => bench.done.filter((step) => !step.isTarget));

/** Brings an object into sight on both sides. */
function look(id: string): void {
  const object = objects.objects.find((one) => one.id === id);
  if (object === undefined) return;
  const line = object.outline.length > 0 ? object.outline : (object.path ?? new Float64Array([object.entry.x, object.entry.y]));
  right.value?.goTo(
    Array.from({ length: line.length / 2 }, (_, k) => ({ x: line[k * 2]!, y: line[k * 2 + 1]! })),
    CLOSE_SCALE,
  );
}

/** An object that is gone to is shown no nearer than this, px a mm. */
const CLOSE_SCALE = 22;

function drag(event: PointerEvent): void {
  const handle = event.currentTarget as HTMLElement;
  if (event.type === 'pointerdown') handle.setPointerCapture(event.pointerId);
  if (!handle.hasPointerCapture(event.pointerId)) return;
  const box = handle.parentElement!.getBoundingClientRect();
  swipe.value = Math.min(0.98, Math.max(0.02, (event.clientX - box.left) / box.width));
}

function nudge(event: KeyboardEvent): void {
  const by = { ArrowLeft: -0.04, ArrowRight: 0.04 }[event.key];
  if (by === undefined) return;
  event.stopPropagation();
  swipe.value = Math.min(0.98, Math.max(0.02, swipe.value + by));
}
</script>

<template>
  <main class="compare">
    <section
      ref="cloths"
      class="cloths"
      :class="{ swipe: mode !== 'beside', flicker: mode === 'flicker', came: isCameTurn, stacked: isStacked && mode === 'beside' }"
      :style="{ '--swipe': mode === 'flicker' ? (isCameTurn ? '100%' : '0%') : `${swipe * 100}%` }"
    >
      <div class="side came">
        <ClothView
          v-model:view="view"
          :shown="bench.before"
          :kind="viewing.kind"
          :up-to="bench.before!.view.program.rowCount"
          :stamp="bench.coverCount"
          channel="before"
          label="The design as it came in"
        />
        <h2>as it came</h2>
      </div>
      <div class="side">
        <ClothView
          ref="right"
          v-model:view="view"
          :shown="bench.now"
          :kind="viewing.kind"
          :up-to="bench.now!.view.program.rowCount"
          :stamp="bench.coverCount + objects.stamp"
          :part="isOnlyDifferent && differing.length > 0 ? differing : 'all'"
          channel="now"
          label="The design as it is now"
        />
        <h2>now</h2>
      </div>
      <div
        v-if="isSwipe"
        class="handle"
        role="slider"
        tabindex="0"
        aria-label="Where the picture as it came ends"
        aria-valuemin="0"
        aria-valuemax="100"
        :aria-valuenow="Math.round(swipe * 100)"
        @pointerdown="drag"
        @pointermove="drag"
        @keydown="nudge"
      />
      <ClothLens
        v-model="viewing.kind"
        :has-objects="false"
        is-plain
        :max-cover="bench.now!.view.target.fabric.maxCover"
        @fit="right?.fit()"
        @zoom="right?.zoomTo($event)"
      />
      <div class="modes" role="group" aria-label="How both are shown">
        <button v-for="[id, title] in MODES" :key="id" type="button" :aria-pressed="mode === id" @click="mode = id">{{ title }}</button>
        <button v-if="mode === 'flicker'" type="button" @click="isCameTurn = !isCameTurn">
          {{ isCameTurn ? 'Show it now' : 'Show as it came' }}
        </button>
        <button v-if="differing.length > 0" type="button" :aria-pressed="isOnlyDifferent" @click="isOnlyDifferent = !isOnlyDifferent">
          Only what differs
        </button>
      </div>
    </section>
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

.cloths {
  position: relative;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 2px;
  min-height: 0;
  background: var(--ink);
}

.stacked {
  grid-template-columns: 1fr;
  grid-template-rows: 1fr 1fr;
}

.side {
  position: relative;
  min-width: 0;
  min-height: 0;
}

.cloths.swipe {
  grid-template-columns: 1fr;
}

.swipe .side {
  grid-area: 1 / 1;
}

.swipe .side:not(.came) {
  clip-path: inset(0 0 0 var(--swipe));
}

.swipe .side:not(.came) h2 {
  left: auto;
  right: 12px;
}

h2 {
  position: absolute;
  left: 12px;
  bottom: 12px;
  padding: 3px 10px;
  border-radius: 7px;
  background: var(--ink);
  color: var(--card);
  font-size: 12.5px;
  font-weight: 600;
}

.swipe .side:not(.came) :deep(.scale),
.side.came :deep(.scale) {
  display: none;
}

.swipe .side:not(.came) h2 {
  bottom: 12px;
}

.handle {
  position: absolute;
  top: 0;
  bottom: 0;
  left: var(--swipe);
  width: 22px;
  margin-left: -11px;
  cursor: ew-resize;
  touch-action: none;
}

.handle::before {
  content: '';
  position: absolute;
  top: 0;
  bottom: 0;
  left: 10px;
  width: 2px;
  background: var(--card);
  box-shadow: 0 0 0 1px var(--ink);
}

.handle::after {
  content: '';
  position: absolute;
  top: 50%;
  left: 3px;
  width: 16px;
  height: 34px;
  margin-top: -17px;
  border-radius: 8px;
  background: var(--card);
  border: 1px solid var(--ink);
}

.modes {
  position: absolute;
  top: 52px;
  left: 12px;
  display: flex;
  overflow: hidden;
  border: 1px solid var(--line);
  border-radius: 9px;
  background: var(--card);
}

.modes button {
  padding: 5px 11px;
  border: 0;
  border-right: 1px solid var(--line);
  background: none;
  color: var(--ink);
  font: inherit;
  font-size: 12.5px;
  cursor: pointer;
}

.modes button:last-child {
  border-right: 0;
}

.modes button[aria-pressed='true'] {
  background: var(--ink);
  color: var(--card);
}

.flicker.came .side:not(.came) h2,
.flicker:not(.came) .side.came h2 {
  display: none;
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
