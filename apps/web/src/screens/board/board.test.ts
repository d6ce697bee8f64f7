import { describe, expect, jest, test } from '@jest/globals';
import type { Board, JobSummary, Shop } from '@isola/contract';
import { type BoardPlan, defaultTarget, EMPTY_BOARD, MACHINES, planLanes, runLanes } from '@isola/core';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { ApiError } from '../../api/client.ts';
import { buttonIn, click, figures, job, said, setTheStage, SHOP, show, stage } from '../testing/onScreens.ts';
import { sayDifference, sayLate } from './sayBoard.ts';

// The worker plans in the page itself here.
globalThis.Worker = class {
  terminate(): void {}
} as unknown as typeof Worker;
jest.unstable_mockModule('comlink', () => ({
  wrap: () => ({ planLanes: (...args: Parameters<typeof planLanes>) => Promise.resolve(planLanes(...args)) }),
}));

const { useBoard } = await import('../../stores/board.ts');
const { useNotices } = await import('../../stores/notices.ts');
const { default: BoardScreen } = await import('./BoardScreen.vue');

jest.useFakeTimers({ now: new Date(2026, 10, 30, 8, 0), doNotFake: ['nextTick', 'queueMicrotask', 'setTimeout', 'setImmediate'] });
setTheStage();

const uuid = (k: number): string => `00000000-0000-4000-8000-00000000000${k}`;
const day = (k: number): string => `2026-12-0${k}`;
/** Orders of so many hours on one head, due at the end of so many days. */
function order(k: number, hours: number, due: string | null): JobSummary {
  const target = { ...defaultTarget(), quantity: Math.max(1, Math.round(hours * 60)) };
  // Half a minute to change the hoop, but before the first piece.
  const seconds = 30 + 30 / (hours * 60);
  const now = { ...figures, run: { ...figures.run, seconds, sewing: seconds } };
  return job(uuid(k), { name: `Order ${k}`, due, target, now, before: now });
}

/** A server with a board that it keeps; `elsewhere`: another page writes first. */
function serve(orders: readonly JobSummary[], machines = MACHINES) {
  const kept = { board: { version: 0, plan: { ...EMPTY_BOARD, hooping: 0 } } as Board, elsewhere: false };
  const shop: Shop = { ...SHOP, machines };
  stage.answers = (method, path, body) => {
    if (path === '/jobs') return orders;
    if (path === '/shop') return shop;
    if (path !== '/board' || method === 'GET') return kept.board;
    const { version, plan } = body as { version: number; plan: BoardPlan };
    if (kept.elsewhere || version !== kept.board.version) {
      kept.board = { version: kept.board.version + 1, plan: { ...kept.board.plan, hooping: 2 } };
      throw new ApiError(409, 'Changed elsewhere', 'The board was changed by somebody else.');
    }
    return (kept.board = { version: version + 1, plan });
  };
  return kept;
}

async function onBoard(): Promise<VueWrapper> {
  const screen = await show(BoardScreen);
  await flushPromises();
  return screen;
}
const lane = (screen: VueWrapper, k: number) => screen.findAll('.lane')[k]!;
const names = (screen: VueWrapper, k: number): string[] =>
  lane(screen, k)
    .findAll('.bar b')
    .map((b) => b.text());
const press = async (screen: VueWrapper, name: string, key: string): Promise<void> => {
  await screen.find(`[data-order="${uuid(Number(name.at(-1)))}"]`).trigger('keydown', { key });
  await flushPromises();
};

describe('the week on screen', () => {
  test('plans orders by arrow keys: to a machine, along it, to another, off the plan; what is late is said', async () => {
    const server = serve([order(1, 6, day(1)), order(2, 10, day(1)), order(3, 2, null)]);
    const screen = await onBoard();
    expect(screen.findAll('.waiting li')).toHaveLength(3);
    await press(screen, 'Order 1', 'ArrowDown');
    await press(screen, 'Order 2', 'ArrowDown');
    expect(names(screen, 0)).toEqual(['Order 1', 'Order 2']);
    // 16 hours of work from Monday at eight, due on Tuesday at half past four: 17 hours.
    expect(said(lane(screen, 0))).toMatch(/Order 1done .*30 Nov, 14:00.*Order 2done .*1 Dec, 15:30/);
    expect(said(screen.find('header'))).toContain('nothing late');
    await press(screen, 'Order 3', 'ArrowDown');
    await press(screen, 'Order 3', 'ArrowLeft');
    expect(names(screen, 0)).toEqual(['Order 1', 'Order 3', 'Order 2']);
    expect(said(screen.find('header'))).toContain('1 order late, 1 h 00 in all');
    expect(said(lane(screen, 0).find('.late'))).toContain('1 h 00 late');
    await press(screen, 'Order 3', 'ArrowDown');
    expect([names(screen, 0), names(screen, 1)]).toEqual([['Order 1', 'Order 2'], ['Order 3']]);
    await press(screen, 'Order 3', 'Delete');
    expect(screen.findAll('.waiting li')).toHaveLength(1);
    expect(server.board.plan.lanes).toEqual({ [MACHINES[0]!.id]: [uuid(1), uuid(2)], [MACHINES[1]!.id]: [] });
    await click(screen, /Take the last change back/);
    expect(names(screen, 1)).toEqual(['Order 3']);
  });

  test('shows orders of a minute beside each other, none over another', async () => {
    serve([order(1, 0.02, null), order(2, 0.02, null), order(3, 8, null)]);
    const screen = await onBoard();
    for (const k of [1, 2, 3]) await press(screen, `Order ${k}`, 'ArrowDown');
    const bars = screen
      .findAll<HTMLElement>('.bar')
      .map(({ element: { style } }) => [parseFloat(style.left), parseFloat(style.width)] as const);
    expect(bars).toHaveLength(3);
    bars.slice(1).forEach(([left], k) => expect(left).toBeGreaterThanOrEqual(bars[k]![0] + bars[k]![1]));
  });

  test('says what dropping makes late before it is let go, and drops there', async () => {
    serve([order(1, 6, day(1)), order(2, 12, day(1))]);
    const screen = await onBoard();
    await press(screen, 'Order 1', 'ArrowDown');
    await screen.find(`[data-order="${uuid(2)}"]`).trigger('dragstart');
    const strip = lane(screen, 0).find('.strip');
    await strip.trigger('dragover', { clientX: 4000 });
    expect(said(screen.find('.preview'))).toMatch(/Order 2: done .*2 Dec, 09:00\. Order 2 1 h 00 late/);
    expect(screen.find('.preview').classes()).toContain('bad');
    await strip.trigger('drop', { clientX: 4000 });
    await flushPromises();
    expect(names(screen, 0)).toEqual(['Order 1', 'Order 2']);
    await screen.find('.bar').trigger('click');
    expect(said(screen.find('.card'))).toMatch(/Order 1.*360 pieces.*1 head, 9 needles: 6 h 00/);
  });

  test('is proposed a plan beside the one that stands, taken up or left; what is sewn goes off it', async () => {
    const server = serve(
      [order(1, 8, day(1)), order(2, 8, day(1)), order(3, 8, day(1))],
      [MACHINES[0]!, { ...MACHINES[0]!, id: 'second', name: 'second' }],
    );
    const screen = await onBoard();
    for (const k of [1, 2, 3]) await press(screen, `Order ${k}`, 'ArrowDown');
    expect(said(screen.find('header'))).toContain('1 order late');
    await click(screen, /Propose a plan/);
    expect(said(screen.find('.proposal'))).toMatch(/nothing late.*As it stands: 1 order late/);
    await click(screen, /Leave it/);
    expect(names(screen, 1)).toEqual([]);
    await click(screen, /Propose a plan/);
    await click(screen, /Take it up/);
    expect(names(screen, 0).length + names(screen, 1).length).toBe(3);
    expect(said(screen.find('header'))).toContain('nothing late');
    await screen.find('.bar').trigger('click');
    await click(screen, /Sewn: off the board/);
    expect([server.board.plan.sewn.length, screen.findAll('.bar').length]).toEqual([1, 2]);
  });

  test('that another changed meanwhile is shown as it is, and says so; hours that cannot be are refused', async () => {
    const server = serve([order(1, 6, null)]);
    const screen = await onBoard();
    const from = screen.find<HTMLInputElement>('input[type=time]');
    await from.setValue('18:00');
    await from.trigger('change');
    await flushPromises();
    expect(useNotices().notice?.text).toContain('the day ends before it begins');
    server.elsewhere = true;
    await press(screen, 'Order 1', 'ArrowDown');
    expect(useNotices().notice?.text).toContain('changed by somebody else');
    expect([names(screen, 0), useBoard().plan!.hooping]).toEqual([[], 2]);
    server.elsewhere = false;
    await click(screen, /^Saturday/);
    expect(server.board.plan.hours.days).toEqual([1, 2, 3, 4, 5, 6]);
    expect(buttonIn(screen.element as ParentNode, /^Saturday/).getAttribute('aria-pressed')).toBe('true');
  });

  test('differences of plans are said by what becomes late and what no more', () => {
    const jobs = ['a', 'b', 'c', 'd'].map((id) => ({ id, due: 60, minutes: [60] }));
    const names = new Map(jobs.map(({ id }) => [id, `Order ${id}`]));
    const [one, all] = [runLanes(jobs, [['a']]), runLanes(jobs, [['b', 'a', 'c', 'd']])];
    expect(sayDifference(names, one, all)).toBe('Order a 1 h 00 late; Order c 2 h 00 late; 1 more later');
    expect(sayDifference(names, all, one)).toBe('Order a in time; Order c in time');
    expect(sayDifference(names, one, one)).toBe('no order later than before');
    expect([sayLate(one), sayLate(all)]).toEqual(['nothing late', '3 orders late, 6 h 00 in all']);
  });
});
