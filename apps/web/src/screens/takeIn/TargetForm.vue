<script setup lang="ts">
import { compareFindings, type Goal, GOALS, isWorse, type Target } from '@isola/core';
import { computed } from 'vue';
import HoopPlace from './HoopPlace.vue';
import { shopNews } from './shopNews.ts';
import { useBench } from '../../stores/bench.ts';
import { useNotices } from '../../stores/notices.ts';
import { useShop } from '../../stores/shop.ts';

const bench = useBench();
const shop = useShop();
const notices = useNotices();

const GOAL_NAMES: Readonly<Record<Goal, string>> = { fastest: 'Fastest run', cleanest: 'Cleanest edges', softest: 'Softest hand' };

const target = computed(() => bench.now!.view.target);
/** What its spacing says of the thread that it was made for. */
const guess = computed(() => {
  const found = bench.openFindings.find(({ rule }) => rule === 'thread-mismatch');
  return found === undefined || target.value.madeFor !== undefined ? 'not said' : `seems ${found.measured}-weight`;
});
const lists = computed(() => {
  const s = shop.shop;
  if (s === undefined) return undefined;
  const t = target.value;
  // What the job holds may be gone from the shop: it still stands in the list, marked.
  const withOwn = <T extends { readonly id: string; readonly name: string }>(list: readonly T[], own: T | null) => {
    const items = list.map((item) => ({ title: item.name, value: item.id }));
    return own === null || list.some((item) => item.id === own.id)
      ? items
      : [...items, { title: `${own.name} (no longer in the shop)`, value: own.id }];
  };
  return {
    fabrics: withOwn(s.fabrics, t.fabric),
    garments: [{ title: 'no place chosen', value: '' }, ...withOwn(s.garments, t.garment)],
    hoops: withOwn(s.hoops, t.hoop),
    threads: withOwn(s.threads, t.thread),
    madeFor: [{ title: guess.value, value: '' }, ...withOwn(s.threads, t.madeFor ?? null)],
    machines: withOwn(s.machines, t.machine),
  };
});
/** What the shop has by other values than this job. */
const news = computed(() => (shop.shop === undefined ? undefined : shopNews(shop.shop, target.value)));
const isClothGone = computed(() => shop.shop !== undefined && !shop.shop.fabrics.some((f) => f.id === target.value.fabric.id));

async function change(name: string, values: Partial<Target>): Promise<void> {
  await setTarget(name, { ...target.value, ...values });
}

async function setTarget(name: string, next: Target): Promise<void> {
  const before = bench.openFindings;
  try {
    await bench.setTarget(name, next);
    sayWhatMoved(before);
  } catch (error) {
    notices.complain(error);
  }
}

/** What another cloth, thread or machine does to the findings: what is new and what is gone. */
function sayWhatMoved(before: typeof bench.openFindings): void {
  const changes = compareFindings(before, bench.openFindings);
  const worse = changes.filter(isWorse).map(({ message }) => message);
  const gone = changes.filter(({ after }) => after === undefined).map(({ message }) => message);
  if (worse.length + gone.length === 0) return;
  const list = (found: readonly string[]): string => found.slice(0, MOST_SAID).join('; ') + (found.length > MOST_SAID ? ' and others' : '');
  notices.say(
    [worse.length > 0 ? `${worse.length} new or worse` : '', gone.length > 0 ? `${gone.length} gone` : '']
      .filter((t) => t !== '')
      .join(', '),
    [worse.length > 0 ? `New or worse: ${list(worse)}.` : '', gone.length > 0 ? `Gone: ${list(gone)}.` : '']
      .filter((t) => t !== '')
      .join(' '),
  );
}

/** So many changes of the shop are named. */
const MOST_NEWS = 4;
/** So many findings are named in a message. */
const MOST_SAID = 2;

function chooseFabric(id: string): void {
  const fabric = shop.shop?.fabrics.find((f) => f.id === id);
  if (fabric !== undefined) void change(`sew on ${fabric.name}`, { fabric, clothColor: fabric.color });
}

function chooseGarment(id: string): void {
  const garment = shop.shop?.garments.find((g) => g.id === id) ?? null;
  const hoop = shop.shop?.hoops.find((h) => h.id === garment?.hoopId) ?? target.value.hoop;
  void change(garment === null ? 'leave the place open' : `place: ${garment.name}`, { garment, hoop });
}

function chooseHoop(id: string): void {
  const hoop = shop.shop?.hoops.find((h) => h.id === id);
  if (hoop !== undefined) void change(`hoop: ${hoop.name}`, { hoop });
}

function chooseThread(id: string): void {
  const thread = shop.shop?.threads.find((t) => t.id === id);
  if (thread !== undefined) void change(`sew with ${thread.name}`, { thread });
}

/** The thread that the file was made for; none: as its spacing says. */
function chooseMadeFor(id: string): void {
  const { madeFor: _, ...rest } = target.value;
  const thread = shop.shop?.threads.find((t) => t.id === id) ?? (_?.id === id ? _ : undefined);
  void setTarget(
    thread === undefined ? 'made for: as its spacing says' : `made for ${thread.name}`,
    thread === undefined ? rest : { ...rest, madeFor: thread },
  );
}

function chooseMachine(id: string): void {
  const machine = shop.shop?.machines.find((m) => m.id === id);
  if (machine !== undefined) void change(`machine: ${machine.name}`, { machine });
}

function chooseQuantity(event: Event): void {
  const field = event.target as HTMLInputElement;
  const quantity = Number(field.value);
  if (Number.isInteger(quantity) && quantity >= 1 && quantity <= 1_000_000) {
    if (quantity !== target.value.quantity) void change(`${quantity} pieces`, { quantity });
  } else {
    field.value = String(target.value.quantity);
    notices.complain(new Error('The quantity is a whole number from 1 to 1,000,000.'));
  }
}

function chooseColor(event: Event): void {
  const clothColor = (event.target as HTMLInputElement).value.toLowerCase();
  if (clothColor !== target.value.clothColor) void change('another color of cloth', { clothColor });
}
</script>

<template>
  <section class="target" aria-label="What it is sewn on, with and for">
    <h2>Sewn on, with, for</h2>
    <p v-if="isClothGone" class="gone">
      {{ target.fabric.name }} was deleted from the shop. This job keeps the values it was judged by until you choose another cloth.
    </p>
    <div v-if="news" class="gone news">
      <p>The shop changed values since this job was given its own, which it keeps until you take the new ones:</p>
      <ul class="number">
        <li v-for="words in news.said.slice(0, MOST_NEWS)" :key="words">{{ words }}</li>
        <li v-if="news.said.length > MOST_NEWS">and {{ news.said.length - MOST_NEWS }} more</li>
      </ul>
      <v-btn size="small" variant="outlined" @click="setTarget('take the shop’s new values', news.target)">Take the new values</v-btn>
    </div>
    <template v-if="lists">
      <div class="two cloth">
        <v-select label="Cloth" :items="lists.fabrics" :model-value="target.fabric.id" @update:model-value="chooseFabric" />
        <label class="color"
          ><span class="visually-hidden">Color of the cloth</span><input type="color" :value="target.clothColor" @change="chooseColor"
        /></label>
      </div>
      <div class="two">
        <v-select
          label="Place on the garment"
          :items="lists.garments"
          :model-value="target.garment?.id ?? ''"
          @update:model-value="chooseGarment"
        />
        <v-select label="Hoop" :items="lists.hoops" :model-value="target.hoop.id" @update:model-value="chooseHoop" />
      </div>
      <HoopPlace />
      <div class="two">
        <v-select label="Thread" :items="lists.threads" :model-value="target.thread.id" @update:model-value="chooseThread" />
        <v-select
          label="File made for"
          :items="lists.madeFor"
          :model-value="target.madeFor?.id ?? ''"
          @update:model-value="chooseMadeFor"
        />
      </div>
      <div class="two">
        <v-select label="Machine" :items="lists.machines" :model-value="target.machine.id" @update:model-value="chooseMachine" />
        <v-text-field label="Pieces" type="number" min="1" :model-value="target.quantity" @change="chooseQuantity" />
      </div>
      <div>
        <v-select
          label="What matters most"
          :items="GOALS.map((g) => ({ title: GOAL_NAMES[g], value: g }))"
          :model-value="target.goal"
          @update:model-value="(goal: Goal) => change(`goal: ${GOAL_NAMES[goal].toLowerCase()}`, { goal })"
        />
      </div>
    </template>
    <p class="muted facts number">
      {{ target.fabric.mass }} g/m², stretch {{ target.fabric.stretch }} %,
      {{ target.fabric.pile > 0 ? `pile ${target.fabric.pile} mm, ` : '' }}{{ target.fabric.stabilizer
      }}{{ target.fabric.topping ? `, ${target.fabric.topping} topping` : '' }}. Needle {{ target.thread.needle }}.
    </p>
  </section>
</template>

<style scoped>
.target {
  display: grid;
  gap: 11px;
}

h2 {
  font-size: 14px;
  font-weight: 600;
}

.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 9px;
}

.two > * {
  min-width: 0;
}

.cloth {
  grid-template-columns: 1fr 46px;
}

.color input {
  width: 100%;
  height: 40px;
  padding: 2px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
  cursor: pointer;
}

.facts {
  font-size: 12px;
}

.gone {
  padding: 8px 10px;
  border-left: 3px solid var(--fix);
  background: #f8eeda;
}

.news {
  display: grid;
  gap: 6px;
  justify-items: start;
}
</style>
