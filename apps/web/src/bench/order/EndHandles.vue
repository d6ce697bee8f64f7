<script setup lang="ts">
import type { MovedEnds } from '@isola/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useNotices } from '../../stores/notices.ts';
import { useObjects } from '../../stores/objects.ts';
import { saySigned, sayTime } from '../figures/sayFigures.ts';
import { type Size, toCloth, toScreen, type Viewport } from '../cloth/viewport.ts';
import { ARROWS } from '../tools/arrows.ts';
import { followPointer } from '../tools/followPointer.ts';
import { HOWS } from './sayWays.ts';

/** Brackets where the selected object begins and ends: dragged elsewhere, it is sewn so on trial, with the ways beside it and what they take. */
const props = defineProps<{ view: Viewport; size: Size }>();
const bench = useBench();
const objects = useObjects();
const notices = useNotices();

type End = 'from' | 'to';
let isBusy = false;
/** The newest place that an end was dragged to and that was not tried yet. */
let wanted: { end: End; x: number; y: number } | undefined;
const object = computed(() => (objects.place === undefined ? undefined : objects.selected));
/** Where an end is held while it is dragged, mm. */
const held = shallowRef<{ readonly end: End; readonly x: number; readonly y: number }>();
/** What the last place that was tried came to. */
const moved = shallowRef<MovedEnds>();
const refusal = ref('');

watch(
  () => [object.value?.id, bench.now?.number, bench.trial === undefined] as const,
  ([, , isDropped], [, , wasDropped]) => {
    if (isDropped && !wasDropped) letGo();
  },
);
watch(() => object.value?.id, letGo);

function letGo(): void {
  wanted = undefined;
  held.value = undefined;
  moved.value = undefined;
  refusal.value = '';
}

const ends = computed(() => {
  const o = object.value;
  if (o === undefined) return [];
  const place = (end: End): { x: number; y: number } => {
    if (held.value?.end === end) return held.value;
    if (moved.value !== undefined && bench.trial !== undefined) return moved.value[end];
    return end === 'from' ? o.entry : o.exit;
  };
  return (['from', 'to'] as const).map((end) => ({ end, at: toScreen(props.view, props.size, place(end).x, place(end).y) }));
});
const price = computed(() => {
  const [before, after] = [bench.now?.view, bench.trial?.shown.view];
  if (refusal.value !== '') return refusal.value[0]!.toUpperCase() + refusal.value.slice(1);
  if (moved.value === undefined || before === undefined || after === undefined) return '';
  const ways = moved.value.connectors.map(
    ({ to, how, length }) => `${to === object.value?.id ? 'to it' : 'from it'} ${HOWS[how]}, ${length.toFixed(1)} mm`,
  );
  const by = after.totals.seconds - before.totals.seconds;
  return [...ways, `run ${saySigned(by, sayTime)}`].join(' · ');
});

/** Tries the newest place that an end was dragged to; those on the way there are passed over. */
async function attempt(end: End, x: number, y: number): Promise<void> {
  wanted = { end, x, y };
  if (isBusy || object.value === undefined) return;
  isBusy = true;
  try {
    while (wanted !== undefined) {
      const now: { end: End; x: number; y: number } = wanted;
      wanted = undefined;
      const result = await bench.tryEnds(object.value.id, { [now.end]: { x: now.x, y: now.y } });
      // Who put it back wants none of what waits, either.
      if (result === undefined) return letGo();
      refusal.value = typeof result === 'string' ? result : '';
      if (typeof result !== 'string') moved.value = bench.trial === undefined ? undefined : result;
    }
  } catch (error) {
    notices.complain(error);
  } finally {
    isBusy = false;
  }
}

function drag(event: PointerEvent, end: End): void {
  (event.currentTarget as SVGElement).focus();
  const target = event.currentTarget as SVGElement;
  followPointer(event, ({ x, y }) => {
    const at = toCloth(props.view, props.size, x, y);
    held.value = { end, x: at.x, y: at.y };
    void attempt(end, at.x, at.y);
  });
  target.addEventListener('pointerup', () => (held.value = undefined), { once: true });
}

function onKey(event: KeyboardEvent, end: End): void {
  const by = ARROWS[event.key];
  const o = object.value;
  if (by === undefined || o === undefined) return;
  event.preventDefault();
  event.stopPropagation();
  const from = held.value?.end === end ? held.value : (moved.value?.[end] ?? (end === 'from' ? o.entry : o.exit));
  const step = event.shiftKey ? 5 : 1;
  held.value = { end, x: from.x + by[0] * step, y: from.y + by[1] * step };
  void attempt(end, held.value.x, held.value.y);
}
</script>

<template>
  <div v-if="object" class="ends">
    <svg>
      <g v-for="{ end, at } in ends" :key="end" :transform="`translate(${at.x} ${at.y})`">
        <path :d="end === 'from' ? 'M-2 -7H-8V7H-2' : 'M2 -7H8V7H2'" class="halo" />
        <path :d="end === 'from' ? 'M-2 -7H-8V7H-2' : 'M2 -7H8V7H2'" class="bracket" :stroke="object.color" />
        <circle
          r="11"
          class="grip"
          tabindex="0"
          role="button"
          :aria-label="end === 'from' ? 'Where it begins' : 'Where it ends'"
          @pointerdown.stop.prevent="drag($event, end)"
          @keydown="onKey($event, end)"
        />
      </g>
    </svg>
    <p v-if="price" class="price number" role="status">{{ price }}</p>
  </div>
</template>

<style scoped>
.ends,
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}

path {
  fill: none;
  stroke-linejoin: round;
  stroke-linecap: round;
}

.halo {
  stroke: #fffdf8;
  stroke-width: 4.5;
}

.bracket {
  stroke-width: 2.2;
}

.grip {
  fill: transparent;
  pointer-events: auto;
  cursor: grab;
}

.grip:focus-visible {
  stroke: #ffe9a8;
  stroke-width: 2;
  outline: none;
}

.grip:active {
  cursor: grabbing;
}

.price {
  position: absolute;
  top: 52px;
  left: 12px;
  max-width: calc(100% - 24px);
  padding: 5px 11px;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 8px;
  font-size: 12px;
}
</style>
