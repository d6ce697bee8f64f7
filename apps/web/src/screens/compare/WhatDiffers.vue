<script setup lang="ts">
import type { ObjectChange, ObjectChangeKind } from '@isola/core';
import { computed } from 'vue';

/** What differs between two states, object by object. Which of them is meant is told to who shows them. */
const props = defineProps<{ changes: readonly ObjectChange[]; /** What the first of them is called. */ than: string }>();
const emit = defineEmits<{ look: [object: string] }>();

const WORDS: Readonly<Record<ObjectChangeKind, string>> = {
  drawn: 'drawn here',
  new: 'new',
  gone: 'gone',
  'sewn-anew': 'sewn anew',
  touched: 'single stitches changed',
  placed: 'lies or begins elsewhere',
  thread: 'another thread',
  way: 'reached by another way',
  renamed: 'another name',
  moved: 'sewn at another place in the order',
};
/** So many stand in the list at once. */
const MOST = 60;

const say = ({ kinds, from, to }: ObjectChange): string =>
  kinds.map((kind) => (kind === 'moved' && from !== to ? `${WORDS.moved}: ${from + 1} → ${to + 1}` : WORDS[kind])).join(', ');
const rows = computed(() => props.changes.slice(0, MOST).map((change) => ({ ...change, words: say(change) })));
</script>

<template>
  <section aria-label="What differs">
    <h3>
      What differs <span class="muted number">{{ changes.length === 0 ? '' : changes.length }}</span>
    </h3>
    <ul v-if="rows.length > 0">
      <li v-for="row in rows" :key="row.object">
        <button type="button" @click="emit('look', row.object)">
          <b>{{ row.name }}</b> <span class="muted">{{ row.words }}</span>
        </button>
      </li>
    </ul>
    <p v-if="changes.length > MOST" class="muted">and {{ changes.length - MOST }} more</p>
    <p v-if="changes.length === 0" class="muted">No object differs from {{ than }}.</p>
  </section>
</template>

<style scoped>
h3 {
  font-size: 14px;
  font-weight: 600;
}

ul {
  list-style: none;
}

button {
  width: 100%;
  padding: 4px 6px;
  margin-left: -6px;
  border: 0;
  border-radius: 5px;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}

button:hover {
  background: var(--sea-soft);
}

b {
  font-weight: 500;
}
</style>
