import type { Person, Role, Session } from '@isola/contract';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { api, hearSignedOut } from '../api/client.ts';
import { hearOut } from '../api/listen.ts';
import { useShop } from './shop.ts';

/** Who is here, where the server asks for that; where it does not, everybody may do everything. */
export const useSession = defineStore('session', () => {
  const hasAccounts = ref(false);
  const person = shallowRef<Person>();
  /** Whether it is known who is here. */
  const isKnown = ref(false);
  const mustSignIn = computed(() => hasAccounts.value && person.value === undefined);
  const role = computed<Role>(() => person.value?.role ?? 'owner');
  /** Whether who is here changes designs, and the shop. */
  const mayEdit = computed(() => role.value === 'owner' || role.value === 'digitizer');
  const mayOperate = computed(() => mayEdit.value || role.value === 'operator');

  function take(session: Session): void {
    hasAccounts.value = session.hasAccounts;
    person.value = session.person ?? undefined;
    isKnown.value = true;
    // What is signed is signed with the name of the account; the server sees to that, too.
    if (session.person !== null) useShop().who = session.person.name;
  }

  async function load(): Promise<void> {
    try {
      take(await api.session());
    } catch {
      // What cannot be asked now is asked with the first request that is refused.
      isKnown.value = true;
    }
  }
  const beOut = (): void => {
    hasAccounts.value = true;
    person.value = undefined;
  };
  hearSignedOut(beOut);
  hearOut(beOut);

  const signIn = async (name: string, password: string): Promise<void> => take(await api.signIn(name, password));
  const join = async (token: string, name: string, password: string): Promise<void> => take(await api.join(token, name, password));
  async function signOut(isEverywhere = false): Promise<void> {
    await (isEverywhere ? api.signOutEverywhere() : api.signOut());
    person.value = undefined;
  }

  return { hasAccounts, person, isKnown, mustSignIn, role, mayEdit, mayOperate, load, signIn, join, signOut };
});
