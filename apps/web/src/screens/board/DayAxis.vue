<script setup lang="ts">
import { computed } from 'vue';
import { useBoard } from '../../stores/board.ts';
import { workingMinutes } from '../../stores/workingTime.ts';

/** Working days in a row, each as wide as what is left of it. */
const props = defineProps<{ scale: number; until: number }>();
const board = useBoard();

const days = computed(() => {
  const { hours } = board.plan!;
  const out: { key: string; name: string; left: number; width: number }[] = [];
  let at = 0;
  for (let k = 0; at < props.until && k < 400; k++) {
    const { now } = board;
    const from = k === 0 ? now : new Date(now.getFullYear(), now.getMonth(), now.getDate() + k);
    const minutes = workingMinutes(from, new Date(from.getFullYear(), from.getMonth(), from.getDate() + 1), hours);
    if (minutes === 0) continue;
    const name = from.toLocaleDateString('en-GB', { weekday: 'short', day: 'numeric', month: 'short' });
    out.push({ key: name, name: k === 0 ? `now, ${name}` : name, left: at * props.scale, width: minutes * props.scale });
    at += minutes;
  }
  return out;
});
</script>

<template>
  <div class="axis" aria-hidden="true">
    <span v-for="day in days" :key="day.key" :style="{ left: `${148 + day.left}px`, width: `${day.width}px` }">{{ day.name }}</span>
  </div>
</template>

<style scoped>
.axis {
  position: sticky;
  top: 0;
  z-index: 2;
  height: 28px;
  background: var(--paper);
  border-bottom: 1px solid var(--line);
}

span {
  position: absolute;
  top: 0;
  height: 28px;
  padding: 6px 8px 0;
  overflow: hidden;
  border-left: 1px solid var(--line);
  color: var(--ink-2);
  font-size: 12px;
  white-space: nowrap;
}
</style>
