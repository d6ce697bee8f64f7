<script setup lang="ts">
import { RULE_GROUPS, RULES } from '@isola/core';
import { mdiClose } from '@mdi/js';
import { computed, onMounted, ref } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useObjects } from '../../stores/objects.ts';
import { usePractice } from '../../stores/practice.ts';
import { useAct } from '../../stores/useAct.ts';
import { placesOf } from '../objects/placesOf.ts';

/** In place of the docket while somebody practises: what they say is wrong, and where; then how that was. */
const bench = useBench();
const objects = useObjects();
const store = usePractice();
const { isBusy, act } = useAct();
onMounted(() => act(() => store.load()));

const practice = computed(() => store.practice);
const rule = ref('');
const titleOf = (id: string): string => RULES.find((one) => one.id === id)?.title ?? id;
const groups = RULE_GROUPS.map((group) => ({ group, rules: RULES.filter((one) => one.group === group) })).filter(
  ({ rules }) => rules.length > 0,
);
const canClaim = computed(() => rule.value !== '' && objects.selected !== undefined && !isBusy.value);
const isUnsaved = computed(() => bench.outgoing !== undefined);

const claim = (): Promise<void> =>
  act(async () => {
    const object = objects.selected!;
    const places = placesOf(object);
    const [x, y] = [
      places.reduce((sum, one) => sum + one.x, 0) / places.length,
      places.reduce((sum, one) => sum + one.y, 0) / places.length,
    ];
    await store.claim({ rule: rule.value, name: object.name, x, y });
    rule.value = '';
  });
/** Takes up the object that had a fault, which is marked on the cloth. */
const show = (name: string): void => objects.select(objects.objects.find((object) => object.name === name));
const result = computed(() => practice.value?.result ?? undefined);
const found = computed(() => result.value?.faults.filter(({ isFound }) => isFound).length ?? 0);
const mended = computed(() => result.value?.faults.filter(({ isMended }) => isMended).length ?? 0);
</script>

<template>
  <section v-if="practice" class="practice" tabindex="0" aria-label="Practice">
    <template v-if="result === undefined">
      <h2>Practice: {{ practice.faults === 1 ? '1 fault' : `${practice.faults} faults` }} to find</h2>
      <p class="muted">
        {{ practice.faults === 1 ? 'One fault was' : `${practice.faults} faults were` }} planted in this file. Replay it, look at it in all
        views, measure; say here what is wrong and where, and mend it on <router-link :to="{ name: 'rework' }">Rework</router-link>. The
        docket comes when you are done.
      </p>
      <form class="say" aria-label="Say what is wrong" @submit.prevent="canClaim && claim()">
        <p>
          <b>{{ objects.selected?.name ?? 'Click an object on the cloth' }}</b>
        </p>
        <select v-model="rule" aria-label="What is wrong with it">
          <option value="" disabled>What is wrong with it?</option>
          <optgroup v-for="{ group, rules } in groups" :key="group" :label="group">
            <option v-for="one in rules" :key="one.id" :value="one.id">{{ one.title }}</option>
          </optgroup>
        </select>
        <v-btn type="submit" size="small" variant="outlined" :disabled="!canClaim">Say so</v-btn>
      </form>
      <ol v-if="practice.claims.length > 0" class="claims">
        <li v-for="(one, k) in practice.claims" :key="k">
          <span
            ><b>{{ titleOf(one.rule) }}</b
            ><small class="muted">{{ one.name }}</small></span
          >
          <button
            type="button"
            :aria-label="`Take back: ${titleOf(one.rule)}, ${one.name}`"
            :disabled="isBusy"
            @click="act(() => store.take(k))"
          >
            <v-icon :icon="mdiClose" size="15" />
          </button>
        </li>
      </ol>
      <p v-else class="muted">Nothing said yet.</p>
      <v-btn :disabled="isBusy || isUnsaved" :loading="isBusy" @click="act(() => store.judge())">I am done: show the docket</v-btn>
    </template>
    <template v-else>
      <h2>{{ found }} of {{ result.faults.length }} found, {{ mended }} mended</h2>
      <ul class="faults">
        <li v-for="(fault, k) in result.faults" :key="k" :class="{ missed: !fault.isFound && !fault.isMended }">
          <b>{{ fault.title }}</b>
          <button type="button" class="in-words" @click="show(fault.name)">{{ fault.name }}</button>
          <p class="verdict" :class="fault.isFound ? 'gain' : 'bad'">
            {{ fault.isFound ? 'found' : 'not named' }}, {{ fault.isMended ? 'mended' : 'still there' }}
          </p>
          <p>What was done to it: {{ fault.words }}.</p>
          <p class="muted">{{ fault.why }}</p>
        </li>
      </ul>
      <template v-if="result.broken.length > 0">
        <h3>Broken on the way</h3>
        <ul class="faults">
          <li v-for="(one, k) in result.broken" :key="k">
            <b>{{ one.title }}</b>
            <p>{{ one.message }}</p>
            <p class="muted">{{ one.why }}</p>
          </li>
        </ul>
      </template>
      <template v-if="result.others.length > 0">
        <h3>Said besides</h3>
        <ul class="faults">
          <li v-for="(one, k) in result.others" :key="k">
            <b>{{ one.title }}</b> <small class="muted">{{ one.name }}</small>
            <p>{{ one.isThere ? 'Right: the file had that before anything was planted.' : 'Nothing of that kind is found there.' }}</p>
          </li>
        </ul>
      </template>
      <p><v-btn variant="outlined" :to="{ name: 'practice' }">Another one</v-btn></p>
    </template>
  </section>
</template>

<style scoped>
.practice {
  display: grid;
  gap: 12px;
  align-content: start;
  padding: 14px 16px 24px;
  overflow-y: auto;
}

h2 {
  font-size: 16px;
  font-weight: 600;
}

h3 {
  font-size: 14px;
  font-weight: 600;
}

a:not(.v-btn) {
  color: var(--sea);
}

.say {
  display: grid;
  gap: 8px;
  justify-items: start;
  padding: 10px 12px;
  border: 1px solid var(--line);
  border-radius: 9px;
  background: var(--paper);
}

select {
  width: 100%;
  padding: 5px 8px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
  color: inherit;
  font: inherit;
}

.claims li {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 5px 0;
  border-bottom: 1px solid var(--line-soft);
}

.claims button {
  border: 0;
  background: none;
  color: var(--ink-2);
  cursor: pointer;
}

small {
  display: block;
  font-size: 12px;
}

.faults {
  display: grid;
  gap: 10px;
}

.faults li {
  padding-left: 10px;
  border-left: 3px solid var(--gain);
  overflow-wrap: anywhere;
}

.faults .missed {
  border-color: var(--stop);
}

.faults small {
  display: inline;
}

.verdict {
  font-weight: 500;
}

.bad {
  color: var(--lost);
}
</style>
