<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useNotices } from '../../stores/notices.ts';
import { usePoints } from '../../stores/points.ts';
import { type Size, toCloth, type Viewport } from '../cloth/viewport.ts';
import { pathOnScreen } from '../shapes/clothPath.ts';
import { ARROWS } from '../tools/arrows.ts';
import { drawMoved, drawPoints } from './drawPoints.ts';

/** The cloth while single penetrations are worked on: clicked, drawn around or brushed over, and dragged. */
const props = defineProps<{ view: Viewport; size: Size }>();
const points = usePoints();
const bench = useBench();
const notices = useNotices();
const dots = useTemplateRef<HTMLCanvasElement>('dots');
const moving = useTemplateRef<HTMLCanvasElement>('moving');

/** So near (px) a press picks a penetration, and a press that moves farther is a drag. */
const REACH = 8;
const DRAGS = 3;

const picked = computed(() => new Set(points.picked));
/** Held, the cloth below is panned. */
const isAside = ref(false);
/** What is being drawn around or brushed, xyxy mm. */
const line = ref<number[]>([]);
const moved = ref<{ dx: number; dy: number }>();

const outline = computed(() => pathOnScreen(line.value, points.tool !== 'brush', props.view, props.size));
const brushWidth = computed(() => 2 * points.brush * props.view.scale);

function contextOf(canvas: HTMLCanvasElement | null): CanvasRenderingContext2D | undefined {
  if (canvas === null) return undefined;
  const ratio = window.devicePixelRatio;
  const [width, height] = [Math.round(props.size.width * ratio), Math.round(props.size.height * ratio)];
  if (canvas.width !== width || canvas.height !== height) [canvas.width, canvas.height] = [width, height];
  const ctx = canvas.getContext('2d') ?? undefined;
  ctx?.setTransform(ratio, 0, 0, ratio, 0, 0);
  return ctx;
}

/** Draws at the next frame, once for all that asked by then. */
function atFrame(draw: () => void): { readonly ask: () => void; readonly stop: () => void } {
  let frame = 0;
  const ask = (): void => {
    if (frame !== 0) return;
    frame = requestAnimationFrame(() => {
      frame = 0;
      draw();
    });
  };
  return { ask, stop: () => cancelAnimationFrame(frame) };
}

const dotsFrame = atFrame(() => {
  const program = points.program;
  const ctx = contextOf(dots.value);
  if (program === undefined || ctx === undefined) return;
  drawPoints(ctx, program, { ...props, mayPick: points.mayPick, picked: picked.value, upTo: bench.upTo });
});
const movedFrame = atFrame(() => {
  const program = points.program;
  const ctx = contextOf(moving.value);
  if (program === undefined || ctx === undefined) return;
  if (moved.value === undefined) ctx.clearRect(0, 0, props.size.width, props.size.height);
  else drawMoved(ctx, program, { ...props, picked: picked.value, ...moved.value });
});

watch([() => props.view, () => props.size, () => points.program, picked, () => points.isOfObject, () => bench.upTo], dotsFrame.ask);
watch([moved, () => props.view], movedFrame.ask);

function at(event: PointerEvent): { x: number; y: number } {
  const box = (event.currentTarget as SVGElement).getBoundingClientRect();
  return toCloth(props.view, props.size, event.clientX - box.left, event.clientY - box.top);
}

let pressed: { x: number; y: number; px: number; py: number; isOnPicked: boolean; isMore: boolean } | undefined;

function press(event: PointerEvent): void {
  if (event.button !== 0) return;
  (event.currentTarget as SVGElement).setPointerCapture(event.pointerId);
  (event.currentTarget as SVGElement).focus();
  const { x, y } = at(event);
  const isMore = event.shiftKey || event.ctrlKey || event.metaKey;
  // Only what is picked already is dragged: where stitches lie close, a lasso has to begin on some of them.
  const isOnPicked = !isMore && picked.value.has(points.rowAt(x, y, REACH / props.view.scale));
  pressed = { x, y, px: event.clientX, py: event.clientY, isOnPicked, isMore };
}

function move(event: PointerEvent): void {
  if (pressed === undefined || Math.hypot(event.clientX - pressed.px, event.clientY - pressed.py) < DRAGS) return;
  const { x, y } = at(event);
  if (pressed.isOnPicked) moved.value = { dx: thousandth(x - pressed.x), dy: thousandth(y - pressed.y) };
  else if (points.tool === 'box') line.value = [pressed.x, pressed.y, x, pressed.y, x, y, pressed.x, y];
  else line.value = [...(line.value.length === 0 ? [pressed.x, pressed.y] : line.value), x, y];
}

const thousandth = (v: number): number => Math.round(v * 1000) / 1000;

function release(): void {
  const [by, drawn, at] = [moved.value, line.value, pressed];
  pressed = undefined;
  line.value = [];
  if (at === undefined) return;
  if (by !== undefined) {
    void act(() => points.moveBy(by.dx, by.dy)).then(() => (moved.value = undefined));
    return;
  }
  if (drawn.length > 0) points.pickIn(Float64Array.from(drawn), at.isMore);
  else points.pickAt(at.x, at.y, REACH / props.view.scale, at.isMore);
}

async function act(what: () => Promise<unknown>): Promise<void> {
  try {
    await what();
  } catch (error) {
    notices.complain(error);
  }
}

/** What keys do to what is picked; with nothing picked the arrows step through the stitches as everywhere. */
function keyed(event: KeyboardEvent): (() => unknown) | undefined {
  const by = ARROWS[event.key];
  const has = points.picked.length > 0;
  if (by !== undefined && has && !event.altKey) {
    const step = event.shiftKey ? 1 : 0.1;
    return () => points.moveBy(by[0] * step, by[1] * step);
  }
  switch (event.key) {
    case 'Escape':
      return has ? () => (points.picked = []) : () => points.close();
    case 'Enter':
      return () => points.pickHere();
    case 'Delete':
    case 'Backspace':
      return has ? () => points.onPicked('delete') : undefined;
    case 'i':
      return () => points.onOne('insert', { side: 'after' });
    case 'I':
      return () => points.onOne('insert', { side: 'before' });
    case 'x':
      return () => points.onOne('cut');
    case 'm':
      return has ? () => points.onPicked('smooth') : undefined;
    case 'PageDown':
    case 'PageUp':
      return () => points.stepToCommand(event.key === 'PageDown' ? 1 : -1);
    default:
      return undefined;
  }
}

function onKey(event: KeyboardEvent): void {
  if (event.key === 'Alt') isAside.value = event.type === 'keydown';
  const isInField = event.target instanceof HTMLElement && event.target.closest('input, textarea, select, [role=listbox]') !== null;
  const isOnButton = event.target instanceof HTMLElement && event.target.closest('button') !== null && event.key === 'Enter';
  if (event.type !== 'keydown' || isInField || isOnButton || event.ctrlKey || event.metaKey) return;
  const does = keyed(event);
  if (does === undefined) return;
  event.preventDefault();
  event.stopImmediatePropagation();
  void act(() => Promise.resolve(does()));
}

const KEYS = ['keydown', 'keyup'] as const;
onMounted(() => {
  for (const type of KEYS) window.addEventListener(type, onKey, { capture: true });
  dotsFrame.ask();
});
onBeforeUnmount(() => {
  for (const type of KEYS) window.removeEventListener(type, onKey, { capture: true });
  dotsFrame.stop();
  movedFrame.stop();
});
</script>

<template>
  <div class="over-cloth" :class="{ aside: isAside }">
    <canvas ref="dots" />
    <canvas ref="moving" />
    <svg
      role="application"
      aria-label="Penetrations: click or draw around them, drag to move"
      tabindex="-1"
      @pointerdown.stop.prevent="press"
      @pointermove="move"
      @pointerup="release"
      @pointercancel="release"
      @click.stop
    >
      <path v-if="points.tool === 'brush' && outline" :d="outline" class="brush" :stroke-width="brushWidth" />
      <path v-else-if="outline" :d="outline" class="around" />
    </svg>
  </div>
</template>

<style scoped src="../cloth/drawnOver.css"></style>

<style scoped>
canvas,
.aside,
.aside > svg {
  pointer-events: none;
}

.around {
  fill: rgba(255, 253, 248, 0.12);
  stroke: #fffdf8;
  stroke-width: 1.6;
  stroke-dasharray: 5 4;
}

.brush {
  stroke: rgba(255, 253, 248, 0.35);
  stroke-linecap: round;
}
</style>
