<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref } from 'vue';
import { useNotices } from '../../stores/notices.ts';
import { useOrder } from '../../stores/order.ts';
import { type Size, toCloth, toScreen, type Viewport } from '../cloth/viewport.ts';

/** The way to the selected object drawn by hand: each click sets a corner, a double click or Enter sews along it, Escape leaves it as it was. */
const props = defineProps<{ view: Viewport; size: Size }>();
const order = useOrder();
const notices = useNotices();
const corners = ref<{ x: number; y: number }[]>([]);
const pointer = ref<{ x: number; y: number }>();

const ends = computed(() => {
  const points = order.wayHere?.points ?? [];
  return points.length < 4
    ? undefined
    : [
        { x: points[0]!, y: points[1]! },
        { x: points.at(-2)!, y: points.at(-1)! },
      ];
});
const line = computed(() => {
  if (ends.value === undefined) return '';
  const places = [ends.value[0]!, ...corners.value, ...(pointer.value === undefined ? [] : [pointer.value]), ends.value[1]!];
  return places
    .map(({ x, y }) => toScreen(props.view, props.size, x, y))
    .map(({ x, y }, k) => `${k === 0 ? 'M' : 'L'}${x.toFixed(1)} ${y.toFixed(1)}`)
    .join('');
});

function at(event: PointerEvent | MouseEvent): { x: number; y: number } {
  const box = (event.currentTarget as SVGElement).getBoundingClientRect();
  return toCloth(props.view, props.size, event.clientX - box.left, event.clientY - box.top);
}

async function finish(): Promise<void> {
  const [from, to] = ends.value ?? [];
  if (from === undefined || to === undefined) return;
  try {
    const why = await order.layPath([from, ...corners.value, to]);
    if (why !== undefined) notices.say('Nothing was changed', `${why}.`);
  } catch (error) {
    notices.complain(error);
  }
}

function onKey(event: KeyboardEvent): void {
  if (event.key !== 'Enter' && event.key !== 'Escape' && event.key !== 'Backspace') return;
  event.preventDefault();
  event.stopImmediatePropagation();
  if (event.key === 'Enter') void finish();
  else if (event.key === 'Backspace') corners.value.pop();
  else order.isDrawing = false;
}

onMounted(() => window.addEventListener('keydown', onKey, { capture: true }));
onBeforeUnmount(() => window.removeEventListener('keydown', onKey, { capture: true }));
</script>

<template>
  <div class="over-cloth">
    <svg
      role="application"
      aria-label="Draw the way: click corners, Enter sews along it"
      @pointerdown.stop.prevent
      @pointermove="pointer = at($event)"
      @click.stop="corners.push(at($event))"
      @dblclick.stop="finish"
    >
      <path :d="line" class="halo" />
      <path :d="line" class="line" />
    </svg>
    <p class="hint">
      Click the corners of the way. Enter or a double click sews along it, Backspace takes a corner back, Escape leaves it.
    </p>
  </div>
</template>

<style scoped src="../cloth/drawnOver.css"></style>
