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
  (event.currentTarget as SVGElement).focus();
  follow(event, (x, y) => {
    const px = props.view.x + (x - props.size.width / 2) / props.view.scale;
    const py = props.view.y - (y - props.size.height / 2) / props.view.scale;
    moveEnd(at, end, () => [px, py]);
  });
}

/** Moves one end of an angle line; `to` gets where it is, mm. */
function moveEnd(at: number, end: 0 | 1, to: (x: number, y: number) => [number, number]): void {
  const thousandth = (v: number): number => Math.round(v * 1000) / 1000;
  specs.change({
    angleLines: led.value!.angleLines.map((line, k): [number, number, number, number] => {
      if (k !== at) return line;
      const [px, py] = to(line[end * 2]!, line[end * 2 + 1]!).map(thousandth) as [number, number];
      return end === 0 ? [px, py, line[2], line[3]] : [line[0], line[1], px, py];
    }),
  });
}

const ARROWS: Readonly<Record<string, readonly [dx: number, dy: number]>> = {
  ArrowUp: [0, 1],
  ArrowRight: [1, 0],
  ArrowDown: [0, -1],
  ArrowLeft: [-1, 0],
};

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
  const turned = Math.round(led.value.angle) + (by[0] + by[1]) * (event.shiftKey ? 10 : 1);
  specs.change({ angle: ((turned % 180) + 180) % 180 });
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
