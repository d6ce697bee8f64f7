<script setup lang="ts">
import { headsOf, planRun, productionSheet, sayClock } from '@isola/core';
import { computed, ref } from 'vue';
import { sayCount, sayHours } from '../../bench/figures/sayFigures.ts';
import { useBench } from '../../stores/bench.ts';

/** What the order takes on its machine, and when a run that starts now is over. */
const bench = useBench();
const target = computed(() => bench.now!.view.target);
const sheet = computed(() => productionSheet({ program: bench.now!.view.program, target: target.value, kept: {} }));
const heads = computed(() => headsOf(target.value.machine));

const hooping = ref(1);
const aHoop = ref(1);
const isHoopedAhead = ref(true);
const held = (value: number, low: number, high: number): number => (Number.isFinite(value) ? Math.min(high, Math.max(low, value)) : low);
const plan = computed(() =>
  planRun(
    sheet.value,
    { quantity: target.value.quantity, heads: heads.value },
    { hooping: held(hooping.value, 0, 120), aHoop: Math.round(held(aHoop.value, 1, 1000)), isHoopedAhead: isHoopedAhead.value },
  ),
);
const end = computed(() =>
  new Date(Date.now() + plan.value.whole * 60_000).toLocaleString('en-GB', {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  }),
);
</script>

<template>
  <section aria-label="The run">
    <h2>The run</h2>
    <div class="habits number">
      <label>Hooping, min a piece <input v-model.number="hooping" type="number" min="0" max="120" step="0.5" /></label>
      <label>Pieces a hoop <input v-model.number="aHoop" type="number" min="1" max="1000" step="1" /></label>
      <label class="check"><input v-model="isHoopedAhead" type="checkbox" /> hooped while it sews</label>
    </div>
    <dl class="number">
      <div>
        <dt>Runs</dt>
        <dd>
          {{ sayCount(plan.runs) }}, {{ heads === 1 ? '1 head' : `${heads} heads` }},
          {{ sheet.stops.length === 0 ? 'no stop' : sheet.stops.length === 1 ? '1 stop a piece' : `${sheet.stops.length} stops a piece` }}
        </dd>
      </div>
      <div>
        <dt>Machine</dt>
        <dd>{{ sayHours(plan.machine * 60) }}</dd>
      </div>
      <div>
        <dt>Operator</dt>
        <dd>{{ sayHours(plan.operator * 60) }}</dd>
      </div>
      <div>
        <dt>In all</dt>
        <dd>
          <b>{{ sayHours(plan.whole * 60) }}</b>; begun now and sewn through, until {{ end }}
        </dd>
      </div>
    </dl>
    <p v-if="sheet.missingNeedles > 0" class="short">
      {{ sheet.missingNeedles === 1 ? '1 thread has' : `${sheet.missingNeedles} threads have` }} no needle on {{ target.machine.name }}: put
      on by hand in each run.
    </p>
    <p class="muted small">Estimates, without breaks of people or of threads; {{ sayClock(target.machine) }}.</p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 8px;
}

h2 {
  margin-top: 8px;
  font-size: 15px;
  font-weight: 600;
}

.habits {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  align-items: center;
  color: var(--ink-2);
}

.habits input[type='number'] {
  width: 64px;
  padding: 3px 6px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--paper);
  font: inherit;
  text-align: right;
}

.check {
  display: flex;
  gap: 6px;
  align-items: center;
}

dl div {
  display: grid;
  grid-template-columns: 92px 1fr;
  padding: 2px 0;
}

dt {
  color: var(--ink-2);
}

.short {
  padding: 6px 9px;
  border-left: 3px solid var(--fix);
  background: #f8eeda;
}

.small {
  font-size: 12px;
}
</style>
