import type { Connector } from '@isola/core';

/** How the needle gets from one object to the next, in words. */
export const HOWS: Readonly<Record<Connector['how'], string>> = {
  carry: 'carried over',
  hidden: 'hidden path',
  open: 'path in the open',
  jump: 'jump, thread uncut',
  trim: 'cut',
};
