import { defineStore } from 'pinia';
import { hasInjectionContext, inject, type InjectionKey, provide } from 'vue';

const DOCUMENT: InjectionKey<string> = Symbol('document');
/** The document of whatever stands in no bench of its own. */
const MAIN = 'main';

/** What stands inside the calling component speaks of this document: each name has its own job, selection and way of looking. */
export function provideDocument(document = MAIN): string {
  provide(DOCUMENT, document);
  return document;
}

/**
 * A store that there is once for each document on the bench. Components get that of the document they stand in; a store that is built on
 * others passes its document on.
 */
export function defineDocumentStore<S extends object>(name: string, setup: (document: string) => S) {
  const define = (document: string) => defineStore(`${name} of ${document}`, () => setup(document));
  const stores = new Map<string, ReturnType<typeof define>>();
  return (document = hasInjectionContext() ? inject(DOCUMENT, MAIN) : MAIN) => {
    const useStore = stores.get(document) ?? define(document);
    stores.set(document, useStore);
    return useStore();
  };
}
