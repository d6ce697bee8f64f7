<script setup lang="ts">
import { mdiPause, mdiPlay } from '@mdi/js';
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue';
import ClothView from '../../bench/cloth/ClothView.vue';
import type { ClothViewHandle } from '../../bench/cloth/handles.ts';
import { sayCount, sayTime } from '../../bench/figures/sayFigures.ts';
import { useBenchKeys } from '../../bench/useBenchKeys.ts';
import { useBench } from '../../stores/bench.ts';
import { rowsDone } from '../../stores/rowsDone.ts';
import { useNotices } from '../../stores/notices.ts';
import { forget, type ShownDesign, showView } from '../../stores/trials.ts';
import type { MachineView } from '../../workers/protocol.ts';
import { AT_START, breakThread, goOn, haltsOf, type MachineState, sewOn, turnAt } from './machineState.ts';

/** The design as the simulated machine sews it: from the file that it would be given, with an operator beside it. */
const bench = useBench();
const notices = useNotices();
const cloth = useTemplateRef<ClothViewHandle>('cloth');
useBenchKeys({ fit: () => cloth.value?.fit(), zoomBy: (factor) => cloth.value?.zoomBy(factor) });

const SPEEDS = [1, 10, 60] as const;
const sewn = shallowRef<MachineView>();
const shown = shallowRef<ShownDesign>();
const state = ref<MachineState>(AT_START);
const speed = ref<(typeof SPEEDS)[number]>(10);
const isRunning = ref(false);

let asked = 0;
/** A file that the machine is given in place of the design’s own. */
const file = shallowRef<{ readonly name: string; readonly bytes: Uint8Array }>();
const picker = useTemplateRef<HTMLInputElement>('picker');
async function give(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const [chosen] = input.files ?? [];
  if (chosen !== undefined) file.value = { name: chosen.name, bytes: new Uint8Array(await chosen.arrayBuffer()) };
  input.value = '';
}

watch(
  [() => bench.now?.view, file],
  async () => {
    const mine = ++asked;
    try {
      const found = await bench.simulate(file.value?.bytes);
      if (mine !== asked || found === undefined) return;
      const old = shown.value;
      const next = await showView(found.view);
      if (mine !== asked) return forget(next);
      [sewn.value, shown.value] = [found, next];
      forget(old);
      [state.value, isRunning.value] = [AT_START, false];
    } catch (error) {
      notices.complain(error);
    }
  },
  { immediate: true },
);

const halts = computed(() => (sewn.value === undefined ? [] : haltsOf({ ...sewn.value.run, done: sewn.value.view.done })));
const stops = computed(() => halts.value.filter(({ kind }) => kind === 'stop'));
const rows = computed(() => (sewn.value === undefined ? 0 : rowsDone(sewn.value.view.done, state.value.time)));
const program = computed(() => sewn.value?.view.program);
const stitches = computed(() => {
  let count = 0;
  const command = program.value?.command;
  for (let row = 0; row < rows.value; row++) if (command![row] === 0) count++;
  return count;
});
const turn = computed(() => (program.value === undefined ? undefined : turnAt(sewn.value!.turns, program.value, rows.value)));
const waits = computed(() => state.value.waits);
const isOver = computed(() => waits.value?.kind === 'end' || waits.value?.kind === 'refused');
const HEADS = { stop: 'It waits for you', break: 'It waits for you', refused: 'It stands still', end: 'Done' } as const;

let frame = 0;
let last = 0;
function tick(now: number): void {
  const seconds = last === 0 ? 0 : Math.min(0.25, (now - last) / 1000);
  last = now;
  state.value = sewOn(state.value, halts.value, seconds * speed.value);
  if (state.value.waits !== undefined) isRunning.value = false;
  if (isRunning.value) frame = requestAnimationFrame(tick);
}
watch(isRunning, (runs) => {
  cancelAnimationFrame(frame);
  last = 0;
  if (runs) frame = requestAnimationFrame(tick);
});

function press(): void {
  if (isOver.value) {
    state.value = AT_START;
    isRunning.value = true;
  } else if (waits.value !== undefined) confirm();
  else isRunning.value = !isRunning.value;
}

function confirm(): void {
  state.value = goOn(state.value);
  isRunning.value = true;
}

function tear(): void {
  if (program.value === undefined) return;
  state.value = breakThread(state.value, program.value, sewn.value!.view.done);
  isRunning.value = false;
}

function onKey(event: KeyboardEvent): void {
  if (event.target instanceof HTMLElement && event.target.closest('button, input, a, [role=combobox]') !== null) return;
  if (event.key !== ' ' && event.key !== 'Enter') return;
  event.preventDefault();
  if (event.key === ' ' || waits.value !== undefined) press();
}
onMounted(() => window.addEventListener('keydown', onKey));
onBeforeUnmount(() => {
  window.removeEventListener('keydown', onKey);
  cancelAnimationFrame(frame);
  asked++;
  forget(shown.value);
});

const pressWords = computed(() => {
  if (isOver.value) return 'Sew it again';
  if (waits.value !== undefined) return 'Done, go on';
  return isRunning.value ? 'Halt' : state.value.time > 0 ? 'Go on' : 'Start';
});
</script>

<template>
  <main class="machine">
    <section class="cloth">
      <ClothView
        v-if="shown && sewn"
        ref="cloth"
        :shown="shown"
        kind="thread"
        :up-to="rows"
        channel="machine"
        label="The piece on the simulated machine"
        has-frame
      />
      <p v-else class="muted wait" role="status">Writing the machine’s file and reading it back…</p>
    </section>
    <aside v-if="sewn" aria-label="The simulated machine">
      <header>
        <h2>Simulated machine</h2>
        <p class="muted">{{ bench.now!.view.target.machine.name }}, {{ bench.now!.view.target.hoop.name }}</p>
        <p>
          <template v-if="file"
            >Sews {{ file.name }}. <button type="button" class="in-words" @click="file = undefined">Back to the design</button></template
          >
          <button v-else type="button" class="in-words" @click="picker?.click()">Give it a file that was released</button>
          <input
            ref="picker"
            class="visually-hidden"
            type="file"
            accept=".isla"
            tabindex="-1"
            aria-label="File for the simulated machine"
            @change="give"
          />
        </p>
      </header>
      <dl class="number">
        <div>
          <dt>clock</dt>
          <dd class="clock">{{ sayTime(state.time) }}</dd>
          <dd class="muted">of {{ sayTime(sewn.view.totals.seconds) }}</dd>
        </div>
        <div>
          <dt>stitches</dt>
          <dd class="clock">{{ sayCount(stitches) }}</dd>
          <dd class="muted">of {{ sayCount(sewn.view.figures.stitches) }}</dd>
        </div>
        <div>
          <dt>needle</dt>
          <dd class="clock">{{ turn?.needle ?? '–' }}</dd>
          <dd class="thread"><i v-if="turn" :style="{ background: turn.color }" />{{ turn?.name || turn?.color }}</dd>
        </div>
      </dl>
      <div class="acts">
        <v-btn :prepend-icon="isRunning ? mdiPause : mdiPlay" @click="press">{{ pressWords }}</v-btn>
        <v-btn variant="outlined" :disabled="waits !== undefined || state.time === 0" @click="tear">Break the thread</v-btn>
        <span class="segments" role="group" aria-label="Speed">
          <button v-for="times in SPEEDS" :key="times" type="button" :aria-pressed="speed === times" @click="speed = times">
            × {{ times }}
          </button>
        </span>
      </div>
      <div v-if="waits" class="halt" :class="waits.kind" role="alert">
        <b>{{ HEADS[waits.kind] }}</b>
        <p>{{ waits.words }}</p>
      </div>
      <section v-if="sewn.run.refused.length > 0">
        <h3>What it refuses</h3>
        <ul>
          <li v-for="(one, k) in sewn.run.refused" :key="k">
            {{ one.why }}<small v-if="one.row >= 0" class="muted number"> row {{ sayCount(one.row) }} of the file</small>
          </li>
        </ul>
        <p v-if="file" class="muted small">Take the file from Release again, or go back to the design.</p>
        <p v-else class="muted small">
          Put it right under <router-link :to="{ name: 'audit' }">Audit</router-link>, or choose another hoop or machine on
          <router-link :to="{ name: 'take-in' }">Take in</router-link>.
        </p>
      </section>
      <section v-if="stops.length > 0">
        <h3>Stops</h3>
        <ol>
          <li v-for="(stop, k) in stops" :key="k" :class="{ passed: k < state.passed }">
            <span class="number">{{ sayTime(stop.at) }}</span> {{ stop.words }}
          </li>
        </ol>
      </section>
      <section v-if="sewn.run.notes.length > 0">
        <h3>What was made of it</h3>
        <ul>
          <li v-for="one in sewn.run.notes" :key="one">{{ one }}</li>
        </ul>
      </section>
      <p v-if="state.breaks > 0" class="number">
        {{ state.breaks === 1 ? 'The thread broke once' : `The thread broke ${state.breaks} times` }}.
      </p>
      <p class="muted small">
        Reads the file through its own layout, as a machine would, and takes the clock’s times: estimates. Keep hands, hair and sleeves from
        a real one. Back to <router-link :to="{ name: 'release' }">Release</router-link>.
      </p>
    </aside>
  </main>
</template>

<style scoped src="./machineScreen.css"></style>
