import type { DeletedJob, JobSummary } from '@isola/contract';
import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import { api } from '../api/client.ts';

/** The shop's jobs as the list shows them. */
export const useJobs = defineStore('jobs', () => {
  const jobs = shallowRef<readonly JobSummary[]>();
  /** Those that can be put back. */
  const deleted = shallowRef<readonly DeletedJob[]>([]);
  const failure = ref<string>();

  async function load(): Promise<void> {
    try {
      [jobs.value, deleted.value] = await Promise.all([api.jobs(), api.deleted()]);
      failure.value = undefined;
    } catch (error) {
      failure.value = error instanceof Error ? error.message : String(error);
    }
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

  return { jobs, deleted, failure, load, takeIn, remove, putBack };
});
