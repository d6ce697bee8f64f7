<script setup lang="ts">
import type { JobSummary } from '@isola/contract';
import { transfer } from 'comlink';
import { onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from 'vue';
import { api } from '../../api/client.ts';
import { paintSmall } from '../../bench/paintSmall.ts';
import { clothWorker, nextProgramNumber } from '../../workers/startWorkers.ts';

const props = defineProps<{ job: JobSummary }>();

const SIZE = { width: 140, height: 98 };
const canvas = useTemplateRef<HTMLCanvasElement>('canvas');
const state = ref<'waiting' | 'drawn' | 'failed'>('waiting');
let observer: IntersectionObserver | undefined;

/** Drawn when it comes into sight, and again when the job's stitches or cloth changed. */
onMounted(() => {
  observer = new IntersectionObserver(([entry]) => {
    if (entry?.isIntersecting !== true) return;
    observer?.disconnect();
    void draw();
  });
  observer.observe(canvas.value!);
});
onBeforeUnmount(() => observer?.disconnect());
watch(
  () => props.job.version,
  () => void draw(),
);

async function draw(): Promise<void> {
  const { id, target } = props.job;
  const number = nextProgramNumber();
  try {
    const file = await api.program(id);
    const extents = await clothWorker().readProgram(number, transfer(file, [file.buffer]));
    const isDrawn = await paintSmall(() => canvas.value, `job ${id}`, { program: number, extents, target, size: SIZE });
    if (!isDrawn) return;
    state.value = 'drawn';
  } catch {
    state.value = 'failed';
  } finally {
    void clothWorker().dropProgram(number);
  }
}
</script>

<template>
  <figure :style="{ background: job.target.clothColor }" :data-state="state">
    <canvas ref="canvas" role="img" :aria-label="`Picture of ${job.name}`" />
    <figcaption v-if="state === 'failed'">no picture</figcaption>
  </figure>
</template>

<style scoped>
figure {
  position: relative;
  width: 140px;
  height: 98px;
  border-radius: 6px;
  overflow: hidden;
  box-shadow: inset 0 0 0 1px rgb(0 0 0 / 12%);
}

canvas {
  width: 100%;
  height: 100%;
}

figcaption {
  position: absolute;
  inset: auto 0 6px;
  text-align: center;
  font-size: 11px;
}
</style>
