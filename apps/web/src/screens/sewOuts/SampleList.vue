<script setup lang="ts">
import { computed } from 'vue';
import { useSewOuts } from '../../stores/sewOuts.ts';
import { useAct } from '../../stores/useAct.ts';
import { sayDay } from './saySample.ts';

/** Samples of this job, the latest first; another one begins here. */
const sewOuts = useSewOuts();
const { isBusy, act } = useAct();
/** What was written is recorded or put back before another sample takes its place. */
const go = (to: () => Promise<void>): Promise<void> =>
  act(() => {
    if (sewOuts.isChanged) throw new Error('What you wrote is not recorded yet. Record it, or put it back as it was, then go on.');
    return to();
  });
const isNew = computed(() => sewOuts.draft !== undefined && sewOuts.record === undefined);
</script>

<template>
  <section aria-label="Samples of this job">
    <header>
      <h2>Sew-outs</h2>
      <router-link :to="{ name: 'logbook' }">All of the shop</router-link>
    </header>
    <ul v-if="sewOuts.records && sewOuts.records.length > 0" class="list">
      <li v-for="one in sewOuts.records" :key="one.id">
        <button type="button" :aria-pressed="one.id === sewOuts.record?.id" :disabled="isBusy" @click="go(() => sewOuts.open(one))">
          {{ sayDay(one.sewOut.sewnOn) }} <small>r{{ one.sewOut.revision }}</small>
        </button>
      </li>
      <li><button type="button" :aria-pressed="isNew" :disabled="isBusy" @click="go(() => sewOuts.begin())">+ another</button></li>
    </ul>
    <p v-else-if="sewOuts.records" class="muted">
      None yet. Sew a sample on the real cloth, measure it at the numbered places, and write down here what you found.
    </p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 8px;
}

header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}

h2 {
  font-size: 16px;
  font-weight: 600;
}

a {
  color: var(--sea);
}

.list {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}

button {
  padding: 3px 10px;
  border: 1px solid var(--line);
  border-radius: 7px;
  background: var(--paper);
  font: inherit;
  cursor: pointer;
}

button[aria-pressed='true'] {
  border-color: var(--ink);
  background: var(--ink);
  color: var(--card);
}
</style>
