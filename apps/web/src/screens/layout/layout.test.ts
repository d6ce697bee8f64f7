import { beforeEach, describe, expect, jest, test } from '@jest/globals';
import type { JobDetail, SignOff } from '@isola/contract';
import { defaultTarget, HOOPS, readStitchCsv, type Target, writeStitchCsv, USUAL_RULES } from '@isola/core';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { createEngine } from '../../workers/createEngine.ts';
import { openOn } from '../../workers/testing/openOn.ts';
import { AT, buttonIn, file, job, said, setTheStage, show } from '../testing/onScreens.ts';

// Copies in a hoop, laid by the real engine in this thread; the cloth's picture is drawn in browsers alone.

const held = new Set<number>();
let programs = 0;
jest.unstable_mockModule('../../workers/startWorkers.ts', () => ({
  clothWorker: () => ({
    setProgram: (number: number) => Promise.resolve(void held.add(number)),
    dropProgram: (number: number) => Promise.resolve(void held.delete(number)),
  }),
  startEngine: () => ({ engine: createEngine(), stop: () => undefined }),
  nextProgramNumber: () => ++programs,
}));
jest.unstable_mockModule('../../bench/cloth/ClothView.vue', () => ({
  default: { props: ['label'], template: '<figure :aria-label="label" />' },
}));
const { useBench } = await import('../../stores/bench.ts');
const { useShop } = await import('../../stores/shop.ts');
const { useNotices } = await import('../../stores/notices.ts');
const { default: LayoutScreen } = await import('./LayoutScreen.vue');

setTheStage();
const saved: { name: string; text: string }[] = [];
const targets: Target[] = [];
beforeEach(() => {
  held.clear();
  saved.length = targets.length = 0;
});

/** The screen on a small design, with steps noted and followed. */
async function layOut(more: Partial<Target> = {}, detail: Partial<JobDetail> = {}, stop = false): Promise<VueWrapper> {
  const bench = useBench();
  const engine = createEngine();
  const target = { ...defaultTarget(), hoop: HOOPS[0]!, ...more };
  const opened = await openOn(engine, new TextEncoder().encode(writeStitchCsv(file)), target);
  const findings = stop ? [{ ...opened.now.findings[0]!, severity: 'stop' as const }] : [];
  bench.now = { number: 1, view: { ...opened.now, findings } };
  bench.job = {
    ...job('one'),
    name: 'Gull, small',
    version: 4,
    initialTarget: target,
    base: null,
    journal: [],
    revisions: [],
    signOffs: [],
    ...detail,
  };
  bench.layOut = (layout) => engine.layOut(layout);
  bench.setTarget = (_, next) => {
    targets.push(next);
    bench.now = { number: bench.now!.number + 1, view: { ...bench.now!.view, target: next } };
    return Promise.resolve();
  };
  useShop().shop = { fabrics: [], garments: [], hoops: HOOPS, machines: [], threads: [], layouts: [], rules: USUAL_RULES };
  const screen = await show(LayoutScreen);
  await flushPromises();
  return screen;
}

const type = async (screen: VueWrapper, field: 'numeric' | 'decimal', text: string): Promise<void> => {
  const input = screen.find<HTMLInputElement>(`input[inputmode=${field}]`);
  input.element.value = text;
  await input.trigger('change');
  await flushPromises();
};
const [COPIES, GAP] = ['numeric', 'decimal'] as const;

describe('copies in a hoop', () => {
  test('are as many as fit, said with what a piece and the order take, one by one and together', async () => {
    const screen = await layOut({ quantity: 100 });
    const count = Number(said(screen).split(' in the hoop, no more fit')[0]!.split(' ').at(-1));
    expect(count).toBeGreaterThan(20);
    const rows = screen.findAll('tbody tr').map((row) => [row.find('th').text(), ...row.findAll('td').map((cell) => cell.text())]);
    expect(rows.map(([name]) => name)).toEqual([
      'Machine time for a piece',
      'Thread changes for a piece',
      'Hoops for the order',
      'Machine time, 100 pieces',
    ]);
    expect(rows[2]!.slice(1)).toEqual(['100', String(Math.ceil(100 / count))]);
    expect(said(screen)).toContain('a needle that hits the frame breaks and flies, so wear eye protection');
    expect(screen.find('figure').attributes('aria-label')).toBe(`${count} copies of Gull, small in ${HOOPS[0]!.name}`);
  });

  test('are so many as somebody says, so far apart, with marks; what is no number changes nothing and says so', async () => {
    const screen = await layOut();
    await type(screen, COPIES, '4');
    expect(targets.at(-1)!.layout).toEqual({ copies: 4, gap: 6, hasMarks: false });
    expect(said(screen)).toMatch(/4 in the hoop, \d+ would fit/);
    await type(screen, GAP, '9,5');
    expect(targets.at(-1)!.layout!.gap).toBe(9.5);
    await screen.find('.marks input').trigger('change');
    await flushPromises();
    expect(targets.at(-1)!.layout!.hasMarks).toBe(true);
    await screen.findAll('.marks input')[1]!.trigger('change');
    await flushPromises();
    expect(targets.at(-1)!.layout).toEqual({ copies: 4, gap: 9.5, hasMarks: true, isTurned: true });
    const steps = targets.length;
    for (const [field, text] of [
      [COPIES, '0'],
      [COPIES, '2.5'],
      [COPIES, 'many'],
      [GAP, '-1'],
      [GAP, ''],
    ] as const) {
      await type(screen, field, text);
      expect(useNotices().notice).toMatchObject({ title: 'Nothing was changed' });
    }
    expect(targets).toHaveLength(steps);
    await type(screen, COPIES, '');
    expect(targets.at(-1)!.layout!.copies).toBeNull();
  });

  test('that do not fit are refused in words, with nothing to be taken away; programs that are not shown any more are given back', async () => {
    const screen = await layOut({ layout: { copies: 3, gap: 6, hasMarks: false } });
    expect(held.size).toBe(1);
    await type(screen, COPIES, '9000');
    expect(said(screen.find('p.short'))).toMatch(/fit/);
    expect([held.size, buttonIn(screen.element as ParentNode, /Download/)]).toEqual([0, undefined]);
    await type(screen, COPIES, '2');
    expect(held.size).toBe(1);
    screen.unmount();
    expect(held.size).toBe(0);
  });

  test('leave as a file that reads, but not while something stands against sewing them that nobody signed for', async () => {
    const blobs: Blob[] = [];
    Object.assign(URL, { createObjectURL: (blob: Blob) => (blobs.push(blob), 'blob:copies'), revokeObjectURL: () => undefined });
    const names: string[] = [];
    jest.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (this: HTMLAnchorElement) {
      names.push(this.download);
    });
    const screen = await layOut({ layout: { copies: 3, gap: 6, hasMarks: false } });
    buttonIn(screen.element as ParentNode, /Download CSV/).click();
    expect(names).toEqual(['gull-small-3-up.csv']);
    const read = readStitchCsv(
      await new Promise<string>((resolve) => {
        const reader = new FileReader();
        reader.onload = () => resolve(reader.result as string);
        reader.readAsText(blobs[0]!);
      }),
    );
    expect(read.ok && [...read.value.program.command].filter((c) => c === 0).length).toBeGreaterThanOrEqual(9);
    screen.unmount();
    const held = await layOut({}, {}, true);
    expect(buttonIn(held.element as ParentNode, /Download CSV/)).toHaveProperty('disabled', true);
    expect(said(held)).toContain('Something stands against sewing it');
    held.unmount();
    const signOff: SignOff = { version: 4, who: 'A. Digitizer', reason: 'a sample was sewn', stops: [], createdAt: AT };
    const signed = await layOut({}, { signOffs: [signOff] }, true);
    expect(buttonIn(signed.element as ParentNode, /Download CSV/)).toHaveProperty('disabled', false);
  });
});
