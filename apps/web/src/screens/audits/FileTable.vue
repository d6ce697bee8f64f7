<script setup lang="ts">
import { type AuditedFile, sayCount } from '@isola/core';

/** Judged files, a row each, as they are ranked; one that could not be judged says why. */
defineProps<{ rows: readonly (AuditedFile & { readonly seq: number })[]; isBusy: boolean }>();
const emit = defineEmits<{ takeIn: [seq: number] }>();
</script>

<template>
  <table class="number">
    <thead>
      <tr>
        <th scope="col">File</th>
        <th scope="col" class="n">To save, min</th>
        <th scope="col" class="n">Run, min</th>
        <th scope="col" class="n">Stitches</th>
        <th scope="col" class="n">Trims</th>
        <th scope="col" class="n">stop</th>
        <th scope="col" class="n">fix</th>
        <th scope="col" class="n">note</th>
        <th scope="col">The worst of it</th>
        <th scope="col">Verdict</th>
        <th><span class="visually-hidden">take in</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in rows" :key="row.seq">
        <th scope="row">{{ row.name }}</th>
        <template v-if="row.audit">
          <td class="n" :class="{ gain: row.audit.saves >= 30 }">{{ (row.audit.saves / 60).toFixed(1) }}</td>
          <td class="n">{{ (row.audit.figures.seconds / 60).toFixed(1) }}</td>
          <td class="n">{{ sayCount(row.audit.figures.stitches) }}</td>
          <td class="n">{{ row.audit.figures.trims }}</td>
          <td class="n" :class="{ bad: row.audit.counts.stop > 0 }">{{ row.audit.counts.stop || '–' }}</td>
          <td class="n">{{ row.audit.counts.fix || '–' }}</td>
          <td class="n">{{ row.audit.counts.note || '–' }}</td>
          <td class="worst">{{ row.audit.findings[0]?.message ?? 'nothing found' }}</td>
          <td :title="row.audit.verdict.reasons.join('; ')">
            {{ row.audit.verdict.choice === 'repair' ? `repair, ${row.audit.verdict.repairMinutes.toFixed(0)} min` : 'digitize anew' }}
          </td>
          <td>
            <v-btn variant="text" size="small" :disabled="isBusy" :aria-label="`Take in ${row.name}`" @click="emit('takeIn', row.seq)"
              >Take in</v-btn
            >
          </td>
        </template>
        <td v-else colspan="10" class="bad">{{ row.problem }}</td>
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
  padding: 5px 12px 5px 0;
  border-bottom: 1px solid var(--line);
  font-weight: 400;
  text-align: left;
  vertical-align: top;
}

thead th {
  position: sticky;
  top: -14px;
  background: var(--paper);
  color: var(--ink-2);
  font-size: 12px;
}

.n {
  text-align: right;
  white-space: nowrap;
}

th[scope='row'] {
  font-weight: 500;
  overflow-wrap: anywhere;
}

td .v-btn {
  margin: -5px 0;
}

.worst {
  max-width: 340px;
}

.gain {
  font-weight: 600;
}

.bad {
  color: var(--stop);
}
</style>
