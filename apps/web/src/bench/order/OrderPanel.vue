<script setup lang="ts">
import { type Connector, ORDER_PARTS, type OrderPart } from '@isola/core';
import { computed, ref, watch } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useNotices } from '../../stores/notices.ts';
import { useObjects } from '../../stores/objects.ts';
import { type OrderScope, useOrder } from '../../stores/order.ts';
import ChoiceField from '../fields/ChoiceField.vue';
import { sayCount, sayTime } from '../figures/sayFigures.ts';
import ToolSection from '../spec/ToolSection.vue';
import SewPlace from './SewPlace.vue';

/** The sew order: what it loses, a better one proposed, and the selected object's place and way by hand. */
const emit = defineEmits<{ look: [object: string] }>();
const bench = useBench();
const objects = useObjects();
const order = useOrder();
const notices = useNotices();
const problem = ref('');

const now = computed(() => bench.now?.view);
const lost = computed(() => {
  if (now.value === undefined) return '';
  const { totals, figures } = now.value;
  const parts = [
    `${sayCount(figures.trims)} cuts take ${sayTime(totals.trims)}`,
    `${sayCount(figures.colorChanges)} thread changes ${sayTime(totals.colorChanges)}`,
    ...(totals.jumps >= 1 ? [`moves ${sayTime(totals.jumps)}`] : []),
  ];
  return `${parts.join(', ')} of ${sayTime(totals.seconds)}.`;
});

const PART_NAMES: Readonly<Record<OrderPart, string>> = {
  colors: 'which thread after which',
  objects: 'which object after which',
  connectors: 'ways between them, and their ends',
};
const scopes = computed((): (readonly [OrderScope, string])[] => [
  ['design', 'whole design'],
  ...(objects.selected === undefined
    ? []
    : ([
        ['thread', 'all of this thread'],
        ['selected', objects.alike.length > 1 ? `the ${objects.alike.length} like this` : 'this object'],
      ] as const)),
]);
watch(scopes, (list) => {
  if (!list.some(([id]) => id === order.scope)) order.scope = 'design';
});

function toggle(part: OrderPart): void {
  order.parts = ORDER_PARTS.filter((p) => (p === part ? !order.parts.includes(p) : order.parts.includes(p)));
}

async function attempt(act: () => Promise<string | undefined>): Promise<void> {
  problem.value = '';
  try {
    problem.value = (await act()) ?? '';
  } catch (error) {
    notices.complain(error);
  }
}
const propose = (): Promise<void> => attempt(order.propose);

const report = computed(() => (order.isProposed ? order.report : undefined));
const pairs = computed(() => {
  const [before, after] = [now.value, bench.trial?.shown.view];
  if (before === undefined || after === undefined) return [];
  const row = (name: string, a: number, b: number, say: (v: number) => string) => ({
    ...{ name, before: say(a), after: say(b) },
    mark: say(a) === say(b) ? '' : b < a ? 'gain' : 'more',
  });
  return [
    row('Run', before.totals.seconds, after.totals.seconds, sayTime),
    row('Cuts', before.figures.trims, after.figures.trims, sayCount),
    row('Stops', before.figures.stops, after.figures.stops, sayCount),
    row('Thread changes', before.figures.colorChanges, after.figures.colorChanges, sayCount),
    row('Moves', before.totals.jumps, after.totals.jumps, sayTime),
    row('Stitches', before.figures.stitches, after.figures.stitches, sayCount),
  ].filter(({ name, mark }) => name !== 'Stops' || mark !== '');
});
/** So many lines of each kind are said. */
const MOST_SAID = 60;
const moves = computed(() =>
  (report.value?.moved ?? []).map(({ object, from, to }) => ({ id: object, words: `${order.nameOf(object)}: ${from + 1} → ${to + 1}` })),
);
const sewn = computed(() => [
  ...(report.value?.turned ?? []).map((id) => ({ id, words: `${order.nameOf(id)}: begun elsewhere, its own stitches` })),
  ...(report.value?.sewn ?? []).map((id) => ({ id, words: `${order.nameOf(id)}: sewn anew, to begin and end elsewhere` })),
]);
const kept = computed(() => [...order.held].map((id) => ({ id, words: `${order.nameOf(id)}: stays where it is` })));
const waysOf = (...hows: Connector['how'][]) =>
  (report.value?.connectors ?? [])
    .filter(({ how }) => hows.includes(how))
    .map(({ from, to, length, why }) => ({
      id: to,
      words: `${order.nameOf(from)} → ${order.nameOf(to)}`,
      why: `${length.toFixed(1)} mm${why === '' ? '' : `: ${why}`}`,
    }));
const paths = computed(() => waysOf('hidden'));
const cuts = computed(() => waysOf('trim', 'jump'));
/** Something about the order is tried that was not proposed: an end moved, or applique by step. */
const isTried = computed(() => bench.trial !== undefined && bench.trial.keys.length === 0 && bench.trial.trial.pairs === undefined);
const picture = computed(() => {
  const { changed, isFewest } = report.value!;
  const share = changed < 0.00005 ? 'The picture stays the same to the last cell' : `${(100 * changed).toFixed(2)} % of the picture differ`;
  return `What lies on top stays on top. ${share}.${isFewest ? ' No order has fewer thread changes.' : ''}`;
});

async function accept(): Promise<void> {
  try {
    await bench.acceptTrial();
    order.held = new Set();
  } catch (error) {
    notices.complain(error);
  }
}

defineExpose({ propose });
</script>

<template>
  <div class="order">
    <ToolSection title="A better order">
      <p class="muted">{{ lost }}</p>
      <ChoiceField class="scope" label="What to order" :value="order.scope" :choices="scopes" @change="order.scope = $event" />
      <label v-for="part in ORDER_PARTS" :key="part" class="part">
        <input type="checkbox" :checked="order.parts.includes(part)" :disabled="order.isWorking" @change="toggle(part)" />
        {{ PART_NAMES[part] }}
      </label>
      <v-btn variant="outlined" title="Key o" :loading="order.isWorking" @click="propose">Propose an order</v-btn>
      <p v-if="problem" class="short" role="status">{{ problem[0]!.toUpperCase() + problem.slice(1) }}.</p>
    </ToolSection>
    <ToolSection v-if="order.pieces > 1 && bench.trial === undefined" title="Applique">
      <p class="muted">
        {{ order.pieces }} pieces of applique: by step, all placement lines are sewn first, then all tack-downs, then all covers, with one
        stop to lay the fabrics and one to cut them. Stop the machine before reaching in.
      </p>
      <v-btn variant="outlined" :disabled="bench.isBusy" @click="attempt(order.byStep)">Sew it by step</v-btn>
    </ToolSection>

    <template v-if="report || isTried">
      <table class="number" aria-label="Before and after">
        <tr v-for="row in pairs" :key="row.name">
          <th scope="row">{{ row.name }}</th>
          <td>{{ row.before }}</td>
          <td class="muted">→</td>
          <td :class="row.mark">{{ row.after }}</td>
        </tr>
      </table>
      <p v-if="report" class="muted note">{{ picture }}</p>
      <details v-if="moves.length + sewn.length + kept.length > 0" open>
        <summary>What changes, {{ moves.length + sewn.length }}</summary>
        <ul class="number">
          <li v-for="line in [...kept, ...sewn, ...moves].slice(0, MOST_SAID)" :key="line.words">
            <input
              type="checkbox"
              :checked="!order.held.has(line.id)"
              :disabled="order.isWorking"
              :aria-label="`Change ${line.words}`"
              @change="attempt(() => order.hold(line.id, !order.held.has(line.id)))"
            />
            <button type="button" @click="emit('look', line.id)">{{ line.words }}</button>
          </li>
        </ul>
      </details>
      <details v-if="paths.length > 0">
        <summary>Hidden paths, {{ paths.length }}</summary>
        <ul class="number">
          <li v-for="line in paths.slice(0, MOST_SAID)" :key="line.id">
            <button type="button" @click="emit('look', line.id)">
              {{ line.words }} <span class="muted">{{ line.why }}</span>
            </button>
          </li>
        </ul>
      </details>
      <details v-if="cuts.length > 0">
        <summary>Cuts that stay, {{ cuts.length }}</summary>
        <ul class="number">
          <li v-for="line in cuts.slice(0, MOST_SAID)" :key="line.id">
            <button type="button" @click="emit('look', line.id)">
              {{ line.words }} <span class="muted">{{ line.why }}</span>
            </button>
          </li>
        </ul>
      </details>
      <div class="foot">
        <v-btn :disabled="order.isWorking" @click="accept">Sew it so</v-btn>
        <v-btn variant="outlined" data-own-enter @click="bench.dropTrial()">Step back</v-btn>
      </div>
    </template>
    <SewPlace v-else-if="objects.selected" @attempt="attempt" @look="emit('look', $event)" />
  </div>
</template>

<style scoped>
.scope {
  width: 100%;
}

.part {
  display: flex;
  gap: 7px;
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
  padding: 2px 0;
  color: var(--ink-2);
  font-weight: 400;
  text-align: left;
}

td {
  padding: 2px 0 2px 6px;
  text-align: right;
}

td.gain {
  font-weight: 600;
}

.note {
  padding: 6px 0;
  font-size: 12px;
}

details {
  padding: 6px 0;
  border-top: 1px solid var(--line-soft);
}

summary {
  font-weight: 600;
  cursor: pointer;
}

li {
  display: flex;
  gap: 6px;
  align-items: baseline;
  padding: 2px 0;
  font-size: 12.5px;
}

li button {
  flex: 1;
  padding: 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}

li button:hover {
  color: var(--sea);
}

.foot {
  position: sticky;
  bottom: -14px;
  display: flex;
  gap: 8px;
  padding: 8px 0 14px;
  background: var(--card);
  border-top: 1px solid var(--line);
}
</style>
