<script setup lang="ts">
import type { FindingChange } from '@isola/core';
import { computed } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useNotices } from '../../stores/notices.ts';
import { useRepairPlan } from '../../stores/repairPlan.ts';
import { sayCount, sayHours, saySigned, sayTime } from '../figures/sayFigures.ts';
import { isWorse } from '@isola/core';

const emit = defineEmits<{ accept: [] }>();
const bench = useBench();
const plan = useRepairPlan();
const notices = useNotices();

const rows = computed(() => {
  const report = plan.report;
  if (report === undefined) return [];
  return report.steps.map((step, k) => {
    const before = k === 0 ? report.before : report.steps[k - 1]!.after;
    return {
      ...step,
      number: k + 1,
      isReached: k < report.upTo,
      seconds: saySigned(step.after.seconds - before.seconds, sayTime),
      isGain: step.after.seconds < before.seconds - 0.5,
      stitches: saySigned(step.after.stitches - before.stitches, sayCount),
      worse: step.changes.filter((change) => change.rule !== step.id && isWorse(change)),
      mended: step.changes.find((change) => change.rule === step.id)?.gone ?? 0,
    };
  });
});
const chosen = computed(() => plan.report?.left.filter(({ isChosen }) => isChosen) ?? []);
const left = computed(() => plan.report?.left.filter(({ isChosen }) => !isChosen) ?? []);

/** What the plan comes to, for a piece and for the order. */
const sum = computed(() => {
  const report = plan.report;
  if (report === undefined) return undefined;
  const { before } = report;
  const after = report.upTo === 0 ? before : (report.steps[report.upTo - 1]?.after ?? report.after);
  const quantity = bench.now?.view.target.quantity ?? 1;
  const saved = (before.seconds - after.seconds) * quantity;
  const pair = (name: string, a: string, b: string): { name: string; a: string; b: string } => ({ name, a, b });
  return {
    pairs: [
      pair('a piece', sayTime(before.seconds), sayTime(after.seconds)),
      pair('stitches', sayCount(before.stitches), sayCount(after.stitches)),
      pair('trims', String(before.trims), String(after.trims)),
      pair('stops', String(before.stop), String(after.stop)),
    ],
    order: `${sayCount(quantity)} pieces: ${sayHours(saved)} ${saved >= 0 ? 'less' : 'more'} (an estimate)`,
    isGain: saved > 0,
  };
});

function sayWorse({ rule, message, added }: FindingChange): string {
  return added > 0 ? `brings ${added} × ${rule.replaceAll('-', ' ')}` : `makes worse: ${message}`;
}

async function attempt(work: Promise<unknown>): Promise<void> {
  try {
    await work;
  } catch (error) {
    notices.complain(error);
  }
}
</script>

<template>
  <section v-if="plan.report" class="plan" aria-label="Plan of repair" :aria-busy="plan.isWorking">
    <header>
      <h2>{{ plan.report.isFree ? 'What costs nothing' : 'Plan of repair' }}</h2>
      <dl v-if="sum" class="sum number">
        <div v-for="pair in sum.pairs" :key="pair.name">
          <dt>{{ pair.name }}</dt>
          <dd>{{ pair.a }} → {{ pair.b }}</dd>
        </div>
      </dl>
      <p v-if="sum" class="number" :class="{ gain: sum.isGain }">{{ sum.order }}</p>
    </header>
    <p v-if="rows.length === 0" class="empty">
      {{ plan.report.isFree ? 'Nothing can be repaired that costs no stitch and changes no picture.' : 'No repair can be made here.' }}
      What stays is listed with its reason.
    </p>
    <ol class="steps">
      <li v-for="row in rows" :key="row.id" :class="{ ahead: !row.isReached, here: row.number === plan.report.upTo }">
        <input
          type="checkbox"
          checked
          :disabled="plan.isWorking"
          :aria-label="`Leave step ${row.number} out: ${row.title}`"
          @change="attempt(plan.toggle(row.id))"
        />
        <button
          type="button"
          class="step"
          :disabled="plan.isWorking"
          :aria-current="row.number === plan.report.upTo ? 'step' : undefined"
          :title="`Show the design after step ${row.number}`"
          @click="attempt(plan.walkTo(row.number))"
        >
          <b>{{ row.title }}</b>
          <span class="message muted">{{ row.message }}</span>
          <span class="figures number">
            <span :class="{ gain: row.isGain }">{{ row.seconds }}</span>
            <span>{{ row.stitches }} st</span>
            <span v-if="row.places > 0">{{ row.mended }} of {{ row.places }} mended</span>
          </span>
          <span v-for="change in row.worse" :key="change.rule" class="loss worse">{{ sayWorse(change) }}</span>
          <span v-for="refused in row.refused.slice(0, 2)" :key="refused.why" class="worse muted">Left: {{ refused.why }}</span>
        </button>
      </li>
    </ol>
    <template v-if="chosen.length > 0">
      <h3>Left out by you</h3>
      <ul class="left">
        <li v-for="out in chosen" :key="out.id">
          <label>
            <input type="checkbox" :disabled="plan.isWorking" @change="attempt(plan.toggle(out.id))" />
            <b>{{ out.title }}</b>
          </label>
        </li>
      </ul>
    </template>
    <template v-if="left.length > 0">
      <h3>Stays, and why</h3>
      <ul class="left">
        <li v-for="out in left" :key="out.id">
          <b>{{ out.title }}</b> <span class="muted">{{ out.why }}</span>
        </li>
      </ul>
    </template>
    <footer>
      <v-btn :disabled="plan.report.upTo === 0 || bench.isBusy || plan.isWorking" @click="emit('accept')">
        Accept {{ plan.report.upTo === 1 ? 'the step' : `${plan.report.upTo} steps` }} as one
      </v-btn>
      <v-btn variant="outlined" data-own-enter :disabled="bench.isBusy" @click="bench.dropTrial()">Put back</v-btn>
    </footer>
  </section>
</template>

<style scoped>
.plan {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-height: 0;
  overflow-y: auto;
}

header {
  padding: 10px 16px;
  border-bottom: 1px solid var(--line);
  background: var(--paper);
}

h2 {
  font-size: 15px;
}

h3 {
  padding: 10px 16px 2px;
  font-size: 12.5px;
}

.sum {
  display: grid;
  grid-template-columns: auto auto;
  gap: 1px 14px;
  margin: 5px 0;
  font-size: 12.5px;
}

.sum div {
  display: flex;
  justify-content: space-between;
  gap: 8px;
}

.sum dt {
  color: var(--ink-2);
}

.empty {
  padding: 14px 16px;
}

.steps li {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 8px;
  padding: 0 12px 0 14px;
  border-bottom: 1px solid var(--line-soft);
}

.steps li.ahead {
  opacity: 0.62;
}

.steps li.here {
  background: var(--sea-soft);
}

.steps input {
  margin-top: 12px;
}

.step {
  display: flex;
  flex-direction: column;
  padding: 8px 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  line-height: 1.35;
  text-align: left;
  cursor: pointer;
}

.message {
  font-size: 12.5px;
}

.figures {
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
  font-size: 12.5px;
}

.worse {
  font-size: 12px;
}

.left {
  padding: 0 16px 6px;
  font-size: 12.5px;
}

.left li {
  padding: 3px 0;
}

footer {
  position: sticky;
  bottom: 0;
  display: flex;
  gap: 6px;
  margin-top: auto;
  padding: 10px 14px;
  border-top: 1px solid var(--line);
  background: var(--card);
}
</style>
