<script setup lang="ts">
import { computed } from 'vue';
import type { Pair, SpecPairs } from '@isola/core';
import { sayCount, sayTime } from '../figures/sayFigures.ts';

/** What a change of specs costs or gains: figures in pairs, green only for gains, amber where the cloth comes to show. What stays is left out. */
const props = defineProps<{ pairs: SpecPairs }>();

/** So much more bare cloth (mm²) is seen. */
const SEEN = 1;
const area = (v: number): string => `${v < 10 ? v.toFixed(1) : sayCount(v)} mm²`;

const rows = computed(() => {
  const { pairs } = props;
  const row = (name: string, pair: Pair, say: (v: number) => string, isShown = true) => ({
    ...{ name, before: say(pair[0]), after: say(pair[1]), isShown },
    mark: say(pair[0]) === say(pair[1]) ? '' : pair[1] < pair[0] ? 'gain' : 'more',
  });
  const has = ([before, after]: Pair): boolean => before > 0 || after > 0;
  const bare = row('Bare cloth in it', pairs.bare, area);
  const gap = row('Gap beside it when sewn', pairs.gap, (v) => (v === 0 ? 'none' : `${v.toFixed(2)} mm`));
  return [
    row('Stitches of its cover', pairs.coverStitches, sayCount),
    row('of its underlay', pairs.underlayStitches, sayCount, has(pairs.underlayStitches)),
    row('of its locks', pairs.tieStitches, sayCount, has(pairs.tieStitches)),
    row('Run of the design', pairs.seconds, sayTime),
    row('Trims of the design', pairs.trims, sayCount),
    row('Jumps of the design', pairs.jumps, sayCount),
    row('Densest, closed layers (K)', pairs.cover, (v) => v.toFixed(2)),
    { ...gap, mark: gap.mark === 'more' ? 'worse' : gap.mark },
    { ...bare, mark: pairs.bare[1] - pairs.bare[0] > SEEN ? 'worse' : bare.mark },
  ].filter(({ isShown, mark }, k) => isShown && (k === 0 || mark !== ''));
});
</script>

<template>
  <table class="number" aria-label="Before and after">
    <tr v-for="row in rows" :key="row.name">
      <th scope="row">{{ row.name }}</th>
      <td>{{ row.before }}</td>
      <td class="muted">→</td>
      <td :class="row.mark">{{ row.after }}<span v-if="row.mark === 'worse'" class="visually-hidden">, worse</span></td>
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
  white-space: nowrap;
}

td:last-child {
  font-weight: 600;
}

.worse {
  color: var(--fix);
}
</style>
