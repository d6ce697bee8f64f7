<script setup lang="ts">
import type { SewOutPhoto } from '@isola/contract';
import type { PhotoPoint } from '@isola/core';
import { computed, ref, useTemplateRef } from 'vue';
import { api } from '../../api/client.ts';
import ClothView from '../../bench/cloth/ClothView.vue';
import { useElementSize } from '../../bench/cloth/useElementSize.ts';
import { toCloth, toScreen, type Viewport } from '../../bench/cloth/viewport.ts';
import { useSewOuts } from '../../stores/sewOuts.ts';
import type { ShownDesign } from '../../stores/trials.ts';
import { useAct } from '../../stores/useAct.ts';

/** Three points of a photo beside the same three of the design: each is dragged, or moved by the arrow keys, until both mark one spot. */
const props = defineProps<{ photo: SewOutPhoto; shown: ShownDesign }>();
const emit = defineEmits<{ close: [] }>();
const sewOuts = useSewOuts();
const { isBusy, act } = useAct();
const pane = useTemplateRef('pane');
const paneSize = useElementSize(pane);
const view = ref<Viewport>({ x: 0, y: 0, scale: 1 });

/** At first they stand in three corners of both. */
function begin(): PhotoPoint[] {
  const { minX, maxX, minY, maxY } = props.shown.view.figures.extents;
  const { width, height } = props.photo;
  return (
    [
      [0.25, 0.25, minX, maxY],
      [0.75, 0.25, maxX, maxY],
      [0.5, 0.75, (minX + maxX) / 2, minY],
    ] as const
  ).map(([px, py, x, y]) => ({ photo: { x: px * width, y: py * height }, design: { x, y } }));
}
const points = ref<PhotoPoint[]>(props.photo.points === null ? begin() : props.photo.points.map((point) => ({ ...point })));

/** CSS pixels for one of the photo's, which is shown whole. */
const photoScale = computed(() => Math.min(paneSize.value.width / props.photo.width, paneSize.value.height / props.photo.height) || 0.1);
type Side = keyof PhotoPoint;

function move(k: number, side: Side, x: number, y: number): void {
  points.value = points.value.map((point, at) => (at === k ? { ...point, [side]: { x, y } } : point));
}

let held: { k: number; side: Side } | undefined;
function onDown(event: PointerEvent, k: number, side: Side): void {
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  held = { k, side };
}

function onMove(event: PointerEvent): void {
  if (held === undefined) return;
  const box = (event.currentTarget as HTMLElement).parentElement!.getBoundingClientRect();
  const [px, py] = [event.clientX - box.left, event.clientY - box.top];
  if (held.side === 'photo') move(held.k, 'photo', px / photoScale.value, py / photoScale.value);
  else {
    const { x, y } = toCloth(view.value, { width: box.width, height: box.height }, px, py);
    move(held.k, 'design', x, y);
  }
}

const WAYS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
function onKey(event: KeyboardEvent, k: number, side: Side): void {
  const way = WAYS[event.key];
  if (way === undefined) return;
  event.preventDefault();
  event.stopPropagation();
  const far = event.shiftKey ? 10 : 1;
  const at = points.value[k]![side];
  // A screen's pixel of either; y of the design runs up.
  if (side === 'photo') move(k, side, at.x + (way[0] * far) / photoScale.value, at.y + (way[1] * far) / photoScale.value);
  else move(k, side, at.x + (way[0] * far) / view.value.scale, at.y - (way[1] * far) / view.value.scale);
}

const lay = (): Promise<void> =>
  act(async () => {
    sewOuts.take(await api.layPhoto(props.photo.id, points.value));
    emit('close');
  });
</script>

<template>
  <div class="laying" @keydown.esc="emit('close')">
    <div ref="pane" class="pane photo">
      <div class="sheet" :style="{ width: `${photo.width * photoScale}px`, height: `${photo.height * photoScale}px` }">
        <img :src="api.photoAddress(photo.id)" :alt="photo.name" draggable="false" />
        <button
          v-for="(point, k) in points"
          :key="k"
          type="button"
          class="point"
          :style="{ left: `${point.photo.x * photoScale}px`, top: `${point.photo.y * photoScale}px` }"
          :aria-label="`Point ${k + 1} in the photo; arrow keys move it`"
          @pointerdown="onDown($event, k, 'photo')"
          @pointermove="onMove"
          @pointerup="held = undefined"
          @keydown="onKey($event, k, 'photo')"
        >
          <b>{{ k + 1 }}</b>
        </button>
      </div>
    </div>
    <div class="pane">
      <ClothView
        v-model:view="view"
        :shown="shown"
        kind="thread"
        :up-to="Infinity"
        channel="laying"
        label="The design, to lay a photo over"
      >
        <template #default="{ view: seen, size }">
          <button
            v-for="(point, k) in points"
            :key="k"
            type="button"
            class="point"
            :style="{
              left: `${toScreen(seen, size, point.design.x, point.design.y).x}px`,
              top: `${toScreen(seen, size, point.design.x, point.design.y).y}px`,
            }"
            :aria-label="`Point ${k + 1} on the design; arrow keys move it`"
            @pointerdown.stop="onDown($event, k, 'design')"
            @pointermove="onMove"
            @pointerup="held = undefined"
            @keydown="onKey($event, k, 'design')"
          >
            <b>{{ k + 1 }}</b>
          </button>
        </template>
      </ClothView>
    </div>
    <p class="foot">
      <span>Put 1, 2 and 3 on the same spots of both, far apart: tips and corners do best.</span>
      <v-btn :loading="isBusy" @click="lay">Lay it over the design</v-btn>
      <v-btn variant="text" @click="emit('close')">Not now</v-btn>
    </p>
  </div>
</template>

<style scoped>
.laying {
  display: grid;
  grid-template: minmax(0, 1fr) auto / 1fr 1fr;
  height: 100%;
}

.pane {
  position: relative;
  min-width: 0;
  min-height: 0;
}

.photo {
  display: grid;
  place-items: center;
  background: #2b2f31;
  border-right: 1px solid var(--line);
}

.sheet {
  position: relative;
}

img {
  width: 100%;
  height: 100%;
}

.point {
  position: absolute;
  width: 28px;
  height: 28px;
  margin: -14px 0 0 -14px;
  border: 2.5px solid #fffdf8;
  border-radius: 50%;
  outline: 1.5px solid var(--sea);
  background: radial-gradient(circle, var(--sea) 2px, rgb(255 253 248 / 20%) 2.5px);
  cursor: grab;
  touch-action: none;
}

.point b {
  position: absolute;
  top: -20px;
  left: 16px;
  padding: 0 6px;
  border-radius: 5px;
  background: var(--sea);
  color: #fffdf8;
  font-weight: 600;
}

.point:focus-visible {
  outline: 3px solid #f0b429;
}

.foot {
  display: flex;
  gap: 14px;
  align-items: center;
  grid-column: 1 / -1;
  padding: 10px 16px;
  background: var(--card);
  border-top: 1px solid var(--line);
}

.foot span {
  margin-right: auto;
}
</style>
