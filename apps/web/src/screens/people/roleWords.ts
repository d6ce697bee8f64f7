import type { Role } from '@isola/contract';

/** What people of each role are called, and what they may do. */
export const ROLE_WORDS: Readonly<Record<Role, { readonly name: string; readonly does: string }>> = {
  owner: { name: 'owner', does: 'may do everything, and says who may come in' },
  digitizer: { name: 'digitizer', does: 'may change designs and the shop, and release' },
  operator: { name: 'operator', does: 'sees what is released, runs the machine, records samples and the board' },
  guest: { name: 'guest', does: 'may look at everything and change nothing' },
};
