<script setup lang="ts">
import { FORMAT_CHOICE, type Goal, GOALS, type Target, USUAL_RULES } from '@isola/core';
import type { AuditSummary } from '@isola/contract';
import { computed, onMounted, ref, useTemplateRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import DropHint from '../../shell/DropHint.vue';
import PageHead from '../../shell/PageHead.vue';
import { useAudits } from '../../stores/audits.ts';
import { useShop } from '../../stores/shop.ts';
import { chosenFiles, droppedFiles, isStitchFile } from './filesOf.ts';
import { useAct } from '../../stores/useAct.ts';

const store = useAudits();
const shop = useShop();
const router = useRouter();
const { isBusy, act } = useAct();
const files = useTemplateRef<HTMLInputElement>('files');
const folder = useTemplateRef<HTMLInputElement>('folder');
const isOver = ref(false);

const name = ref('');
const [fabricId, garmentId, threadId, machineId] = [ref(''), ref(''), ref(''), ref('')];
const quantity = ref(1);
const goal = ref<Goal>('fastest');
const GOAL_NAMES: Readonly<Record<Goal, string>> = { fastest: 'Fastest run', cleanest: 'Cleanest edges', softest: 'Softest hand' };

onMounted(() => act(() => Promise.all([store.load(), shop.shop === undefined ? shop.load() : undefined])));
watch(
  () => shop.shop,
  (lists) => {
    if (lists === undefined) return;
    const known = (id: string, list: readonly { readonly id: string }[]): string => list.find((one) => one.id === id)?.id ?? list[0]!.id;
    fabricId.value = known('pique-polo', lists.fabrics);
    threadId.value = known('rayon-40', lists.threads);
    machineId.value = known('', lists.machines);
  },
  { immediate: true },
);
watch(
  () => store.chosen,
  (chosen) => {
    const [first] = chosen;
    if (first !== undefined && name.value === '') name.value = first.path.includes('/') ? first.path.split('/')[0]! : 'Files of today';
  },
  { immediate: true },
);

const stitched = computed(() => store.chosen.filter(({ path }) => isStitchFile(path, shop.shop?.layouts)));
const others = computed(() => store.chosen.length - stitched.value.length);
const items = <T extends { readonly id: string; readonly name: string }>(list: readonly T[] | undefined) =>
  (list ?? []).map((one) => ({ title: one.name, value: one.id }));

const target = computed((): Target | undefined => {
  const lists = shop.shop;
  const fabric = lists?.fabrics.find(({ id }) => id === fabricId.value);
  const thread = lists?.threads.find(({ id }) => id === threadId.value);
  const machine = lists?.machines.find(({ id }) => id === machineId.value);
  if (lists === undefined || fabric === undefined || thread === undefined || machine === undefined) return undefined;
  const garment = lists.garments.find(({ id }) => id === garmentId.value) ?? null;
  // Without a place the largest hoop is taken, so that only what fits nowhere is said.
  const largest = [...lists.hoops].sort((a, b) => b.width * b.height - a.width * a.height)[0]!;
  const hoop = lists.hoops.find(({ id }) => id === garment?.hoopId) ?? largest;
  const usual = JSON.stringify(lists.rules) === JSON.stringify(USUAL_RULES);
  return {
    ...{ fabric, clothColor: fabric.color, garment, hoop, thread, machine, quantity: quantity.value, goal: goal.value },
    ...(usual ? {} : { rules: lists.rules }),
  };
});

async function drop(event: DragEvent): Promise<void> {
  isOver.value = false;
  const items = event.dataTransfer?.items;
  if (items !== undefined) await act(async () => void (store.chosen = await droppedFiles(items)));
}

function choose(input: HTMLInputElement | null): void {
  if (input?.files == null || input.files.length === 0) return;
  store.chosen = chosenFiles(input.files);
  input.value = '';
}

async function begin(): Promise<void> {
  const wanted = target.value;
  if (wanted === undefined || stitched.value.length === 0) return;
  await act(async () => {
    store.chosen = stitched.value;
    const audit = await store.begin(name.value.trim() || 'Files of today', wanted);
    name.value = '';
    await router.push({ name: 'folder-audit', params: { id: audit.id } });
  });
}

const sayDate = (at: string): string => new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });

function sayState({ counts, isCancelled }: AuditSummary): string {
  const all = counts.waiting + counts.done + counts.failed + counts.cancelled;
  const judged = counts.done + counts.failed;
  const rest = counts.failed > 0 ? `, ${counts.failed} could not be judged` : '';
  if (isCancelled) return `cancelled, ${judged} of ${all} judged${rest}`;
  return counts.waiting > 0 ? `${judged} of ${all} judged${rest}` : `${all === 1 ? '1 file' : `${all} files`}${rest}`;
}
</script>

<template>
  <div class="audits" :class="{ over: isOver }" @dragover.prevent="isOver = true" @dragleave.self="isOver = false" @drop.prevent="drop">
    <PageHead>
      <h1>Folders</h1>
      <p class="muted">Many files judged for one cloth, in the background</p>
    </PageHead>
    <main>
      <form class="new" aria-label="A new audit of many files" @submit.prevent="begin">
        <h2>Audit many files</h2>
        <p v-if="stitched.length === 0" class="muted">
          Drop a folder or several files ({{ FORMAT_CHOICE }}) here, or choose them. Each gets a line: what it would save, and what stands
          against sewing it.
        </p>
        <p v-else class="number">
          <b>{{ stitched.length === 1 ? '1 file' : `${stitched.length} files` }}</b>{{
            others > 0 ? `, ${others} others left out: no stitch files by their names` : ''
          }}
        </p>
        <div class="actions">
          <v-btn variant="outlined" @click="folder?.click()">Choose a folder</v-btn>
          <v-btn variant="outlined" @click="files?.click()">Choose files</v-btn>
        </div>
        <input
          ref="folder"
          class="visually-hidden"
          type="file"
          webkitdirectory
          aria-label="Folder of stitch files"
          tabindex="-1"
          @change="choose(folder)"
        />
        <input ref="files" class="visually-hidden" type="file" multiple aria-label="Stitch files" tabindex="-1" @change="choose(files)" />
        <div class="fields">
          <v-text-field v-model="name" class="wide" label="Called" maxlength="200" />
          <v-select v-model="fabricId" label="Cloth" :items="items(shop.shop?.fabrics)" />
          <v-select v-model="garmentId" label="Place" :items="[{ title: 'no place', value: '' }, ...items(shop.shop?.garments)]" />
          <v-select v-model="threadId" label="Thread" :items="items(shop.shop?.threads)" />
          <v-select v-model="machineId" label="Machine" :items="items(shop.shop?.machines)" />
          <v-select v-model="goal" class="wide" label="What matters most" :items="GOALS.map((g) => ({ title: GOAL_NAMES[g], value: g }))" />
        </div>
        <v-btn type="submit" :disabled="isBusy || stitched.length === 0 || target === undefined">{{
          stitched.length === 0 ? 'Audit' : `Audit ${stitched.length === 1 ? '1 file' : `${stitched.length} files`}`
        }}</v-btn>
      </form>
      <section aria-label="Audits">
        <ul v-if="store.audits && store.audits.length > 0">
          <li v-for="audit in store.audits" :key="audit.id">
            <div>
              <router-link :to="{ name: 'folder-audit', params: { id: audit.id } }">{{ audit.name }}</router-link>
              <p class="muted number">
                {{ audit.target.fabric.name }}, {{ audit.target.thread.name }} · {{ sayState(audit) }} · {{ sayDate(audit.createdAt) }}
              </p>
            </div>
            <v-btn variant="text" size="small" :aria-label="`Delete ${audit.name}`" @click="act(() => store.remove(audit.id))"
              >Delete</v-btn
            >
          </li>
        </ul>
        <p v-else-if="store.audits" class="none muted">No folder was audited yet.</p>
      </section>
    </main>
    <DropHint v-if="isOver">Let go to choose them</DropHint>
  </div>
</template>

<style scoped>
.audits {
  position: relative;
  display: grid;
  grid-template-rows: 58px minmax(0, 1fr);
  height: 100vh;
}

main {
  display: grid;
  grid-template-columns: 400px minmax(0, 1fr);
  gap: 28px;
  align-items: start;
  overflow-y: auto;
  padding: 20px 24px;
}

.new {
  display: grid;
  gap: 12px;
  padding: 16px 18px;
  border: 1px solid var(--line);
  border-radius: 10px;
  background: var(--card);
}

h2 {
  font-size: 16px;
  font-weight: 600;
}

.actions {
  display: flex;
  gap: 8px;
}

.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}

.wide {
  grid-column: 1 / -1;
}

li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  padding: 10px 0;
  border-bottom: 1px solid var(--line);
}

li a {
  font-weight: 600;
}

.none {
  padding: 40px 0;
}
</style>
