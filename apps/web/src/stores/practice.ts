import type { Practice } from '@isola/contract';
import type { PracticeClaim } from '@isola/core';
import { shallowRef } from 'vue';
import { api } from '../api/client.ts';
import { useBench } from './bench.ts';
import { defineDocumentStore } from './documentStore.ts';

/** The practice on the bench: what is said to be wrong, and what came of it once it is judged. */
export const usePractice = defineDocumentStore('practice', (document) => {
  const bench = useBench(document);
  const practice = shallowRef<Practice>();

  async function load(): Promise<void> {
    const id = bench.job?.id;
    if (id !== undefined && practice.value?.jobId !== id) practice.value = await api.practice(id);
  }

  async function write(claims: readonly PracticeClaim[]): Promise<void> {
    const { jobId, version } = practice.value!;
    practice.value = await api.claim(jobId, version, claims);
  }

  const claim = (one: PracticeClaim): Promise<void> => write([...practice.value!.claims, one]);
  const take = (k: number): Promise<void> => write(practice.value!.claims.filter((_, at) => at !== k));

  async function judge(): Promise<void> {
    practice.value = await api.judgePractice(practice.value!.jobId);
    bench.job = { ...bench.job!, practice: 'judged' };
  }

  return { practice, load, claim, take, judge };
});
