<script setup lang="ts">
import type { SewOutRecord } from '@isola/contract';
import { Chart, Legend, LinearScale, LineElement, PointElement, ScatterController, Tooltip } from 'chart.js';
import { computed } from 'vue';
import { Scatter } from 'vue-chartjs';

/** What was expected of samples against what was found: where both are the same, points lie on the line. */
const props = defineProps<{ records: readonly SewOutRecord[] }>();
Chart.register(ScatterController, LinearScale, LineElement, PointElement, Legend, Tooltip);

const style = getComputedStyle(document.documentElement);
const faint = style.getPropertyValue('--ink-2').trim() || '#46575b';
const soft = style.getPropertyValue('--line-soft').trim() || '#ebe6da';
const FONT = { family: 'IBM Plex Sans', size: 11.5 };
const text = { color: faint, font: FONT };

interface Spot {
  readonly x: number;
  readonly y: number;
  readonly words: string;
}

/** By how much widths shrank and gaps opened, mm: whole widths would all lie on the line. */
const moves = computed(() =>
  (['width', 'gap'] as const).map((kind) =>
    props.records.flatMap(({ jobName, sewOut }) =>
      sewOut.places
        .filter((place) => place.kind === kind && place.measured !== null)
        .map(({ name, designed, expected, measured }): Spot => {
          const sign = kind === 'width' ? -1 : 1;
          return { x: sign * (expected - designed), y: sign * (measured! - designed), words: `${jobName}: ${name}` };
        }),
    ),
  ),
);
const minutes = computed(() =>
  props.records
    .filter(({ sewOut }) => sewOut.minutes !== null)
    .map(({ jobName, sewOut }): Spot => ({
      x: sewOut.expected.seconds / 60,
      y: sewOut.minutes!,
      words: `${jobName}, ${sewOut.machine.name}`,
    })),
);

function line(spots: readonly Spot[]) {
  const ends = spots.flatMap(({ x, y }) => [x, y]);
  const [low, high] = [Math.min(0, ...ends), Math.max(0.1, ...ends)];
  return {
    ...{ label: 'as expected', data: [low, high].map((at) => ({ x: at, y: at })), showLine: true, pointRadius: 0, pointHitRadius: 0 },
    ...{ borderColor: '#a39c8b', borderDash: [4, 4], borderWidth: 1.2, backgroundColor: '#a39c8b' },
  };
}
const dots = (label: string, spots: readonly Spot[], color: string, pointStyle: 'circle' | 'rectRot') => ({
  ...{ label, data: [...spots], backgroundColor: color, pointRadius: 4.5, pointStyle, showLine: false },
});
const cloth = computed(() => ({
  datasets: [
    dots('widths', moves.value[0]!, '#0f5c66', 'circle'),
    dots('gaps', moves.value[1]!, '#b8722c', 'rectRot'),
    line(moves.value.flat()),
  ],
}));
const time = computed(() => ({ datasets: [dots('samples', minutes.value, '#0f5c66', 'circle'), line(minutes.value)] }));

const optionsFor = (unit: string) => ({
  ...{ responsive: true, maintainAspectRatio: false, animation: false as const },
  scales: {
    x: { grid: { color: soft }, ticks: { ...text, maxTicksLimit: 6 }, title: { display: true, text: `expected, ${unit}`, ...text } },
    y: { grid: { color: soft }, ticks: { ...text, maxTicksLimit: 6 }, title: { display: true, text: `found, ${unit}`, ...text } },
  },
  plugins: {
    legend: { position: 'bottom' as const, labels: { ...text, boxWidth: 9, boxHeight: 9, usePointStyle: true, padding: 10 } },
    tooltip: {
      callbacks: {
        label: ({ raw, parsed }: { raw: unknown; parsed: { x: number | null; y: number | null } }) =>
          `${(raw as Partial<Spot>).words ?? 'as expected'}: ${(parsed.x ?? 0).toFixed(2)} expected, ${(parsed.y ?? 0).toFixed(2)} found`,
      },
    },
  },
});
const clothOptions = optionsFor('mm');
const timeOptions = optionsFor('min');
</script>

<template>
  <aside tabindex="0" aria-label="Expected against found">
    <h2>Cloth that moved</h2>
    <div class="chart">
      <Scatter
        :data="cloth"
        :options="clothOptions"
        role="img"
        aria-label="By how much widths shrank and gaps opened: expected against found, mm"
      />
    </div>
    <p class="muted small">By how much widths shrank and gaps opened. Over the line, cloth moved more than was expected.</p>
    <h2>Minutes</h2>
    <div class="chart">
      <Scatter :data="time" :options="timeOptions" role="img" aria-label="Minutes of samples: expected against found" />
    </div>
    <p class="muted small">Over the line, it took longer. Expected values are estimates.</p>
  </aside>
</template>

<style scoped>
aside {
  display: grid;
  gap: 8px;
  align-content: start;
  padding: 14px 18px 28px;
  overflow-y: auto;
  border-left: 1px solid var(--line);
  background: var(--card);
}

h2 {
  font-size: 14px;
  font-weight: 600;
}

.chart {
  position: relative;
  height: 250px;
}

.small {
  font-size: 12px;
}
</style>
