<script setup lang="ts">
import { mdiHistory, mdiRedoVariant, mdiUndoVariant } from '@mdi/js';
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { onBeforeRouteUpdate, useRoute } from 'vue-router';
import { actionOf } from '../bench/actions.ts';
import { STAGES } from '../stages.ts';
import { useBench } from '../stores/bench.ts';
import { provideDocument } from '../stores/documentStore.ts';
import { useSession } from '../stores/session.ts';
import { useNotices } from '../stores/notices.ts';
import { useSpecs } from '../stores/specs.ts';
import { useShop } from '../stores/shop.ts';
import AppMark from './AppMark.vue';
import HistoryPanel from './history/HistoryPanel.vue';
import ConflictDialog from './ConflictDialog.vue';
import PeopleHere from './PeopleHere.vue';
import KeySheet from './KeySheet.vue';
import SaveState from './SaveState.vue';

/** `document`: by what the bench is known where there is more than one. */
const props = defineProps<{ id: string; document?: string }>();
const bench = useBench(provideDocument(props.document));
const specs = useSpecs(props.document);
const route = useRoute();
const shop = useShop();
const notices = useNotices();

watch(
  () => props.id,
  (id) => void bench.open(id),
  { immediate: true },
);
if (shop.shop === undefined) shop.load().catch((error: unknown) => notices.complain(error));
onMounted(() => window.addEventListener('keydown', onKey));
onBeforeUnmount(() => {
  window.removeEventListener('keydown', onKey);
  bench.close();
});

/** What is being tried is not dropped without a word when its screen is left. */
onBeforeRouteUpdate((to, from) => {
  if (to.name === from.name || bench.trial === undefined) return;
  const { name } = bench.trial.trial;
  specs.stepBack();
  notices.say('Put back', `Tried and not made: ${name}.`);
});

const session = useSession();
/** Who runs the machine sees what is for the machine. */
const stages = computed(() =>
  session.role === 'operator' ? STAGES.filter(({ name }) => name === 'release' || name === 'sew-outs') : STAGES,
);
const target = computed(() => bench.now?.view.target);
/** What it is sewn on, with and for, in a line under its name. */
const facts = computed(() => {
  const t = target.value;
  const figures = bench.now?.view.figures;
  if (t === undefined || figures === undefined) return [];
  const { width, height } = figures.extents;
  return [
    t.fabric.name,
    `${t.garment?.name ?? 'no place'}, ${width === 0 ? 'nothing sewn yet' : `${width.toFixed(0)} × ${height.toFixed(0)} mm`}`,
    t.thread.name,
    t.quantity === 1 ? '1 piece' : `${t.quantity} pieces`,
  ];
});
/** Screens of the cloth are shown before the design is audited; the others are made of what that says. */
const isShownEarly = computed(() => route.name === 'take-in' || route.name === 'audit' || route.name === 'rework');
/** Taking back what somebody else did is said before. */
const undoName = computed(() => {
  const step = bench.done.findLast(({ isFixed }) => !isFixed);
  const maker = step === undefined ? undefined : bench.otherMaker(step.id);
  return maker === undefined ? step?.name : `what ${maker} did, ${step!.name}`;
});
const isHistoryOpen = ref(false);
const redoName = computed(() => bench.undone[bench.undone.length - 1]?.name);

async function move(step: 'undo' | 'redo'): Promise<void> {
  try {
    await bench[step]();
  } catch (error) {
    notices.complain(error);
  }
}

function onKey(event: KeyboardEvent): void {
  const action = actionOf(event);
  if (action === 'history' && !isTyping(event)) isHistoryOpen.value = !isHistoryOpen.value;
  if ((action !== 'undo' && action !== 'redo') || isTyping(event)) return;
  event.preventDefault();
  void move(action);
}

function isTyping(event: KeyboardEvent): boolean {
  return event.target instanceof HTMLElement && event.target.closest('input:not([type=checkbox]), textarea, [contenteditable]') !== null;
}
</script>

<template>
  <div class="shell" :data-audited="bench.isAudited">
    <header class="top">
      <AppMark />
      <div class="job">
        <h1>{{ bench.job?.name ?? 'Opening…' }}</h1>
        <p class="number">{{ facts.join(' · ') }}</p>
      </div>
      <!-- Left of the buttons: its words change as steps are saved, and a button pressed twice must not move in between. -->
      <PeopleHere v-if="bench.now" :id="id" :stage="String(route.name ?? '')" />
      <span v-if="bench.isOthersWaiting" class="waiting">Others changed this job: it comes in when you are done trying</span>
      <SaveState v-if="bench.now" />
      <span class="steps">
        <v-btn
          icon
          variant="text"
          size="x-small"
          :disabled="!undoName"
          :title="undoName ? `undo: ${undoName}` : 'nothing to undo'"
          aria-label="Undo"
          @click="move('undo')"
        >
          <v-icon :icon="mdiUndoVariant" />
        </v-btn>
        <v-btn
          icon
          variant="text"
          size="x-small"
          :disabled="!redoName"
          :title="redoName ? `do again: ${redoName}` : 'nothing to do again'"
          aria-label="Redo"
          @click="move('redo')"
        >
          <v-icon :icon="mdiRedoVariant" />
        </v-btn>
        <v-btn
          icon
          variant="text"
          size="x-small"
          title="History (H)"
          aria-label="History"
          :aria-expanded="isHistoryOpen"
          :disabled="!bench.now"
          @click="isHistoryOpen = !isHistoryOpen"
        >
          <v-icon :icon="mdiHistory" />
        </v-btn>
      </span>
      <nav aria-label="Stages of the work">
        <router-link v-for="stage in stages" :key="stage.name" :to="{ name: stage.name }">{{ stage.label }}</router-link>
      </nav>
    </header>
    <main v-if="bench.failure" class="failure">
      <h2>{{ bench.failure.title }}</h2>
      <p>{{ bench.failure.text }}</p>
      <p class="mt-3">
        <v-btn @click="bench.open(id)">Try again</v-btn>
        <v-btn variant="text" :to="{ name: 'jobs' }">To the jobs</v-btn>
      </p>
    </main>
    <main v-else-if="!bench.now || !(bench.isAudited || isShownEarly)" class="opening" aria-busy="true">
      <v-progress-circular indeterminate color="primary" size="28" width="3" />
      <template v-if="bench.reading">
        <p>Recognizing its objects…</p>
        <v-progress-linear
          class="share"
          :model-value="100 * bench.reading.share"
          color="primary"
          height="4"
          rounded
          :aria-label="bench.reading.doing"
        />
        <p class="muted">{{ bench.reading.doing }}. This is done once; from then on the job opens at once.</p>
      </template>
      <p v-else class="muted">Laying the design on the cloth…</p>
    </main>
    <router-view v-else />
    <HistoryPanel v-if="isHistoryOpen && bench.now" @close="isHistoryOpen = false" />
    <ConflictDialog />
    <KeySheet />
  </div>
</template>

<style scoped src="./navLinks.css"></style>
<style scoped>
.shell {
  display: grid;
  grid-template-rows: 54px minmax(0, 1fr);
  height: 100vh;
}

.top {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 0 14px;
  background: var(--card);
  border-bottom: 1px solid var(--line);
  min-width: 0;
}

.job {
  flex: 1 1 0;
  min-width: 0;
  line-height: 1.25;
}

.job > * {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

h1 {
  font-size: 16px;
  font-weight: 600;
}

.job p {
  color: var(--ink-2);
  font-size: 12px;
}

.steps {
  display: flex;
}

.waiting {
  max-width: 210px;
  font-size: 12px;
  line-height: 1.2;
  color: var(--sea);
}

nav a.router-link-active {
  background: var(--ink);
  color: var(--card);
}

.failure,
.opening {
  padding: 64px;
  max-width: 640px;
}

.opening {
  display: flex;
  gap: 14px;
  align-items: center;
}
</style>
