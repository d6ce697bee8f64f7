import type { Shop, ShopKind } from '@isola/contract';
import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import { api } from '../api/client.ts';

/** The shop's cloths, places, hoops, machines and threads. */
export const useShop = defineStore('shop', () => {
  const shop = shallowRef<Shop>();

  async function load(): Promise<void> {
    shop.value = await api.shop();
  }

  async function remove(kind: ShopKind, id: string): Promise<void> {
    await api.removeFromShop(kind, id);
    await load();
  }

  async function restore(): Promise<void> {
    shop.value = await api.restoreShop();
  }

  return { shop, load, remove, restore };
});
