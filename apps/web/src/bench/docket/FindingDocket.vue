<script setup lang="ts">
import type { Finding } from '@isola/core';
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { numberFindings } from './numberFindings.ts';
import { useNotices } from '../../stores/notices.ts';
import { sayCount, saySigned, sayTime } from '../figures/sayFigures.ts';
import { useRepairPlan } from '../../stores/repairPlan.ts';
import DocketHead from './DocketHead.vue';
import FindingItem from './FindingItem.vue';
import KeptItem from './KeptItem.vue';
import RepairPlanPanel from './RepairPlanPanel.vue';
import { useViewing } from '../../stores/viewing.ts';

const bench = useBench();
const viewing = useViewing();
const notices = useNotices();
const plan = useRepairPlan();
const checked = ref<ReadonlySet<string>>(new Set());
/** The finding that a reason is asked for, to keep it as it is. */
const keeping = ref<Finding>();
const list = useTemplateRef<HTMLElement>('list');

const numbers = computed(() => numberFindings(bench.openFindings));
const fixable = computed(() => bench.openFindings.filter((f) => f.fix !== undefined));
const chosen = computed(() => fixable.value.filter((f) => checked.value.has(f.key)));
const isTogether = computed(() => bench.trial !== undefined && (bench.trial.keys.length > 1 || bench.trial.keys[0] !== viewing.selected));
const saved = computed(() => {
  if (bench.trial === undefined || bench.now === undefined) return '';
  return saySigned(bench.trial.shown.view.totals.seconds - bench.now.view.totals.seconds, sayTime);
});

/** What repairs add together, said before they are tried; an estimate. */
function sayAdded(findings: readonly Finding[]): string {
  const added = -findings.reduce((sum, { cost }) => sum + cost.stitches, 0);
  return added > LEAST_ADDED ? `, about ${sayCount(Math.round(added / 10) * 10)} st more` : '';
}

const LEAST_ADDED = 20;

watch(
  () => viewing.selected,
  async (selected) => {
    if (keeping.value?.key !== selected) keeping.value = undefined;
    await nextTick();
    list.value?.querySelector('.open')?.scrollIntoView({ block: 'nearest' });
  },
);

function select(key: string): void {
  if (bench.trial !== undefined && !bench.trial.keys.includes(key)) bench.dropTrial();
  viewing.selected = viewing.selected === key ? undefined : key;
}

function check(key: string, isChecked: boolean): void {
  const next = new Set(checked.value);
  if (isChecked) next.add(key);
  else next.delete(key);
  checked.value = next;
}

async function attempt(keys: readonly string[], place?: string): Promise<void> {
  try {
    const tried = await bench.tryRepairs(keys, place);
    if (typeof tried === 'string') notices.warn('Not repaired', `Isola finds no repair here: ${tried}.`);
    else if (!tried) notices.say('Nothing to repair here', 'The file may have changed since; the docket is up to date now.');
  } catch (error) {
    notices.complain(error);
  }
}

/** Works out the whole repair, or what of it costs nothing. */
async function propose(isFree: boolean): Promise<void> {
  try {
    await plan.propose(isFree);
  } catch (error) {
    notices.complain(error);
  }
}

async function accept(): Promise<void> {
  try {
    await bench.acceptTrial();
    checked.value = new Set();
  } catch (error) {
    notices.complain(error);
  }
}

async function keep(reason: string): Promise<void> {
  const finding = keeping.value;
  keeping.value = undefined;
  if (finding === undefined) return;
  try {
    await bench.keepFinding(finding, reason, viewing.selectedPlace);
  } catch (error) {
    notices.complain(error);
  }
}

/** The keys of the docket reach what its buttons reach. */
defineExpose({
  step(by: 1 | -1): void {
    const keys = bench.openFindings.map((f) => f.key);
    if (keys.length === 0) return;
    const at = viewing.selected === undefined ? -1 : keys.indexOf(viewing.selected);
    const next = at < 0 ? (by > 0 ? 0 : keys.length - 1) : (at + by + keys.length) % keys.length;
    bench.dropTrial();
    viewing.selected = keys[next];
  },
  attempt(): void {
    const finding = bench.selectedFinding;
    if (finding === undefined) return;
    if (finding.fix !== undefined) void attempt([finding.key], viewing.selectedPlace);
    else notices.say('This one is repaired by hand', finding.advice);
  },
  accept,
  plan: () => propose(false),
  free: () => propose(true),
  keep: () => (keeping.value = bench.selectedFinding),
});
</script>

<template>
  <section class="docket" aria-label="Findings">
    <RepairPlanPanel v-if="plan.isShown" @accept="accept" />
    <template v-else>
      <DocketHead
        v-if="bench.isAudited && bench.openFindings.length > 0 && bench.trial === undefined"
        :is-busy="bench.isBusy || plan.isWorking"
        @plan="propose(false)"
        @free="propose(true)"
      />
      <header v-if="bench.openFindings.length > 0" class="bar">
        <template v-if="isTogether && bench.trial">
          <span
            ><b>{{ bench.trial.trial.applied.length === 1 ? '1 repair' : `${bench.trial.trial.applied.length} repairs` }}</b> tried,
            {{ saved }}</span
          >
          <span class="actions">
            <v-btn :disabled="bench.isBusy" @click="accept">Accept all</v-btn>
            <v-btn variant="outlined" data-own-enter :disabled="bench.isBusy" @click="bench.dropTrial()">Put back</v-btn>
          </span>
        </template>
        <template v-else>
          <span class="muted">{{
            bench.openFindings.length === 1 ? '1 finding' : `${bench.openFindings.length} findings, worst first`
          }}</span>
          <v-btn v-if="chosen.length > 0" :disabled="bench.isBusy" @click="attempt(chosen.map((f) => f.key))"
            >Try {{ chosen.length }} chosen{{ sayAdded(chosen) }}</v-btn
          >
          <v-btn v-else-if="fixable.length > 0" variant="outlined" :disabled="bench.isBusy" @click="attempt(fixable.map((f) => f.key))">
            {{ fixable.length === 1 ? 'Try the one repair' : `Try all ${fixable.length} repairs` }}{{ sayAdded(fixable) }}
          </v-btn>
        </template>
      </header>
      <ol ref="list" class="list">
        <FindingItem
          v-for="finding in bench.openFindings"
          :key="finding.key"
          :finding="finding"
          :number="numbers.get(finding.key)!"
          :is-open="viewing.selected === finding.key"
          :is-tried="bench.trial?.keys.length === 1 && bench.trial.keys[0] === finding.key"
          :is-busy="bench.isBusy"
          :changes="bench.trial?.trial.changes"
          :refused="bench.trial?.trial.refused.map(({ why }) => why) ?? []"
          :is-checked="checked.has(finding.key)"
          :is-kept="keeping?.key === finding.key"
          @select="select(finding.key)"
          @try="attempt([finding.key], viewing.selectedPlace)"
          @accept="accept"
          @drop="bench.dropTrial()"
          @ask="keeping = finding"
          @keep="keep"
          @leave="keeping = undefined"
          @check="(isChecked) => check(finding.key, isChecked)"
        />
        <li v-if="!bench.isAudited" class="clean muted" aria-busy="true">Looking it over…</li>
        <li v-else-if="bench.openFindings.length === 0" class="clean">
          <b>Nothing left to settle.</b>
          <p class="muted">Compare it with what came in, then release it. Sew a sample on the real cloth before the run.</p>
          <v-btn class="mt-2" :to="{ name: 'compare' }">Compare</v-btn>
        </li>
        <KeptItem v-for="kept in bench.keptFindings" :key="kept.key" :kept="kept" />
      </ol>
    </template>
  </section>
</template>

<style scoped>
.docket {
  display: flex;
  flex-direction: column;
  min-height: 0;
  flex: 1;
}

.bar {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
  min-height: 44px;
  padding: 6px 12px 6px 16px;
  border-bottom: 1px solid var(--line);
  background: var(--paper);
  font-size: 12.5px;
}

.actions {
  display: flex;
  gap: 6px;
}

.list {
  overflow-y: auto;
  flex: 1;
}

.clean {
  padding: 22px 18px;
}
</style>
