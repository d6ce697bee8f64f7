import type { AuditSummary } from '@isola/contract';
import type { Target } from '@isola/core';
import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import { api } from '../api/client.ts';
import type { ChosenFile } from '../screens/audits/filesOf.ts';

/** So many files are on their way to the server at once. */
const AT_ONCE = 3;

/** How far the files of an audit are on their way to the server. */
export interface Sending {
  readonly auditId: string;
  readonly sent: number;
  readonly of: number;
  /** Files that did not arrive, and why. */
  readonly lost: readonly { readonly path: string; readonly why: string }[];
}

/** Audits of many files: those that there are, the files chosen for another, and those on their way. */
export const useAudits = defineStore('audits', () => {
  const audits = shallowRef<readonly AuditSummary[]>();
  const chosen = shallowRef<readonly ChosenFile[]>([]);
  const sending = ref<Sending>();
  let stop: AbortController | undefined;

  async function load(): Promise<void> {
    audits.value = await api.audits();
  }

  /** Begins an audit of the chosen files, which go on their way while its screen is shown. */
  async function begin(name: string, target: Target): Promise<AuditSummary> {
    const files = chosen.value;
    const audit = await api.beginAudit(name, target);
    chosen.value = [];
    stop = new AbortController();
    sending.value = { auditId: audit.id, sent: 0, of: files.length, lost: [] };
    void sendAll(audit.id, files, stop.signal);
    return audit;
  }

  async function sendAll(auditId: string, files: readonly ChosenFile[], signal: AbortSignal): Promise<void> {
    let next = 0;
    const one = async (): Promise<void> => {
      while (next < files.length && !signal.aborted) {
        const seq = ++next;
        const { file, path } = files[seq - 1]!;
        const why = await api.addToAudit(auditId, seq, file, path, signal).then(
          () => undefined,
          (error: unknown) => (error instanceof Error ? error.message : String(error)),
        );
        const now = sending.value;
        if (now === undefined || now.auditId !== auditId) return;
        sending.value = { ...now, sent: now.sent + 1, lost: why === undefined ? now.lost : [...now.lost, { path, why }] };
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, one));
    if (sending.value?.auditId === auditId && sending.value.lost.length === 0) sending.value = undefined;
  }

  /** Lets what is not judged yet be, files that are on their way too. */
  async function cancel(id: string): Promise<AuditSummary> {
    if (sending.value?.auditId === id) {
      stop?.abort();
      sending.value = undefined;
    }
    return api.cancelAudit(id);
  }

  async function remove(id: string): Promise<void> {
    await api.removeAudit(id);
    await load();
  }

  return { audits, chosen, sending, load, begin, cancel, remove };
});
