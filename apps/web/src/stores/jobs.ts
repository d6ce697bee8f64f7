import type { JobSummary } from '@isola/contract';
import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import { api } from '../api/client.ts';

/** The shop's jobs as the list shows them. */
export const useJobs = defineStore('jobs', () => {
  const jobs = shallowRef<readonly JobSummary[]>();
  const failure = ref<string>();

  async function load(): Promise<void> {
    try {
      jobs.value = await api.jobs();
      failure.value = undefined;
    } catch (error) {
      failure.value = error instanceof Error ? error.message : String(error);
    }
  }

  async function takeIn(file: File): Promise<JobSummary> {
    const job = await api.takeIn(file);
    await load();
    return job;
  }

  async function remove(id: string): Promise<void> {
    await api.remove(id);
    await load();
  }

  return { jobs, failure, load, takeIn, remove };
});
