<script setup lang="ts">
import type { Finding } from '@isola/core';
import { computed } from 'vue';
import SeverityMark from '../docket/SeverityMark.vue';
import { type Size, toScreen, type Viewport } from './viewport.ts';

const props = defineProps<{
  findings: readonly Finding[];
  numbers: ReadonlyMap<string, number>;
  selected: string | undefined;
  /** The key of the one place that is meant. */
  place?: string | undefined;
  view: Viewport;
  size: Size;
}>();
defineEmits<{ select: [key: string] }>();

/** Marks nearer to each other than this (px) would hide one another; the less important one steps aside. */
const APART = 24;
/** More marks than this would hide the design; the docket has the others. */
const MOST_MARKS = 24;

/** More rings than this would be a carpet. */
const MOST_PLACES = 400;

const marks = computed(() => {
  const placed: { x: number; y: number }[] = [];
  const shown = props.findings.filter((finding, index) => index < MOST_MARKS || finding.key === props.selected);
  return shown.map((finding) => {
    const at = toScreen(props.view, props.size, finding.at.x, finding.at.y);
    let { x, y } = at;
    for (let tries = 0; tries < 40 && placed.some((p) => Math.hypot(p.x - x, p.y - y) < APART); tries++) {
      x += APART * (tries % 4 === 3 ? -1.5 : 0.8);
      y += APART * (tries % 2 === 0 ? 0.5 : -0.2);
    }
    placed.push({ x, y });
    return { finding, x, y, from: at };
  });
});
const places = computed(() => {
  const finding = props.findings.find((f) => f.key === props.selected);
  return (finding?.places ?? [])
    .slice(0, MOST_PLACES)
    .map((p) => ({ ...toScreen(props.view, props.size, p.x, p.y), isMeant: p.key === props.place }));
});
</script>

<template>
  <svg class="places" aria-hidden="true">
    <line v-for="mark in marks" :key="mark.finding.key" :x1="mark.from.x" :y1="mark.from.y" :x2="mark.x" :y2="mark.y" class="lead" />
    <g v-for="(ring, index) in places" :key="index">
      <circle :cx="ring.x" :cy="ring.y" r="8" class="halo" :class="{ meant: ring.isMeant }" />
      <circle :cx="ring.x" :cy="ring.y" r="8" class="ring" :class="{ meant: ring.isMeant }" />
    </g>
  </svg>
  <button
    v-for="mark in marks"
    :key="mark.finding.key"
    type="button"
    class="mark"
    :class="{ on: mark.finding.key === selected }"
    :style="{ left: `${mark.x}px`, top: `${mark.y}px` }"
    :aria-label="`Finding ${numbers.get(mark.finding.key)}: ${mark.finding.message}`"
    @click="$emit('select', mark.finding.key)"
  >
    <SeverityMark :severity="mark.finding.severity" :number="numbers.get(mark.finding.key)!" />
  </button>
</template>

<style scoped>
.places {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}

.lead {
  stroke: #fffdf8;
  stroke-width: 1.5;
}

.halo {
  fill: none;
  stroke: #14262b;
  stroke-width: 4;
  opacity: 0.55;
}

.ring {
  fill: none;
  stroke: #ffe9a8;
  stroke-width: 2;
}

.ring.meant {
  stroke: #fffdf8;
  stroke-width: 4;
}

.mark {
  position: absolute;
  padding: 0;
  border: 0;
  background: none;
  transform: translate(-50%, -50%);
  cursor: pointer;
  filter: drop-shadow(0 0 1px #fffdf8) drop-shadow(0 0 1px #fffdf8);
}

.mark.on {
  z-index: 2;
  transform: translate(-50%, -50%) scale(1.3);
}
</style>
