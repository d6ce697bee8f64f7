<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, ref, useTemplateRef, watch } from 'vue';
import ClothLens from '../../bench/cloth/ClothLens.vue';
import ClothView from '../../bench/cloth/ClothView.vue';
import type { ClothViewHandle } from '../../bench/cloth/handles.ts';
import { useElementSize } from '../../bench/cloth/useElementSize.ts';
import type { Viewport } from '../../bench/cloth/viewport.ts';
import type { ShownPart } from '../../workers/clothProtocol.ts';
import { useBench } from '../../stores/bench.ts';
import type { ShownDesign } from '../../stores/trials.ts';
import { useViewing } from '../../stores/viewing.ts';

/** What stands on one side; `differing`: indices of its objects that differ from the other side. */
interface Side {
  readonly shown: ShownDesign;
  readonly title: string;
  readonly differing: readonly number[];
}

/** Two states of a design, moving together: beside each other, one over the other, or by turns. `stamp`: counts what is known anew of their pictures. */
const props = defineProps<{ one: Side; other: Side; stamp: number }>();
const emit = defineEmits<{ view: [kind: 'cover' | 'sewn'] }>();
const bench = useBench();
const viewing = useViewing();
const right = useTemplateRef<ClothViewHandle>('right');
const view = ref<Viewport>({ x: 0, y: 0, scale: 1 });

const MODES = [
  ['beside', 'Side by side'],
  ['over', 'One over the other'],
  ['turns', 'By turns'],
] as const;
const mode = ref<(typeof MODES)[number][0]>('beside');
/** Whether of both only what differs is shown. */
const isOnlyDifferent = ref(false);
/** Share of the picture, from the left, that shows the first; moved by hand where one lies over the other. */
const edge = ref(0.5);

/** By turns each is seen for so long, ms. */
const TURN = 900;
let turns: ReturnType<typeof setInterval> | undefined;
const turn = (): number => (edge.value = edge.value === 0 ? 1 : 0);
watch(mode, (next) => {
  clearInterval(turns);
  edge.value = next === 'turns' ? 0 : 0.5;
  // Who wants no motion turns it by the button.
  const isStill = window.matchMedia('(prefers-reduced-motion: reduce)').matches;
  if (next === 'turns' && !isStill) turns = setInterval(turn, TURN);
});
onBeforeUnmount(() => clearInterval(turns));

watch(
  [() => viewing.kind, () => props.one.shown.number, () => props.other.shown.number],
  ([kind]) => {
    if (kind === 'cover' || kind === 'sewn') emit('view', kind);
  },
  { immediate: true },
);
/** Views that take more than two designs beside each other have. */
const WITHOUT = ['layers'] as const;
const partOf = ({ differing }: Side): ShownPart => (isOnlyDifferent.value && canFilter.value ? differing : 'all');
const canFilter = computed(() => props.one.differing.length + props.other.differing.length > 0);

const cloths = useTemplateRef('cloths');
const size = useElementSize(cloths);
/** Beside each other or one below the other, as both are seen larger. */
const isStacked = computed(() => {
  const { width: w, height: h } = props.other.shown.view.figures.extents;
  const { width, height } = size.value;
  return width > 0 && Math.min(width / w, height / 2 / h) > Math.min(width / 2 / w, height / h);
});
watch([isStacked, mode], () => void nextTick(() => requestAnimationFrame(() => right.value?.fit())));

const hold = (share: number): number => Math.min(0.98, Math.max(0.02, share));

function drag(event: PointerEvent): void {
  const handle = event.currentTarget as HTMLElement;
  if (event.type === 'pointerdown') handle.setPointerCapture(event.pointerId);
  if (!handle.hasPointerCapture(event.pointerId)) return;
  const box = handle.parentElement!.getBoundingClientRect();
  edge.value = hold((event.clientX - box.left) / box.width);
}

function nudge(event: KeyboardEvent): void {
  const by = { ArrowLeft: -0.04, ArrowRight: 0.04 }[event.key];
  if (by === undefined) return;
  event.stopPropagation();
  edge.value = hold(edge.value + by);
}

defineExpose({
  fit: () => right.value?.fit(),
  zoomBy: (factor: number) => right.value?.zoomBy(factor),
  goTo: (places: readonly { readonly x: number; readonly y: number }[], closest: number) => right.value?.goTo(places, closest),
});
</script>

<template>
  <section
    ref="cloths"
    class="cloths"
    :class="{ stacked: isStacked && mode === 'beside', over: mode !== 'beside', turns: mode === 'turns', first: edge === 1 }"
    :style="{ '--edge': `${edge * 100}%` }"
  >
    <div class="side came">
      <ClothView
        v-model:view="view"
        :shown="one.shown"
        :kind="viewing.kind"
        :up-to="one.shown.view.program.rowCount"
        :stamp="stamp"
        :part="partOf(one)"
        channel="before"
        :label="`The design: ${one.title}`"
      />
      <h2>{{ one.title }}</h2>
    </div>
    <div class="side">
      <ClothView
        ref="right"
        v-model:view="view"
        :shown="other.shown"
        :kind="viewing.kind"
        :up-to="other.shown.view.program.rowCount"
        :stamp="stamp"
        :part="partOf(other)"
        channel="now"
        :label="`The design: ${other.title}`"
      />
      <h2>{{ other.title }}</h2>
    </div>
    <div
      v-if="mode === 'over'"
      class="handle"
      role="slider"
      tabindex="0"
      :aria-label="`Where the picture ${one.title} ends`"
      aria-valuemin="0"
      aria-valuemax="100"
      :aria-valuenow="Math.round(edge * 100)"
      @pointerdown="drag"
      @pointermove="drag"
      @keydown="nudge"
    />
    <ClothLens
      v-model="viewing.kind"
      :has-objects="true"
      :without="WITHOUT"
      :max-cover="bench.now!.view.target.fabric.maxCover"
      @fit="right?.fit()"
      @zoom="right?.zoomTo($event)"
    />
    <div class="ways">
      <div class="segments" role="group" aria-label="How both are shown">
        <button v-for="[id, title] in MODES" :key="id" type="button" :aria-pressed="mode === id" @click="mode = id">{{ title }}</button>
      </div>
      <div v-if="mode === 'turns'" class="segments">
        <button type="button" @click="turn">Show: {{ edge === 1 ? other.title : one.title }}</button>
      </div>
      <div v-if="canFilter" class="segments">
        <button
          type="button"
          :aria-pressed="isOnlyDifferent"
          title="Of both, only objects that are not sewn alike"
          @click="isOnlyDifferent = !isOnlyDifferent"
        >
          Only what differs
        </button>
      </div>
    </div>
  </section>
</template>

<style scoped>
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

.cloths.over {
  grid-template-columns: 1fr;
}

.over .side {
  grid-area: 1 / 1;
}

.over .side:not(.came) {
  clip-path: inset(0 0 0 var(--edge));
}

.over .side:not(.came) h2 {
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

.over .side:not(.came) :deep(.scale),
.side.came :deep(.scale) {
  display: none;
}

.over .side:not(.came) h2 {
  bottom: 12px;
}

.handle {
  position: absolute;
  top: 0;
  bottom: 0;
  left: var(--edge);
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

.ways {
  position: absolute;
  top: 52px;
  left: 12px;
  display: flex;
  gap: 8px;
}

.ways .segments {
  position: static;
}

.turns.first .side:not(.came) h2,
.turns:not(.first) .side.came h2 {
  display: none;
}
</style>
