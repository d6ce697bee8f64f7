<script setup lang="ts">
import { AS_FILED, type Extents, extentsInHoop, fromHoop, type Garment, type Hoop } from '@isola/core';
import { useElementSize } from './useElementSize.ts';
import { computed, ref, useTemplateRef, watch } from 'vue';
import type { ShownDesign } from '../../stores/trials.ts';
import type { ShownPart, ShownPiece } from '../../workers/clothProtocol.ts';
import type { ClothViewKind } from './views/views.ts';
import { luminance } from './colors.ts';
import { useClothPicture } from './useClothPicture.ts';
import { fitViewport, pan, sayScale, toCloth, toScreen, TRUE_SIZE, type Viewport, zoomAt } from './viewport.ts';

const props = defineProps<{
  shown: ShownDesign | undefined;
  kind: ClothViewKind;
  upTo: number;
  /** The number of a program that is on its way and is to be shown as soon as it is there. */
  coming?: number | undefined;
  channel: string;
  label: string;
  hasFrame?: boolean;
  stamp?: number;
  part?: ShownPart;
  /** Pieces of cloth that are laid by then. */
  pieces?: readonly ShownPiece[];
}>();
const emit = defineEmits<{ pick: [x: number, y: number, reach: number, isMore: boolean]; painted: [program: number] }>();
const view = defineModel<Viewport>('view', { default: () => ({ x: 0, y: 0, scale: 1 }) });

const box = useTemplateRef('box');
const canvas = useTemplateRef<HTMLCanvasElement>('canvas');
const size = useElementSize(box);
const pointer = ref<{ x: number; y: number }>();
const isPainted = ref(false);

useClothPicture(
  canvas,
  props.channel,
  () => ({
    shown: props.shown,
    coming: props.coming,
    view: view.value,
    size: size.value,
    kind: props.kind,
    part: props.part ?? 'all',
    upTo: props.upTo,
    stamp: props.stamp ?? 0,
    ...(props.pieces === undefined ? {} : { pieces: props.pieces }),
  }),
  (program) => {
    isPainted.value = true;
    emit('painted', program);
  },
);

const extents = computed<Extents | undefined>(() => props.shown?.view.figures.extents);
let hasFitted = false;
watch(
  [extents, size],
  () => {
    if (hasFitted || extents.value === undefined || size.value.width === 0) return;
    hasFitted = true;
    fit();
  },
  { immediate: true },
);

const lineColor = computed(() =>
  luminance(props.shown?.view.target.clothColor ?? '#ffffff') > 0.25 ? 'rgba(20,38,43,0.4)' : 'rgba(255,253,248,0.42)',
);
/** Hoop and zone, where they lie around the design, which stays upright on the screen. */
const frames = computed(() => {
  const target = props.shown?.view.target;
  if (target === undefined || !props.hasFrame) return [];
  const { garment, hoop, place = AS_FILED } = target;
  const around = { name: `${hoop.name} hoop`, dash: '7 5', isNameBelow: false, ...rectangle(hoop, fromHoop(place, 0, 0), place.turn) };
  if (garment === null) return [around];
  const { x, y } = middle.value!;
  const name = `${garment.name} ${garment.width} × ${garment.height}`;
  return [around, { name, dash: '2 5', isNameBelow: true, ...rectangle(garment, fromHoop(place, x, y), place.turn) }];
});
/** Of the design in the hoop. */
const middle = computed(() => {
  const shown = props.shown?.view;
  if (shown === undefined) return undefined;
  const { minX, maxX, minY, maxY } = extentsInHoop(shown.program, shown.figures.extents, shown.target.place);
  return { x: (minX + maxX) / 2, y: (minY + maxY) / 2 };
});

function rectangle(of: Hoop | Garment, center: { readonly x: number; readonly y: number }, turn: number) {
  const at = toScreen(view.value, size.value, center.x, center.y);
  const [width, height] = [of.width * view.value.scale, of.height * view.value.scale];
  // On the screen y runs down, so a turn to the left of the design is one to the right of what is around it.
  return { x: at.x - width / 2, y: at.y - height / 2, width, height, transform: `rotate(${turn} ${at.x} ${at.y})` };
}

/** What is fitted: the design, or the room for one where nothing is sewn yet. */
function fit(): void {
  const target = props.shown?.view.target;
  if (extents.value === undefined || target === undefined) return;
  const isBlank = props.shown!.view.figures.stitches === 0;
  const { width, height } = target.garment ?? target.hoop;
  const room = { minX: -width / 2, maxX: width / 2, minY: -height / 2, maxY: height / 2, width, height };
  view.value = fitViewport(isBlank ? room : extents.value, size.value);
}

function zoomBy(factor: number): void {
  view.value = zoomAt(view.value, size.value, size.value.width / 2, size.value.height / 2, factor);
}

function zoomTo(times: number): void {
  zoomBy((times * TRUE_SIZE) / view.value.scale);
}

/** Shows all of some places with room around them, no nearer than `closest` px a mm. */
function goTo(places: readonly { readonly x: number; readonly y: number }[], closest: number): void {
  const xs = places.map((p) => p.x);
  const ys = places.map((p) => p.y);
  const [minX, maxX, minY, maxY] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const fitted = fitViewport({ minX, maxX, minY, maxY, width: maxX - minX, height: maxY - minY }, size.value, 0.2);
  view.value = { ...fitted, scale: Math.min(fitted.scale, closest) };
}

function onWheel(event: WheelEvent): void {
  view.value = zoomAt(view.value, size.value, event.offsetX, event.offsetY, Math.exp(-event.deltaY * 0.0016));
}

/** A press that moves is a pan; one that does not is a pick. */
const CLICK_REACH = 4;
let press: { x: number; y: number; isPan: boolean } | undefined;

function onDown(event: PointerEvent): void {
  if (event.button !== 0) return;
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  press = { x: event.clientX, y: event.clientY, isPan: false };
}

function onMove(event: PointerEvent): void {
  pointer.value = toCloth(view.value, size.value, event.offsetX, event.offsetY);
  if (press === undefined) return;
  const dx = event.clientX - press.x;
  const dy = event.clientY - press.y;
  if (!press.isPan && Math.hypot(dx, dy) < CLICK_REACH) return;
  view.value = pan(view.value, dx, dy);
  press = { x: event.clientX, y: event.clientY, isPan: true };
}

function onUp(event: PointerEvent): void {
  if (press !== undefined && !press.isPan) {
    const at = toCloth(view.value, size.value, event.offsetX, event.offsetY);
    emit('pick', at.x, at.y, 6 / view.value.scale, event.ctrlKey || event.metaKey || event.shiftKey);
  }
  press = undefined;
}

defineExpose({ fit, zoomBy, zoomTo, goTo });
</script>

<template>
  <div ref="box" class="cloth" :data-painted="isPainted">
    <canvas
      ref="canvas"
      class="surface"
      role="img"
      :aria-label="label"
      @wheel.prevent="onWheel"
      @pointerdown="onDown"
      @pointermove="onMove"
      @pointerup="onUp"
      @pointercancel="press = undefined"
      @pointerleave="pointer = undefined"
    />
    <svg class="frames" :stroke="lineColor" :style="{ '--cloth': shown?.view.target.clothColor }" fill="none" aria-hidden="true">
      <g v-for="frame in frames" :key="frame.name" :transform="frame.transform">
        <rect :x="frame.x" :y="frame.y" :width="frame.width" :height="frame.height" rx="10" :stroke-dasharray="frame.dash" />
        <!-- A frame may begin beside the window: its name is read all the same. -->
        <text
          :x="Math.max(frame.x, 0) + 12"
          :y="frame.isNameBelow ? frame.y + frame.height + 14 : frame.y - 6"
          :fill="lineColor"
          class="name"
        >
          {{ frame.name }}
        </text>
      </g>
    </svg>
    <p v-if="shown && !isPainted" class="drawing" role="status">The picture is being drawn…</p>
    <slot :view="view" :size="size" :is-painted="isPainted" />
    <div class="scale number">
      <span>{{ sayScale(view.scale) }}</span>
      <span v-if="pointer" class="muted">{{ pointer.x.toFixed(1) }}, {{ pointer.y.toFixed(1) }} mm</span>
      <i v-if="view.scale * 10 < 130" class="bar" :style="{ width: `${10 * view.scale}px` }" />
      <span v-if="view.scale * 10 < 130" class="muted">10 mm</span>
      <template v-else>
        <i class="bar" :style="{ width: `${view.scale}px` }" />
        <span class="muted">1 mm</span>
      </template>
    </div>
  </div>
</template>

<style scoped>
.cloth {
  container: cloth / inline-size;
  position: relative;
  overflow: hidden;
  background: var(--table);
  min-width: 0;
  min-height: 0;
  height: 100%;
}

.surface {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  touch-action: none;
  cursor: crosshair;
}

.surface:active {
  cursor: grabbing;
}

.frames {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
  font-size: 11px;
}

/* A name may come to lie on another frame's line. */
.frames .name {
  stroke: var(--cloth);
  stroke-width: 4px;
  paint-order: stroke;
}

.drawing {
  position: absolute;
  inset: auto 0 40%;
  width: fit-content;
  margin: 0 auto;
  padding: 6px 14px;
  border-radius: 8px;
  background: var(--card);
  border: 1px solid var(--line);
  animation: come 0.2s 0.5s backwards;
  pointer-events: none;
}

@keyframes come {
  from {
    opacity: 0;
  }
}

.scale {
  position: absolute;
  right: 12px;
  bottom: 12px;
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 4px 10px;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 8px;
  font-size: 12px;
  pointer-events: none;
}

.bar {
  height: 5px;
  border: 1px solid var(--ink-2);
  border-top: 0;
}

/* Where a row of choices at the foot of the cloth leaves no room beside it. */
@container cloth (max-width: 760px) {
  .cloth:has(.segments.parts) .scale {
    bottom: 52px;
  }
}
</style>
