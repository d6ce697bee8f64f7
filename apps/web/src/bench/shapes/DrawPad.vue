<script setup lang="ts">
import { NODE, placeOfNode } from '@isola/core';
import { computed, onBeforeUnmount, onMounted, ref } from 'vue';
import { useDrawPad } from '../../stores/drawPad.ts';
import { useNotices } from '../../stores/notices.ts';
import { useObjects } from '../../stores/objects.ts';
import { type Size, toCloth, toScreen, type Viewport } from '../cloth/viewport.ts';
import { nodesOnScreen, pathOnScreen } from './clothPath.ts';
import { snap, type Snapped } from './snap.ts';

/** The cloth while something is drawn on it: a click sets a node, pulling while the button is down bends the line there. */
const props = defineProps<{ view: Viewport; size: Size }>();
const pad = useDrawPad();
const objects = useObjects();
const notices = useNotices();
const pointer = ref<Snapped>();
const isPulling = ref(false);

/** So near (px) a place or an edge draws the pointer to it, and a press that moves farther pulls. */
const REACH = 9;
const PULLS = 4;

const isClosed = computed(() => pad.tool === 'draw' && pad.form === 'closed');
const first = computed(() => (pad.nodes.length > 0 ? placeOfNode(pad.nodes, 0) : undefined));
const last = computed(() => (pad.nodes.length > 0 ? placeOfNode(pad.nodes, pad.nodes.length / NODE - 1) : undefined));

/** What draws the pointer to it: ends of objects, the first node, and edges. */
const targets = computed(() => {
  const shown = objects.objects.filter(({ role }) => role === 'cover' || role === 'placement' || role === 'tackdown');
  return {
    places: [
      ...(first.value === undefined || !isClosed.value ? [] : [{ x: first.value[0], y: first.value[1], says: 'the first node' }]),
      ...shown.flatMap(({ name, entry, exit }) => [
        { ...entry, says: `the start of ${name}` },
        { ...exit, says: `the end of ${name}` },
      ]),
    ],
    lines: shown.flatMap(({ outline, holes, path }) => [
      ...[outline, ...holes].filter((ring) => ring.length > 0).map((ring) => Float64Array.from([...ring, ring[0]!, ring[1]!])),
      ...(path === undefined ? [] : [path]),
    ]),
  };
});

const done = computed(() => pad.lines.map((line) => nodesOnScreen(line, isClosed.value, props.view, props.size)));
const line = computed(() => {
  const at = pointer.value;
  const coming = at === undefined || isPulling.value || !pad.isDrawing ? [] : [at.x, at.y, at.x, at.y, at.x, at.y];
  return pad.form === 'sides' && pad.tool === 'draw'
    ? rungs([...pad.nodes, ...coming])
    : nodesOnScreen([...pad.nodes, ...coming], false, props.view, props.size);
});

/** Both sides of a column, and a line from each place to its partner. */
function rungs(nodes: readonly number[]): string {
  const places = Array.from({ length: nodes.length / NODE }, (_, k) => placeOfNode(nodes, k));
  const side = (which: 0 | 1): string => pathOnScreen(places.filter((_, k) => k % 2 === which).flat(), false, props.view, props.size);
  const across = places.flatMap((place, k) =>
    k % 2 === 1 ? [pathOnScreen([...places[k - 1]!, ...place], false, props.view, props.size)] : [],
  );
  return [side(0), side(1), ...across].join('');
}

const nodes = computed(() =>
  Array.from({ length: pad.nodes.length / NODE }, (_, k) => ({
    at: toScreen(props.view, props.size, ...placeOfNode(pad.nodes, k)),
    wide: pad.form === 'middle' ? (pad.widths[k]! * props.view.scale) / 2 : 0,
  })),
);

function place(event: PointerEvent): { x: number; y: number } {
  const box = (event.currentTarget as SVGElement).getBoundingClientRect();
  return toCloth(props.view, props.size, event.clientX - box.left, event.clientY - box.top);
}

function snapped(event: PointerEvent): Snapped {
  const { x, y } = place(event);
  if (event.altKey) return { x: Math.round(x * 1000) / 1000, y: Math.round(y * 1000) / 1000 };
  const from = last.value === undefined ? undefined : { x: last.value[0], y: last.value[1] };
  return snap(x, y, { ...targets.value, from }, REACH / props.view.scale);
}

let pressed: { x: number; y: number } | undefined;

function press(event: PointerEvent): void {
  if (event.button !== 0) return;
  // Keys are the line's from here on, not those of the button that began it.
  (event.currentTarget as SVGElement).focus();
  const at = snapped(event);
  // Back on the first node a closed shape is done.
  if (isClosed.value && pad.canFinish && at.to === 'the first node') {
    void finish();
    return;
  }
  pad.set(at.x, at.y);
  pressed = { x: event.clientX, y: event.clientY };
  (event.currentTarget as SVGElement).setPointerCapture(event.pointerId);
}

function move(event: PointerEvent): void {
  pointer.value = snapped(event);
  if (pressed === undefined || Math.hypot(event.clientX - pressed.x, event.clientY - pressed.y) < PULLS) return;
  isPulling.value = true;
  const { x, y } = place(event);
  pad.pull(Math.round(x * 1000) / 1000, Math.round(y * 1000) / 1000);
}

function release(): void {
  pressed = undefined;
  isPulling.value = false;
}

async function finish(): Promise<void> {
  try {
    await pad.finish();
  } catch (error) {
    notices.complain(error);
  }
}

function onKey(event: KeyboardEvent): void {
  const isInField = event.target instanceof HTMLElement && event.target.closest('input, textarea, select, [role=listbox], button') !== null;
  if (event.key === 'Escape') pad.stop();
  else if (isInField || !pad.isDrawing) return;
  else if (event.key === 'Enter') void finish();
  else if (event.key === 'Backspace') pad.takeBack();
  else return;
  event.preventDefault();
  event.stopImmediatePropagation();
}

onMounted(() => window.addEventListener('keydown', onKey, { capture: true }));
onBeforeUnmount(() => window.removeEventListener('keydown', onKey, { capture: true }));
</script>

<template>
  <div class="over-cloth" :class="{ idle: !pad.isDrawing }">
    <svg
      role="application"
      tabindex="-1"
      :aria-label="pad.tool === 'cut' ? 'Draw the cut across the object' : 'Draw on the cloth'"
      @pointerdown.stop.prevent="press"
      @pointermove="move"
      @pointerup="release"
      @pointercancel="release"
      @pointerleave="pointer = undefined"
      @click.stop
      @dblclick.stop="finish"
    >
      <path v-for="(d, k) in done" :key="k" :d="d" class="done" />
      <path :d="line" class="halo" />
      <path :d="line" class="line" />
      <g v-for="(node, k) in nodes" :key="k">
        <circle v-if="node.wide > 0" :cx="node.at.x" :cy="node.at.y" :r="node.wide" class="wide" />
        <circle :cx="node.at.x" :cy="node.at.y" r="4" class="node" />
      </g>
    </svg>
    <p v-if="pad.isDrawing" class="hint" role="status">
      <template v-if="pointer?.to">on {{ pointer.to }}</template>
      <template v-else-if="pad.tool === 'cut'">Click the cut from one side to the other, Enter cuts.</template>
      <template v-else-if="pad.form === 'sides'">Click left and right in turn, Enter ends it. Alt sets freely.</template>
      <template v-else>Click sets a node, pull bends the line, Enter ends it. Alt sets freely.</template>
    </p>
  </div>
</template>

<style scoped src="../cloth/drawnOver.css"></style>

<style scoped>
.idle {
  pointer-events: none;
}

.done {
  stroke: #0f5c66;
  stroke-width: 1.4;
  stroke-dasharray: 5 4;
}

.node {
  fill: #fffdf8;
  stroke: #0f5c66;
  stroke-width: 2;
}

.wide {
  fill: rgba(255, 253, 248, 0.16);
  stroke: #fffdf8;
  stroke-dasharray: 2 3;
}
</style>
