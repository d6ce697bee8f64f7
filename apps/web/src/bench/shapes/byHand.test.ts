import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { countNodes, placeOfNode } from '@isola/core';
import { enableAutoUnmount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { choose } from '../testing/choose.ts';
import { buttonIn, onCloth, settled } from '../testing/onPage.ts';
import { snap } from './snap.ts';
import { layTwoFills } from './testing/twoFills.ts';

const { useDrawPad } = await import('../../stores/drawPad.ts');
const { useNodes } = await import('../../stores/nodes.ts');
const { default: DrawPad } = await import('./DrawPad.vue');
const { default: NodeHandles } = await import('./NodeHandles.vue');

enableAutoUnmount(afterEach);
beforeEach(() => void setActivePinia(createPinia()));
afterEach(() => document.body.replaceChildren());

/** A window on the cloth: 10 px a mm, (10, 10) in the middle. */
const CLOTH = { view: { x: 10, y: 10, scale: 10 }, size: { width: 400, height: 400 } };

describe('shapes by hand', () => {
  test('a place is drawn to an end before an edge, and to an edge before an angle; elsewhere it stays where it is', () => {
    const targets = { places: [{ x: 0, y: 0, says: 'the end' }], lines: [Float64Array.of(0, 0, 10, 0)], from: { x: 5, y: 5 } };
    expect(snap(0.3, 0.2, targets, 0.5)).toEqual({ x: 0, y: 0, to: 'the end' });
    expect(snap(4, 0.3, targets, 0.5)).toEqual({ x: 4, y: 0, to: 'an edge' });
    expect(snap(15, 5.2, targets, 0.5)).toEqual({ x: 15, y: 5, to: '0°' });
    expect(snap(9, 7, targets, 0.5)).toEqual({ x: 9, y: 7 });
  });

  test('a shape is drawn by clicks, bent by pulling, closed on its first node, given a hole, tried and sewn; Escape leaves it', async () => {
    const { bench, panel, accepted } = await layTwoFills();
    const pad = useDrawPad();
    const button = (words: RegExp) => buttonIn(panel, words);
    await button(/^Draw$/).trigger('click');
    const { shown, send, press, drag } = onCloth(DrawPad, CLOTH);
    // Far from other edges: alt sets freely.
    for (const [x, y] of [
      [0, 24],
      [8, 24],
      [8, 29],
    ] as const)
      await drag([[x, y]], { altKey: true });
    await drag(
      [
        [0, 29],
        [1, 31],
      ],
      { altKey: true },
    );
    expect(Array.from({ length: 4 }, (_, k) => placeOfNode(pad.nodes, k))).toEqual([
      [0, 24],
      [8, 24],
      [8, 29],
      [0, 29],
    ]);
    expect([placeOfNode(pad.nodes, 3, 'out'), placeOfNode(pad.nodes, 3, 'in')]).toEqual([
      [1, 31],
      [-1, 27],
    ]);
    await press('Backspace');
    expect(pad.nodes).toHaveLength(18);
    await send('pointermove', 0.2, 24.1);
    expect(shown.text()).toContain('on the first node');
    await drag([[0.2, 24.1]]);
    expect(pad.isDrawing).toBe(false);
    expect(bench.trial!.trial.name).toBe('draw: a shape');
    const drawn = bench.trial!.trial.after.objects!.objects.find(({ name }) => name === 'Shape 1')!;
    expect(drawn.kind).toBe('fill');
    await button(/Draw a hole/).trigger('click');
    for (const [x, y] of [
      [4, 25],
      [7, 25],
      [7, 28],
    ] as const)
      await drag([[x, y]], { altKey: true });
    await press('Enter');
    expect(bench.trial!.trial.after.objects!.objects.find(({ name }) => name === 'Shape 1')!.holes).toHaveLength(1);
    choose(panel, 'Sewn as', 'edge-stitch');
    await settled();
    expect(bench.trial!.trial.after.objects!.objects.find(({ name }) => name === 'Shape 1')!.pattern).toBe('edge-stitch');
    await button(/Sew it so/).trigger('click');
    expect(accepted).toEqual(['draw: a shape']);
    // By typed places, without a pointer.
    pad.start('draw', 'line');
    await settled();
    const typed = panel.find('.typed input');
    for (const place of ['0 30', '12,5 −3', 'here'] as const) {
      await typed.setValue(place);
      await panel.find('form.typed').trigger('submit');
    }
    expect(panel.text()).toContain('two numbers in mm');
    expect(Array.from({ length: 2 }, (_, k) => placeOfNode(pad.nodes, k))).toEqual([
      [0, 30],
      [12.5, -3],
    ]);
    await press('Escape');
    expect([pad.isOn, pad.nodes.length]).toEqual([false, 0]);
  });

  test('an object is cut along a drawn line', async () => {
    const { bench, objects, panel } = await layTwoFills();
    objects.select(objects.objects.find(({ role }) => role === 'cover'));
    await settled();
    await buttonIn(panel, /^Cut$/).trigger('click');
    const { press, drag } = onCloth(DrawPad, CLOTH);
    await drag([[-5, 8]], { altKey: true });
    await drag([[25, 12]], { altKey: true });
    await press('Enter');
    expect(bench.trial!.trial.name).toMatch(/^cut: /);
    expect(bench.trial!.trial.after.objects!.objects.filter(({ name, role }) => role === 'cover' && name.endsWith('part 2'))).toHaveLength(
      1,
    );
  });

  test('an edge opens by its nodes: dragged, by keys, more of them, fewer, and put back; what is tried is sewn as one step', async () => {
    const { bench, objects, panel, accepted } = await layTwoFills();
    objects.select(objects.objects.find(({ role }) => role === 'cover'));
    await settled();
    const button = (words: RegExp) => buttonIn(panel, words);
    await button(/^Nodes$/).trigger('click');
    await settled();
    const nodes = useNodes();
    expect(nodes.count).toBeLessThan(14);
    const { shown, drag, press } = onCloth(NodeHandles, CLOTH);
    const before = nodes.lines[0]!;
    const mark = (k: number): Element => shown.findAll('g.node')[k]!.element;
    const [x, y] = placeOfNode(before, 0);
    await drag(
      [
        [x, y],
        [x - 2, y - 2],
      ],
      {},
      mark(0),
    );
    expect(placeOfNode(nodes.lines[0]!, 0)).toEqual([expect.closeTo(x - 2, 2), expect.closeTo(y - 2, 2)]);
    expect(bench.trial!.trial.name).toMatch(/^nodes: /);
    expect(bench.trial!.trial.pairs!.stitches[1]).not.toBe(bench.trial!.trial.pairs!.stitches[0]);
    expect(shown.findAll('path.ghost')).toHaveLength(nodes.lines.length);
    await press('ArrowRight', { shiftKey: true }, mark(1));
    expect(placeOfNode(nodes.lines[0]!, 1)[0]).toBeCloseTo(placeOfNode(before, 1)[0] + 1, 6);
    await button(/Add after it/).trigger('click');
    await settled();
    expect(countNodes(nodes.lines[0]!)).toBe(countNodes(before) + 1);
    for (const words of [/Smooth/, /Straight/, /^Delete$/]) await button(words).trigger('click');
    await settled();
    expect(countNodes(nodes.lines[0]!)).toBe(countNodes(before));
    await button(/Pick all/).trigger('click');
    await button(/^Delete$/).trigger('click');
    expect(panel.text()).toContain('too few nodes would be left');
    await button(/Step back/).trigger('click');
    expect(nodes.lines[0]).toEqual(before);
    await press('ArrowUp', {}, mark(2));
    await button(/Sew it so/).trigger('click');
    await settled();
    expect(accepted).toEqual([expect.stringMatching(/^nodes: /)]);
    await button(/^Nodes$/).trigger('click');
    expect([nodes.isOn, nodes.lines.length]).toEqual([false, 0]);
  });
});
