<script setup lang="ts">
import type { StitchObject } from '@isola/core';
import { computed } from 'vue';
import { useObjects } from '../../stores/objects.ts';
import { type Size, toScreen, type Viewport } from '../cloth/viewport.ts';

const props = defineProps<{ view: Viewport; size: Size; hasHandle?: boolean }>();
const objects = useObjects();

const selected = computed(() => objects.selected);
const marks = computed(() => {
  const object = selected.value;
  if (object === undefined) return undefined;
  return {
    shape: shapeOf(object),
    // The handle that turns the rows says which way they run.
    axis: props.hasHandle ? '' : axisOf(object),
  };
});
/** The others that are picked with it, or those like it where the list is narrowed to them. */
const alike = computed(() =>
  objects.picked.length > 1
    ? objects.picked.filter((o) => o !== selected.value).map((o) => shapeOf(o))
    : objects.filter.likeSelected
      ? objects.alike.filter((o) => o !== selected.value).map((o) => shapeOf(o))
      : [],
);

function shapeOf(object: StitchObject): string {
  if (object.rails !== undefined) {
    const { left, right } = object.rails;
    return `${trace(left)}${trace(right)}`;
  }
  if (object.outline.length > 0) return [object.outline, ...object.holes].map((ring) => `${trace(ring)}Z`).join('');
  return trace(object.path ?? new Float64Array(0));
}

function trace(points: Float64Array): string {
  let d = '';
  for (let k = 0; k < points.length; k += 2) {
    const at = toScreen(props.view, props.size, points[k]!, points[k + 1]!);
    d += `${k === 0 ? 'M' : 'L'}${at.x.toFixed(1)} ${at.y.toFixed(1)}`;
  }
  return d;
}

/** A short line through the middle of a fill, the way its rows run. */
function axisOf(object: StitchObject): string {
  if (object.kind !== 'fill' || object.pattern !== undefined || object.angle === undefined || object.outline.length === 0) return '';
  let [sx, sy] = [0, 0];
  for (let k = 0; k < object.outline.length; k += 2) {
    sx += object.outline[k]!;
    sy += object.outline[k + 1]!;
  }
  const count = object.outline.length / 2;
  const at = toScreen(props.view, props.size, sx / count, sy / count);
  const turn = (object.angle * Math.PI) / 180;
  const [dx, dy] = [Math.cos(turn) * 22, -Math.sin(turn) * 22];
  return `M${at.x - dx} ${at.y - dy}L${at.x + dx} ${at.y + dy}`;
}
</script>

<template>
  <svg v-if="marks" class="marks" aria-hidden="true">
    <path v-for="(shape, k) in alike" :key="k" :d="shape" class="alike" />
    <path :d="marks.shape" class="halo" />
    <path :d="marks.shape" class="shape" />
    <path v-if="marks.axis" :d="marks.axis" class="halo" />
    <path v-if="marks.axis" :d="marks.axis" class="axis" />
  </svg>
</template>

<style scoped>
.marks {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}

path {
  fill: none;
  stroke-linejoin: round;
  stroke-linecap: round;
}

.halo {
  stroke: #14262b;
  stroke-width: 4;
  opacity: 0.6;
}

.shape,
.axis {
  stroke: #ffe9a8;
  stroke-width: 1.8;
}

.axis {
  stroke-dasharray: 6 4;
}

.alike {
  stroke: #ffe9a8;
  stroke-width: 1.4;
  stroke-dasharray: 3 3;
}
</style>
