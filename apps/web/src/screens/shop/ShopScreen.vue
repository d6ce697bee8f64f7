<script setup lang="ts">
import type { ShopKind } from '@isola/contract';
import { defaultTarget, type Rule, RULE_GROUPS, RULEBOOK_VERSION, RULES } from '@isola/core';
import { computed, onMounted, ref } from 'vue';
import AppMark from '../../shell/AppMark.vue';
import { useNotices } from '../../stores/notices.ts';
import { useShop } from '../../stores/shop.ts';

const store = useShop();
const notices = useNotices();
const tab = ref<ShopKind | 'rules'>('fabrics');

const TABS: readonly (readonly [ShopKind | 'rules', string])[] = [
  ['fabrics', 'Cloths'],
  ['threads', 'Threads'],
  ['garments', 'Places'],
  ['hoops', 'Hoops'],
  ['machines', 'Machines'],
  ['rules', 'Rulebook'],
];

onMounted(() => act(() => store.load()));

interface Table {
  readonly heads: readonly string[];
  readonly rows: readonly { readonly id: string; readonly cells: readonly (string | number)[]; readonly color?: string }[];
}

const table = computed<Table | undefined>(() => {
  const shop = store.shop;
  if (shop === undefined) return undefined;
  switch (tab.value) {
    case 'fabrics':
      return {
        heads: [
          'cloth',
          'g/m²',
          'stretch %',
          'pile mm',
          'fill mm',
          'satin mm',
          'pull mm a side',
          'closed layers (K)',
          'stabilizer',
          'topping',
        ],
        rows: shop.fabrics.map((f) => ({
          id: f.id,
          color: f.color,
          cells: [
            f.name,
            f.mass,
            f.stretch,
            f.pile,
            f.fillSpacing.toFixed(2),
            f.satinSpacing.toFixed(2),
            f.pull.toFixed(2),
            f.maxCover.toFixed(1),
            f.stabilizer,
            f.topping || '–',
          ],
        })),
      };
    case 'threads':
      return {
        heads: ['thread', 'weight', 'tex', 'fiber', 'needle', 'cone m'],
        rows: shop.threads.map((t) => ({
          id: t.id,
          cells: [t.name, t.weight, (1000 / t.weight).toFixed(1), t.fiber, t.needle, t.coneMetres],
        })),
      };
    case 'garments':
      return {
        heads: ['place', 'zone mm', 'hoop'],
        rows: shop.garments.map((g) => ({
          id: g.id,
          cells: [g.name, `${g.width} × ${g.height}`, shop.hoops.find((h) => h.id === g.hoopId)?.name ?? g.hoopId],
        })),
      };
    case 'hoops':
      return { heads: ['hoop', 'field mm'], rows: shop.hoops.map((h) => ({ id: h.id, cells: [h.name, `${h.width} × ${h.height}`] })) };
    case 'machines':
      return {
        heads: ['machine', 'needles', 'top speed /min', 'longest stitch mm', 'trim s', 'color change s'],
        rows: shop.machines.map((m) => ({
          id: m.id,
          cells: [m.name, m.needles, m.topSpeed, m.maxStitch, m.trimCycle.toFixed(1), m.colorChange],
        })),
      };
    case 'rules':
      return undefined;
  }
  return undefined;
});

const reference = defaultTarget();

function limitOf(rule: Rule): string {
  const limit = rule.limit(reference);
  if (!Number.isFinite(limit)) return 'none';
  return `${Number.isInteger(limit) ? limit : limit.toFixed(2)} ${rule.unit}`;
}

async function act(what: () => Promise<void>): Promise<void> {
  try {
    await what();
  } catch (error) {
    notices.complain(error);
  }
}

/** Rules of one group stand together. */
const rulesByGroup = RULE_GROUPS.flatMap((group) => RULES.filter((rule) => rule.group === group));

const repairOf = ({ repair, mend, retarget }: Rule): string => {
  const ways = [repair?.name, mend, retarget?.name].filter((way) => way !== undefined);
  return ways.length === 0 ? 'Repaired by hand.' : `Repair: ${ways.join(', or ')}.`;
};

function remove(id: string, name: string | number): void {
  if (tab.value === 'rules') return;
  const kind = tab.value;
  void act(async () => {
    await store.remove(kind, id);
    notices.say(`${name} was deleted`, 'Jobs that use it keep the values they were judged by. “Bring back the defaults” restores it.');
  });
}
</script>

<template>
  <div class="shop">
    <header>
      <AppMark />
      <h1>Shop</h1>
      <nav aria-label="Lists of the shop" role="tablist">
        <button v-for="[name, label] in TABS" :key="name" type="button" role="tab" :aria-selected="tab === name" @click="tab = name">
          {{ label }}
        </button>
      </nav>
      <v-btn variant="text" @click="act(() => store.restore())">Bring back the defaults</v-btn>
      <v-btn variant="text" :to="{ name: 'jobs' }">To the jobs</v-btn>
    </header>
    <main>
      <table v-if="table" class="number">
        <thead>
          <tr>
            <th v-for="head in table.heads" :key="head" scope="col">{{ head }}</th>
            <th><span class="visually-hidden">delete</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in table.rows" :key="row.id">
            <th scope="row"><i v-if="row.color" :style="{ background: row.color }" />{{ row.cells[0] }}</th>
            <td v-for="(cell, index) in row.cells.slice(1)" :key="index">{{ cell }}</td>
            <td>
              <v-btn
                variant="text"
                size="x-small"
                color="secondary"
                :aria-label="`Delete ${row.cells[0]}`"
                @click="remove(row.id, row.cells[0]!)"
                >delete</v-btn
              >
            </td>
          </tr>
        </tbody>
      </table>
      <section v-else-if="tab === 'rules'" class="rules">
        <p class="muted">
          Version {{ RULEBOOK_VERSION }}. Limits as they are for {{ reference.fabric.name }}, {{ reference.garment?.name }},
          {{ reference.thread.name }}.
        </p>
        <article v-for="rule in rulesByGroup" :key="rule.id">
          <h2>
            {{ rule.title }} <span class="muted">{{ rule.group }}</span>
          </h2>
          <p>{{ rule.why }}</p>
          <p class="muted number">
            Measures {{ rule.measures }}. Limit {{ limitOf(rule) }}. Source: {{ rule.source }}.
            {{ repairOf(rule) }}
          </p>
        </article>
      </section>
    </main>
  </div>
</template>

<style scoped>
.shop {
  display: grid;
  grid-template-rows: 58px minmax(0, 1fr);
  height: 100vh;
}

header {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 0 24px;
  background: var(--card);
  border-bottom: 1px solid var(--line);
}

h1 {
  font-size: 18px;
  font-weight: 600;
}

nav {
  display: flex;
  gap: 2px;
  margin: 0 auto 0 12px;
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

table {
  border-collapse: collapse;
  width: 100%;
}

th,
td {
  padding: 5px 18px 5px 0;
  text-align: left;
  font-weight: 400;
  border-bottom: 1px solid var(--line);
}

thead th {
  color: var(--ink-2);
  font-size: 12px;
}

th[scope='row'] {
  font-weight: 500;
}

th i {
  display: inline-block;
  width: 16px;
  height: 16px;
  margin-right: 9px;
  border-radius: 4px;
  vertical-align: -3px;
  box-shadow: inset 0 0 0 1px rgb(0 0 0 / 15%);
}

.rules {
  max-width: 860px;
}

article {
  padding: 12px 0;
  border-bottom: 1px solid var(--line);
}

h2 {
  font-size: 14.5px;
  font-weight: 600;
}

h2 span {
  font-weight: 400;
  font-size: 12px;
}
</style>
