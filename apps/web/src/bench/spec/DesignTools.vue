<script setup lang="ts">
import { nextTick, ref, useTemplateRef, watch } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useAct } from '../../stores/useAct.ts';
import ReadAnew from '../objects/ReadAnew.vue';
import OpeningTool from './OpeningTool.vue';
import SpecPairs from './SpecPairs.vue';
import ThreadTool from './ThreadTool.vue';
import ToolSection from './ToolSection.vue';

/** What is done to the whole design: another thread, or opened up for a light garment. */
defineEmits<{ look: [object: string] }>();
const bench = useBench();
const { isBusy: isWorking, act } = useAct();
const trying = ref<'thread' | 'opening'>();
const problem = ref('');
const opening = useTemplateRef<{ clear: () => void; reveal: () => void }>('opening');

watch(
  () => bench.trial,
  (trial) => {
    if (trial === undefined) trying.value = undefined;
  },
);

function work(what: () => Promise<unknown>): Promise<void> {
  problem.value = '';
  return act(what);
}

const attempt = (what: 'thread' | 'opening', tryIt: () => Promise<string | undefined>, isNew = false): Promise<void> =>
  work(async () => {
    problem.value = (await tryIt()) ?? '';
    trying.value = problem.value === '' && bench.trial !== undefined ? what : undefined;
    await nextTick();
    if (isNew) opening.value?.reveal();
  });

const accept = (): Promise<void> =>
  work(async () => {
    await bench.acceptTrial();
    opening.value?.clear();
  });
</script>

<template>
  <div class="tools">
    <ThreadTool :is-working="isWorking" :is-tried="trying === 'thread'" @try="attempt('thread', $event)" />
    <OpeningTool
      ref="opening"
      :is-working="isWorking"
      @try="(act, isNew) => attempt('opening', act, isNew)"
      @look="$emit('look', $event)"
    />
    <ToolSection title="Objects">
      <p class="muted">What the stitches were taken for when the file came in stays, unless it is read anew.</p>
      <ReadAnew />
    </ToolSection>
    <p v-if="problem" class="short" role="alert">Nothing was changed: {{ problem }}.</p>
    <div v-if="trying && bench.trial?.trial.pairs" class="foot">
      <SpecPairs :pairs="bench.trial.trial.pairs" />
      <div class="acts">
        <v-btn color="primary" :disabled="isWorking" @click="accept">Sew it so</v-btn>
        <v-btn variant="outlined" @click="bench.dropTrial()">Step back</v-btn>
      </div>
    </div>
  </div>
</template>

<style scoped>
.short {
  color: var(--fix);
}

.foot {
  position: sticky;
  bottom: -14px;
  padding: 8px 0 14px;
  background: var(--card);
  border-top: 1px solid var(--line);
}

.acts {
  display: flex;
  gap: 8px;
  padding-top: 8px;
}
</style>
