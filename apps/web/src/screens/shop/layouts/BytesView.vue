<script setup lang="ts">
import { type MachineLayout, sayCount } from '@isola/core';
import { computed } from 'vue';
import { hex, type TriedFile } from './checkText.ts';

/** A file's bytes with what they say beside them, as far as they make sense. */
const props = defineProps<{ tried: TriedFile; layout: MachineLayout }>();

/** Of a header so many bytes stand in a line, and so many lines. */
const IN_A_LINE = 16;
const MOST_LINES = 6;
const header = computed(() => {
  const bytes = [...props.tried.bytes.subarray(0, Math.min(props.layout.header.length, IN_A_LINE * MOST_LINES))];
  return Array.from({ length: Math.ceil(bytes.length / IN_A_LINE) }, (_, k) => {
    const line = bytes.slice(k * IN_A_LINE, (k + 1) * IN_A_LINE);
    return {
      at: k * IN_A_LINE,
      bytes: line.map(hex).join(' '),
      text: line.map((byte) => (byte >= 32 && byte < 127 ? String.fromCharCode(byte) : '·')).join(''),
    };
  });
});
const more = computed(() => props.layout.header.length - header.value.length * IN_A_LINE);
const rows = computed(() =>
  props.tried.records.map((record) => ({
    ...record,
    bytes: [...props.tried.bytes.subarray(record.at, record.at + record.size)].map(hex).join(' '),
  })),
);
const place = (value: number): string => value.toFixed(2);
</script>

<template>
  <div class="bytes" tabindex="0" aria-label="Bytes and what they say">
    <p v-if="tried.read" class="fine number" role="status">
      Read to its end: {{ sayCount(tried.read.records) }} records, {{ sayCount(tried.read.program.rowCount) }} rows,
      {{ sayCount(tried.bytes.length) }} bytes.
    </p>
    <ul v-if="tried.read && tried.read.warnings.length > 0" class="muted">
      <li v-for="warning in tried.read.warnings" :key="warning">{{ warning }}</li>
    </ul>
    <p v-if="tried.problem" class="stops" role="status">It stops making sense. {{ tried.problem.message }}</p>
    <table class="mono">
      <caption class="visually-hidden">
        The header and the first records of
        {{
          tried.name
        }}
      </caption>
      <thead>
        <tr>
          <th scope="col">byte</th>
          <th scope="col">bytes</th>
          <th scope="col">says</th>
          <th scope="col">x, mm</th>
          <th scope="col">y, mm</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="line in header" :key="`h${line.at}`" class="head">
          <td>{{ line.at }}</td>
          <td>{{ line.bytes }}</td>
          <td colspan="3">{{ line.text }}</td>
        </tr>
        <tr v-if="more > 0" class="head">
          <td />
          <td colspan="4">{{ sayCount(more) }} more bytes of the header</td>
        </tr>
        <tr v-for="row in rows" :key="row.at">
          <td>{{ row.at }}</td>
          <td>{{ row.bytes }}</td>
          <td>{{ row.command }}</td>
          <td>{{ place(row.x) }}</td>
          <td>{{ place(row.y) }}</td>
        </tr>
        <tr v-if="tried.problem?.byte !== undefined" class="broken">
          <td>{{ tried.problem.byte }}</td>
          <td>
            {{
              [...tried.bytes.subarray(tried.problem.byte, tried.problem.byte + layout.record.length)].map(hex).join(' ') || 'the file ends'
            }}
          </td>
          <td colspan="3">{{ tried.problem.expected ?? 'no record of this layout' }} expected</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.bytes {
  display: grid;
  gap: 8px;
  align-content: start;
  overflow: auto;
}

.fine {
  color: var(--gain);
}

.stops {
  color: var(--stop);
}

table {
  width: 100%;
  border-collapse: collapse;
  font-family: 'IBM Plex Mono', ui-monospace, monospace;
  font-size: 12px;
}

th,
td {
  padding: 2px 14px 2px 0;
  border-bottom: 1px solid var(--line-soft);
  font-weight: 400;
  text-align: left;
  white-space: nowrap;
}

thead th {
  position: sticky;
  top: 0;
  background: var(--paper);
  color: var(--ink-2);
}

td:nth-child(n + 4),
th:nth-child(n + 4) {
  text-align: right;
}

.head td {
  color: var(--ink-2);
}

.head td:last-child {
  text-align: left;
}

.broken td {
  background: #fbe9e4;
  color: var(--stop);
}
</style>
