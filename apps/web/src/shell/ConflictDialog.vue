<script setup lang="ts">
import type { Figures } from '@isola/core';
import { computed, ref } from 'vue';
import { sayCount, sayTime } from '../bench/figures/sayFigures.ts';
import { useBench } from '../stores/bench.ts';
import { useNotices } from '../stores/notices.ts';
import { isHeld } from '../stores/outbox.ts';
import { saveSteps } from '../stores/stepsFile.ts';

const bench = useBench();
const notices = useNotices();
const isSettling = ref(false);
const isOpen = computed(() => isHeld(bench.outgoing?.state));
const isMoved = computed(() => bench.outgoing?.state === 'conflict');
/** The steps are in the job's history already, on a branch of their own. */
const isAside = computed(() => bench.outgoing?.isAside === true);
const title = computed(() =>
  isAside.value ? 'Somebody changed the same' : isMoved.value ? 'This job was changed in another window' : 'The server refused a step',
);
const weighed = computed(() => (bench.settling !== undefined && 'steps' in bench.settling ? bench.settling : undefined));
const problem = computed(() => (bench.settling !== undefined && 'problem' in bench.settling ? bench.settling.problem : undefined));
const steps = computed(() =>
  (bench.outgoing?.entries ?? []).map((entry, k) => ({
    name: { do: '', undo: 'undo', redo: 'do again', go: 'go to another step' }[entry.kind] || ('name' in entry ? entry.name : ''),
    problem: weighed.value?.steps[k]?.problem,
  })),
);
const fitting = computed(() => weighed.value?.steps.filter((step) => step.problem === undefined).length ?? 0);
const FIGURES = [
  { name: 'stitches', say: (f: Figures) => sayCount(f.stitches) },
  { name: 'trims', say: (f: Figures) => sayCount(f.trims) },
  { name: 'a piece', say: (f: Figures) => sayTime(f.run.seconds) },
];

async function settle(isKept: boolean): Promise<void> {
  isSettling.value = true;
  try {
    await bench.settle(isKept);
  } catch (error) {
    notices.complain(error);
  } finally {
    isSettling.value = false;
  }
}

function save(): void {
  const { outgoing } = bench;
  if (outgoing === undefined) return;
  const { jobId, jobName, version, entries } = outgoing;
  saveSteps({ job: jobId, name: jobName, version, entries: [...entries] });
}
</script>

<template>
  <v-dialog :model-value="isOpen" persistent max-width="560" :aria-label="title">
    <v-card :title="title">
      <v-card-text>
        <p v-if="isAside">
          {{ bench.outgoing?.reason }} The job stays as they left it. These steps are kept as a branch in its history, and can be made again
          on top of it:
        </p>
        <p v-else-if="isMoved">What was done there stays. These steps were made here and are not in the job yet:</p>
        <p v-else>{{ bench.outgoing?.reason }}</p>
        <ul class="steps">
          <li v-for="(step, index) in steps" :key="index" :class="{ out: step.problem }">
            {{ step.name }}
            <span v-if="step.problem" class="why">does not fit: {{ step.problem }}</span>
          </li>
        </ul>
        <p v-if="problem" class="why">{{ problem }}</p>
        <p v-else-if="!weighed" class="muted" aria-busy="true">Trying them on the job as it is now…</p>
        <table v-else class="number">
          <thead>
            <tr>
              <th />
              <th v-for="figure in FIGURES" :key="figure.name">{{ figure.name }}</th>
            </tr>
          </thead>
          <tbody>
            <tr>
              <th>the job as it is now</th>
              <td v-for="figure in FIGURES" :key="figure.name">{{ figure.say(weighed.before) }}</td>
            </tr>
            <tr v-if="fitting > 0">
              <th>with {{ fitting === steps.length ? 'these steps' : `the ${fitting} that fit` }}</th>
              <td v-for="figure in FIGURES" :key="figure.name">{{ figure.say(weighed.after) }}</td>
            </tr>
          </tbody>
        </table>
      </v-card-text>
      <v-card-actions>
        <v-btn variant="text" :disabled="isSettling" @click="settle(false)">{{
          isAside ? 'Leave them on their branch' : 'Let them go'
        }}</v-btn>
        <v-btn v-if="!isAside" variant="text" @click="save">Save them as a file</v-btn>
        <v-spacer />
        <v-btn variant="flat" :disabled="isSettling || fitting === 0" @click="settle(true)">
          {{ fitting === steps.length ? 'Make them again' : fitting === 0 ? 'None of them fits' : `Make the ${fitting} that fit` }}
        </v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.steps {
  margin: 10px 0 14px;
  padding-left: 12px;
  border-left: 3px solid var(--sea);
  max-height: 180px;
  overflow-y: auto;
  font-weight: 500;
  list-style: none;
}

.out {
  color: var(--ink-2);
}

.why {
  display: block;
  color: var(--stop);
  font-weight: 400;
  font-size: 12.5px;
}

table {
  width: 100%;
  border-collapse: collapse;
  font-size: 13px;
}

th {
  font-weight: 400;
  text-align: left;
  color: var(--ink-2);
}

thead th:not(:first-child),
td {
  text-align: right;
}

td {
  font-weight: 600;
}

tbody tr {
  border-top: 1px solid var(--line-soft);
  height: 28px;
}
</style>
