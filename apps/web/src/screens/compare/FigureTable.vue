<script setup lang="ts">
import type { FigureRow } from './figureRows.ts';

withDefaults(defineProps<{ title: string; rows: readonly FigureRow[]; heads?: readonly [one: string, other: string] }>(), {
  heads: () => ['as it came', 'now'],
});
</script>

<template>
  <table class="number">
    <thead>
      <tr>
        <th scope="col">{{ title }}</th>
        <th v-for="(head, k) in heads" :key="k" scope="col" class="head" :title="head">{{ head }}</th>
        <th scope="col"><span class="visually-hidden">change</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in rows" :key="row.name">
        <th scope="row" :class="{ part: row.name.startsWith('lost') || row.name === 'fix' || row.name === 'note' }">{{ row.name }}</th>
        <td class="muted">{{ row.before }}</td>
        <td>{{ row.now }}</td>
        <td class="change" :class="row.mark">{{ row.change }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
}

th,
td {
  padding: 3.5px 0 3.5px 10px;
  text-align: right;
  font-weight: 400;
  border-bottom: 1px solid var(--line-soft);
}

td {
  white-space: nowrap;
}

th:first-child {
  padding-left: 0;
  text-align: left;
}

thead th {
  color: var(--ink-2);
  font-size: 12px;
}

thead th:first-child {
  color: var(--ink);
  font-size: 14px;
  font-weight: 600;
}

.head {
  max-width: 92px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

td:nth-child(3) {
  font-weight: 600;
}

th.part {
  padding-left: 12px;
  color: var(--ink-2);
}

.change {
  white-space: nowrap;
}

.change.gain {
  font-weight: 600;
}
</style>
