import { defaultTarget, type Operation, ProgramBuilder, type Target, writeStitchCsv } from '@isola/core';
import { type DOMWrapper, mount, type VueWrapper } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { type Component } from 'vue';
import { createMemoryHistory, createRouter } from 'vue-router';
import { createVuetify } from 'vuetify';
import * as components from 'vuetify/components';
import { useBench } from '../../stores/bench.ts';
import { createEngine } from '../../workers/createEngine.ts';
import type { EngineApi } from '../../workers/protocol.ts';
import { openOn } from '../../workers/testing/openOn.ts';

export const TAPE_WIDTH = 1002;
export const stepped: { name: string; operation: Operation }[] = [];
let engine: EngineApi;

function twoFaults(): Uint8Array {
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor').jump(0, 0).stitch(0, 0).stitch(0.7, 0).stitch(0, 0).stitch(0.7, 0);
  for (let k = 0; k < 60; k++) builder.stitch(2 + (k % 2) * 3, k * 0.4);
  builder.trim().jump(5.6, 24).stitch(5.6, 24).stitch(6.3, 24).stitch(5.6, 24).stitch(6.3, 24);
  for (let k = 0; k < 60; k++) builder.stitch(8 + (k % 2) * 3, 24 - k * 0.4);
  builder.stitch(24, 4).stitch(27, 4).stitch(26.3, 4).stitch(27, 4).stitch(26.3, 4);
  return new TextEncoder().encode(writeStitchCsv(builder.trim().end().build()));
}

/** Puts a design on the bench as a loaded job is, with the steps that are made noted instead of sent. */
export async function layOnBench(target: Target = defaultTarget()): Promise<ReturnType<typeof useBench>> {
  const bench = useBench();
  engine = createEngine();
  const opened = await openOn(engine, twoFaults(), target);
  bench.now = { number: 1, view: opened.now };
  bench.before = { number: 2, view: opened.before! };
  bench.perform = (name, operation) => {
    stepped.push({ name, operation });
    return Promise.resolve(true);
  };
  bench.tryRepairs = async (keys) => {
    const trial = await engine.tryRepairs(keys);
    if (trial === undefined || 'why' in trial) return false;
    bench.trial = { shown: { number: 3, view: trial.after }, trial, keys };
    return true;
  };
  bench.tryPlan = async (request, upTo) => {
    const trial = await engine.planRepairs(request, upTo);
    bench.trial = { shown: { number: 3, view: trial.after }, trial, keys: [] };
    return trial.plan;
  };
  bench.dropTrial = () => (bench.trial = undefined);
  bench.acceptTrial = () => bench.perform('accepted', bench.trial!.trial.operation);
  bench.keepFinding = async (finding, reason) => {
    const places = finding.places.map(({ key }) => key);
    await bench.perform(reason, { id: 'keep-finding', places, rule: finding.rule, title: finding.message, reason });
  };
  bench.setTarget = async (name, to) => {
    await bench.perform(name, { id: 'set-target', target: to });
  };
  return bench;
}

export function show(component: Component, props: Record<string, unknown> = {}): VueWrapper {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: ['', 'compare', 'audit', 'rework', 'jobs'].map((name) => ({ name, path: `/${name}`, component: { render: () => null } })),
  });
  const plugins = [createVuetify({ components }), router];
  return mount(component, { props, global: { plugins }, attachTo: document.body }) as VueWrapper;
}

/** The text of a part as it is read: what stands in elements of their own is apart. */
export function words(of: { element: Node }): string {
  const walker = document.createTreeWalker(of.element, NodeFilter.SHOW_TEXT);
  const texts: string[] = [];
  while (walker.nextNode()) texts.push(walker.currentNode.textContent ?? '');
  return texts.join(' ').replace(/\s+/g, ' ').trim();
}
export const inBody = (selector: string): HTMLElement[] => [...document.body.querySelectorAll<HTMLElement>(selector)];
export const button = (of: VueWrapper, text: RegExp): DOMWrapper<Element> => of.findAll('button').find((b) => text.test(b.text()))!;
export const press = (key: string, more: KeyboardEventInit = {}, on: EventTarget = window): KeyboardEvent => {
  const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more });
  on.dispatchEvent(event);
  return event;
};

/** Before each test a fresh stage: stores, an empty page, a tape of {@link TAPE_WIDTH} px, and what this page has no layout for. */
export function setTheStage(): void {
  setActivePinia(createPinia());
  stepped.length = 0;
  document.body.innerHTML = '';
  globalThis.ResizeObserver = class {
    private readonly say: ResizeObserverCallback;
    constructor(say: ResizeObserverCallback) {
      this.say = say;
    }
    observe(target: Element): void {
      const contentRect = { width: TAPE_WIDTH, height: 70 } as DOMRectReadOnly;
      this.say([{ target, contentRect } as ResizeObserverEntry], this);
    }
    unobserve(): void {}
    disconnect(): void {}
  };
  HTMLCanvasElement.prototype.getContext = (() =>
    new Proxy({}, { get: () => () => undefined, set: () => true })) as unknown as HTMLCanvasElement['getContext'];
  Element.prototype.setPointerCapture = () => undefined;
  Element.prototype.scrollIntoView = () => undefined;
}
