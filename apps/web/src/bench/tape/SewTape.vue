<script setup lang="ts">
import { mdiPause, mdiPlay, mdiSkipBackward } from '@mdi/js';
import { computed, onBeforeUnmount, ref, shallowRef, useTemplateRef, watch, watchEffect } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useNotices } from '../../stores/notices.ts';
import { useObjects } from '../../stores/objects.ts';
import { useOrder } from '../../stores/order.ts';
import { useElementSize } from '../cloth/useElementSize.ts';
import ChoiceField from '../fields/ChoiceField.vue';
import { sayTime } from '../figures/sayFigures.ts';
import { drawScale, drawTape } from './drawTape.ts';
import { markEvery, planTape } from './planTape.ts';
import { sayEvent } from './sayEvent.ts';
import { useViewing } from '../../stores/viewing.ts';

const bench = useBench();
const viewing = useViewing();
const objects = useObjects();
const order = useOrder();
const notices = useNotices();
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
/** What changed since the file came in, or what the trial would change, by the times that are said. */
const change = computed(() => {
  if (other.value === undefined || now.value === undefined) return undefined;
  const by = Math.round(other.value.view.totals.seconds) - Math.round(now.value.totals.seconds);
  const isTrial = bench.trial !== undefined;
  if (by === 0) return { text: 'no change', mark: '' };
  const isGain = isTrial ? by < 0 : by > 0;
  const words = isTrial ? { gain: 'less', loss: 'more' } : { gain: 'saved since', loss: 'added since' };
  return { text: `${sayTime(by)} ${isGain ? words.gain : words.loss}`, mark: isGain ? 'gain' : 'loss' };
});
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

let frame = 0;
let last = 0;
watch(
  () => viewing.isPlaying,
  (isPlaying) => {
    cancelAnimationFrame(frame);
    if (!isPlaying) return;
    if (viewing.time === undefined || viewing.time >= total.value) viewing.time = 0;
    last = performance.now();
    frame = requestAnimationFrame(advance);
  },
);
onBeforeUnmount(() => {
  cancelAnimationFrame(frame);
  viewing.isPlaying = false;
});

function advance(at: number): void {
  const next = (viewing.time ?? 0) + (Math.max(0, at - last) / 1000) * speed.value;
  last = at;
  if (next >= total.value) {
    viewing.time = undefined;
    viewing.isPlaying = false;
    return;
  }
  viewing.time = next;
  frame = requestAnimationFrame(advance);
}

/** Objects where they are sewn, in order. */
const sewn = computed(() => {
  const byId = new Map(objects.objects.map((o) => [o.id, o]));
  return order.order.flatMap((id) => {
    const o = byId.get(id);
    return o === undefined ? [] : [{ id, name: o.name, first: o.first, last: o.last }];
  });
});
/** What is pointed at: time that is lost, with its reason. */
const tip = ref<{ x: number; words: string }>();

function point(event: PointerEvent): void {
  const view = bench.shown?.view;
  const isOnNow = event.offsetY <= NOW_Y + NOW_HEIGHT;
  if (view === undefined || bench.trial !== undefined || !isOnNow || isScrubbing || drag.value !== undefined) {
    tip.value = undefined;
    return;
  }
  const time = event.offsetX / perSecond.value;
  const found = view.events.find(({ start, end }) => time >= start && time <= end);
  tip.value =
    found === undefined || found.kind === 'sewing'
      ? undefined
      : { x: event.offsetX, words: sayEvent(found, view.program, sewn.value, order.connectors) };
}

/** A pointer that moves less than this (px) does not drag. */
const FIRM = 4;
/** The selected object while it is dragged along the tape: where it would be sewn, px, and what that would put on top of what. */
const drag = shallowRef<{ before: string | null; x: number; words: string }>();
const canDrag = computed(() => order.order.includes(objects.selected?.id ?? '') && bench.trial === undefined);

function startDrag(event: PointerEvent): void {
  const id = objects.selected?.id;
  const element = event.currentTarget as HTMLElement;
  if (!canDrag.value || id === undefined) return;
  event.stopPropagation();
  element.setPointerCapture(event.pointerId);
  const { left } = element.parentElement!.getBoundingClientRect();
  const move = (e: PointerEvent): void => {
    if (drag.value === undefined && Math.abs(e.clientX - event.clientX) < FIRM) return;
    const row = rowAt((e.clientX - left) / perSecond.value);
    const next = sewn.value.find((o) => o.id !== id && o.first > row) ?? null;
    const { broken } = order.look([id], next?.id ?? null);
    const x = next === null ? total.value * perSecond.value : (now.value!.done[Math.max(0, next.first - 1)] ?? 0) * perSecond.value;
    const where = next === null ? 'last of all' : `before ${next.name}`;
    drag.value = { before: next?.id ?? null, x, words: broken.length > 0 ? `${where}: ${order.sayBroken(broken)}` : where };
  };
  const end = (e: PointerEvent): void => {
    element.removeEventListener('pointermove', move);
    element.removeEventListener('pointerup', end);
    element.removeEventListener('pointercancel', end);
    const to = drag.value;
    drag.value = undefined;
    if (e.type !== 'pointerup') return;
    // Who only clicks there wants to see it there.
    if (to === undefined) viewing.time = Math.max(0, (e.clientX - left) / perSecond.value);
    else void moveTo(id, to.before);
  };
  element.addEventListener('pointermove', move);
  element.addEventListener('pointerup', end);
  element.addEventListener('pointercancel', end);
}

/** The row that is being sewn at a time. */
function rowAt(time: number): number {
  const done = now.value?.done ?? new Float64Array(0);
  let [low, high] = [0, done.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (done[middle]! < time) low = middle + 1;
    else high = middle;
  }
  return low;
}

async function moveTo(id: string, before: string | null): Promise<void> {
  const at = order.order.indexOf(id);
  if ((order.order[at + 1] ?? null) === before) return;
  try {
    const why = await order.moveBefore([id], before);
    if (why !== undefined) notices.say('Nothing was moved', `${why}.`);
  } catch (error) {
    notices.complain(error);
  }
}

let isScrubbing = false;

function scrub(event: PointerEvent): void {
  if (event.type === 'pointerdown') {
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    isScrubbing = true;
    viewing.isPlaying = false;
  }
  if (event.type === 'pointermove') point(event);
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
      <p
        v-if="drag || tip"
        class="tip"
        role="status"
        :style="{
          [(drag ?? tip)!.x > size.width / 2 ? 'right' : 'left']:
            `${(drag ?? tip)!.x > size.width / 2 ? size.width - (drag ?? tip)!.x : (drag ?? tip)!.x}px`,
        }"
      >
        {{ (drag ?? tip)!.words }}
      </p>
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

.tip {
  position: absolute;
  z-index: 2;
  bottom: 58px;
  max-width: 60%;
  padding: 4px 10px;
  background: var(--ink);
  color: var(--card);
  border-radius: 7px;
  font-size: 12px;
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
