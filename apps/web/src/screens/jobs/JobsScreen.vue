<script setup lang="ts">
import { FORMAT_CHOICE, FORMAT_EXTENSIONS, FORMAT_NAMES } from '@isola/core';
import { type JobSummary, KEPT_DAYS } from '@isola/contract';
import { mdiMagnify } from '@mdi/js';
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import { listen } from '../../api/listen.ts';
import { ApiError } from '../../api/client.ts';
import { sayCount, sayHours } from '../../bench/figures/sayFigures.ts';
import DropHint from '../../shell/DropHint.vue';
import PageHead from '../../shell/PageHead.vue';
import { useJobs } from '../../stores/jobs.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSession } from '../../stores/session.ts';
import { useShop } from '../../stores/shop.ts';
import { useOutbox } from '../../stores/outbox.ts';
import { readSteps, STEPS_EXTENSION } from '../../stores/stepsFile.ts';
import { useAudits } from '../../stores/audits.ts';
import { droppedFiles } from '../audits/filesOf.ts';
import DrawAnew from './DrawAnew.vue';
import DeletedJobs from './DeletedJobs.vue';
import JobRow from './JobRow.vue';
import StrandedSteps from './StrandedSteps.vue';
import TakingBar from './TakingBar.vue';

const store = useJobs();
const notices = useNotices();
const outbox = useOutbox();
const audits = useAudits();
const router = useRouter();
const shop = useShop();
const session = useSession();
/** Endings of what can be taken in: open formats, steps that were saved as a file, and machines' own files. */
const accepted = computed(() =>
  [...FORMAT_EXTENSIONS, '.json', ...(shop.shop?.layouts ?? []).map(({ extension }) => `.${extension}`)].join(),
);
const isOver = ref(false);
/** What is being taken in, and what gives it up. */
const taking = shallowRef<{ file: File; stop: AbortController }>();
const refused = ref<{ title: string; text: string }>();
const removing = ref<JobSummary>();
const picker = useTemplateRef<HTMLInputElement>('picker');

let changed: ReturnType<typeof setTimeout> | undefined;
const reload = (): void => {
  changed ??= setTimeout(() => {
    changed = undefined;
    void store.load();
  }, CHANGES);
};
const stop = listen({ hear: reload, lookAgain: reload });
onBeforeUnmount(() => {
  stop();
  clearTimeout(typing);
  clearTimeout(changed);
});
onMounted(() => {
  void store.load();
  shop.load().catch(() => undefined);
  // Who looks at the list opens a job next: what that takes is made ready once the page is at rest.
  if ('requestIdleCallback' in window)
    requestIdleCallback(() => {
      void import('../../workers/startWorkers.ts').then(({ prepareWorkers }) => prepareWorkers());
      void import('../../shell/BenchShell.vue');
      void import('../takeIn/TakeInScreen.vue');
      void import('../audit/AuditScreen.vue');
    });
});

/** So long (ms) it is waited for the next letter before it is looked, and for the next change before the list is read anew. */
const TYPING = 160;
const CHANGES = 400;
const search = ref(store.search);
let typing: ReturnType<typeof setTimeout> | undefined;
watch(search, (words) => {
  clearTimeout(typing);
  typing = setTimeout(() => void store.look(words ?? ''), TYPING);
});
const found = computed(() => store.jobs ?? []);
const hidden = computed(() => store.total - found.value.length);
/** Of many that are found not all are counted. */
const sayTotal = computed(() => (store.foundBy !== '' && store.total >= 1000 ? 'more than 1 000' : sayCount(store.total)));

async function take(files: FileList | readonly File[] | null | undefined): Promise<void> {
  const file = files?.[0];
  if (file === undefined) return;
  refused.value = undefined;
  if (file.name.endsWith(STEPS_EXTENSION)) return takeSteps(file);
  const stop = new AbortController();
  taking.value = { file, stop };
  try {
    const job = await store.takeIn(file, stop.signal);
    await router.push({ name: 'take-in', params: { id: job.id } });
  } catch (error) {
    if (!(error instanceof ApiError)) throw error;
    if (stop.signal.aborted) return;
    refused.value = { title: error.title, text: error.message };
  } finally {
    taking.value = undefined;
    if (picker.value !== null) picker.value.value = '';
  }
}

/** Steps that were saved as a file because they could not be saved otherwise go back to their job, or are weighed on what it is by now. */
async function takeSteps(file: File): Promise<void> {
  const steps = await readSteps(file);
  if (steps === undefined) {
    refused.value = { title: 'These steps cannot be read', text: `${file.name} is no file of steps, or it is damaged.` };
    return;
  }
  await outbox.replace({ id: steps.job, name: steps.name }, steps.version, steps.entries);
  await router.push({ name: 'audit', params: { id: steps.job } });
}

/** One file becomes a job; a folder, or several files, are audited together first. */
async function drop(event: DragEvent): Promise<void> {
  isOver.value = false;
  const files = event.dataTransfer?.files;
  const isFolder = [...(event.dataTransfer?.items ?? [])].some((item) => item.webkitGetAsEntry()?.isDirectory === true);
  if (!isFolder && (files?.length ?? 0) <= 1) return take(files);
  try {
    audits.chosen = await droppedFiles(event.dataTransfer!.items);
    await router.push({ name: 'audits' });
  } catch (error) {
    notices.complain(error);
  }
}

/** The job that steps are left of is opened, where they are weighed on it. */
async function putBack(id: string): Promise<void> {
  try {
    await store.putBack(id);
    await router.push({ name: 'audit', params: { id } });
  } catch (error) {
    notices.complain(error);
  }
}

async function remove(): Promise<void> {
  const job = removing.value;
  removing.value = undefined;
  if (job === undefined) return;
  try {
    await store.remove(job.id);
    notices.say(`${job.name} was deleted`);
  } catch (error) {
    notices.complain(error);
  }
}
</script>

<template>
  <div class="jobs" :class="{ over: isOver }" @dragover.prevent="isOver = true" @dragleave.self="isOver = false" @drop.prevent="drop">
    <PageHead>
      <div class="title">
        <h1>Tidewater Stitch Room</h1>
        <p v-if="store.savedSeconds >= 60" class="gain number">{{ sayHours(store.savedSeconds) }} of machine time saved on these orders</p>
      </div>
      <v-text-field
        v-model="search"
        class="search"
        placeholder="Job, customer, cloth, date…"
        aria-label="Search the jobs"
        clearable
        :prepend-inner-icon="mdiMagnify"
      />
      <DrawAnew v-if="session.mayEdit" @take="(file) => take([file])" />
      <v-btn v-if="session.mayEdit" size="default" :loading="taking !== undefined" @click="picker?.click()">Take in a file</v-btn>
      <input
        ref="picker"
        class="visually-hidden"
        type="file"
        :accept="accepted"
        aria-label="Stitch file"
        tabindex="-1"
        @change="take(picker?.files)"
      />
    </PageHead>
    <TakingBar v-if="taking" :file="taking.file" @cancel="taking.stop.abort()" />
    <div v-if="refused" class="refused" role="alert">
      <div>
        <b>{{ refused.title }}</b>
        <p>{{ refused.text }}</p>
        <p class="muted">
          Nothing of it was stored. Isola reads {{ FORMAT_NAMES }}, and machines’ own files by their layouts, which are described under
          <router-link :to="{ name: 'shop' }">Shop</router-link>.
        </p>
      </div>
      <v-btn variant="outlined" @click="refused = undefined">Close</v-btn>
    </div>
    <StrandedSteps @put-back="putBack" />
    <main>
      <template v-if="found.length > 0">
        <ul aria-label="Jobs">
          <JobRow v-for="job in found" :key="job.id" :job="job" @remove="removing = job" />
        </ul>
        <p v-if="hidden > 0" class="more">
          <v-btn variant="outlined" @click="store.showMore()">Show more</v-btn>
          <span class="muted number">{{ found.length }} of {{ sayTotal }} are shown, what is due first first</span>
        </p>
      </template>
      <div v-else-if="store.failure" class="state" role="alert">
        <b>The jobs cannot be shown</b>
        <p>{{ store.failure }}</p>
        <v-btn class="mt-3" @click="store.load()">Try again</v-btn>
      </div>
      <div v-else-if="!store.jobs" class="state" aria-busy="true">
        <v-progress-circular indeterminate color="primary" size="26" width="3" aria-label="The jobs are on their way" />
      </div>
      <div v-else-if="store.foundBy !== ''" class="state">
        <b>No job has all of “{{ store.foundBy }}”</b>
        <p>
          <v-btn class="mt-3" variant="outlined" @click="search = ''">Show all jobs</v-btn>
        </p>
      </div>
      <div v-else class="state">
        <b>No jobs yet</b>
        <p class="muted">Drop {{ FORMAT_CHOICE }} anywhere on this page.</p>
      </div>
      <p v-if="found.length > 0" class="hint muted">
        Drop {{ FORMAT_CHOICE }} anywhere here to take it in, or a folder to have all of it audited. Times are estimates from the machine's
        profile.
      </p>
      <DeletedJobs />
    </main>
    <DropHint v-if="isOver">Let go to take it in, or several to have them audited</DropHint>
    <v-dialog :model-value="removing !== undefined" :aria-label="`Delete ${removing?.name}?`" @update:model-value="removing = undefined">
      <v-card
        :title="`Delete ${removing?.name}?`"
        :text="`Its file, its steps and its revisions go with it. It can be put back from the end of this list for ${KEPT_DAYS} days.`"
      >
        <v-card-actions>
          <v-spacer />
          <v-btn variant="text" @click="removing = undefined">Cancel</v-btn>
          <v-btn variant="flat" color="error" @click="remove">Delete</v-btn>
        </v-card-actions>
      </v-card>
    </v-dialog>
  </div>
</template>

<style scoped>
.jobs {
  position: relative;
  display: grid;
  grid-template-rows: 58px auto minmax(0, 1fr);
  height: 100vh;
}

.gain {
  font-weight: 500;
}

.title {
  line-height: 1.25;
  white-space: nowrap;
}

.title p {
  font-size: 12px;
}

.search {
  max-width: 290px;
  min-width: 120px;
  margin-left: auto;
}

main {
  grid-row: 3;
  overflow-y: auto;
}

.refused {
  display: flex;
  justify-content: space-between;
  align-items: flex-start;
  gap: 20px;
  padding: 12px 24px;
  background: #fbe9e4;
  border-bottom: 1px solid #e3b9ae;
}

.state {
  padding: 72px 24px;
  text-align: center;
}

.more {
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 16px 24px 0;
}

.hint {
  padding: 16px 24px;
  font-size: 12.5px;
}
</style>
