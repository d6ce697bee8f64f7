import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import {
  applyOperation,
  changesSinceFile,
  defaultTarget,
  type Design,
  drawShapes,
  nodesAt,
  ProgramBuilder,
  readShapeAsk,
  startDesign,
} from '@isola/core';
import { enableAutoUnmount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { onPage, settled } from '../../bench/testing/onPage.ts';
import '../../workers/testing/quietWorkers.ts';

const { default: WhatDiffers } = await import('./WhatDiffers.vue');
const { default: DrawAnew } = await import('../jobs/DrawAnew.vue');

enableAutoUnmount(afterEach);
beforeEach(() => void setActivePinia(createPinia()));
afterEach(() => document.body.replaceChildren());
/** Two runs in two threads. */
function twoRuns(): Design {
  const out = new ProgramBuilder().color('#1f4e5f', 'Harbor').jump(0, 0);
  for (let k = 0; k <= 12; k++) out.stitch(k * 2.5, 0);
  out.trim().color('#c08020', 'Straw').jump(0, 10);
  for (let k = 0; k <= 12; k++) out.stitch(k * 2.5, 10);
  return startDesign(out.trim().end().build(), defaultTarget());
}

describe('what differs from the file as it came', () => {
  test('is said object by object; nothing is said so, and each leads to its place', async () => {
    let design = twoRuns();
    const list = () => onPage(WhatDiffers, { changes: changesSinceFile(design.plan), than: 'the file as it came' });
    const same = list();
    await settled();
    expect(same.text()).toContain('No object differs');
    const asked = readShapeAsk('draw', { form: 'line', lines: [nodesAt([0, 20, 20, 20])], name: 'Stem' });
    const drawn = asked.ok ? drawShapes(design, asked.value, () => `made ${Math.random()}`) : asked;
    if (!drawn.ok) throw new Error(drawn.error);
    const [first] = design.plan.blocks[0]!.objects;
    const named = applyOperation(drawn.value.design, { id: 'rename-object', object: first!, name: 'Keel' });
    if (!named.ok) throw new Error(named.error);
    design = named.value;
    const shown = list();
    await settled();
    expect(shown.text().replace(/\s+/g, ' ')).toContain('What differs 1');
    expect(shown.findAll('li').map((row) => row.text())).toEqual(['Stem drawn here']);
    await shown.find('li button').trigger('click');
    expect(shown.emitted('look')).toEqual([[changesSinceFile(design.plan)[0]!.object]]);
  });
});

describe('a job that is drawn from nothing', () => {
  test('takes a name, and comes in as a blank sheet of that name', async () => {
    const begun = onPage(DrawAnew);
    await begun.find('button').trigger('click');
    await settled();
    const field = document.body.querySelector<HTMLInputElement>('.v-dialog input')!;
    const form = document.body.querySelector<HTMLFormElement>('.v-dialog form')!;
    form.dispatchEvent(new Event('submit', { cancelable: true }));
    await settled();
    expect(begun.emitted('take')).toBeUndefined();
    field.value = '  Regatta ';
    field.dispatchEvent(new Event('input'));
    await settled();
    form.dispatchEvent(new Event('submit', { cancelable: true }));
    await settled();
    const [file] = begun.emitted('take')![0] as [File];
    expect([file.name, file.size > 0]).toEqual(['Regatta.csv', true]);
  });
});
