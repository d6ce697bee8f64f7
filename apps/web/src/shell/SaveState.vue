<script setup lang="ts">
import { computed } from 'vue';
import { useBench } from '../stores/bench.ts';
import { isHeld, useOutbox } from '../stores/outbox.ts';

const bench = useBench();
const outbox = useOutbox();

/** Saved is said when nothing is on its way anywhere: of this job, or of any other. */
const state = computed((): { readonly kind: 'good' | 'bad'; readonly text: string } => {
  const queues = [...outbox.queues.values()];
  const others = queues.filter((queue) => queue !== bench.outgoing);
  const held = others.find((queue) => isHeld(queue.state));
  if (bench.outgoing?.state === 'conflict' && bench.outgoing.isAside) return { kind: 'bad', text: 'Kept as a branch' };
  if (bench.outgoing?.state === 'conflict') return { kind: 'bad', text: 'Changed in another window' };
  if (bench.outgoing?.state === 'refused') return { kind: 'bad', text: 'A step was refused' };
  if (queues.length > 0 && outbox.keepProblem !== '')
    return { kind: 'bad', text: `Not saved. ${outbox.keepProblem} Leave this page open until it is.` };
  if (queues.some((queue) => queue.state === 'offline'))
    return { kind: 'bad', text: 'Not saved: no connection, trying again. Your steps are kept here.' };
  if (held !== undefined) return { kind: 'bad', text: `Steps of ${held.jobName || 'another job'} are not saved: open it to settle them` };
  if (queues.length > 0) return { kind: 'good', text: bench.outgoing === undefined ? 'Saving another job…' : 'Saving…' };
  return { kind: 'good', text: outbox.savedAt === undefined ? 'Saved' : `Saved ${outbox.savedAt.toLocaleTimeString('en-GB')}` };
});
</script>

<template>
  <span class="state number" :class="state.kind" role="status">{{ state.text }}</span>
</template>

<style scoped>
.state {
  font-size: 12px;
  color: var(--ink-2);
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}

.bad {
  color: var(--stop);
  font-weight: 600;
}
</style>
