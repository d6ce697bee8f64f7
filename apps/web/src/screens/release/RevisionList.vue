<script setup lang="ts">
import type { RevisionSummary } from '@isola/contract';
import { FORMATS } from '@isola/core';
import { onBeforeUnmount, onMounted, ref } from 'vue';
import { api } from '../../api/client.ts';
import { sayPiece } from '../../bench/figures/sayFigures.ts';
import { useBench } from '../../stores/bench.ts';
import { useHistory } from '../../stores/history.ts';
import { useAct } from '../../stores/useAct.ts';
import { useNotices } from '../../stores/notices.ts';

/** What was kept of the job, the newest first: taken away as a file, or put back on the bench. `mayLeave`: so may what is on it now. */
const props = defineProps<{ isSaved: boolean; mayLeave: boolean }>();
const bench = useBench();
const history = useHistory();
const notices = useNotices();
/** The number of the one that is being named anew. */
const naming = ref<number>();
const newName = ref('');
const { isBusy: isWorking, act } = useAct();

/** The file that came in is the customer's own; what was kept with something against it leaves signed, like the present design. */
const mayDownload = ({ number, version, isRelease, stopCount }: RevisionSummary): boolean =>
  number === 1 ||
  isRelease ||
  stopCount === 0 ||
  bench.job!.signOffs.some((signed) => signed.version === version) ||
  (version === bench.job!.version && props.mayLeave);

const putBack = ({ number }: RevisionSummary): Promise<void> =>
  act(async () => {
    await history.goToRevision(number);
    notices.say(`Revision ${number} is on the bench again`, 'What was done since stays in the history: what you do now begins a branch.');
  });

function beginNaming({ number, name }: RevisionSummary): void {
  [naming.value, newName.value] = [number, name];
}

const nameIt = (number: number): Promise<void> =>
  act(async () => {
    const { name } = await api.nameRevision(bench.job!.id, number, newName.value.trim());
    bench.job = { ...bench.job!, revisions: bench.job!.revisions.map((r) => (r.number === number ? { ...r, name } : r)) };
    naming.value = undefined;
  });

/** By which Compare knows it; the first is the file as it came. */
const stateOf = (number: number): string => (number === 1 ? 'file' : (history.revisions.get(number) ?? `kept ${number}`));
onMounted(() => onBeforeUnmount(history.show()));
</script>

<template>
  <ol class="revisions number">
    <li v-for="revision in [...(bench.job?.revisions ?? [])].reverse()" :key="revision.number">
      <b>{{ revision.number }}</b>
      <form
        v-if="naming === revision.number"
        class="naming"
        @submit.prevent="nameIt(revision.number)"
        @keydown.esc.stop="naming = undefined"
      >
        <input v-model="newName" maxlength="80" :aria-label="`Name of revision ${revision.number}`" />
        <button type="submit" class="in-words" :disabled="isWorking">Save</button>
      </form>
      <span v-else
        >{{ revision.name }}<small v-if="revision.note" class="muted"> {{ revision.note }}</small></span
      >
      <span class="muted">{{ sayPiece(revision.figures) }}</span>
      <time class="muted" :datetime="revision.createdAt">{{
        new Date(revision.createdAt).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
      }}</time>
      <span class="acts">
        <a
          v-for="format in mayDownload(revision) ? FORMATS : []"
          :key="format.id"
          :href="api.revisionAddress(bench.job!.id, revision.number, format.id)"
          class="in-words"
          :aria-label="`Download revision ${revision.number} as ${format.id.toUpperCase()}`"
          download
          >{{ format.id.toUpperCase() }}</a
        >
        <a v-if="revision.number === 1" :href="api.fileAddress(bench.job!.id)" class="in-words" download>The file itself</a>
        <button
          v-if="revision.version !== bench.job!.version"
          type="button"
          class="in-words"
          :disabled="!isSaved || isWorking"
          :aria-label="`Put revision ${revision.number} back on the bench`"
          @click="putBack(revision)"
        >
          Put back
        </button>
        <span v-else class="muted">as it is now</span>
        <router-link
          v-if="history.isKnown && revision.version !== bench.job!.version"
          class="in-words"
          :to="{ name: 'compare', query: { one: stateOf(revision.number), other: 'now' } }"
          :aria-label="`Compare revision ${revision.number} with now`"
          >Compare</router-link
        >
        <button type="button" class="in-words" :aria-label="`Name revision ${revision.number} anew`" @click="beginNaming(revision)">
          Name
        </button>
      </span>
    </li>
  </ol>
</template>

<style scoped>
small {
  display: block;
  font-size: 12px;
}

li {
  display: grid;
  grid-template-columns: 22px minmax(0, 1fr) auto 140px;
  gap: 2px 10px;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
}

time {
  text-align: right;
}

.acts {
  display: flex;
  gap: 14px;
  grid-column: 2 / 5;
  font-size: 12.5px;
}

.naming {
  display: flex;
  gap: 8px;
}

.naming input {
  flex: 1;
  min-width: 0;
  padding: 2px 8px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--paper);
  font: inherit;
}
</style>
