<script setup lang="ts">
import { mdiPause, mdiPlay, mdiSkipBackward } from '@mdi/js';
import { computed, ref, useTemplateRef, watchEffect } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useObjects } from '../../stores/objects.ts';
import { useElementSize } from '../cloth/useElementSize.ts';
import ChoiceField from '../fields/ChoiceField.vue';
import { sayTime } from '../figures/sayFigures.ts';
import { drawScale, drawTape } from './drawTape.ts';
import { markEvery, planTape } from './planTape.ts';
import { sayChange } from './sayChange.ts';
import TapeTip from './TapeTip.vue';
import { useReplay } from './useReplay.ts';
import { useSewnSpans } from './useSewnSpans.ts';
import { useTapeDrag } from './useTapeDrag.ts';
import { useTapeTip } from './useTapeTip.ts';
import { useViewing } from '../../stores/viewing.ts';

const bench = useBench();
const viewing = useViewing();
const objects = useObjects();
const box = useTemplateRef('box');
const canvas = useTemplateRef<HTMLCanvasElement>('canvas');
const size = useElementSize(box);
const speed = ref(20);
const SPEEDS = [1, 5, 20, 60, 200];

const NOW_Y = 16;
const NOW_HEIGHT = 30;
const THEN_Y = 52;
const THEN_HEIGHT = 14;

const now = computed(() => bench.now?.view);
/** The second strip: what is being tried, or else the file as it came in. */
const other = computed(() => {
  if (bench.trial !== undefined) return { label: 'if accepted', view: bench.trial.shown.view };
  return bench.before !== undefined && bench.done.length > 0 ? { label: 'as it came', view: bench.before.view } : undefined;
});
const longest = computed(() => Math.max(now.value?.totals.seconds ?? 0, other.value?.view.totals.seconds ?? 0, 1));
const perSecond = computed(() => Math.max(0, size.value.width - 2) / longest.value);
const every = computed(() => markEvery(perSecond.value));
const total = computed(() => bench.shown?.view.totals.seconds ?? 0);
const cursor = computed(() => (viewing.time ?? total.value) * perSecond.value);
const change = computed(() =>
  other.value === undefined || now.value === undefined
    ? undefined
    : sayChange(now.value.totals.seconds, other.value.view.totals.seconds, bench.trial !== undefined),
);
/** Where on the tape the selected object is sewn: left edge and width of each of its spans, px. */
const spans = computed(() => {
  const view = bench.now?.view;
  if (view === undefined || bench.trial !== undefined || objects.selected === undefined) return [];
  return objects.selected.spans.map(({ first, last }) => {
    const from = (first > 0 ? view.done[first - 1]! : 0) * perSecond.value;
    return { from, width: Math.max(2, view.done[last]! * perSecond.value - from) };
  });
});
/** Where on the tape the selected finding is. */
const ticks = computed(() => {
  const finding = bench.selectedFinding;
  const view = now.value;
  if (finding === undefined || view === undefined) return [];
  const seen = new Set<number>();
  for (const row of finding.rows) {
    seen.add(Math.round((view.done[row] ?? 0) * perSecond.value));
    if (seen.size > 300) break;
  }
  return [...seen];
});

watchEffect(() => {
  const element = canvas.value;
  const view = now.value;
  if (element === null || view === undefined || size.value.width === 0) return;
  const ratio = window.devicePixelRatio;
  element.width = Math.round(size.value.width * ratio);
  element.height = Math.round(size.value.height * ratio);
  const ctx = element.getContext('2d')!;
  ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
  ctx.clearRect(0, 0, size.value.width, size.value.height);
  drawScale(ctx, longest.value, perSecond.value, every.value, 1);
  drawTape(ctx, planTape(view.events, view.program.threads, perSecond.value), NOW_Y, NOW_HEIGHT, false);
  if (other.value !== undefined)
    drawTape(ctx, planTape(other.value.view.events, other.value.view.program.threads, perSecond.value), THEN_Y, THEN_HEIGHT, true);
  ctx.fillStyle = '#14262b';
  for (const x of ticks.value) {
    ctx.beginPath();
    ctx.moveTo(x - 4, NOW_Y - 5);
    ctx.lineTo(x + 4, NOW_Y - 5);
    ctx.lineTo(x, NOW_Y + 1);
    ctx.fill();
  }
});

useReplay(speed, total);

const sewn = useSewnSpans();
const { drag, canDrag, startDrag } = useTapeDrag(sewn, perSecond);
const { tip, point } = useTapeTip(sewn, perSecond);

let isScrubbing = false;

function scrub(event: PointerEvent): void {
  if (event.type === 'pointerdown') {
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    isScrubbing = true;
    viewing.isPlaying = false;
  }
  const isOnNow = event.offsetY <= NOW_Y + NOW_HEIGHT;
  point(event.type === 'pointermove' && isOnNow && !isScrubbing && drag.value === undefined ? event.offsetX : undefined);
  if (!isScrubbing) return;
  const time = event.offsetX / perSecond.value;
  viewing.time = time >= total.value ? undefined : Math.max(0, time);
}

function onKey(event: KeyboardEvent): void {
  const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
  if (step === undefined) return;
  event.preventDefault();
  event.stopPropagation();
  viewing.time = Math.min(total.value, Math.max(0, (viewing.time ?? total.value) + step * (event.shiftKey ? 10 : 1)));
}
</script>

<template>
  <section v-if="now" class="tape" aria-label="The run as a tape of time">
    <div class="line number">
      <v-btn icon variant="text" size="x-small" :aria-label="'To the start'" @click="viewing.time = 0"
        ><v-icon :icon="mdiSkipBackward"
      /></v-btn>
      <v-btn
        class="play"
        icon
        size="x-small"
        :aria-label="viewing.isPlaying ? 'Pause' : 'Replay'"
        @click="viewing.isPlaying = !viewing.isPlaying"
      >
        <v-icon :icon="viewing.isPlaying ? mdiPause : mdiPlay" />
      </v-btn>
      <ChoiceField label="Replay speed" :value="speed" :choices="SPEEDS.map((s) => [s, `× ${s}`] as const)" @change="speed = $event" />
      <b>{{ viewing.time === undefined ? sayTime(now.totals.seconds) : `${sayTime(viewing.time)} of ${sayTime(total)}` }}</b>
      <span class="muted">sewing {{ sayTime(now.totals.sewing) }}</span>
      <span class="lost">trims {{ sayTime(now.totals.trims) }}</span>
      <span class="lost">colors {{ sayTime(now.totals.colorChanges) }}</span>
      <span v-if="now.totals.jumps >= 1" class="lost">moves {{ sayTime(now.totals.jumps) }}</span>
      <span v-if="now.totals.stops > 0" class="lost">stops {{ sayTime(now.totals.stops) }}</span>
      <span v-if="other" class="other"
        >{{ other.label }} {{ sayTime(other.view.totals.seconds) }}, <b :class="change?.mark">{{ change?.text }}</b></span
      >
      <span class="key muted"><i class="hatch" /> time lost · an estimate for {{ now.target.machine.name }}</span>
    </div>
    <div
      ref="box"
      class="strip"
      role="slider"
      tabindex="0"
      aria-label="Time in the run"
      aria-valuemin="0"
      :aria-valuemax="Math.round(total)"
      :aria-valuenow="Math.round(viewing.time ?? total)"
      :aria-valuetext="`${sayTime(viewing.time ?? total)} of ${sayTime(total)}`"
      @pointerdown="scrub"
      @pointermove="scrub"
      @pointerup="isScrubbing = false"
      @pointercancel="isScrubbing = false"
      @pointerleave="tip = undefined"
      @keydown="onKey"
    >
      <canvas ref="canvas" />
      <i
        v-for="(span, k) in spans"
        :key="k"
        class="span"
        :class="{ movable: canDrag }"
        :title="canDrag ? 'Drag it to where it is to be sewn' : undefined"
        :style="{ left: `${span.from}px`, width: `${span.width}px` }"
        @pointerdown="startDrag"
      />
      <i v-if="drag" class="drop" :style="{ left: `${drag.x}px` }" />
      <i class="needle" :style="{ left: `${cursor}px` }" />
      <TapeTip v-if="drag ?? tip" :x="(drag ?? tip)!.x" :words="(drag ?? tip)!.words" :width="size.width" />
    </div>
  </section>
</template>

<style scoped>
.tape {
  padding: 6px 16px 8px;
  border-top: 1px solid var(--line);
  background: var(--card);
}

.line {
  display: flex;
  gap: 14px;
  align-items: center;
  height: 32px;
  font-size: 12.5px;
  white-space: nowrap;
}

.line b {
  font-size: 15px;
  font-weight: 600;
}

.line .v-btn + .v-btn,
.line .choice-field {
  margin-left: -8px;
}

.lost {
  color: var(--lost);
}

.other {
  font-weight: 600;
}

.key {
  margin-left: auto;
  display: flex;
  gap: 6px;
  align-items: center;
  overflow: hidden;
  text-overflow: ellipsis;
}

.hatch {
  flex: none;
  width: 22px;
  height: 12px;
  background: repeating-linear-gradient(110deg, #b0322a 0 1px, #f6dfd9 1px 5px);
  border: 1px solid #d9b4ac;
}

.strip {
  position: relative;
  height: 70px;
  cursor: col-resize;
  touch-action: none;
}

canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}

.span {
  position: absolute;
  top: 12px;
  height: 38px;
  border: 2px solid var(--ink);
  border-radius: 3px;
  box-shadow: inset 0 0 0 1px #ffe9a8;
  pointer-events: none;
}

.span.movable {
  pointer-events: auto;
  cursor: grab;
}

.drop {
  position: absolute;
  top: 8px;
  width: 3px;
  height: 46px;
  margin-left: -1.5px;
  background: var(--sea);
  pointer-events: none;
}

.needle {
  position: absolute;
  top: 10px;
  width: 2px;
  height: 42px;
  margin-left: -1px;
  background: var(--ink);
  pointer-events: none;
}

.needle::before {
  content: '';
  position: absolute;
  left: -4px;
  top: -2px;
  border: 5px solid transparent;
  border-top-color: var(--ink);
}
</style>
