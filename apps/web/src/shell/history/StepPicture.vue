<script setup lang="ts">
import { ref, useTemplateRef, watch } from 'vue';
import { sayCount } from '../../bench/figures/sayFigures.ts';
import { paintSmall } from '../../bench/paintSmall.ts';
import { useBench } from '../../stores/bench.ts';
import { clothWorker, nextProgramNumber } from '../../workers/startWorkers.ts';

/** What the design was after a step, small; none: what the steps begin with. */
const props = defineProps<{ step: string | null; title: string }>();
const SIZE = { width: 252, height: 176 };
const bench = useBench();
const canvas = useTemplateRef<HTMLCanvasElement>('canvas');
const color = ref('transparent');
const words = ref('');
const state = ref<'waiting' | 'drawn' | 'failed'>('waiting');

watch(
  () => props.step,
  async (step) => {
    state.value = 'waiting';
    const number = nextProgramNumber();
    try {
      const picture = await bench.pictureState(step ?? 'start');
      if (picture === undefined || props.step !== step) return;
      color.value = picture.target.clothColor;
      const { width, height } = picture.extents;
      words.value = `${sayCount(picture.stitches)} stitches, ${width.toFixed(0)} × ${height.toFixed(0)} mm`;
      const { extents, target } = picture;
      await clothWorker().setProgram(number, picture.program);
      if (await paintSmall(() => canvas.value, 'history', { program: number, extents, target, size: SIZE })) state.value = 'drawn';
    } catch {
      if (props.step === step) state.value = 'failed';
    } finally {
      void clothWorker().dropProgram(number);
    }
  },
  { immediate: true },
);
</script>

<template>
  <figure :data-state="state">
    <div class="cloth" :style="{ background: color }">
      <canvas ref="canvas" role="img" :aria-label="`The design after: ${title}`" />
      <p v-if="state === 'failed'" class="muted">There is no picture of it.</p>
    </div>
    <figcaption class="number">{{ state === 'drawn' ? words : '…' }}</figcaption>
  </figure>
</template>

<style scoped>
figure {
  width: 268px;
  padding: 8px;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 10px;
  box-shadow: 0 6px 22px rgb(20 38 43 / 18%);
}

.cloth {
  position: relative;
  height: 176px;
  border-radius: 6px;
  overflow: hidden;
}

.cloth p {
  position: absolute;
  inset: 45% 0 auto;
  text-align: center;
}

canvas {
  width: 100%;
  height: 100%;
}

figure[data-state='waiting'] canvas,
figure[data-state='failed'] canvas {
  visibility: hidden;
}

figcaption {
  padding: 6px 2px 0;
  font-size: 12px;
  color: var(--ink-2);
}
</style>
