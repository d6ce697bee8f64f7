<script setup lang="ts">
import { computed } from 'vue';
import type { SpecPairs } from '../../workers/protocol.ts';
import { sayCount, sayTime } from '../figures/sayFigures.ts';

/** What a change of specs costs or gains: figures in pairs, green only for gains. */
const props = defineProps<{ pairs: SpecPairs }>();

const rows = computed(() => {
  const { stitches, seconds, cover, gap } = props.pairs;
  const row = (name: string, pair: readonly [number, number], say: (v: number) => string) => ({
    name,
    before: say(pair[0]),
    after: say(pair[1]),
    isGain: pair[1] < pair[0] && say(pair[0]) !== say(pair[1]),
  });
  return [
    row('Stitches of it', stitches, sayCount),
    row('Run of the design', seconds, sayTime),
    row('Densest spot, K', cover, (v) => v.toFixed(2)),
    row('Widest gap', gap, (v) => (v === 0 ? 'none' : `${v.toFixed(2)} mm`)),
  ];
});
</script>

<template>
  <table class="number" aria-label="Before and after">
    <tr v-for="row in rows" :key="row.name">
      <th scope="row">{{ row.name }}</th>
      <td>{{ row.before }}</td>
      <td class="muted">→</td>
      <td :class="{ gain: row.isGain }">{{ row.after }}</td>
    </tr>
  </table>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
}

th {
  padding: 2px 0;
  color: var(--ink-2);
  font-weight: 400;
  text-align: left;
}

td {
  text-align: right;
}

td:last-child {
  font-weight: 600;
}

.gain {
  color: var(--gain, #23704a);
}
</style>
