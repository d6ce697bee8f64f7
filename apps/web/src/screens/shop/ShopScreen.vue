<script setup lang="ts">
import type { ShopKind } from '@isola/contract';
import { onMounted, ref } from 'vue';
import PageHead from '../../shell/PageHead.vue';
import { useNotices } from '../../stores/notices.ts';
import { useShop } from '../../stores/shop.ts';
import ChangeList from './ChangeList.vue';
import RecordForm from './RecordForm.vue';
import RecordTable from './RecordTable.vue';
import RulebookPanel from './RulebookPanel.vue';
import LayoutsPanel from './layouts/LayoutsPanel.vue';
import { useAct } from '../../stores/useAct.ts';

type Tab = ShopKind | 'rules' | 'changes';

const store = useShop();
const notices = useNotices();
const { act } = useAct();
const tab = ref<Tab>('fabrics');
/** The record that is looked at, by its id. */
const open = ref<string>();

const TABS: readonly (readonly [Tab, string])[] = [
  ['fabrics', 'Cloths'],
  ['threads', 'Threads'],
  ['garments', 'Places'],
  ['hoops', 'Hoops'],
  ['machines', 'Machines'],
  ['layouts', 'Machine files'],
  ['rules', 'Rulebook'],
  ['changes', 'Changes'],
];

onMounted(() => act(() => store.load()));

function choose(next: Tab): void {
  tab.value = next;
  open.value = undefined;
}

async function restore(): Promise<void> {
  await act(async () => {
    if (store.who.trim() === '') throw new Error('Say who you are first: open a record, or the changes, and fill in “who”.');
    await store.restore();
    notices.say('The defaults are back', 'What was missing of them is there again; what you changed stays as it is.');
  });
}
</script>

<template>
  <div class="shop-page">
    <PageHead>
      <h1 class="visually-hidden">Shop</h1>
      <nav aria-label="Lists of the shop" role="tablist">
        <button v-for="[name, label] in TABS" :key="name" type="button" role="tab" :aria-selected="tab === name" @click="choose(name)">
          {{ label }}
        </button>
      </nav>
      <v-btn variant="text" @click="restore">Bring back the defaults</v-btn>
    </PageHead>
    <main v-if="store.shop" :class="{ split: open !== undefined }">
      <RulebookPanel v-if="tab === 'rules'" :shop="store.shop" />
      <LayoutsPanel v-else-if="tab === 'layouts'" :shop="store.shop" />
      <ChangeList v-else-if="tab === 'changes'" :shop="store.shop" />
      <template v-else>
        <RecordTable :shop="store.shop" :kind="tab" :open-id="open" @open="open = $event" />
        <aside v-if="open !== undefined">
          <RecordForm :id="open" :shop="store.shop" :kind="tab" @close="open = undefined" @open="open = $event" />
        </aside>
        <p v-else class="muted hint">Open a row to change or copy it. Jobs keep the values they were judged by.</p>
      </template>
    </main>
  </div>
</template>

<style scoped>
nav {
  display: flex;
  gap: 2px;
  margin: 0 auto 0 0;
  padding-left: 14px;
  border-left: 1px solid var(--line);
}

nav button {
  padding: 6px 11px;
  border: 0;
  border-radius: 7px;
  background: none;
  color: var(--ink-2);
  font: inherit;
  font-weight: 500;
  cursor: pointer;
}

nav button[aria-selected='true'] {
  background: var(--ink);
  color: var(--card);
}

main {
  overflow-y: auto;
  padding: 14px 24px 32px;
}

.split {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 380px;
  gap: 24px;
  align-items: start;
  overflow-x: hidden;
}

aside {
  position: sticky;
  top: 0;
  max-height: calc(100vh - 90px);
  overflow-y: auto;
  padding: 14px 16px;
  border: 1px solid var(--line);
  border-radius: 10px;
  background: var(--card);
}

.hint {
  margin-top: 12px;
}
</style>
