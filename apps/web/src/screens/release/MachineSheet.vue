<script setup lang="ts">
import { CAUTIONS, productionSheet, threadListCsv } from '@isola/core';
import { mdiDownload } from '@mdi/js';
import { computed } from 'vue';
import { saveFile } from '../../api/saveFile.ts';
import { sayCount } from '../../bench/figures/sayFigures.ts';
import { useBench } from '../../stores/bench.ts';
import RunPlan from './RunPlan.vue';

/** What who sews it has to know: cloth, hoop, threads, and what can hurt someone. */
const bench = useBench();
const target = computed(() => bench.now!.view.target);
const colors = computed(() => bench.now!.view.figures.colors);

function saveThreads(): void {
  const { program } = bench.now!.view;
  const name = bench.job!.fileName.replace(/\.[^.]*$/, '');
  saveFile(`${name}-threads.csv`, 'text/csv; charset=utf-8', threadListCsv(productionSheet({ program, target: target.value, kept: {} })));
}
</script>

<template>
  <section class="sheet" tabindex="0" aria-label="For the machine">
    <h2>For the machine</h2>
    <dl class="number">
      <div>
        <dt>Cloth</dt>
        <dd>{{ target.fabric.name }}</dd>
      </div>
      <div>
        <dt>Place</dt>
        <dd>{{ target.garment?.name ?? 'not chosen' }}</dd>
      </div>
      <div>
        <dt>Hoop</dt>
        <dd>{{ target.hoop.name }}, field {{ target.hoop.width }} × {{ target.hoop.height }} mm</dd>
      </div>
      <div>
        <dt>Stabilizer</dt>
        <dd>{{ target.fabric.stabilizer }}</dd>
      </div>
      <div>
        <dt>Topping</dt>
        <dd>{{ target.fabric.topping || 'none' }}</dd>
      </div>
      <div>
        <dt>Thread</dt>
        <dd>{{ target.thread.name }}, needle {{ target.thread.needle }}</dd>
      </div>
      <div>
        <dt>Pieces</dt>
        <dd>{{ sayCount(target.quantity) }}</dd>
      </div>
    </dl>
    <h2>Threads</h2>
    <table class="number">
      <thead>
        <tr>
          <th scope="col">thread</th>
          <th scope="col">put on</th>
          <th scope="col">stitches</th>
          <th scope="col">a piece</th>
          <th scope="col">the order</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="color in colors" :key="color.color + color.name">
          <th scope="row"><i :style="{ background: color.color }" />{{ color.name || color.color }}</th>
          <td>{{ color.blocks }} ×</td>
          <td>{{ sayCount(color.stitches) }}</td>
          <td>{{ color.threadM.toFixed(1) }} m</td>
          <td>{{ color.cones.toFixed(2) }} cones</td>
        </tr>
      </tbody>
    </table>
    <p class="muted number">
      In stock:
      {{
        target.thread.cones === undefined ? 'not counted in the shop' : `${sayCount(target.thread.cones)} cones of ${target.thread.name}`
      }}.
    </p>
    <p><v-btn size="small" variant="outlined" :prepend-icon="mdiDownload" @click="saveThreads">Thread list CSV</v-btn></p>
    <RunPlan />
    <h2>Cautions</h2>
    <ul class="cautions">
      <li v-for="caution in CAUTIONS" :key="caution">{{ caution }}</li>
    </ul>
  </section>
</template>

<style scoped>
.sheet {
  display: grid;
  gap: 11px;
  align-content: start;
  padding: 22px 28px;
  overflow-y: auto;
  background: var(--card);
  border-left: 1px solid var(--line);
}

h2 {
  margin-top: 8px;
  font-size: 15px;
  font-weight: 600;
}

dl div {
  display: grid;
  grid-template-columns: 92px 1fr;
  padding: 2px 0;
}

dt {
  color: var(--ink-2);
}

table {
  border-collapse: collapse;
}

th,
td {
  padding: 4px 0;
  text-align: right;
  font-weight: 400;
  border-bottom: 1px solid var(--line-soft);
}

thead th {
  color: var(--ink-2);
  font-size: 12px;
}

th:first-child {
  text-align: left;
}

th i {
  display: inline-block;
  width: 14px;
  height: 14px;
  margin-right: 9px;
  border-radius: 50%;
  vertical-align: -2px;
  box-shadow: inset 0 0 0 1px rgb(0 0 0 / 18%);
}

.cautions li {
  padding: 4px 0 4px 12px;
  border-left: 3px solid var(--fix);
  margin-bottom: 5px;
}
</style>
