<script setup lang="ts">
import { headsOf, type Machine } from '@isola/core';
import { computed, useTemplateRef } from 'vue';
import { useBoard } from '../../stores/board.ts';
import { sayMinutes, sayMoment } from './sayBoard.ts';

/** A machine's orders in a row, each as wide as the time that it takes; what is late is hatched from its due date on. */
const props = defineProps<{
  machine: Machine;
  lane: readonly string[];
  scale: number;
  selected: string | undefined;
  dragged: string | undefined;
  /** Before which place of the lane something would be dropped. */
  over: number | undefined;
}>();
const emit = defineEmits<{
  select: [id: string];
  key: [event: KeyboardEvent, id: string];
  take: [event: DragEvent, id: string];
  letGo: [];
  over: [at: number];
  drop: [at: number];
}>();
const board = useBoard();
const strip = useTemplateRef<HTMLElement>('strip');

/** An order of a few minutes is as wide as can be taken hold of, and those after it make room. */
const LEAST_WIDTH = 14;
const GAP = 2;
const bars = computed(() => {
  let right = 0;
  return props.lane.map((id) => {
    const job = board.open.find((one) => one.id === id)!;
    const { begins, ends, late } = board.outcome!.times.get(id)!;
    const left = Math.max(begins * props.scale, right);
    const width = Math.max(LEAST_WIDTH, ends * props.scale - left - GAP);
    right = left + width + GAP;
    return {
      ...{ id, name: job.name, left, width },
      lateWidth: Math.min(ends - begins, late) * props.scale,
      words: late > 0 ? `${sayMinutes(late)} late` : `done ${sayMoment(board.momentOf(ends))}`,
      isLate: late > 0,
    };
  });
});
/** When the order that is looked at is due, where that is on this lane. */
const due = computed(() => {
  if (props.selected === undefined || !props.lane.includes(props.selected)) return undefined;
  const at = board.planned.get(props.selected)!.due;
  return Number.isFinite(at) ? at * props.scale : undefined;
});

/** Before which order a place on the strip lies. */
function placeAt(event: DragEvent): number {
  const x = event.clientX - strip.value!.getBoundingClientRect().left;
  const k = bars.value.findIndex(({ left, width }) => x < left + width / 2);
  return k < 0 ? bars.value.length : k;
}
const mark = computed(() => {
  if (props.over === undefined || props.dragged === undefined) return undefined;
  const next = bars.value[props.over];
  const last = bars.value.at(-1);
  return next?.left ?? (last === undefined ? 0 : last.left + last.width + 2);
});
</script>

<template>
  <section class="lane" :aria-label="machine.name">
    <h3>
      {{ machine.name }}
      <small class="muted number"
        >{{ lane.length === 0 ? 'free' : `${lane.length === 1 ? '1 order' : `${lane.length} orders`}` }},
        {{ headsOf(machine) === 1 ? '1 head' : `${headsOf(machine)} heads` }}</small
      >
    </h3>
    <div ref="strip" class="strip" @dragover.prevent="emit('over', placeAt($event))" @drop.prevent="emit('drop', placeAt($event))">
      <button
        v-for="bar in bars"
        :key="bar.id"
        type="button"
        class="bar"
        draggable="true"
        :class="{ late: bar.isLate, dragged: bar.id === dragged }"
        :style="{ left: `${bar.left}px`, width: `${bar.width}px` }"
        :data-order="bar.id"
        :aria-pressed="bar.id === selected"
        :title="`${bar.name}: ${bar.words}`"
        @click="emit('select', bar.id)"
        @keydown="emit('key', $event, bar.id)"
        @dragstart="emit('take', $event, bar.id)"
        @dragend="emit('letGo')"
      >
        <i v-if="bar.isLate" :style="{ width: `${bar.lateWidth}px` }" />
        <span class="words"
          ><b>{{ bar.name }}</b
          ><small class="number">{{ bar.words }}</small></span
        >
      </button>
      <span v-if="due !== undefined" class="due" :style="{ left: `${due}px` }">due</span>
      <i v-if="mark !== undefined" class="mark" :style="{ left: `${mark - 2}px` }" />
    </div>
  </section>
</template>

<style scoped>
.lane {
  display: grid;
  grid-template-columns: 148px minmax(0, 1fr);
  border-bottom: 1px solid var(--line);
}

h3 {
  position: sticky;
  left: 0;
  z-index: 1;
  padding: 12px 12px;
  background: var(--paper);
  border-right: 1px solid var(--line);
  font-size: 13.5px;
  font-weight: 600;
}

h3 small {
  display: block;
  font-size: 12px;
  font-weight: 400;
}

.strip {
  position: relative;
  height: 92px;
}

.bar {
  position: absolute;
  top: 14px;
  height: 62px;
  padding: 0;
  overflow: clip;
  border: 1px solid #0d4f58;
  border-radius: 7px;
  background: #d3e4e1;
  color: var(--ink);
  font: inherit;
  text-align: left;
  cursor: grab;
}

.bar.late {
  border-color: var(--stop);
  background: #f3ddd6;
}

.bar.dragged {
  opacity: 0.5;
}

.bar[aria-pressed='true'] {
  box-shadow: 0 0 0 2px var(--sea);
}

.bar i {
  position: absolute;
  top: 0;
  right: 0;
  bottom: 0;
  background: repeating-linear-gradient(135deg, rgb(176 50 42 / 26%) 0 4px, transparent 4px 9px);
}

/* Of an order that begins out of sight the name is read all the same. */
.words {
  position: sticky;
  left: 148px;
  display: grid;
  width: max-content;
  padding: 8px 10px;
  line-height: 1.35;
  white-space: nowrap;
}

.words b {
  font-weight: 600;
}

.words small {
  font-size: 12px;
}

.due {
  position: absolute;
  top: 0;
  bottom: 0;
  padding-left: 4px;
  border-left: 2px dashed var(--ink);
  font-size: 11.5px;
  line-height: 14px;
  pointer-events: none;
}

.mark {
  position: absolute;
  top: 6px;
  bottom: 8px;
  width: 3px;
  border-radius: 2px;
  background: var(--sea);
}
</style>
