<script setup lang="ts">
import { type Figures, HISTOGRAM_BIN } from '@isola/core';
import { BarController, BarElement, CategoryScale, Chart, Legend, LinearScale, Tooltip } from 'chart.js';
import { computed } from 'vue';
import { Bar } from 'vue-chartjs';
import { sayCount, sayTime } from '../../bench/figures/sayFigures.ts';

/** Where the time of a piece goes, and how long its stitches are, of both states. */
const props = defineProps<{ one: Figures; other: Figures; titles: readonly [one: string, other: string] }>();
Chart.register(BarController, BarElement, CategoryScale, LinearScale, Legend, Tooltip);

const style = getComputedStyle(document.documentElement);
const ink = style.getPropertyValue('--ink').trim() || '#14262b';
const faint = style.getPropertyValue('--ink-2').trim() || '#46575b';
const line = style.getPropertyValue('--line-soft').trim() || '#ebe6da';
const FONT = { family: 'IBM Plex Sans', size: 11.5 };

/** Told apart by lightness, too, from what sews to what only waits. */
const CAUSES = [
  ['sewing', 'sewing', '#0f5c66'],
  ['trims', 'trims', '#9a5a00'],
  ['colorChanges', 'colors', '#d9a441'],
  ['jumps', 'moves', '#7b8c94'],
  ['stops', 'stops', '#c9bfae'],
] as const;

const seconds = computed(() => ({
  labels: [...props.titles],
  datasets: CAUSES.filter(([cause]) => props.one.run[cause] + props.other.run[cause] > 0).map(([cause, label, color]) => ({
    label,
    data: [props.one.run[cause], props.other.run[cause]],
    backgroundColor: color,
    barThickness: 16,
  })),
}));
const text = { color: faint, font: FONT };
/** Whole minutes, and no more than five of them. */
const secondsStep = computed(() => 60 * Math.max(1, Math.ceil(Math.max(props.one.run.seconds, props.other.run.seconds) / 300)));
const secondsOptions = computed(() => ({
  ...{ indexAxis: 'y' as const, responsive: true, maintainAspectRatio: false, animation: false as const },
  scales: {
    x: {
      stacked: true,
      grid: { color: line },
      ticks: { ...text, stepSize: secondsStep.value, callback: (value: string | number) => sayTime(Number(value)) },
    },
    y: { stacked: true, grid: { display: false }, ticks: { ...text, color: ink } },
  },
  plugins: {
    legend: { position: 'bottom' as const, labels: { ...text, boxWidth: 10, boxHeight: 10, padding: 8 } },
    tooltip: {
      callbacks: {
        label: ({ dataset, parsed }: { dataset: { label?: string }; parsed: { x: number | null } }) =>
          `${dataset.label}: ${sayTime(parsed.x ?? 0)}`,
      },
    },
  },
}));

/** As many bins as either of them fills, the last one with all that is longer. */
const count = computed(() => {
  const last = (f: Figures): number => f.lengthHistogram.findLastIndex((n) => n > 0);
  return Math.max(4, last(props.one) + 1, last(props.other) + 1);
});
const lengths = computed(() => ({
  labels: Array.from({ length: count.value }, (_, k) => String(k * HISTOGRAM_BIN)),
  datasets: [
    { label: props.titles[0], data: props.one.lengthHistogram.slice(0, count.value), backgroundColor: '#b9b2a3', ...BINS },
    { label: props.titles[1], data: props.other.lengthHistogram.slice(0, count.value), backgroundColor: '#0f5c66', ...BINS },
  ],
}));
const BINS = { barPercentage: 1, categoryPercentage: 0.86 };
const lengthsOptions = {
  ...{ responsive: true, maintainAspectRatio: false, animation: false as const },
  scales: {
    x: {
      grid: { display: false },
      ticks: { ...text, maxRotation: 0, autoSkipPadding: 8 },
      title: { display: true, text: 'stitch length from, mm', ...text },
    },
    y: {
      grid: { color: line },
      ticks: { ...text, maxTicksLimit: 5, callback: (value: string | number) => sayCount(Number(value)) },
      title: { display: true, text: 'stitches', ...text },
    },
  },
  plugins: {
    legend: { position: 'bottom' as const, labels: { ...text, boxWidth: 10, boxHeight: 10, padding: 8 } },
    tooltip: {
      callbacks: {
        title: ([item]: { dataIndex: number }[]) => {
          const from = (item?.dataIndex ?? 0) * HISTOGRAM_BIN;
          return `${from.toFixed(1)} to ${(from + HISTOGRAM_BIN).toFixed(1)} mm`;
        },
      },
    },
  },
};
</script>

<template>
  <section class="charts">
    <h3>Where the time goes</h3>
    <div class="seconds">
      <Bar :data="seconds" :options="secondsOptions" aria-label="Seconds of one piece by cause, of both" role="img" />
    </div>
    <h3>How long the stitches are</h3>
    <div class="lengths"><Bar :data="lengths" :options="lengthsOptions" aria-label="Stitches by length, of both" role="img" /></div>
  </section>
</template>

<style scoped>
.charts {
  display: grid;
  gap: 6px;
}

h3 {
  font-size: 14px;
  font-weight: 600;
}

.seconds {
  position: relative;
  height: 132px;
}

.lengths {
  position: relative;
  height: 178px;
}
</style>
