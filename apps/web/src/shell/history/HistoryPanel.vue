<script setup lang="ts">
import { mdiClose } from '@mdi/js';
import type { RevisionSummary } from '@isola/contract';
import { computed, nextTick, onBeforeUnmount, onMounted, ref, useTemplateRef } from 'vue';
import { useRouter } from 'vue-router';
import { useBench } from '../../stores/bench.ts';
import { useHistory } from '../../stores/history.ts';
import { useAct } from '../../stores/useAct.ts';
import { type BranchRow, historyRows, sayWhen, type StepRow } from './historyRows.ts';
import StepPicture from './StepPicture.vue';

/** All that was done to the job, newest first: shown small when pointed at, gone to, compared, named. */
const emit = defineEmits<{ close: [] }>();
const bench = useBench();
const history = useHistory();
const router = useRouter();

const open = ref<ReadonlySet<string>>(new Set());
/** The row whose choices are shown. */
const chosen = ref<string | null>();
/** What is pointed at, and how far down that is, px. */
const pointed = ref<{ readonly id: string | null; readonly title: string; readonly top: number }>();
/** The step whose branch is being named. */
const naming = ref<string>();
const newName = ref('');
const { isBusy: isWorking, act } = useAct();
const panel = useTemplateRef<HTMLElement>('panel');

const rows = computed(() => historyRows(history, open.value));
const revisionsAt = computed(() => {
  const at = new Map<string | null, RevisionSummary[]>();
  for (const revision of bench.job?.revisions ?? []) {
    const step = history.revisions.get(revision.number);
    // The first is the file as it came, which is said already.
    if (step !== undefined && revision.number > 1) at.set(step, [...(at.get(step) ?? []), revision]);
  }
  return at;
});

let stop: (() => void) | undefined;
onMounted(() => {
  stop = history.show();
  panel.value?.focus();
});
onBeforeUnmount(() => stop?.());

const titleOf = (row: StepRow): string => row.step?.name ?? (history.earlier.length > 0 ? 'Before these steps' : 'As it came in');
const titleOfBranch = ({ name, count }: BranchRow): string => name ?? `Another way, ${count} ${count === 1 ? 'step' : 'steps'}`;
const keyOf = (row: { kind: string; id: string | null }): string => `${row.kind} ${row.id ?? ''}`;

/** The step that begins the branch that a step is on: the nearest before it beside which there is another. */
function beginOf(id: string): string {
  const known = new Map(history.steps.map((step) => [step.id, step]));
  let at = known.get(id)!;
  while (at.parent !== null && !history.steps.some(({ id: other, parent }) => parent === at.parent && other !== at.id))
    at = known.get(at.parent)!;
  return at.id;
}

function fold(id: string): void {
  const next = new Set(open.value);
  if (!next.delete(id)) next.add(id);
  open.value = next;
}

function point(event: Event, id: string | null, title: string): void {
  const row = (event.currentTarget as HTMLElement).getBoundingClientRect();
  pointed.value = { id, title, top: Math.min(row.top - 8, window.innerHeight - 236) };
}

const go = (id: string | null): Promise<void> =>
  act(async () => {
    await bench.goTo(id);
    // The button that was pressed is gone: the keys go on to be the panel's.
    panel.value?.focus();
  });

function compare(id: string | null): void {
  void router.push({ name: 'compare', query: { one: id ?? 'start', other: 'now' } });
}

async function beginNaming(id: string): Promise<void> {
  naming.value = beginOf(id);
  newName.value = history.names.get(naming.value) ?? '';
  await nextTick();
  panel.value?.querySelector<HTMLInputElement>('.naming input')?.focus();
}

async function nameIt(): Promise<void> {
  const step = naming.value;
  if (step === undefined) return;
  await act(async () => {
    await history.nameBranch(step, newName.value.trim());
    naming.value = undefined;
  });
}

function onEscape(): void {
  if (naming.value !== undefined) naming.value = undefined;
  else emit('close');
}
</script>

<template>
  <aside ref="panel" class="history" tabindex="-1" aria-label="History" @keydown.esc.stop="onEscape" @pointerleave="pointed = undefined">
    <header>
      <h2>History</h2>
      <v-btn icon variant="text" size="x-small" title="Close" aria-label="Close the history" @click="emit('close')"
        ><v-icon :icon="mdiClose"
      /></v-btn>
    </header>
    <p class="muted small">Going back loses nothing: a step on top of an earlier one begins a branch.</p>
    <ol>
      <li
        v-for="row in rows"
        :key="keyOf(row)"
        :class="[row.kind, row.kind === 'step' ? row.state : '']"
        :style="{ '--depth': row.depth }"
        :aria-current="row.kind === 'step' && row.state === 'now' ? 'step' : undefined"
      >
        <template v-if="row.kind === 'branch'">
          <button
            type="button"
            class="line"
            :aria-expanded="row.isOpen"
            @click="fold(row.id)"
            @pointerenter="point($event, row.tip.id, row.tip.name)"
            @focus="point($event, row.tip.id, row.tip.name)"
          >
            <span class="name">{{ titleOfBranch(row) }}</span>
            <time class="muted number" :datetime="row.tip.at">{{ sayWhen(row.tip.at) }}</time>
          </button>
        </template>
        <template v-else>
          <p v-if="row.begins" class="begins">{{ row.begins }}</p>
          <button
            type="button"
            class="line"
            :aria-expanded="chosen === row.id"
            @click="chosen = chosen === row.id ? undefined : row.id"
            @dblclick="go(row.id)"
            @pointerenter="point($event, row.id, titleOf(row))"
            @focus="point($event, row.id, titleOf(row))"
          >
            <span class="name"
              ><span class="words" :title="titleOf(row)">{{ titleOf(row) }}</span>
              <small v-if="row.step?.who" class="muted">{{ row.step.who }}</small>
              <small v-if="row.step?.reason" class="muted">because: {{ row.step.reason }}</small>
              <small v-for="revision in revisionsAt.get(row.id)" :key="revision.number" class="revision"
                >revision {{ revision.number }}: {{ revision.name }}</small
              >
            </span>
            <time v-if="row.step" class="muted number" :datetime="row.step.at">{{ sayWhen(row.step.at) }}</time>
          </button>
          <div v-if="chosen === row.id" class="choices">
            <button v-if="row.state !== 'now'" type="button" class="in-words" :disabled="isWorking" @click="go(row.id)">Go here</button>
            <span v-else class="muted">on the bench</span>
            <button v-if="row.state !== 'now'" type="button" class="in-words" @click="compare(row.id)">Compare with now</button>
            <button v-if="row.id !== null && row.step?.at" type="button" class="in-words" @click="beginNaming(row.id)">
              Name this branch
            </button>
          </div>
        </template>
        <form v-if="naming !== undefined && row.kind === 'step' && chosen === row.id" class="naming" @submit.prevent="nameIt">
          <input v-model="newName" maxlength="80" aria-label="Name of the branch" placeholder="what it tries" />
          <button type="submit" class="in-words" :disabled="isWorking">Save</button>
        </form>
      </li>
    </ol>
    <section v-if="history.earlier.length > 0">
      <h3>Before that</h3>
      <p class="muted small">From before steps were kept by objects: they can be read, not gone back to.</p>
      <ul>
        <li v-for="(step, k) in [...history.earlier].reverse()" :key="k">{{ step.name }}</li>
      </ul>
    </section>
    <StepPicture v-if="pointed" class="picture" :step="pointed.id" :title="pointed.title" :style="{ top: `${pointed.top}px` }" />
  </aside>
</template>

<style scoped src="./historyPanel.css"></style>
