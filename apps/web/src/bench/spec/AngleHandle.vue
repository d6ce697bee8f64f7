<script setup lang="ts">
import { computed } from 'vue';
import { useObjects } from '../../stores/objects.ts';
import { useSpecs } from '../../stores/specs.ts';
import { type Size, toCloth, toScreen, type Viewport } from '../cloth/viewport.ts';
import { ARROWS } from '../tools/arrows.ts';
import { followPointer } from '../tools/followPointer.ts';
import { moveLineEnd } from '../tools/moveLineEnd.ts';
import { turnAngle, stepAngle } from '../tools/turnAngle.ts';

const props = defineProps<{ view: Viewport; size: Size }>();
const objects = useObjects();
const specs = useSpecs();

/** How far the grip is from the middle of the object, px. */
const REACH = 58;

const led = computed(() => {
  const isLed = specs.spec?.kind === 'fill' || specs.spec?.kind === 'satin';
  return isLed && objects.selected?.role === 'cover' ? specs.spec : undefined;
});
const middle = computed(() => {
  const ring = objects.selected?.outline;
  if (ring === undefined || ring.length === 0) return undefined;
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let k = 0; k < ring.length; k += 2) {
    [minX, maxX] = [Math.min(minX, ring[k]!), Math.max(maxX, ring[k]!)];
    [minY, maxY] = [Math.min(minY, ring[k + 1]!), Math.max(maxY, ring[k + 1]!)];
  }
  return toScreen(props.view, props.size, (minX + maxX) / 2, (minY + maxY) / 2);
});
const lines = computed(() =>
  (led.value?.angleLines ?? []).map(
    ([x0, y0, x1, y1]) => [toScreen(props.view, props.size, x0, y0), toScreen(props.view, props.size, x1, y1)] as const,
  ),
);
const grip = computed(() => {
  if (led.value?.kind !== 'fill' || middle.value === undefined || lines.value.length >= 2) return undefined;
  const turn = (led.value.angle * Math.PI) / 180;
  const [dx, dy] = [Math.cos(turn) * REACH, -Math.sin(turn) * REACH];
  return { x: middle.value.x + dx, y: middle.value.y + dy, fromX: middle.value.x - dx, fromY: middle.value.y - dy };
});

function turn(event: PointerEvent): void {
  followPointer(event, (at) => {
    if (middle.value !== undefined) specs.change({ angle: turnAngle(middle.value, at) });
  });
}

function bend(event: PointerEvent, at: number, end: 0 | 1): void {
  (event.currentTarget as SVGElement).focus();
  followPointer(event, ({ x, y }) => {
    const on = toCloth(props.view, props.size, x, y);
    moveEnd(at, end, () => [on.x, on.y]);
  });
}

/** Moves one end of an angle line; `to` gets where it is, mm. */
function moveEnd(at: number, end: 0 | 1, to: (x: number, y: number) => [number, number]): void {
  specs.change({ angleLines: moveLineEnd(led.value!.angleLines, at, end, to) });
}

function onLineKey(event: KeyboardEvent, at: number, end: 0 | 1): void {
  const by = ARROWS[event.key];
  const isAway = event.key === 'Delete' || event.key === 'Backspace';
  if (led.value === undefined || (by === undefined && !isAway)) return;
  event.preventDefault();
  event.stopPropagation();
  const step = event.shiftKey ? 1 : 0.2;
  if (by !== undefined) moveEnd(at, end, (x, y) => [x + by[0] * step, y + by[1] * step]);
  else specs.change({ angleLines: led.value.angleLines.filter((_, k) => k !== at) });
}

function onKey(event: KeyboardEvent): void {
  const by = ARROWS[event.key];
  if (by === undefined || led.value === undefined) return;
  event.preventDefault();
  event.stopPropagation();
  specs.change({ angle: stepAngle(led.value.angle, by[0] + by[1], event.shiftKey) });
}
</script>

<template>
  <svg v-if="grip || lines.length > 0" class="handles">
    <g v-if="grip">
      <path :d="`M${grip.fromX} ${grip.fromY}L${grip.x} ${grip.y}`" class="halo" />
      <path :d="`M${grip.fromX} ${grip.fromY}L${grip.x} ${grip.y}`" class="line" />
      <circle
        :cx="grip.x"
        :cy="grip.y"
        r="8"
        class="grip"
        tabindex="0"
        role="slider"
        aria-label="Angle of the rows"
        aria-valuemin="0"
        aria-valuemax="180"
        :aria-valuenow="Math.round(led!.angle)"
        @pointerdown.stop.prevent="turn"
        @keydown="onKey"
      />
    </g>
    <g v-for="([a, b], k) in lines" :key="k">
      <path :d="`M${a.x} ${a.y}L${b.x} ${b.y}`" class="halo" />
      <path :d="`M${a.x} ${a.y}L${b.x} ${b.y}`" class="line" />
      <circle
        v-for="(at, end) in [a, b]"
        :key="end"
        :cx="at.x"
        :cy="at.y"
        r="7"
        class="grip"
        tabindex="0"
        role="button"
        :aria-label="`${end === 0 ? 'Start' : 'End'} of angle line ${k + 1}`"
        @pointerdown.stop.prevent="bend($event, k, end as 0)"
        @keydown="onLineKey($event, k, end as 0)"
      />
    </g>
  </svg>
</template>

<style scoped>
.handles {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}

.halo {
  stroke: #14262b;
  stroke-width: 4;
  opacity: 0.5;
}

.line {
  stroke: #ffe9a8;
  stroke-width: 1.8;
  stroke-dasharray: 6 4;
}

.grip {
  fill: #fffdf8;
  stroke: #0f5c66;
  stroke-width: 2.5;
  pointer-events: auto;
  cursor: grab;
}

.grip:focus-visible {
  fill: #ffe9a8;
  stroke-width: 4;
  outline: none;
}

.grip:active {
  cursor: grabbing;
}
</style>
