<script setup lang="ts">
import { type FormatId, formatOf, FORMATS, type HoopLayout } from '@isola/core';
import { mdiDownload } from '@mdi/js';
import { computed, nextTick, onBeforeUnmount, ref, shallowRef, useTemplateRef, watch } from 'vue';
import { saveFile } from '../../api/saveFile.ts';
import ClothView from '../../bench/cloth/ClothView.vue';
import type { ClothViewHandle } from '../../bench/cloth/handles.ts';
import type { Viewport } from '../../bench/cloth/viewport.ts';
import { sayCount, sayHours, sayTime } from '../../bench/figures/sayFigures.ts';
import { useBenchKeys } from '../../bench/useBenchKeys.ts';
import { useBench } from '../../stores/bench.ts';
import { useNotices } from '../../stores/notices.ts';
import { useShop } from '../../stores/shop.ts';
import { forget, type ShownDesign, showView } from '../../stores/trials.ts';
import type { LayoutView } from '../../workers/protocol.ts';

/** Copies of the design in one hoop: how many, how far apart, what they take together, and the file that sews them. */
const bench = useBench();
const notices = useNotices();
const shop = useShop();
const cloth = useTemplateRef<ClothViewHandle>('cloth');
const view = ref<Viewport>({ x: 0, y: 0, scale: 1 });
useBenchKeys({ fit: () => cloth.value?.fit(), zoomBy: (factor) => cloth.value?.zoomBy(factor) });

const USUAL: HoopLayout = { copies: null, gap: 6, hasMarks: false };
const target = computed(() => bench.now!.view.target);
const layout = computed(() => target.value.layout ?? USUAL);
const hoops = computed(() => {
  const list = shop.shop?.hoops ?? [];
  const all = list.some((h) => h.id === target.value.hoop.id) ? list : [...list, target.value.hoop];
  return all.map((h) => ({ title: `${h.name}, ${h.width} × ${h.height} mm`, value: h.id }));
});

const laid = shallowRef<LayoutView>();
const shown = shallowRef<ShownDesign>();
const refusal = ref('');
let asked = 0;

watch(
  () => [bench.now?.number, bench.now?.view.objects !== undefined, JSON.stringify(layout.value)] as const,
  async ([, isKnown]) => {
    if (!isKnown) return;
    const mine = ++asked;
    try {
      const found = await bench.layOut({ ...layout.value });
      if (mine !== asked || found === undefined) return;
      refusal.value = 'why' in found ? found.why : '';
      const old = shown.value;
      laid.value = 'why' in found ? undefined : found;
      shown.value = 'why' in found ? undefined : await showView(found.view);
      forget(old);
      // Another number of copies, or another hoop, is looked at as a whole.
      await nextTick();
      cloth.value?.fit();
    } catch (error) {
      notices.complain(error);
    }
  },
  { immediate: true },
);
onBeforeUnmount(() => forget(shown.value));

async function change(name: string, values: Partial<HoopLayout>): Promise<void> {
  try {
    await bench.setTarget(`layout: ${name}`, { ...target.value, layout: { ...layout.value, ...values } });
  } catch (error) {
    notices.complain(error);
  }
}

function chooseHoop(id: string): void {
  const hoop = shop.shop?.hoops.find((h) => h.id === id);
  if (hoop !== undefined)
    void bench.setTarget(`hoop ${hoop.name}`, { ...target.value, hoop }).catch((error: unknown) => notices.complain(error));
}

/** A whole number from 1; nothing typed means as many as fit. */
function chooseCopies(text: string): void {
  const copies = text.trim() === '' ? null : Number(text);
  if (copies !== null && (!Number.isInteger(copies) || copies < 1 || copies > 10_000))
    return notices.say('Nothing was changed', 'Copies are a whole number from 1; leave it empty for as many as fit.');
  if (copies !== layout.value.copies) void change(copies === null ? 'as many as fit' : `${copies} copies`, { copies });
}

function chooseGap(text: string): void {
  const gap = Number(text.replace(',', '.'));
  if (text.trim() === '' || !Number.isFinite(gap) || gap < 0 || gap > 200)
    return notices.say('Nothing was changed', 'The room between copies is a number of mm from 0 to 200.');
  if (gap !== layout.value.gap) void change(`${gap} mm apart`, { gap });
}

const copies = computed(() => laid.value?.placed.length ?? 1);
const figures = computed(() => {
  const [one, all] = [bench.now!.view, laid.value?.view];
  if (all === undefined) return [];
  const n = copies.value;
  const { quantity } = target.value;
  const row = (name: string, a: number, b: number, say: (v: number) => string) => ({
    ...{ name, before: say(a), after: say(b) },
    mark: say(a) === say(b) ? '' : b < a ? 'gain' : 'more',
  });
  return [
    row('Machine time for a piece', one.totals.seconds, all.totals.seconds / n, sayTime),
    row('Thread changes for a piece', one.figures.colorChanges, all.figures.colorChanges / n, (v) =>
      Number.isInteger(v) ? String(v) : v.toFixed(1),
    ),
    row('Stops for a piece', one.figures.stops, all.figures.stops / n, (v) => (Number.isInteger(v) ? String(v) : v.toFixed(1))),
    row('Hoops for the order', quantity, Math.ceil(quantity / n), sayCount),
    row(`Machine time, ${sayCount(quantity)} pieces`, quantity * one.totals.seconds, (quantity / n) * all.totals.seconds, sayHours),
  ].filter(({ name, before, after }) => !name.startsWith('Stops') || before !== '0' || after !== '0');
});

const isOpen = computed(() => bench.openFindings.some((f) => f.severity === 'stop'));
const signed = computed(() => bench.job?.signOffs.some((s) => s.version === bench.job!.version) === true);
const mayLeave = computed(() => laid.value !== undefined && bench.outgoing === undefined && (!isOpen.value || signed.value));

function download(id: FormatId): void {
  const program = laid.value?.view.program;
  if (program === undefined) return;
  const format = formatOf(id);
  const name = bench.job!.name.replaceAll(/[^\p{L}\p{N}]+/gu, '-').toLowerCase();
  saveFile(`${name}-${copies.value}-up.${id}`, format.mime, format.write(program));
}
</script>

<template>
  <main class="layout">
    <section class="side" aria-label="Copies in the hoop">
      <h2>Copies in a hoop</h2>
      <p class="muted">
        Each thread is put on, and each stop made, once for all copies. What lies on what within a copy stays, and rows run to and fro.
      </p>
      <v-select label="Hoop" :items="hoops" :model-value="target.hoop.id" @update:model-value="chooseHoop" />
      <div class="two">
        <v-text-field
          label="Copies"
          placeholder="as many as fit"
          inputmode="numeric"
          persistent-placeholder
          :model-value="layout.copies ?? ''"
          @change="chooseCopies(($event.target as HTMLInputElement).value)"
        />
        <v-text-field
          label="Room between, mm"
          inputmode="decimal"
          :model-value="layout.gap"
          @change="chooseGap(($event.target as HTMLInputElement).value)"
        />
      </div>
      <label class="marks">
        <input
          type="checkbox"
          :checked="layout.hasMarks"
          @change="change(layout.hasMarks ? 'without marks' : 'with marks', { hasMarks: !layout.hasMarks })"
        />
        registration marks first
      </label>
      <label class="marks">
        <input
          type="checkbox"
          :checked="layout.isTurned === true"
          @change="change(layout.isTurned ? 'copies as they are' : 'copies turned', { isTurned: !layout.isTurned })"
        />
        copies turned by a quarter
      </label>
      <p v-if="refusal" class="short" role="alert">{{ refusal[0]!.toUpperCase() + refusal.slice(1) }}.</p>
      <template v-else-if="laid">
        <p class="number" role="status">
          <b>{{ copies }} in the hoop</b>
          <span class="muted">{{ copies < laid.most ? `, ${laid.most} would fit` : ', no more fit' }}</span>
          <span v-if="laid.mostTurned > laid.most" class="muted"
            >; {{ laid.mostTurned }} {{ layout.isTurned ? 'as they are' : 'turned' }}</span
          >
        </p>
        <table class="number" aria-label="One by one and together">
          <thead>
            <tr>
              <td />
              <th scope="col">one by one</th>
              <th scope="col">together</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in figures" :key="row.name">
              <th scope="row">{{ row.name }}</th>
              <td>{{ row.before }}</td>
              <td :class="row.mark">{{ row.after }}</td>
            </tr>
          </tbody>
        </table>
        <p class="muted small">
          Estimates for {{ target.machine.name }}. Check that all copies clear the hoop before starting: a needle that hits the frame breaks
          and flies, so wear eye protection.
        </p>
        <div class="files">
          <v-btn v-for="format in FORMATS" :key="format.id" :disabled="!mayLeave" :prepend-icon="mdiDownload" @click="download(format.id)"
            >Download {{ format.id.toUpperCase() }}</v-btn
          >
        </div>
        <p v-if="isOpen && !signed" class="short">
          Something stands against sewing it: settle or sign it under <router-link :to="{ name: 'release' }">Release</router-link>.
        </p>
      </template>
    </section>
    <ClothView
      ref="cloth"
      v-model:view="view"
      :shown="shown ?? bench.now"
      kind="thread"
      :up-to="Infinity"
      channel="layout"
      has-frame
      :label="`${copies} copies of ${bench.job?.name} in ${target.hoop.name}`"
    />
  </main>
</template>

<style scoped>
.layout {
  display: grid;
  grid-template-columns: 360px minmax(0, 1fr);
  min-height: 0;
}

.side {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 12px;
  align-content: start;
  padding: 20px;
  overflow-y: auto;
  background: var(--card);
  border-right: 1px solid var(--line);
}

h2 {
  font-size: 15px;
  font-weight: 600;
}

.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}

.marks {
  display: flex;
  gap: 8px;
  align-items: center;
}

.short {
  color: var(--fix);
}

table {
  width: 100%;
  border-collapse: collapse;
}

th {
  padding: 4px 0;
  color: var(--ink-2);
  font-weight: 400;
  text-align: left;
}

thead th {
  font-size: 12px;
  text-align: right;
}

tbody tr {
  border-top: 1px solid var(--line-soft);
}

td {
  padding: 4px 0 4px 10px;
  text-align: right;
  white-space: nowrap;
}

td.gain {
  font-weight: 600;
}

.small {
  font-size: 12px;
}

.files {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>
