import { defineStore } from 'pinia';
import { ref } from 'vue';
import { ApiError } from '../api/client.ts';

export interface Notice {
  readonly kind: 'good' | 'bad';
  readonly title: string;
  readonly text: string;
}

/** The message at the foot of the window: one at a time, the newest. */
export const useNotices = defineStore('notices', () => {
  const notice = ref<Notice>();

  function say(title: string, text = ''): void {
    notice.value = { kind: 'good', title, text };
  }

  /** Something that has to be known, though nothing failed. */
  function warn(title: string, text: string): void {
    notice.value = { kind: 'bad', title, text };
  }

  function complain(error: unknown): void {
    if (error instanceof ApiError) notice.value = { kind: 'bad', title: error.title, text: error.message };
    else notice.value = { kind: 'bad', title: 'This did not work', text: error instanceof Error ? error.message : String(error) };
  }

  function dismiss(): void {
    notice.value = undefined;
  }

  return { notice, say, warn, complain, dismiss };
});
