<script setup lang="ts">
import type { Figures } from '@isola/core';
import { computed } from 'vue';
import { sayCount, sayTime } from './sayFigures.ts';

const props = defineProps<{ now: Figures; before: Figures; trial: Figures | undefined }>();

const COLUMNS = [
  { name: 'a piece', value: (f: Figures) => f.run.seconds, say: sayTime },
  { name: 'trims', value: (f: Figures) => f.trims, say: sayCount },
  { name: 'stitches', value: (f: Figures) => f.stitches, say: sayCount },
];

const columns = computed(() =>
  COLUMNS.map(({ name, value, say }) => {
    const now = say(value(props.now));
    const before = say(value(props.before));
    const trial = props.trial === undefined ? undefined : say(value(props.trial));
    return {
      name,
      now,
      before: before === now ? undefined : before,
      trial: trial === now ? undefined : trial,
      isGain: props.trial !== undefined && value(props.trial) < value(props.now),
    };
  }),
);
</script>

<template>
  <dl class="head number">
    <div v-for="column in columns" :key="column.name">
      <dd>{{ column.now }}</dd>
      <dt>{{ column.name }}</dt>
      <dd v-if="column.trial" class="small" :class="{ gain: column.isGain }">→ {{ column.trial }}</dd>
      <dd v-else-if="column.before" class="small muted">{{ column.before }} as it came</dd>
    </div>
  </dl>
</template>

<style scoped>
.head {
  display: grid;
  grid-template-columns: 1fr 0.8fr 1fr;
  gap: 8px;
  min-height: 82px;
  padding: 12px 16px 8px;
  border-bottom: 1px solid var(--line);
}

dd:first-child {
  font-size: 21px;
  font-weight: 600;
  line-height: 1.15;
}

dt,
.small {
  font-size: 12px;
}

dt {
  color: var(--ink-2);
}
</style>
