import { type Ref, ref } from 'vue';
import { useNotices } from './notices.ts';

/** Does what somebody asked for, one thing at a time where `isBusy` says so; what goes wrong is said. */
export function useAct(): { readonly isBusy: Ref<boolean>; readonly act: (what: () => Promise<unknown>) => Promise<void> } {
  const isBusy = ref(false);
  const notices = useNotices();
  async function act(what: () => Promise<unknown>): Promise<void> {
    isBusy.value = true;
    try {
      await what();
    } catch (error) {
      notices.complain(error);
    } finally {
      isBusy.value = false;
    }
  }
  return { isBusy, act };
}
