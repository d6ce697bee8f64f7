<script setup lang="ts">
import type { OpeningProposal, OpeningStep } from '@isola/core';
import { computed, onMounted, ref, shallowRef, useTemplateRef } from 'vue';
import ToolSection from './ToolSection.vue';
import { useBench } from '../../stores/bench.ts';
import { sayCount } from '../figures/sayFigures.ts';

/** Opens a heavy design up for a light garment: fills are proposed, any of them is taken or left. */
defineProps<{ isWorking: boolean }>();
const emit = defineEmits<{ try: [attempt: () => Promise<string | undefined>, isNew?: boolean]; look: [object: string] }>();
const bench = useBench();

const budget = ref(0);
const proposal = shallowRef<OpeningProposal>();
const taken = shallowRef<ReadonlySet<string>>(new Set());
const list = useTemplateRef<HTMLOListElement>('steps');

/** Three tenths of the design, in steps of a hundred stitches. */
onMounted(() => (budget.value = Math.max(100, Math.round((bench.now?.view.figures.stitches ?? 0) * 0.003) * 100)));

type Step = Omit<OpeningStep, 'total'>;
const idOf = (step: Step): string => step.edit.object;
/** All that could be opened, with the count of the design after each of those taken. */
const steps = computed(() => {
  let total = proposal.value?.stitches ?? 0;
  return [...(proposal.value?.steps ?? []), ...(proposal.value?.spare ?? [])].map((step) => {
    const isTaken = taken.value.has(idOf(step));
    if (isTaken) total -= step.before - step.after;
    return { step, isTaken, total };
  });
});
const total = computed(() => steps.value[steps.value.length - 1]?.total ?? 0);

async function propose(): Promise<string | undefined> {
  proposal.value = await bench.proposeOpening(budget.value);
  taken.value = new Set(proposal.value?.steps.map(idOf));
  return tryTaken();
}

async function tryTaken(): Promise<string | undefined> {
  const open = steps.value.filter((s) => s.isTaken);
  if (open.length > 0)
    return bench.trySpecs(
      `open up ${open.length} of the fills`,
      open.map((s) => s.step.edit),
    );
  bench.dropTrial();
  return undefined;
}

function toggle(step: Step): void {
  const next = new Set(taken.value);
  if (!next.delete(idOf(step))) next.add(idOf(step));
  taken.value = next;
  emit('try', tryTaken);
}

defineExpose({
  clear: () => (proposal.value = undefined),
  /** Brings what is proposed into sight. */
  reveal: () => list.value?.scrollIntoView?.({ block: 'start' }),
});
</script>

<template>
  <ToolSection title="Open up a heavy design">
    <p class="muted">Fills become open ones without underlay, largest saving first, until the count keeps to this.</p>
    <div class="line">
      <label for="budget">Stitches, at most</label>
      <input id="budget" v-model.number="budget" class="number" type="number" min="0" step="500" />
    </div>
    <v-btn variant="outlined" :disabled="isWorking" @click="emit('try', propose, true)">Propose</v-btn>
    <template v-if="proposal">
      <p v-if="steps.length === 0" class="muted">
        {{ proposal.isReached ? 'The design keeps to it as it is.' : 'There is no closed fill that opening up would make lighter.' }}
      </p>
      <ol v-else ref="steps" class="steps number">
        <li>
          <span>as it is</span><b>{{ sayCount(proposal.stitches) }}</b>
        </li>
        <li v-for="s in steps" :key="idOf(s.step)" :class="{ off: !s.isTaken }">
          <input
            type="checkbox"
            :checked="s.isTaken"
            :disabled="isWorking"
            :aria-label="`Open up ${s.step.name}`"
            @change="toggle(s.step)"
          />
          <button type="button" title="Show it on the cloth" @click="emit('look', idOf(s.step))">
            {{ s.step.name }} at {{ s.step.spacing.toFixed(1) }}
          </button>
          <i :style="{ width: `${(100 * s.total) / proposal.stitches}%` }" />
          <b>{{ s.isTaken ? sayCount(s.total) : `−${sayCount(s.step.before - s.step.after)}` }}</b>
        </li>
      </ol>
      <p v-if="total > budget" class="short">
        {{ sayCount(total - budget) }} more than that{{ proposal.isReached ? '' : ': what is left are satins, runs and small fills' }}.
      </p>
    </template>
  </ToolSection>
</template>

<style scoped>
input[type='number'] {
  width: 84px;
  padding: 3px 6px;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: var(--paper);
  color: inherit;
  font: inherit;
  text-align: right;
}

.steps {
  scroll-margin-top: 8px;
  width: 100%;
  padding: 0;
  margin: 0;
  list-style: none;
}

.steps li {
  position: relative;
  display: flex;
  gap: 8px;
  justify-content: space-between;
  padding: 4px 0 7px;
}

.steps i {
  position: absolute;
  bottom: 2px;
  left: 0;
  height: 3px;
  background: var(--sea);
  border-radius: 2px;
}

.steps .off {
  opacity: 0.5;
}

.short {
  color: var(--fix);
}

.steps button {
  flex: 1;
  padding: 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
</style>
