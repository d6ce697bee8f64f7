<script setup lang="ts">
import type { ShopEffect } from '@isola/contract';
import type { Fabric, Machine } from '@isola/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { api } from '../../api/client.ts';
import { saySigned, sayTime } from '../../bench/figures/sayFigures.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSewOuts } from '../../stores/sewOuts.ts';
import { useSession } from '../../stores/session.ts';
import { useShop } from '../../stores/shop.ts';
import { useAct } from '../../stores/useAct.ts';
import SignatureFields from '../shop/SignatureFields.vue';

/** One lesson: the values that the shop goes by now beside those that samples say, what they would move in open jobs, and whether they are taken up. */
const props = defineProps<{
  kind: 'fabrics' | 'machines';
  now: Fabric | Machine;
  next: Fabric | Machine;
  figures: readonly { readonly name: string; readonly before: string; readonly after: string; readonly spread: string }[];
  behind: string;
}>();
const shop = useShop();
const session = useSession();
const sewOuts = useSewOuts();
const notices = useNotices();
const { isBusy, act } = useAct();
const why = ref('');
const effects = shallowRef<readonly { readonly id: string; readonly name: string; readonly effect: ShopEffect }[]>();
const asked = ref({ done: 0, of: 0 });
const isInUse = computed(() => isSame(props.now, props.next));
watch(
  () => props.next,
  () => (effects.value = undefined),
);

/** Compared by what is in them, whatever the order. */
function isSame(a: object, b: object): boolean {
  const inOrder = (one: object): [string, unknown][] => Object.entries(one).sort(([p], [q]) => (p < q ? -1 : 1)) as [string, unknown][];
  const text = (one: object): string =>
    JSON.stringify(inOrder(one).map(([key, value]) => [key, key === 'learned' ? inOrder(value as object) : value]));
  return text(a) === text(b);
}

const part = computed(() => (props.kind === 'fabrics' ? 'fabric' : 'machine'));
const look = (): Promise<void> =>
  act(async () => {
    const next = props.next;
    const jobs = (await api.jobs({ of: 'open' })).jobs.filter(({ target }) => target[part.value].id === next.id);
    asked.value = { done: 0, of: jobs.length };
    const found: { id: string; name: string; effect: ShopEffect }[] = [];
    effects.value = [];
    for (const { id, name } of jobs) {
      const effect = await api.shopEffect(id, { [part.value]: next });
      if (props.next !== next) return;
      const { before, after } = effect.seconds;
      if (effect.came.length + effect.went.length > 0 || Math.abs(after - before) >= 1) found.push({ id, name, effect });
      effects.value = [...found];
      asked.value = { done: asked.value.done + 1, of: jobs.length };
    }
  });

const takeUp = (): Promise<void> =>
  act(async () => {
    if (shop.who.trim() === '') throw new Error('Say who takes it up: fill in “who”.');
    await shop.put(props.kind, props.next, props.now, why.value.trim() || `learned of ${props.behind}`);
    why.value = '';
    await sewOuts.lookAtLessons();
    notices.say(`${props.next.name}: taken up`, 'New jobs go by it. Jobs that have it are offered it on Take in.');
  });
</script>

<template>
  <article :aria-label="`What ${now.name} taught`">
    <h4>{{ now.name }}</h4>
    <dl class="number">
      <div v-for="one in figures" :key="one.name">
        <dt>{{ one.name }}</dt>
        <dd>
          {{ one.before }}
          <template v-if="!isInUse"
            >→ <b>{{ one.after }}</b></template
          >
          <small class="muted">&nbsp;± {{ one.spread }}</small>
        </dd>
      </div>
    </dl>
    <p class="muted small number">{{ isInUse ? 'In use, from' : 'From' }} {{ behind }}. An estimate.</p>
    <template v-if="!isInUse && session.mayEdit">
      <p>
        <v-btn size="small" variant="outlined" :loading="isBusy" @click="look">What it moves in open jobs</v-btn>
        <span v-if="effects" class="muted small number" role="status"> {{ asked.done }} of {{ asked.of }} jobs looked at</span>
      </p>
      <ul v-if="effects" class="effects">
        <li v-for="{ id, name, effect } in effects" :key="id">
          <router-link :to="{ name: 'take-in', params: { id } }">{{ name }}</router-link>
          <span class="number">
            <template v-if="Math.abs(effect.seconds.after - effect.seconds.before) >= 1"
              >{{ saySigned(effect.seconds.after - effect.seconds.before, sayTime) }} a piece</template
            >
            <template v-if="effect.came.length > 0"> comes: {{ effect.came.join(', ') }}</template>
            <template v-if="effect.went.length > 0"> goes: {{ effect.went.join(', ') }}</template>
          </span>
        </li>
        <li v-if="effects.length === 0 && asked.done === asked.of" class="muted">
          {{ asked.of === 0 ? 'No open job has it.' : 'Nothing is found or timed otherwise.' }}
        </li>
      </ul>
      <SignatureFields v-model="why" />
      <v-btn size="small" class="take" :disabled="isBusy" @click="takeUp">Take it up</v-btn>
    </template>
  </article>
</template>

<style scoped>
article {
  display: grid;
  gap: 8px;
  padding: 10px 12px;
  border: 1px solid var(--line);
  border-radius: 10px;
  background: var(--paper);
}

h4 {
  margin: 0;
  font-size: 13.5px;
  font-weight: 600;
}

dl div {
  display: grid;
  grid-template-columns: 130px 1fr;
}

dt {
  color: var(--ink-2);
}

.effects li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 3px 0;
  border-bottom: 1px solid var(--line-soft);
}

a {
  color: var(--sea);
}

.small {
  font-size: 12px;
}

.take {
  justify-self: start;
}
</style>
