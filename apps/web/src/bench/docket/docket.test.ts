import { beforeEach, describe, expect, jest, test } from '@jest/globals';
import type { Finding } from '@isola/core';
import { flushPromises } from '@vue/test-utils';
import { parse } from 'csv-parse/browser/esm/sync';
import { button, inBody, layOnBench, press, setTheStage, show, words } from '../testing/stage.ts';
import DocketHead from './DocketHead.vue';
import KeepForm from './KeepForm.vue';

beforeEach(setTheStage);

describe('the head of the docket', () => {
  test('weighs repair against anew, asks for a plan, and saves the audit as table and data that other programs read', async () => {
    const bench = await layOnBench();
    const head = show(DocketHead, { isBusy: false });
    expect(words(head)).toMatch(/(Repair|Digitize anew): about \d+ min/);
    expect(words(head)).toContain('Minutes are estimates.');
    await button(head, /^Plan the repair/).trigger('click');
    await button(head, /^What costs nothing/).trigger('click');
    expect(Object.keys(head.emitted())).toEqual(expect.arrayContaining(['plan', 'free']));

    const saved: { name: string; content: string }[] = [];
    const [made, blobs] = [jest.spyOn(HTMLAnchorElement.prototype, 'click'), [] as Blob[]];
    URL.createObjectURL = (blob) => `blob:${blobs.push(blob as Blob) - 1}`;
    URL.revokeObjectURL = () => undefined;
    made.mockImplementation(function (this: HTMLAnchorElement) {
      saved.push({ name: this.download, content: this.href });
    });
    await button(head, /^Save$/).trigger('click');
    await flushPromises();
    for (const title of [/Table/, /Data/])
      inBody('.v-list-item')
        .find((item) => title.test(item.textContent))!
        .click();
    expect(saved.map(({ name }) => name)).toEqual(['audit-audit.csv', 'audit-audit.json']);
    const texts = await Promise.all(blobs.map(readBlob));
    const rows = parse<Record<string, string>>(texts[0]!, { columns: true });
    expect(rows.map((row) => row['rule'])).toEqual(bench.openFindings.map(({ rule }) => rule));
    const data = JSON.parse(texts[1]!) as { findings: { rule: string }[]; totals: { findings: number } };
    expect([data.findings.length, data.totals.findings]).toEqual([rows.length, rows.length]);
    made.mockRestore();
  });

  test('does nothing while something else is worked out', async () => {
    await layOnBench();
    const head = show(DocketHead, { isBusy: true });
    expect([/^Plan the repair/, /^What costs nothing/].map((text) => (button(head, text).element as HTMLButtonElement).disabled)).toEqual([
      true,
      true,
    ]);
  });
});

function readBlob(blob: Blob): Promise<string> {
  return new Promise((resolve) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.readAsText(blob);
  });
}

describe('keeping a finding', () => {
  const finding = (places: number): Finding => ({
    ...{ key: 'tiny-stitch', rule: 'tiny-stitch', unit: 'mm', severity: 'fix', measured: 0.2, limit: 0.4, rows: [1], first: 1, last: 1 },
    ...{ at: { x: 0, y: 0 }, objects: [], message: 'm', reason: 'r', cost: { seconds: 0, stitches: 0 } },
    places: Array.from({ length: places }, (_, k) => ({ key: String(k), x: k, y: 0 })),
  });

  test('takes a reason that is said often or one of its own, and says for which places it is', async () => {
    const form = show(KeepForm, { finding: finding(3) });
    expect(words(form)).toContain('At all 3 places as they are now; new ones will be found.');
    const keep = (): HTMLButtonElement => button(form, /^Keep it$/).element as HTMLButtonElement;
    expect(keep().disabled).toBe(true);
    await form.trigger('submit');
    expect(form.emitted('keep')).toBeUndefined();
    await button(form, /^Sewn before/).trigger('click');
    expect(button(form, /^Sewn before/).attributes('aria-pressed')).toBe('true');
    await form.trigger('submit');
    await form.find('textarea').setValue('  The sample was passed.  ');
    await form.trigger('submit');
    expect(form.emitted('keep')).toEqual([['Sewn before and sewed well'], ['The sample was passed.']]);
    await form.find('textarea').setValue('   ');
    expect(keep().disabled).toBe(true);
  });

  test('is left by key or button with nothing kept; of one place nothing is said of the others that is not so', async () => {
    const form = show(KeepForm, { finding: finding(2), place: '1' });
    expect(words(form)).toContain('At the one place that is chosen; the others stay open.');
    press('Escape', {}, form.element as HTMLElement);
    await button(form, /^Cancel/).trigger('click');
    expect(form.emitted('close')).toHaveLength(2);
    expect(form.emitted('keep')).toBeUndefined();
    expect(words(show(KeepForm, { finding: finding(1) }))).not.toMatch(/places/);
  });
});
