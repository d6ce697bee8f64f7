import type { JobSummary } from '@isola/contract';
import type { JournalEntry } from '@isola/core';
import { computed, ref, shallowRef } from 'vue';
import { api, ApiError } from '../api/client.ts';
import { readUnsent, type Unsent, writeUnsent } from './unsentEntries.ts';

export type SaveState = 'saved' | 'saving' | 'offline' | 'conflict' | 'refused';

const FIRST_RETRY = 1500;
const LONGEST_RETRY = 15_000;
/** So many steps go in one request; the server takes twice as many. */
const MOST_AT_ONCE = 100;

/**
 * Sends a job's entries to the server in order, one request at a time, and keeps them in the browser until they are acknowledged. A lost
 * connection is tried again without end; a conflict or a refusal stops the sending until `start` or `restart`.
 */
export function createSaving(onSaved: (job: JobSummary) => void) {
  const state = ref<SaveState>('saved');
  const savedAt = ref<Date>();
  const reason = ref('');
  const unsent = shallowRef<Unsent>({ baseVersion: 0, entries: [] });
  const hasUnsent = computed(() => unsent.value.entries.length > 0);
  let jobId = '';
  let isSending = false;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let wait = FIRST_RETRY;

  /** Takes up a job at a version. What an earlier page left unsent is given back, to be put on top or to be asked about. */
  function start(id: string, version: number): Unsent | undefined {
    stop();
    jobId = id;
    savedAt.value = new Date();
    restart(version, []);
    return readUnsent(id);
  }

  /** Builds on `version` from now on, with these entries to be sent. */
  function restart(version: number, entries: readonly JournalEntry[]): void {
    state.value = 'saved';
    unsent.value = { baseVersion: version, entries: [...entries] };
    wait = FIRST_RETRY;
    void send();
  }

  function add(entry: JournalEntry): void {
    unsent.value = { ...unsent.value, entries: [...unsent.value.entries, entry] };
    keep();
    void send();
  }

  function forget(): void {
    writeUnsent(jobId, undefined);
  }

  function stop(): void {
    clearTimeout(timer);
    jobId = '';
  }

  async function send(): Promise<void> {
    if (isSending || !hasUnsent.value || state.value === 'conflict' || state.value === 'refused') return;
    isSending = true;
    clearTimeout(timer);
    if (state.value !== 'offline') state.value = 'saving';
    const { baseVersion } = unsent.value;
    const entries = unsent.value.entries.slice(0, MOST_AT_ONCE);
    const id = jobId;
    try {
      const job = await api.append(id, baseVersion, entries);
      if (id !== jobId) return;
      unsent.value = { baseVersion: baseVersion + entries.length, entries: unsent.value.entries.slice(entries.length) };
      keep();
      savedAt.value = new Date();
      wait = FIRST_RETRY;
      state.value = 'saved';
      onSaved(job);
    } catch (error) {
      if (id !== jobId) return;
      const status = error instanceof ApiError ? error.status : 0;
      reason.value = error instanceof Error ? error.message : String(error);
      if (status === 409) state.value = 'conflict';
      else if (status >= 400 && status < 500) state.value = 'refused';
      else {
        state.value = 'offline';
        timer = setTimeout(() => void send(), wait);
        wait = Math.min(LONGEST_RETRY, wait * 2);
      }
    } finally {
      isSending = false;
    }
    if (state.value === 'saved') void send();
  }

  function keep(): void {
    if (!writeUnsent(jobId, unsent.value))
      reason.value = 'The browser has no room to keep unsent steps; leave this page open until they are saved.';
  }

  return { state, savedAt, reason, unsent, hasUnsent, start, restart, add, forget, stop };
}
