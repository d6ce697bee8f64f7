<script setup lang="ts">
import type { ShopEffect, Shop } from '@isola/contract';
import { defaultTarget, problemOfLimit, type Rule, RULE_GROUPS, RULEBOOK_VERSION, RULES, type ShopRules } from '@isola/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { api } from '../../api/client.ts';
import { useNotices } from '../../stores/notices.ts';
import { useShop } from '../../stores/shop.ts';
import { sayRules, SCHOOL_KEYS, SCHOOL_WORDS } from './sayChange.ts';
import RuleRow from './RuleRow.vue';
import SignatureFields from './SignatureFields.vue';
import { useAct } from '../../stores/useAct.ts';

/** Every rule with its limit and why; what the shop changes of it, and what that would move in its jobs. */
const props = defineProps<{ shop: Shop }>();
const store = useShop();
const notices = useNotices();
const { isBusy, act } = useAct();
const reference = defaultTarget();

const draft = shallowRef<ShopRules>(props.shop.rules);
const why = ref('');
/** What the draft would move, job by job, as they are asked. */
const effects = shallowRef<readonly { readonly name: string; readonly id: string; readonly effect: ShopEffect }[]>();
const asked = ref<{ done: number; of: number }>();
watch(
  () => props.shop.rules,
  (rules) => (draft.value = rules),
);
watch(draft, () => ([effects.value, asked.value] = [undefined, undefined]));

/** Rules of one group stand together. */
const groups = RULE_GROUPS.map((group) => ({ group, rules: RULES.filter((rule) => rule.group === group) }));
const changes = computed(() => sayRules(props.shop.rules, draft.value));
const problems = computed(() => {
  const found = new Map<string, string>();
  for (const rule of RULES) {
    const set = draft.value.limits[rule.id];
    const problem = set === undefined ? undefined : problemOfLimit(rule, set, reference);
    if (problem !== undefined) found.set(rule.id, problem);
  }
  return found;
});
const canKeep = computed(() => !isBusy.value && changes.value.length > 0 && problems.value.size === 0 && store.who.trim() !== '');

function setLimit(rule: Rule, text: string): void {
  const { [rule.id]: _, ...limits } = draft.value.limits;
  const value = Number(text.replace(',', '.'));
  const isUsual = text.trim() === '' || value === rule.limit(reference);
  draft.value = { ...draft.value, limits: isUsual ? limits : { ...limits, [rule.id]: value } };
}

function judge(rule: Rule, isJudged: boolean): void {
  const others = draft.value.off.filter((id) => id !== rule.id);
  draft.value = { ...draft.value, off: isJudged ? others : [...others, rule.id] };
}

function follow(key: (typeof SCHOOL_KEYS)[number], way: string): void {
  draft.value = { ...draft.value, schools: { ...draft.value.schools, [key]: way } };
}

async function look(): Promise<void> {
  await act(async () => {
    const rules = draft.value;
    const { jobs } = await api.jobs({ of: 'open' });
    const found: { name: string; id: string; effect: ShopEffect }[] = [];
    asked.value = { done: 0, of: jobs.length };
    for (const { id, name } of jobs) {
      const effect = await api.shopEffect(id, { rules });
      if (draft.value !== rules) return;
      if (effect.came.length + effect.went.length > 0) found.push({ id, name, effect });
      effects.value = [...found];
      asked.value = { done: asked.value.done + 1, of: jobs.length };
    }
  });
}

async function keep(): Promise<void> {
  await act(async () => {
    await store.putRules(draft.value, why.value);
    why.value = '';
    notices.say(
      'The rulebook is kept',
      'New jobs are judged by it; jobs that there are keep theirs until somebody takes the new one there.',
    );
  });
}
</script>

<template>
  <div class="rulebook">
    <section class="rules">
      <p class="muted">
        Version {{ RULEBOOK_VERSION }}. Limits as they are for {{ reference.fabric.name }}, {{ reference.garment?.name }},
        {{ reference.thread.name }}.
      </p>
      <fieldset class="schools">
        <legend>Where practitioners differ</legend>
        <v-select
          v-for="key in SCHOOL_KEYS"
          :key="key"
          :label="SCHOOL_WORDS[key].title"
          :items="Object.entries(SCHOOL_WORDS[key].ways).map(([value, title]) => ({ value, title }))"
          :model-value="draft.schools[key]"
          @update:model-value="follow(key, $event)"
        />
      </fieldset>
      <template v-for="{ group, rules } in groups" :key="group">
        <h2 class="group">{{ group }}</h2>
        <RuleRow
          v-for="rule in rules"
          :key="rule.id"
          :rule="rule"
          :limit="draft.limits[rule.id]"
          :is-off="draft.off.includes(rule.id)"
          :problem="problems.get(rule.id)"
          @limit="setLimit(rule, $event)"
          @judge="judge(rule, $event)"
        />
      </template>
    </section>
    <form v-if="changes.length > 0" class="change" aria-label="Change of the rulebook" @submit.prevent="canKeep && keep()">
      <h2>Changed, not kept yet</h2>
      <ul class="number">
        <li v-for="change in changes" :key="change">{{ change }}</li>
      </ul>
      <v-btn variant="outlined" :disabled="isBusy || problems.size > 0" @click="look">What it moves in the jobs</v-btn>
      <p v-if="asked" class="muted number" role="status">{{ asked.done }} of {{ asked.of }} jobs judged by it.</p>
      <ul v-if="effects" class="effects">
        <li v-for="{ id, name, effect } in effects" :key="id">
          <router-link :to="{ name: 'audit', params: { id } }">{{ name }}</router-link>
          <p v-if="effect.came.length > 0">comes: {{ effect.came.join(', ') }}</p>
          <p v-if="effect.went.length > 0">goes: {{ effect.went.join(', ') }}</p>
        </li>
        <li v-if="effects.length === 0 && asked && asked.done === asked.of">No finding of any job moves.</li>
      </ul>
      <SignatureFields v-model="why" />
      <div class="actions">
        <v-btn type="submit" :disabled="!canKeep">Keep it so</v-btn>
        <v-btn variant="text" @click="draft = shop.rules">Back as it was</v-btn>
      </div>
    </form>
  </div>
</template>

<style scoped>
.rulebook {
  display: flex;
  gap: 32px;
  align-items: flex-start;
}

.rules {
  flex: 1 1 0;
  min-width: 0;
  max-width: 940px;
}

.schools {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
  margin: 12px 0 4px;
  padding: 0;
  border: 0;
}

legend {
  padding-bottom: 8px;
  font-weight: 600;
}

.group {
  margin-top: 18px;
  color: var(--ink-2);
  font-size: 12.5px;
  font-weight: 600;
  letter-spacing: 0.02em;
}

.change h2 {
  font-size: 14.5px;
  font-weight: 600;
}

.change {
  position: sticky;
  top: 0;
  display: grid;
  gap: 11px;
  flex: 0 0 340px;
  max-height: calc(100vh - 90px);
  overflow-y: auto;
  padding: 14px 16px;
  border: 1px solid var(--line);
  border-radius: 10px;
  background: var(--card);
}

.effects {
  display: grid;
  gap: 7px;
  font-size: 12.5px;
}

.actions {
  display: flex;
  gap: 8px;
}
</style>
