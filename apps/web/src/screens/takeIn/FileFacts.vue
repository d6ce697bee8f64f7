<script setup lang="ts">
import { HISTOGRAM_BIN } from '@isola/core';
import { computed } from 'vue';
import { sayCount } from '../../bench/figures/sayFigures.ts';
import { useBench } from '../../stores/bench.ts';

const bench = useBench();
const figures = computed(() => bench.now!.view.figures);
const facts = computed(() => {
  const f = figures.value;
  return [
    ['Size', `${f.extents.width.toFixed(1)} × ${f.extents.height.toFixed(1)} mm`],
    ['Stitches', sayCount(f.stitches)],
    ['Trims', sayCount(f.trims)],
    ['Jumps', sayCount(f.jumps)],
    ['Color changes', sayCount(f.colorChanges)],
    ['Stops', sayCount(f.stops)],
    ['Longest stitch', `${f.longestStitch.toFixed(1)} mm`],
    ['Upper thread', `${f.threadM.toFixed(1)} m`],
    ['Bobbin', `${f.bobbinM.toFixed(1)} m`],
    ['Equal to', `${sayCount(f.run.equivalentStitches)} st`],
  ];
});
/** Stitches by length up to 12.5 mm, as shares of the commonest. */
const bars = computed(() => {
  const bins = figures.value.lengthHistogram.slice(0, 25);
  const most = Math.max(1, ...bins);
  return bins.map((count, k) => ({ from: k * HISTOGRAM_BIN, count, share: count / most }));
});
</script>

<template>
  <section class="facts" aria-label="What the file is">
    <h2>
      The file <span class="muted">{{ bench.job?.fileName }}</span>
    </h2>
    <p v-for="warning in bench.job?.warnings" :key="warning" class="warning">{{ warning }}</p>
    <dl class="number">
      <div v-for="[name, value] in facts" :key="name">
        <dt>{{ name }}</dt>
        <dd>{{ value }}</dd>
      </div>
    </dl>
    <figure>
      <div class="bars" role="img" aria-label="How many stitches are how long">
        <i
          v-for="bar in bars"
          :key="bar.from"
          :style="{ height: `${Math.max(bar.count > 0 ? 3 : 0, bar.share * 100)}%` }"
          :title="`${bar.from} to ${bar.from + HISTOGRAM_BIN} mm: ${bar.count}`"
        />
      </div>
      <figcaption class="muted number"><span>0</span><span>stitch length</span><span>12.5 mm</span></figcaption>
    </figure>
    <ol class="colors">
      <li v-for="color in figures.colors" :key="color.color + color.name">
        <i :style="{ background: color.color }" />
        <span>{{ color.name || color.color }}</span>
        <span class="number muted">{{ sayCount(color.stitches) }} st</span>
        <span class="number muted">{{ color.threadM.toFixed(1) }} m</span>
      </li>
    </ol>
  </section>
</template>

<style scoped>
h2 {
  font-size: 14px;
  font-weight: 600;
}

h2 .muted {
  font-weight: 400;
}

.warning {
  margin-top: 6px;
  padding-left: 9px;
  border-left: 3px solid var(--fix);
}

dl {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 2px 22px;
  margin-top: 8px;
}

dl div {
  display: flex;
  justify-content: space-between;
}

dt {
  color: var(--ink-2);
}

dd {
  font-weight: 500;
}

figure {
  margin-top: 12px;
}

.bars {
  display: flex;
  gap: 2px;
  align-items: flex-end;
  height: 46px;
  border-bottom: 1px solid var(--ink-3);
}

.bars i {
  flex: 1;
  background: var(--sea);
  border-radius: 1px 1px 0 0;
}

figcaption {
  display: flex;
  justify-content: space-between;
  font-size: 11.5px;
}

.colors {
  margin-top: 10px;
}

.colors li {
  display: grid;
  grid-template-columns: 16px 1fr auto 52px;
  gap: 9px;
  align-items: center;
  padding: 2px 0;
  text-align: right;
}

.colors li span:nth-child(2) {
  text-align: left;
}

.colors i {
  width: 16px;
  height: 16px;
  border-radius: 50%;
  box-shadow: inset 0 0 0 1px rgb(0 0 0 / 18%);
}
</style>
