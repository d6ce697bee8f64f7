import { flushPromises, mount, type VueWrapper } from '@vue/test-utils';
import { type Component, nextTick } from 'vue';
import { createVuetify } from 'vuetify';
import * as components from 'vuetify/components';
import type { Size, Viewport } from '../cloth/viewport.ts';

/** Waits until what was begun is worked out and shown. */
export async function settled(): Promise<void> {
  for (let k = 0; k < 8; k++) await flushPromises();
  await nextTick();
}

/** A component on the page, with the fields and buttons of the application. */
export function onPage(component: Component, props: Record<string, unknown> = {}): VueWrapper {
  return mount(component, { props, global: { plugins: [createVuetify({ components })] }, attachTo: document.body }) as VueWrapper;
}

/** The first button with such words. @throws where there is none. */
export function buttonIn(within: VueWrapper, words: RegExp): ReturnType<VueWrapper['find']> {
  const found = within.findAll('button').find((button) => words.test(button.text()));
  if (found === undefined) throw new Error(`there is no button ${words.source}`);
  return found;
}

/** What lies over the cloth and takes its pointer: pressed, moved over and let go at places on the cloth (mm), and what keys do there. */
export function onCloth(component: Component, { view, size }: { readonly view: Viewport; readonly size: Size }) {
  const shown = onPage(component, { view, size });
  const svg = shown.find('svg').element as SVGElement;
  Object.assign(SVGElement.prototype, { setPointerCapture: () => undefined });
  svg.getBoundingClientRect = () => new DOMRect(0, 0, size.width, size.height);
  const pixel = (x: number, y: number): { clientX: number; clientY: number } => ({
    clientX: size.width / 2 + (x - view.x) * view.scale,
    clientY: size.height / 2 - (y - view.y) * view.scale,
  });
  const send = async (type: string, x: number, y: number, more: MouseEventInit = {}, target: Element = svg): Promise<void> => {
    target.dispatchEvent(new MouseEvent(type, { bubbles: true, cancelable: true, ...pixel(x, y), ...more }));
    await settled();
  };
  const press = async (key: string, more: KeyboardEventInit = {}, target: EventTarget = svg): Promise<void> => {
    target.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));
    await settled();
  };
  /** From the first place over the others, and let go at the last; one place is a click. */
  const drag = async (places: readonly (readonly [number, number])[], more: MouseEventInit = {}, target: Element = svg): Promise<void> => {
    await send('pointerdown', ...places[0]!, more, target);
    for (const place of places.slice(1)) await send('pointermove', ...place, more, target);
    await send('pointerup', ...places.at(-1)!, more, target);
  };
  return { shown, send, press, drag };
}
