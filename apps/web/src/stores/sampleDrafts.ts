import type { SewOut } from '@isola/core';

/** What was written down of a sample and is not recorded yet; `record`: the id of the one that it changes. */
export interface SampleDraft {
  readonly sewOut: SewOut;
  readonly record: string | null;
}

const keyOf = (job: string): string => `isola.sample.${job}`;

/** Keeps what was written of a job's sample in the browser, so that leaving the page does not lose it; none lets it go. */
export function keepDraft(job: string, draft: SampleDraft | undefined): void {
  if (draft === undefined) localStorage.removeItem(keyOf(job));
  else localStorage.setItem(keyOf(job), JSON.stringify(draft));
}

/** What was kept of a job; nothing where it cannot be read. */
export function keptDraft(job: string): SampleDraft | undefined {
  const text = localStorage.getItem(keyOf(job));
  if (text === null) return undefined;
  try {
    const read = JSON.parse(text) as Partial<SampleDraft>;
    const isWhole =
      Array.isArray(read.sewOut?.places) && typeof read.sewOut.revision === 'number' && typeof read.sewOut.fabric === 'object';
    return isWhole ? { sewOut: read.sewOut, record: read.record ?? null } : undefined;
  } catch {
    return undefined;
  }
}
