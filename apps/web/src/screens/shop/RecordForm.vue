<script setup lang="ts">
import type { RecordUse, Shop, ShopKind } from '@isola/contract';
import { type Fabric, sayClock, sayPull } from '@isola/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { api } from '../../api/client.ts';
import { useNotices } from '../../stores/notices.ts';
import { useShop } from '../../stores/shop.ts';
import { type Field, headOf, problemsOf, RECORD_KINDS, recordsOf, type ShopRecord } from './recordFields.ts';
import SignatureFields from './SignatureFields.vue';
import { useAct } from '../../stores/useAct.ts';

/** One record of the shop: its values, where it is in use, and what is done with it. */
const props = defineProps<{ shop: Shop; kind: ShopKind; id: string }>();
const emit = defineEmits<{ close: []; open: [id: string] }>();
const store = useShop();
const notices = useNotices();
const { isBusy, act } = useAct();

/** As the shop has it; none where it is a copy that was not kept yet. */
const stored = computed(() => recordsOf(props.shop, props.kind).find(({ id }) => id === props.id));
/** As it was when this change was begun: what another changes meanwhile is not lost. */
const was = shallowRef<ShopRecord>();
const draft = shallowRef<Readonly<Record<string, unknown>>>({});
const why = ref('');
const uses = shallowRef<readonly RecordUse[]>();

watch(
  () => [props.kind, props.id] as const,
  () => void begin(stored.value, stored.value),
  { immediate: true },
);

const kind = computed(() => RECORD_KINDS[props.kind]);
const problems = computed(() => problemsOf(props.kind, draft.value));
const isChanged = computed(() => was.value === undefined || kind.value.fields.some(({ key }) => draft.value[key] !== was.value![key]));
const canKeep = computed(() => !isBusy.value && isChanged.value && Object.keys(problems.value).length === 0 && store.who.trim() !== '');
const others = computed(() => (uses.value ?? []).filter(({ isSame }) => !isSame).length);

/** What of it was learned of samples, in words. */
const learned = computed(() => {
  if (draft.value['learned'] === undefined) return undefined;
  return props.kind === 'fabrics' ? `Pull a side: ${sayPull(draft.value as Fabric)}.` : `Here ${sayClock(draft.value)}.`;
});

async function begin(values: ShopRecord | undefined, from: ShopRecord | undefined): Promise<void> {
  [was.value, draft.value, why.value, uses.value] = [from, { ...values }, '', undefined];
  if (from !== undefined) await act(async () => void (uses.value = await api.usesInJobs(props.kind, from.id)));
}

/** What samples teach. */
const LEARNED_VALUES = ['pull', 'topSpeed', 'startSpeed', 'trimCycle'];

function set({ key, as, empty }: Field, text: string): void {
  const { [key]: _, ...others } = draft.value;
  // What somebody writes by hand is not learned of samples any more; they count again from there.
  const { learned: __, ...unlearned } = others;
  const rest = LEARNED_VALUES.includes(key) ? unlearned : others;
  const value = as === 'number' ? Number(text.replace(',', '.')) : text;
  // A number that may be left out is left out; words are empty then.
  if (text.trim() === '' && as === 'number' && empty !== undefined) draft.value = rest;
  else draft.value = { ...rest, [key]: text.trim() === '' && as === 'number' ? NaN : value };
}

const shown = ({ key }: Field): string => {
  const value = draft.value[key];
  if (typeof value === 'number') return Number.isNaN(value) ? '' : String(Math.round(value * 1000) / 1000);
  return typeof value === 'string' ? value : '';
};

async function keep(): Promise<void> {
  const record = draft.value as ShopRecord;
  await act(async () => {
    await store.put(props.kind, record, was.value ?? null, why.value);
    notices.say(
      `${record.name} is kept`,
      'New jobs go by it. Jobs that have it keep their values until somebody takes the new ones there.',
    );
    if (record.id === props.id) await begin(stored.value, stored.value);
    else emit('open', record.id);
  });
}

function copy(): void {
  const values = draft.value as ShopRecord;
  const name = `${values.name}, copy`;
  void begin({ ...values, id: crypto.randomUUID(), name }, undefined);
}

async function remove(): Promise<void> {
  const { name, id } = stored.value!;
  await act(async () => {
    await store.remove(props.kind, id, why.value);
    notices.say(`${name} was deleted`, 'Jobs that use it keep the values they were judged by. Under Changes it can be put back.');
    emit('close');
  });
}
</script>

<template>
  <form class="record" :aria-label="`The ${kind.word}`" @submit.prevent="canKeep && keep()">
    <header>
      <h2>{{ was === undefined ? `A new ${kind.word}` : was.name }}</h2>
      <v-btn variant="text" size="small" @click="emit('close')">Close</v-btn>
    </header>
    <div class="fields">
      <template v-for="field in kind.fields" :key="field.key">
        <v-select
          v-if="field.as === 'choice'"
          :label="headOf(field)"
          :items="[...(field.choices?.(shop) ?? [])]"
          :model-value="draft[field.key]"
          @update:model-value="set(field, String($event))"
        />
        <label v-else-if="field.as === 'color'" class="color"
          >{{ field.label }} <input type="color" :value="draft[field.key]" @input="set(field, ($event.target as HTMLInputElement).value)"
        /></label>
        <v-text-field
          v-else
          :class="{ wide: field.as === 'text' }"
          :label="headOf(field)"
          :type="field.as"
          :step="field.step ?? 'any'"
          :placeholder="field.empty"
          persistent-placeholder
          :model-value="shown(field)"
          :error-messages="problems[field.key] ?? []"
          hide-details="auto"
          @update:model-value="set(field, $event)"
        />
      </template>
    </div>
    <p v-if="learned" class="muted uses number">{{ learned }}</p>
    <p v-if="uses !== undefined && uses.length > 0" class="muted uses">
      In use by
      <template v-for="(use, k) in uses.slice(0, 6)" :key="use.id"
        ><router-link :to="{ name: 'take-in', params: { id: use.id } }">{{ use.name }}</router-link
        >{{ k < Math.min(6, uses.length) - 1 ? ', ' : '' }}</template
      >{{ uses.length > 6 ? ` and ${uses.length - 6} more` : '' }}.
      {{ others > 0 ? `${others} of them with other values than these.` : '' }}
    </p>
    <p v-else-if="uses !== undefined" class="muted">No job uses it.</p>
    <SignatureFields v-model="why" />
    <div class="actions">
      <v-btn type="submit" :disabled="!canKeep">Keep it so</v-btn>
      <v-btn variant="outlined" :disabled="isBusy || was === undefined" @click="copy">Copy</v-btn>
      <v-btn v-if="was !== undefined && isChanged" variant="text" @click="begin(stored, stored)">Back as it was</v-btn>
      <v-btn v-if="was !== undefined" class="delete" variant="text" :disabled="isBusy || store.who.trim() === ''" @click="remove"
        >Delete</v-btn
      >
    </div>
  </form>
</template>

<style scoped>
.record {
  display: grid;
  gap: 12px;
  align-content: start;
}

header {
  display: flex;
  justify-content: space-between;
  align-items: center;
}

h2 {
  font-size: 16px;
  font-weight: 600;
}

.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
  align-items: center;
}

.wide {
  grid-column: 1 / -1;
}

.color {
  display: flex;
  align-items: center;
  gap: 9px;
  color: var(--ink-2);
}

.color input {
  width: 60px;
  height: 32px;
  padding: 2px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
}

.uses {
  font-size: 12.5px;
}

.actions {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}

.delete {
  margin-left: auto;
  color: var(--stop);
}
</style>
