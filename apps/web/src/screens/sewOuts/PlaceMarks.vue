<script setup lang="ts">
import type { SamplePlace } from '@isola/core';
import { computed } from 'vue';
import { type Size, toScreen, type Viewport } from '../../bench/cloth/viewport.ts';

/** Places that are measured, numbered as in the list beside the cloth: a bar across a width, or over a gap. */
const props = defineProps<{ places: readonly SamplePlace[]; selected: number | undefined; view: Viewport; size: Size }>();
defineEmits<{ select: [k: number] }>();

/** Gaps are shorter than can be seen: their bars reach out by this, px. */
const REACH = 11;
const marks = computed(() =>
  props.places.map(({ from, to, kind }) => {
    const a = toScreen(props.view, props.size, from.x, from.y);
    const b = toScreen(props.view, props.size, to.x, to.y);
    const length = Math.hypot(b.x - a.x, b.y - a.y);
    const [ux, uy] = length < 1 ? [1, 0] : [(b.x - a.x) / length, (b.y - a.y) / length];
    const out = kind === 'gap' ? REACH : 0;
    return {
      ...{ ax: a.x - ux * out, ay: a.y - uy * out, bx: b.x + ux * out, by: b.y + uy * out },
      ...{ nx: -uy * 5, ny: ux * 5, x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 },
    };
  }),
);
</script>

<template>
  <svg class="places" aria-hidden="true">
    <g v-for="(mark, k) in marks" :key="k" :class="{ selected: k === selected }">
      <path
        v-for="layer in ['halo', 'line']"
        :key="layer"
        :class="layer"
        :d="`M${mark.ax} ${mark.ay}L${mark.bx} ${mark.by}M${mark.ax - mark.nx} ${mark.ay - mark.ny}l${2 * mark.nx} ${2 * mark.ny}M${mark.bx - mark.nx} ${mark.by - mark.ny}l${2 * mark.nx} ${2 * mark.ny}`"
      />
      <g class="number" @click="$emit('select', k)">
        <rect :x="mark.x - 10" :y="mark.y - 9" width="20" height="18" rx="5" />
        <text :x="mark.x" :y="mark.y + 4">{{ k + 1 }}</text>
      </g>
    </g>
  </svg>
</template>

<style scoped>
.places {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}

path {
  fill: none;
}

.halo {
  stroke: #fffdf8;
  stroke-width: 4;
}

.line {
  stroke: var(--ink);
  stroke-width: 1.6;
}

.number {
  cursor: pointer;
  pointer-events: auto;
}

rect {
  fill: #fffdf8;
  stroke: var(--ink);
}

text {
  fill: var(--ink);
  font-size: 11.5px;
  font-weight: 600;
  text-anchor: middle;
}

.selected rect {
  fill: var(--sea);
  stroke: #fffdf8;
}

.selected text {
  fill: #fffdf8;
}

.selected .line {
  stroke: var(--sea);
  stroke-width: 2.4;
}
</style>
