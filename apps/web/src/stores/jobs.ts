import type { DeletedJob, JobSummary } from '@isola/contract';
import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import { api } from '../api/client.ts';

/** So many jobs are shown, and so many more whenever more are asked for. */
const PAGE = 60;

/** The shop's jobs as the list shows them: those that are looked for, what is due first, first. */
export const useJobs = defineStore('jobs', () => {
  const jobs = shallowRef<readonly JobSummary[]>();
  /** What is looked for, and what the jobs shown were found by. */
  const search = ref('');
  const foundBy = ref('');
  /** How many there are of those, and seconds saved on all orders. */
  const total = ref(0);
  const savedSeconds = ref(0);
  const limit = ref(PAGE);
  /** Those that can be put back. */
  const deleted = shallowRef<readonly DeletedJob[]>([]);
  const failure = ref<string>();
  let asked = 0;

  async function load(): Promise<void> {
    const mine = ++asked;
    const words = search.value.trim();
    try {
      const [found, gone] = await Promise.all([api.jobs({ search: words, limit: limit.value }), api.deleted()]);
      // What was asked for since is what is wanted.
      if (mine !== asked) return;
      jobs.value = found.jobs;
      foundBy.value = words;
      total.value = found.total;
      savedSeconds.value = found.savedSeconds ?? savedSeconds.value;
      deleted.value = gone;
      failure.value = undefined;
    } catch (error) {
      if (mine === asked) failure.value = error instanceof Error ? error.message : String(error);
    }
  }

  async function look(words: string): Promise<void> {
    search.value = words;
    limit.value = PAGE;
    await load();
  }

  async function showMore(): Promise<void> {
    limit.value += PAGE;
    await load();
  }

  async function takeIn(file: File, signal: AbortSignal): Promise<JobSummary> {
    const job = await api.takeIn(file, signal);
    await load();
    return job;
  }

  async function remove(id: string): Promise<void> {
    await api.remove(id);
    await load();
  }

  async function putBack(id: string): Promise<void> {
    await api.putBack(id);
    await load();
  }

  return { jobs, search, foundBy, total, savedSeconds, deleted, failure, load, look, showMore, takeIn, remove, putBack };
});
