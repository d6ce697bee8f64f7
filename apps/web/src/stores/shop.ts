import type { Shop, ShopChange, ShopKind, ShopSignature } from '@isola/contract';
import type { ShopRules } from '@isola/core';
import { defineStore } from 'pinia';
import { ref, shallowRef, watch } from 'vue';
import { api } from '../api/client.ts';

/** Under this the browser keeps the name of who changes something, so that it is asked once. */
const WHO_KEY = 'isola.who';

/** The shop's cloths, places, hoops, machines and threads, its rulebook, and who changed what. */
export const useShop = defineStore('shop', () => {
  const shop = shallowRef<Shop>();
  /** The last changes, the latest first; none before they are asked for. */
  const changes = shallowRef<readonly ShopChange[]>();
  const who = ref(localStorage.getItem(WHO_KEY) ?? '');
  watch(who, (name) => localStorage.setItem(WHO_KEY, name.trim()));

  const sign = (why: string): ShopSignature => ({ who: who.value.trim(), why: why.trim() });

  async function load(): Promise<void> {
    shop.value = await api.shop();
  }

  async function loadChanges(): Promise<void> {
    changes.value = await api.shopChanges();
  }

  /** What the shop is after a change; its changes are asked for anew where somebody has them in view. */
  async function take(changed: Promise<Shop>): Promise<void> {
    shop.value = await changed;
    if (changes.value !== undefined) await loadChanges();
  }

  const put = (kind: ShopKind, record: object & { id: string }, was: object | null, why: string): Promise<void> =>
    take(api.putInShop(kind, record.id, { record, was, ...sign(why) }));
  const putRules = (record: ShopRules, why: string): Promise<void> => take(api.putRules({ record, ...sign(why) }));
  const remove = (kind: ShopKind, id: string, why: string): Promise<void> => take(api.removeFromShop(kind, id, sign(why)));
  const restore = (): Promise<void> => take(api.restoreShop(sign('')));
  const undo = (id: string): Promise<void> => take(api.undoShopChange(id, sign('')));

  return { shop, changes, who, load, loadChanges, put, putRules, remove, restore, undo };
});
