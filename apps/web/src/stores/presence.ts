import type { Presence } from '@isola/contract';
import { onBeforeUnmount, onMounted, type Ref, shallowRef, watch } from 'vue';
import { api } from '../api/client.ts';
import { listen } from '../api/listen.ts';

/** So often (ms) a window says that it still has a job open. */
const STILL_HERE = 20_000;
/** Changes that come together are asked about once. */
const SOON = 150;

/** Says that this window has a job open, at a stage, and gives the other windows that have. What cannot be said is no fault: the next time will do. */
export function usePresence(jobId: Ref<string>, stage: Ref<string>): Ref<readonly Presence[]> {
  const page = crypto.randomUUID();
  const others = shallowRef<readonly Presence[]>([]);
  let soon: ReturnType<typeof setTimeout> | undefined;
  let isGone = false;

  async function take(asked: Promise<Presence[]>, of: string): Promise<void> {
    const all = await asked.catch(() => undefined);
    if (all !== undefined && !isGone && of === jobId.value) others.value = all.filter((one) => one.page !== page);
  }
  const come = (): void => void take(api.come(jobId.value, page, stage.value), jobId.value);
  const look = (): void => void take(api.presences(jobId.value), jobId.value);
  const leave = (id: string): void => void api.leave(id, page).catch(() => undefined);
  const leaveNow = (): void => leave(jobId.value);

  const hearPresence = (): void => {
    clearTimeout(soon);
    soon = setTimeout(look, SOON);
  };
  const hearOf = (job: string): (() => void) => listen({ job, hear: () => undefined, lookAgain: come, hearPresence });
  let stop = hearOf(jobId.value);
  const timer = setInterval(come, STILL_HERE);
  watch(jobId, (_, before) => {
    leave(before);
    others.value = [];
    stop();
    stop = hearOf(jobId.value);
  });
  watch([jobId, stage], come);
  onMounted(() => {
    come();
    window.addEventListener('pagehide', leaveNow);
  });
  onBeforeUnmount(() => {
    isGone = true;
    window.removeEventListener('pagehide', leaveNow);
    clearInterval(timer);
    clearTimeout(soon);
    stop();
    leaveNow();
  });
  return others;
}
