<script setup lang="ts">
import { computed } from 'vue';
import { useObjects } from '../../stores/objects.ts';
import { useSpecs } from '../../stores/specs.ts';
import { type Size, toScreen, type Viewport } from '../cloth/viewport.ts';

const props = defineProps<{ view: Viewport; size: Size }>();
const objects = useObjects();
const specs = useSpecs();

/** How far the grip is from the middle of the object, px. */
const REACH = 58;

const fill = computed(() => (specs.spec?.kind === 'fill' && objects.selected?.role === 'cover' ? specs.spec : undefined));
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
  (fill.value?.angleLines ?? []).map(
    ([x0, y0, x1, y1]) => [toScreen(props.view, props.size, x0, y0), toScreen(props.view, props.size, x1, y1)] as const,
  ),
);
const grip = computed(() => {
  if (fill.value === undefined || middle.value === undefined || lines.value.length >= 2) return undefined;
  const turn = (fill.value.angle * Math.PI) / 180;
  const [dx, dy] = [Math.cos(turn) * REACH, -Math.sin(turn) * REACH];
  return { x: middle.value.x + dx, y: middle.value.y + dy, fromX: middle.value.x - dx, fromY: middle.value.y - dy };
});

/** Follows the pointer until it is let go; what moves is tried all the while. */
function follow(event: PointerEvent, move: (x: number, y: number, isFine: boolean) => void): void {
  const target = event.currentTarget as SVGElement;
  const frame = target.ownerSVGElement!.getBoundingClientRect();
  target.setPointerCapture(event.pointerId);
  const onMove = (e: PointerEvent): void => move(e.clientX - frame.left, e.clientY - frame.top, e.shiftKey);
  const end = (): void => {
    target.removeEventListener('pointermove', onMove);
    target.removeEventListener('pointerup', end);
    target.removeEventListener('pointercancel', end);
  };
  target.addEventListener('pointermove', onMove);
  target.addEventListener('pointerup', end);
  target.addEventListener('pointercancel', end);
}

function turn(event: PointerEvent): void {
  follow(event, (x, y, isFine) => {
    if (middle.value === undefined) return;
    const degrees = (Math.atan2(middle.value.y - y, x - middle.value.x) * 180) / Math.PI;
    const step = isFine ? 0.1 : 1;
    specs.change({ angle: (((Math.round(degrees / step) * step) % 180) + 180) % 180 });
  });
}

function bend(event: PointerEvent, at: number, end: 0 | 1): void {
  follow(event, (x, y) => {
    const px = Math.round((props.view.x + (x - props.size.width / 2) / props.view.scale) * 1000) / 1000;
    const py = Math.round((props.view.y - (y - props.size.height / 2) / props.view.scale) * 1000) / 1000;
    specs.change({
      angleLines: fill.value!.angleLines.map(([x0, y0, x1, y1], k): [number, number, number, number] =>
        k !== at ? [x0, y0, x1, y1] : end === 0 ? [px, py, x1, y1] : [x0, y0, px, py],
      ),
    });
  });
}

function onKey(event: KeyboardEvent): void {
  const by = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key];
  if (by === undefined || fill.value === undefined) return;
  event.preventDefault();
  event.stopPropagation();
  specs.change({ angle: (((Math.round(fill.value.angle) + by * (event.shiftKey ? 10 : 1)) % 180) + 180) % 180 });
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
        :aria-valuenow="Math.round(fill!.angle)"
        @pointerdown.stop.prevent="turn"
        @keydown="onKey"
      />
    </g>
    <g v-for="([a, b], k) in lines" :key="k">
      <path :d="`M${a.x} ${a.y}L${b.x} ${b.y}`" class="halo" />
      <path :d="`M${a.x} ${a.y}L${b.x} ${b.y}`" class="line" />
      <circle :cx="a.x" :cy="a.y" r="7" class="grip" @pointerdown.stop.prevent="bend($event, k, 0)" />
      <circle :cx="b.x" :cy="b.y" r="7" class="grip" @pointerdown.stop.prevent="bend($event, k, 1)" />
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

.grip:active {
  cursor: grabbing;
}
</style>
