<script setup lang="ts">
import type { Figures } from '@isola/core';
import { computed } from 'vue';
import { sayCount, sayTime } from '../figures/sayFigures.ts';

/** What a design takes before and after something that is tried. */
const props = defineProps<{ before: Figures; after: Figures }>();
const size = ({ extents }: Figures): string => `${extents.width.toFixed(1)} × ${extents.height.toFixed(1)} mm`;
const rows = computed(() => [
  ['Stitches', sayCount(props.before.stitches), sayCount(props.after.stitches)],
  ['Trims', String(props.before.trims), String(props.after.trims)],
  ['Run', sayTime(props.before.run.seconds), sayTime(props.after.run.seconds)],
  ['Size', size(props.before), size(props.after)],
]);
</script>

<template>
  <table class="number" aria-label="Before and after">
    <tr v-for="[name, was, is] in rows" :key="name">
      <th scope="row">{{ name }}</th>
      <td>{{ was }}</td>
      <td>→</td>
      <td :class="{ same: was === is }">{{ is }}</td>
    </tr>
  </table>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
  font-size: 12.5px;
}

th {
  font-weight: 400;
  text-align: left;
  color: var(--ink-2);
}

td {
  padding: 2px 0 2px 6px;
  text-align: right;
  font-weight: 500;
}

.same {
  color: var(--ink-3);
  font-weight: 400;
}
</style>
