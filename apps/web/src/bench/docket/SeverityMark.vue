<script setup lang="ts">
import type { Severity } from '@isola/core';

defineProps<{ severity: Severity; number?: number | string }>();

const NAMES: Readonly<Record<Severity, string>> = { stop: 'Stop', fix: 'Fix', note: 'Note' };
</script>

<template>
  <span class="severity" :class="severity" :title="NAMES[severity]">
    <svg viewBox="0 0 22 22" width="22" height="22" aria-hidden="true">
      <path v-if="severity === 'stop'" d="M11 0.8 21.2 11 11 21.2 0.8 11Z" />
      <rect v-else-if="severity === 'fix'" x="1.5" y="1.5" width="19" height="19" rx="4" />
      <circle v-else cx="11" cy="11" r="9.8" />
    </svg>
    <b class="number">{{ number }}</b>
    <span class="visually-hidden">{{ NAMES[severity] }}</span>
  </span>
</template>

<style scoped>
.severity {
  position: relative;
  display: inline-grid;
  place-items: center;
  width: 22px;
  height: 22px;
  flex: none;
}

.severity > * {
  grid-area: 1 / 1;
}

b {
  position: relative;
  color: #fff;
  font-size: 11.5px;
  font-weight: 600;
  line-height: 1;
}

.stop svg {
  fill: var(--stop);
  transform: scale(1.18);
}

.fix svg {
  fill: var(--fix);
}

.note svg {
  fill: var(--note);
}
</style>
