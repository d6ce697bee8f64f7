<script setup lang="ts">
import type { Connector } from '@isola/core';
import { computed } from 'vue';
import { type Size, toScreen, type Viewport } from '../cloth/viewport.ts';
import { HOWS } from './sayWays.ts';

/** The ways between objects on the view of paths: each manner has its own shape, and says its length and seconds when it is pointed at. */
const props = defineProps<{ connectors: readonly Connector[]; nameOf: (id: string) => string; view: Viewport; size: Size }>();

/** Ways shorter than this on the screen (px) have no line that could be pointed at. */
const LEAST = 3;

const marks = computed(() =>
  props.connectors.flatMap(({ from, to, how, points, length, seconds }) => {
    const at = Array.from({ length: points.length / 2 }, (_, k) => toScreen(props.view, props.size, points[2 * k]!, points[2 * k + 1]!));
    const [a, b] = [at[0], at.at(-1)];
    if (a === undefined || b === undefined || Math.hypot(b.x - a.x, b.y - a.y) < LEAST) return [];
    return [
      {
        how,
        d: at.map(({ x, y }, k) => `${k === 0 ? 'M' : 'L'}${x.toFixed(1)} ${y.toFixed(1)}`).join(''),
        dots: how === 'hidden' || how === 'open' ? at.slice(1, -1) : [],
        middle: { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 },
        words: `${HOWS[how]}, ${length.toFixed(1)} mm, ${seconds.toFixed(1)} s: ${props.nameOf(from)} → ${props.nameOf(to)}`,
      },
    ];
  }),
);
</script>

<template>
  <svg class="ways" role="img" aria-label="Ways between objects">
    <g v-for="(mark, k) in marks" :key="k" :class="mark.how">
      <title>{{ mark.words }}</title>
      <path :d="mark.d" class="reach" />
      <path v-if="mark.how !== 'trim' && mark.how !== 'jump'" :d="mark.d" class="halo" />
      <path v-if="mark.how !== 'trim' && mark.how !== 'jump'" :d="mark.d" class="line" />
      <rect v-for="(dot, n) in mark.dots" :key="n" :x="dot.x - 2" :y="dot.y - 2" width="4" height="4" />
      <path v-if="mark.how === 'carry'" :d="`M${mark.middle.x - 4} ${mark.middle.y}l4 -4l4 4l-4 4z`" class="carried" />
    </g>
  </svg>
</template>

<style scoped>
.ways {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}

path {
  fill: none;
  stroke-linejoin: round;
}

.reach {
  stroke: transparent;
  stroke-width: 9;
  pointer-events: stroke;
}

.halo {
  stroke: #fffdf8;
  stroke-width: 4.5;
}

.line {
  stroke: #0f5c66;
  stroke-width: 2;
}

.hidden .line {
  stroke-dasharray: 7 3;
}

.open .line {
  stroke: #9a5a00;
}

rect {
  fill: #fffdf8;
  stroke: #0f5c66;
  stroke-width: 1.5;
}

.open rect {
  stroke: #9a5a00;
}

.carried {
  fill: #fffdf8;
  stroke: #0f5c66;
  stroke-width: 1.8;
}
</style>
