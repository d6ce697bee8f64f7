<script setup lang="ts">
import { type AdaptWay, adaptFactor, type OpeningProposal, THREADS, threadThickness } from '@isola/core';
import { computed, nextTick, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue';
import { useBench } from '../../stores/bench.ts';
import { useNotices } from '../../stores/notices.ts';
import { useObjects } from '../../stores/objects.ts';
import { useShop } from '../../stores/shop.ts';
import { sayCount } from '../figures/sayFigures.ts';
import SpecPairs from './SpecPairs.vue';

/** What is done to the whole design: another thread, or opened up for a light garment. */
const bench = useBench();
const objects = useObjects();
const shop = useShop();
const notices = useNotices();

const target = computed(() => bench.now?.view.target);
const threads = computed(() => shop.shop?.threads ?? THREADS);
const threadId = ref('');
const way = ref<AdaptWay>('thickness');
const color = ref('');
const thread = computed(() => threads.value.find((t) => t.id === threadId.value));
const colors = computed(() => [
  ...new Set(objects.objects.filter((o) => o.role === 'cover' && o.spacing !== undefined).map((o) => o.color)),
]);
const factor = computed(() =>
  target.value === undefined || thread.value === undefined ? 1 : adaptFactor(target.value.thread, thread.value, way.value),
);
const held = ref(0);
const trying = ref<'thread' | 'opening'>();
const problem = ref('');

const budget = ref(0);
const proposal = shallowRef<OpeningProposal>();
const taken = ref<number>(0);
const isWorking = ref(false);
const list = useTemplateRef<HTMLOListElement>('steps');

onMounted(() => {
  threadId.value = threads.value.find((t) => t.weight < (target.value?.thread.weight ?? 40))?.id ?? threads.value[0]?.id ?? '';
  budget.value = Math.round((bench.now?.view.figures.stitches ?? 0) * 0.0003) * 1000;
});
watch(
  () => bench.trial,
  (trial) => {
    if (trial === undefined) trying.value = undefined;
  },
);

async function work(act: () => Promise<void>): Promise<void> {
  isWorking.value = true;
  problem.value = '';
  try {
    await act();
  } catch (error) {
    notices.complain(error);
  } finally {
    isWorking.value = false;
  }
}

const tryThread = (): Promise<void> =>
  work(async () => {
    const wanted = thread.value;
    if (wanted === undefined || target.value === undefined) return;
    const found = await bench.adaptThread(wanted, way.value, color.value || undefined);
    if (found === undefined) return;
    held.value = found.held;
    const name = `${color.value === '' ? 'all' : color.value} for ${wanted.name}, ${way.value === 'thickness' ? 'by thickness' : 'a third off'}`;
    const whole = color.value === '' ? { ...target.value, thread: wanted } : undefined;
    problem.value = (await bench.trySpecs(name, found.edits, whole)) ?? '';
    trying.value = problem.value === '' ? 'thread' : undefined;
  });

const propose = (): Promise<void> =>
  work(async () => {
    proposal.value = await bench.proposeOpening(budget.value);
    taken.value = proposal.value?.steps.length ?? 0;
    await tryOpening();
    await nextTick();
    list.value?.scrollIntoView?.({ block: 'start' });
  });

const tryOpening = (): Promise<void> =>
  work(async () => {
    const steps = proposal.value?.steps.slice(0, taken.value) ?? [];
    if (steps.length === 0) {
      bench.dropTrial();
      return;
    }
    problem.value =
      (await bench.trySpecs(
        `open up ${steps.length} of the fills`,
        steps.map((s) => s.edit),
      )) ?? '';
    trying.value = problem.value === '' ? 'opening' : undefined;
  });

const accept = (): Promise<void> =>
  work(async () => {
    await bench.acceptTrial();
    proposal.value = undefined;
  });
</script>

<template>
  <div class="tools">
    <section>
      <h3>Another thread</h3>
      <p class="muted">
        Spacings are for {{ target?.thread.name }}, {{ target ? threadThickness(target.thread).toFixed(2) : '' }} mm thick. A thicker one
        wants wider ones.
      </p>
      <div class="line">
        <select v-model="threadId" aria-label="Thread to adapt to">
          <option v-for="t in threads" :key="t.id" :value="t.id">{{ t.name }}</option>
        </select>
        <select v-model="color" aria-label="What to adapt">
          <option value="">whole design</option>
          <option v-for="c in colors" :key="c" :value="c">only {{ c }}</option>
        </select>
      </div>
      <div class="line">
        <label><input v-model="way" type="radio" value="thickness" /> by thickness</label>
        <label><input v-model="way" type="radio" value="third-off" /> a third off</label>
        <b class="number">× {{ factor.toFixed(2) }}</b>
      </div>
      <p v-if="thread" class="needle">
        Needle {{ thread.needle }} for {{ thread.weight }}-weight thread. Stop the machine before changing it.
      </p>
      <v-btn variant="outlined" :disabled="isWorking || !thread" @click="tryThread">Try it</v-btn>
      <p v-if="trying === 'thread' && held > 0" class="muted">{{ held }} held at what {{ target?.fabric.name }} bears.</p>
    </section>
    <section>
      <h3>Open up a heavy design</h3>
      <p class="muted">Fills become open ones without underlay, largest saving first, until the count keeps to this.</p>
      <div class="line">
        <label for="budget">Stitches, at most</label>
        <input id="budget" v-model.number="budget" class="number" type="number" min="0" step="500" />
      </div>
      <v-btn variant="outlined" :disabled="isWorking" @click="propose">Propose</v-btn>
      <template v-if="proposal">
        <p v-if="proposal.steps.length === 0" class="muted">
          {{ proposal.isReached ? 'The design keeps to it as it is.' : 'There is no closed fill that opening up would make lighter.' }}
        </p>
        <ol v-else ref="steps" class="steps number">
          <li :class="{ off: taken < 1 }">
            <span>as it is</span><b>{{ sayCount(proposal.stitches) }}</b>
          </li>
          <li v-for="(s, k) in proposal.steps" :key="s.edit.object" :class="{ off: k >= taken }">
            <label
              ><input type="checkbox" :checked="k < taken" @change="((taken = k < taken ? k : k + 1), tryOpening())" /> {{ s.name }} at
              {{ s.spacing.toFixed(1) }}</label
            >
            <i :style="{ width: `${(100 * s.total) / proposal.stitches}%` }" />
            <b>{{ sayCount(s.total) }}</b>
          </li>
        </ol>
        <p v-if="!proposal.isReached" class="short">Not reached: what is left are satins, runs and small fills.</p>
      </template>
    </section>
    <p v-if="problem" class="short" role="alert">Nothing was changed: {{ problem }}.</p>
    <div v-if="trying && bench.trial?.trial.pairs" class="foot">
      <SpecPairs :pairs="bench.trial.trial.pairs" />
      <div class="acts">
        <v-btn color="primary" :disabled="isWorking" @click="accept">Sew it so</v-btn>
        <v-btn variant="outlined" @click="bench.dropTrial()">Step back</v-btn>
      </div>
    </div>
  </div>
</template>

<style scoped>
section {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 7px;
  justify-items: start;
  padding: 12px 0;
  border-top: 1px solid var(--line-soft);
}

h3 {
  font-size: 14px;
  font-weight: 600;
}

.line {
  display: flex;
  gap: 8px;
  justify-content: space-between;
  align-items: center;
  width: 100%;
}

.line select {
  min-width: 0;
}

input[type='number'] {
  width: 84px;
  padding: 3px 6px;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: var(--paper);
  color: inherit;
  font: inherit;
  text-align: right;
}

.needle {
  font-size: 12px;
}

.steps {
  width: 100%;
  padding: 0;
  margin: 0;
  list-style: none;
}

.steps li {
  position: relative;
  display: flex;
  gap: 8px;
  justify-content: space-between;
  padding: 4px 0 7px;
}

.steps i {
  position: absolute;
  bottom: 2px;
  left: 0;
  height: 3px;
  background: var(--sea);
  border-radius: 2px;
}

.steps .off {
  opacity: 0.5;
}

.short {
  color: var(--fix);
}

.foot {
  position: sticky;
  bottom: -14px;
  padding: 8px 0 14px;
  background: var(--card);
  border-top: 1px solid var(--line);
}

.acts {
  display: flex;
  gap: 8px;
  padding-top: 8px;
}
</style>
