import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { enableAutoUnmount } from '@vue/test-utils';
import { defineComponent, h, nextTick, ref } from 'vue';
import * as components from 'vuetify/components';
import { ACTIONS, actionOf, keyLines } from './actions.ts';
import { type DocketKeys, useBenchKeys } from './useBenchKeys.ts';
import { inBody, layOnBench, press, setTheStage, show } from './testing/stage.ts';
import { useViewing } from '../stores/viewing.ts';

enableAutoUnmount(afterEach);
beforeEach(setTheStage);

describe('keys', () => {
  async function withKeys() {
    const bench = await layOnBench();
    const done: string[] = [];
    const note = (what: string) => (): void => void done.push(what);
    const docket: DocketKeys = {
      ...{ step: (by) => done.push(`step ${by}`), attempt: note('try'), accept: note('accept'), keep: note('keep') },
      ...{ plan: note('plan'), free: note('free') },
    };
    const zoomBy = (factor: number): void => void done.push(factor > 1 ? 'nearer' : 'farther');
    const Host = defineComponent({
      setup: () => useBenchKeys({ fit: note('fit'), zoomBy, docket: () => docket }),
      render: () => h('div', [h('input', { id: 'field' }), h('button', { id: 'other' })]),
    });
    return { bench, done, host: show(Host) };
  }

  test('reach the docket, the cloth and the views', async () => {
    const { done } = await withKeys();
    for (const key of ['n', 'p', 't', 'k', 'r', 'f', '0', '+', '=', '-']) expect(press(key).defaultPrevented).toBe(true);
    expect(done).toEqual(['step 1', 'step -1', 'try', 'keep', 'plan', 'free', 'fit', 'nearer', 'nearer', 'farther']);
    const views = ['2', '3', '4', '1'].map((key) => (press(key), useViewing().kind));
    expect(views).toEqual(['penetrations', 'cover', 'paths', 'thread']);
    expect(press('x').defaultPrevented).toBe(false);
    expect(press('n', { ctrlKey: true }).defaultPrevented).toBe(false);
  });

  test('are each for one action, and the sheet of keys has a line for every one of them', () => {
    const pressed = ACTIONS.flatMap(({ keys }) => keys.map((k) => JSON.stringify(k)));
    expect(new Set(pressed).size).toBe(pressed.length);
    for (const { id, keys } of ACTIONS)
      for (const { key, alt = false, shift = false, control = false } of keys)
        expect(actionOf(new KeyboardEvent('keydown', { key, altKey: alt, shiftKey: shift, ctrlKey: control }))).toBe(id);
    const lines = keyLines();
    expect(lines.map(({ keys }) => keys)).toEqual(expect.arrayContaining(['← →', '1 2 3 4 5 6 7', 'A C U V', 'Ctrl Z, Ctrl Shift Z', '?']));
    for (const { label, says } of ACTIONS) expect(lines.find((line) => line.says === says)!.keys).toContain(label);
  });

  test('reach objects on the screen that has them, and step back to none selected', async () => {
    await layOnBench();
    const done: string[] = [];
    const note =
      (what: string) =>
      (...by: unknown[]): void =>
        void done.push([what, ...by].join(' '));
    const objects = {
      step: note('step'),
      show: note('show'),
      join: note('join'),
      split: note('split'),
      order: note('order'),
      clear: note('clear'),
    };
    show(
      defineComponent({
        setup: () => useBenchKeys({ fit: note('fit'), zoomBy: note('zoom'), objects }),
        render: () => h('div'),
      }),
    );
    for (const key of ['a', 'c', 'u', 'v', 'j', 's', 'o']) expect(press(key).defaultPrevented).toBe(true);
    press('ArrowRight', { altKey: true });
    press('ArrowLeft', { altKey: true });
    expect(done).toEqual(['show all', 'show cover', 'show underlay', 'show travel', 'join', 'split', 'order', 'step 1', 'step -1']);
    expect(useViewing().time).toBeUndefined();
    press('ArrowLeft');
    expect(useViewing().time).toBeDefined();
    press('Escape');
    expect([useViewing().time, done.length]).toEqual([undefined, 9]);
    press('Escape');
    expect(done[9]).toBe('clear');
    for (const key of ['n', 't', 'k']) expect(press(key).defaultPrevented).toBe(false);
    expect([press('5'), press('6')].map(() => useViewing().kind)).toEqual(['layers', 'layers']);
  });

  test('step through stitches: one, ten, and to where the needle went in anew', async () => {
    const { bench } = await withKeys();
    const { done, program } = bench.now!.view;
    press('ArrowLeft');
    expect(useViewing().time).toBe(done[program.rowCount - 2]);
    press('ArrowLeft', { altKey: true });
    const start = bench.upTo - 1;
    expect([program.command[start - 1], program.command[start]]).toEqual([1, 0]);
    press('ArrowLeft', { altKey: true });
    expect(bench.upTo - 1).toBeLessThan(start);
    press('ArrowRight', { altKey: true });
    expect(bench.upTo - 1).toBe(start);
    press('ArrowRight');
    const row = bench.upTo;
    press('ArrowRight', { shiftKey: true });
    expect(bench.upTo - row).toBe(10);
    for (let k = 0; k < 40; k++) press('ArrowRight', { shiftKey: true });
    expect(useViewing().time).toBeUndefined();
  });

  test('Escape steps back once at a time: the replay, the trial, the time, the finding', async () => {
    const { bench, done } = await withKeys();
    useViewing().selected = bench.openFindings.find((f) => f.fix !== undefined)!.key;
    await bench.tryRepairs([useViewing().selected!]);
    press('Enter');
    expect(done).toEqual(['accept']);
    useViewing().time = 3;
    press(' ');
    const states: unknown[] = [];
    for (let k = 0; k < 4; k++) {
      press('Escape');
      states.push([useViewing().isPlaying, bench.trial === undefined, useViewing().time, useViewing().selected === undefined]);
    }
    expect(states).toEqual([
      [false, false, 3, false],
      [false, true, 3, false],
      [false, true, undefined, false],
      [false, true, undefined, true],
    ]);
    press('Enter');
    expect(done).toEqual(['accept']);
  });

  test('belong to fields and to dialogs while these are open, and come back as soon as a dialog begins to close', async () => {
    const { bench, done, host } = await withKeys();
    press('n', {}, host.find('#field').element);
    expect(done).toEqual([]);
    await bench.tryRepairs([bench.openFindings.find((f) => f.fix !== undefined)!.key]);
    // What is being tried is made from wherever the focus is, but by buttons that would do something else, and by a field that is typed in.
    const [other, field] = [host.find('#other').element, host.find<HTMLInputElement>('#field').element];
    press('Enter', {}, other);
    press('Enter', {}, field);
    expect(done.splice(0)).toEqual(['accept', 'accept']);
    other.setAttribute('data-own-enter', '');
    press('Enter', {}, other);
    field.dispatchEvent(new Event('input', { bubbles: true }));
    press('Enter', {}, field);
    expect(done).toEqual([]);
    field.dispatchEvent(new Event('change', { bubbles: true }));
    press('Enter', {}, field);
    expect(done).toEqual(['accept']);
    press('Escape', {}, field);
    expect(bench.trial).toBeUndefined();
    const isOpen = ref(true);
    const Dialog = defineComponent({
      render: () => h(components.VDialog, { modelValue: isOpen.value }, () => h('button', { id: 'within' }, 'x')),
    });
    show(Dialog);
    await nextTick();
    const within = inBody('#within')[0]!;
    press('2', {}, within);
    expect(useViewing().kind).toBe('thread');
    isOpen.value = false;
    await nextTick();
    // The browser keeps the focus in a dialog while it fades out.
    expect(within.isConnected).toBe(true);
    press('2', {}, within);
    expect(useViewing().kind).toBe('penetrations');
  });
});
