<script setup lang="ts">
import { auditCsv, type Finding, publishFinding, totalFindings, weighRepair } from '@isola/core';
import { computed } from 'vue';
import { api } from '../../api/client.ts';
import { saveFile } from '../../api/saveFile.ts';
import { useBench } from '../../stores/bench.ts';

defineProps<{ isBusy: boolean }>();
const emit = defineEmits<{ plan: []; free: [] }>();
const bench = useBench();

const verdict = computed(() => {
  const view = bench.now?.view;
  if (view === undefined || !view.isAudited || view.objects === undefined) return undefined;
  return weighRepair(view.findings, view.objects.objects, view.figures.stitches);
});
const said = computed(() => {
  const { value } = verdict;
  if (value === undefined || !Number.isFinite(value.anewMinutes)) return undefined;
  const [repair, anew] = [Math.ceil(value.repairMinutes), Math.round(value.anewMinutes / 5) * 5];
  return value.choice === 'repair'
    ? `Repair: about ${repair} min, anew about ${anew}.`
    : `Digitize anew: about ${anew} min, repairing about ${repair}.`;
});

/** The server sets it of what is saved. */
const isSaved = computed(() => bench.outgoing === undefined);
const name = computed(() => (bench.job?.name ?? 'audit').replace(/[^\p{L}\p{N}]+/gu, '-').toLowerCase());

function saveCsv(): void {
  saveFile(`${name.value}-audit.csv`, 'text/csv', auditCsv(bench.openFindings));
}

function saveJson(): void {
  const findings: readonly Finding[] = bench.openFindings;
  const text = JSON.stringify({ findings: findings.map(publishFinding), totals: totalFindings(findings) }, null, 2);
  saveFile(`${name.value}-audit.json`, 'application/json', `${text}\n`);
}
</script>

<template>
  <div class="top">
    <p v-if="said" class="verdict">
      <b>{{ said }}</b> <span class="muted">{{ verdict!.reasons.join('; ') }}. Minutes are estimates.</span>
    </p>
    <div class="actions">
      <v-btn size="small" title="Key r" :disabled="isBusy" @click="emit('plan')">Plan the repair</v-btn>
      <v-btn size="small" variant="outlined" title="Key f" :disabled="isBusy" @click="emit('free')">What costs nothing</v-btn>
      <v-menu>
        <template #activator="{ props }">
          <v-btn size="small" variant="text" v-bind="props">Save</v-btn>
        </template>
        <v-list density="compact">
          <v-list-item title="To print (PDF)" :disabled="!isSaved" :href="bench.job && api.auditPdfAddress(bench.job.id)" download />
          <v-list-item title="Table (CSV)" @click="saveCsv" />
          <v-list-item title="Data (JSON)" @click="saveJson" />
        </v-list>
      </v-menu>
    </div>
  </div>
</template>

<style scoped>
.top {
  padding: 8px 12px 9px 16px;
  border-bottom: 1px solid var(--line);
  background: var(--paper);
  font-size: 12.5px;
}

.actions {
  display: flex;
  align-items: center;
  gap: 6px;
  margin-top: 6px;
}

.actions :deep(.v-btn) {
  padding: 0 9px;
}
</style>
