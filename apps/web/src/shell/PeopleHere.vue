<script setup lang="ts">
import type { Presence } from '@isola/contract';
import { computed, toRef } from 'vue';
import { STAGES } from '../stages.ts';
import { usePresence } from '../stores/presence.ts';

/** Who else has this job open, each with the stage that they look at. */
const props = defineProps<{ id: string; stage: string }>();
const others = usePresence(toRef(props, 'id'), toRef(props, 'stage'));

/** So many names are said; of more, how many. */
const MOST = 3;
const named = computed(() => {
  const names = new Map<string, Presence[]>();
  for (const one of others.value) if (one.who !== null) names.set(one.who, [...(names.get(one.who) ?? []), one]);
  return [...names].map(([name, windows]) => ({ name, where: `${name} is at ${windows.map(({ stage }) => labelOf(stage)).join(', ')}` }));
});
const unnamed = computed(() => others.value.filter(({ who }) => who === null).length);
const labelOf = (stage: string): string => STAGES.find(({ name }) => name === stage)?.label ?? stage;
</script>

<template>
  <ul v-if="others.length > 0" class="here" aria-label="Who else has this job open">
    <li v-for="one in named.slice(0, MOST)" :key="one.name" :title="one.where">
      <span class="knot" aria-hidden="true" />{{ one.name }}<span class="visually-hidden">, {{ one.where }}</span>
    </li>
    <li
      v-if="named.length > MOST"
      :title="
        named
          .slice(MOST)
          .map(({ where }) => where)
          .join('\n')
      "
    >
      {{ named.length - MOST }} more
    </li>
    <li v-if="unnamed > 0" title="Steps that touch different objects go together by themselves">
      <span class="knot" aria-hidden="true" />open in {{ unnamed === 1 ? 'another window' : `${unnamed} other windows` }}
    </li>
  </ul>
</template>

<style scoped>
.here {
  display: flex;
  gap: 10px;
  list-style: none;
  font-size: 12px;
  color: var(--ink-2);
  white-space: nowrap;
}

.here li {
  display: flex;
  align-items: center;
  gap: 5px;
}

/* A thread's end, tied off: somebody is at work. */
.knot {
  width: 8px;
  height: 8px;
  border: 2px solid var(--sea);
  border-radius: 50%;
}
</style>
