<script setup lang="ts">
import type { Shop, ShopChange } from '@isola/contract';
import { computed, onMounted } from 'vue';
import { useNotices } from '../../stores/notices.ts';
import { useShop } from '../../stores/shop.ts';
import { sayChange } from './sayChange.ts';
import { useAct } from '../../stores/useAct.ts';

/** Who changed what of the shop, when and why; each is taken back by another change. */
const props = defineProps<{ shop: Shop }>();
const store = useShop();
const notices = useNotices();
const { act } = useAct();
onMounted(() => void act(() => store.loadChanges()));

const rows = computed(() => {
  const changes = store.changes ?? [];
  const takenBack = new Set(changes.map(({ undoes }) => undoes));
  /** Only the last change of a record can be taken back: a later one builds on it. */
  const seen = new Set<string>();
  return changes.map((change) => {
    const record = `${change.kind} ${change.recordId}`;
    const isLast = !seen.has(record);
    seen.add(record);
    return { change, said: sayChange(props.shop, change), isLast, isTakenBack: takenBack.has(change.id) };
  });
});

const sayTime = (at: string): string => new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });

async function undo(change: ShopChange): Promise<void> {
  await act(async () => {
    await store.undo(change.id);
    notices.say(`${sayChange(props.shop, change).title}: taken back`);
  });
}
</script>

<template>
  <section class="changes" aria-label="Changes of the shop">
    <p v-if="store.changes?.length === 0" class="muted">Nothing was changed yet: the shop is as it began.</p>
    <v-text-field v-else-if="store.changes" v-model="store.who" class="who" label="Who takes back" maxlength="200" />
    <ol>
      <li v-for="{ change, said, isLast, isTakenBack } in rows" :key="change.id" :class="{ back: isTakenBack }">
        <div>
          <h2>{{ said.title }}</h2>
          <p v-for="part in said.parts" :key="part" class="number">{{ part }}</p>
          <p class="muted">
            {{ change.who }}, {{ sayTime(change.at) }}{{ change.undoes ? ', taking a change back' : ''
            }}{{ change.why ? `: ${change.why}` : '' }}
          </p>
        </div>
        <v-btn v-if="isLast" variant="outlined" size="small" :disabled="store.who.trim() === ''" @click="undo(change)">Take back</v-btn>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.changes {
  max-width: 860px;
}

.who {
  max-width: 260px;
  margin-bottom: 8px;
}

li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 16px;
  padding: 10px 0;
  border-bottom: 1px solid var(--line);
}

h2 {
  font-size: 14px;
  font-weight: 600;
}

.back h2 {
  color: var(--ink-3);
}
</style>
