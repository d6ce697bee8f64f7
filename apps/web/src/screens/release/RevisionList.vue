<script setup lang="ts">
import type { RevisionSummary } from '@isola/contract';
import { FORMATS } from '@isola/core';
import { ref } from 'vue';
import { api } from '../../api/client.ts';
import { sayPiece } from '../../bench/figures/sayFigures.ts';
import { useBench } from '../../stores/bench.ts';
import { useNotices } from '../../stores/notices.ts';

/** What was kept of the job, the newest first: taken away as a file, or put back on the bench. `mayLeave`: so may what is on it now. */
const props = defineProps<{ isSaved: boolean; mayLeave: boolean }>();
const bench = useBench();
const notices = useNotices();
const isWorking = ref(false);

/** The file that came in is the customer's own; what was kept with something against it leaves signed, like the present design. */
const mayDownload = ({ number, version, isRelease, stopCount }: RevisionSummary): boolean =>
  number === 1 ||
  isRelease ||
  stopCount === 0 ||
  bench.job!.signOffs.some((signed) => signed.version === version) ||
  (version === bench.job!.version && props.mayLeave);

async function putBack({ number, version }: RevisionSummary): Promise<void> {
  isWorking.value = true;
  try {
    await bench.putBackTo(version);
    notices.say(`Revision ${number} is on the bench again`, 'What was done since is taken back, step by step; undo brings it forth.');
  } catch (error) {
    notices.complain(error);
  } finally {
    isWorking.value = false;
  }
}
</script>

<template>
  <ol class="revisions number">
    <li v-for="revision in [...(bench.job?.revisions ?? [])].reverse()" :key="revision.number">
      <b>{{ revision.number }}</b>
      <span
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
</style>
