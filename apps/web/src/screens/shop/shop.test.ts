import { describe, expect, test } from '@jest/globals';
import type { ShopEffect, Shop, ShopChange } from '@isola/contract';
import { defaultTarget, FABRICS, GARMENTS, HOOPS, MACHINES, RULE_GROUPS, RULES, THREADS, USUAL_RULES } from '@isola/core';
import type { VueWrapper } from '@vue/test-utils';
import { flushPromises } from '@vue/test-utils';
import { ApiError } from '../../api/client.ts';
import { useNotices } from '../../stores/notices.ts';
import { shopNews } from '../takeIn/shopNews.ts';
import { AT, buttonIn, click, job, said, setTheStage, SHOP, show, stage } from '../testing/onScreens.ts';

setTheStage();

/** A server that keeps what it is sent, and every change of it. */
function serve(effects: Readonly<Record<string, ShopEffect>> = {}): { shop: () => Shop; changes: ShopChange[] } {
  let shop = SHOP;
  const changes: ShopChange[] = [];
  const note = (
    kind: ShopChange['kind'],
    recordId: string,
    before: unknown,
    after: unknown,
    { who, why }: { who: string; why: string },
  ): void => {
    changes.unshift({ id: `change-${changes.length}`, kind, recordId, before, after, who, why, undoes: null, at: AT });
  };
  stage.answers = (method, path, body) => {
    const [, , kind, id] = path.split('/') as [string, string, 'fabrics', string];
    const signed = body as { who: string; why: string; record: never };
    if (path === '/shop') return shop;
    if (path === '/jobs') return [job('a'), job('b')];
    if (path.endsWith('/shop-effect')) return effects[path.split('/')[2]!] ?? { came: [], went: [], seconds: { before: 60, after: 60 } };
    if (path === '/shop/changes') return changes;
    if (path.endsWith('/uses')) return [{ id: 'a', name: 'Job a', isSame: false }];
    if (path === '/shop/rules') {
      note('rules', 'rules', shop.rules, signed.record, signed);
      return (shop = { ...shop, rules: signed.record });
    }
    const list = shop[kind] as readonly { id: string }[];
    const before = list.find((one) => one.id === id) ?? null;
    if (method === 'DELETE' && id === 'twill') throw new ApiError(422, 'This does not fit', 'It is wanted elsewhere.');
    note(kind, id, before, method === 'DELETE' ? null : signed.record, signed);
    const rest = list.filter((one) => one.id !== id);
    return (shop = {
      ...shop,
      [kind as string]:
        method === 'DELETE' ? rest : before === null ? [...list, signed.record] : list.map((one) => (one.id === id ? signed.record : one)),
    });
  };
  return { shop: () => shop, changes };
}

async function openShop(): Promise<VueWrapper> {
  const { default: ShopScreen } = await import('./ShopScreen.vue');
  return show(ShopScreen);
}

async function fill(screen: VueWrapper, label: RegExp, value: string): Promise<void> {
  const field = screen.findAllComponents({ name: 'VTextField' }).find((one) => label.test(String(one.props('label'))))!;
  await field.find('input').setValue(value);
  await flushPromises();
}

const names = (screen: VueWrapper): string[] => screen.findAll('tbody th').map((th) => th.text());
const isOff = (screen: VueWrapper, text: RegExp): boolean => (buttonIn(screen.element as ParentNode, text) as HTMLButtonElement).disabled;

describe('the shop', () => {
  test('lists what there is by its units, each list as it was left', async () => {
    serve();
    const screen = await openShop();
    expect(names(screen)).toEqual(FABRICS.map((f) => f.name));
    expect(said(screen)).toContain('Fill spacing, mm');
    for (const [tab, rows] of [
      ['Threads', THREADS],
      ['Places', GARMENTS],
      ['Hoops', HOOPS],
      ['Machines', MACHINES],
    ] as const) {
      await click(screen, new RegExp(`^\\s*${tab}`));
      expect(names(screen)).toEqual(rows.map((r) => r.name));
    }
  });

  test('a record is changed under a name, refused where it cannot be, copied, deleted; who uses it is said', async () => {
    const server = serve();
    const screen = await openShop();
    await click(screen, /^twill/);
    expect(said(screen.find('form'))).toContain('In use by Job a');
    expect(said(screen.find('form'))).toContain('1 of them with other values');
    await fill(screen, /^Closed layers/, '-2');
    await fill(screen, /^Who/, 'Ada');
    expect(isOff(screen, /Keep it so/)).toBe(true);
    expect(said(screen.find('form'))).toMatch(/Too small|>0/);
    await fill(screen, /^Closed layers/, '2.8');
    await fill(screen, /^Tears/, '');
    await fill(screen, /^Why/, 'a sample');
    await click(screen, /Keep it so/);
    const twill = FABRICS.find(({ id }) => id === 'twill')!;
    expect(stage.asked.find(([method]) => method === 'PUT')).toEqual([
      'PUT',
      '/shop/fabrics/twill',
      { record: { ...twill, maxCover: 2.8 }, was: twill, who: 'Ada', why: 'a sample' },
    ]);
    expect(useNotices().notice!.text).toMatch(/keep their values/);
    expect(isOff(screen, /Keep it so/)).toBe(true);
    // A copy has a name and an identity of its own.
    await click(screen, /^Copy/);
    await fill(screen, /^Name/, 'our twill');
    await click(screen, /Keep it so/);
    const own = server.shop().fabrics.at(-1)!;
    expect([own.name, own.maxCover, names(screen).at(-1)]).toEqual(['our twill', 2.8, 'our twill']);
    expect(own.id).not.toBe('twill');
    await click(screen, /^Delete/);
    expect(names(screen)).not.toContain('our twill');
    await click(screen, /^twill/);
    await click(screen, /^Delete/);
    expect([useNotices().notice!.text, names(screen).includes('twill workwear')]).toEqual(['It is wanted elsewhere.', true]);
    await click(screen, /Changes/);
    const list = said(screen.find('.changes'));
    expect(list).toMatch(/Cloth twill workwear\s?Closed layers it bears \(K\): 3.0 → 2.8/);
    expect(list).toMatch(/Cloth our twill\s?added/);
    expect(list).toMatch(/Ada, .*: a sample/);
    // Of changes of one record only the last can be taken back.
    expect(screen.findAll('.changes li button')).toHaveLength(2);
    await click(screen.find('.changes').element, /Take back/);
    expect(stage.asked.map(([method, path]) => `${method} ${path}`)).toContain('POST /shop/changes/change-2/undo');
  });

  test('every rule stands there with limit, reason and source; a changed limit says what it moves before it is kept', async () => {
    const server = serve({ b: { came: ['Long stitch (3)'], went: ['Too open to cover'], seconds: { before: 60, after: 60 } } });
    const screen = await openShop();
    await click(screen, /Rulebook/);
    const rules = screen.findAll('article');
    const byGroup = RULE_GROUPS.flatMap((group) => RULES.filter((rule) => rule.group === group));
    expect(rules.map((r) => r.find('h3').text())).toEqual(byGroup.map((r) => r.title));
    rules.forEach((rule, k) => {
      expect(said(rule)).toContain(`Source: ${byGroup[k]!.source}`);
      expect(rule.find('input[type=number]').exists()).toBe(byGroup[k]!.follows === undefined);
    });
    const set = async (title: string, value: string): Promise<void> => {
      await screen.find(`input[aria-label^="Limit of ${title},"]`).setValue(value);
      await flushPromises();
    };
    await set('Long stitch', '70');
    expect(said(screen.find('.limit .bad'))).toContain('70 mm makes no sense');
    await set('Long stitch', '6');
    await screen.find('input[aria-label="Judge by Too open to cover"]').setValue(false);
    await flushPromises();
    const form = (): string => said(screen.find('form.change'));
    expect(form()).toContain('Long stitch: as usual → 6 mm');
    expect(form()).toContain('Too open to cover: judged → left out');
    await click(screen, /What it moves/);
    await flushPromises();
    expect(form()).toContain('2 of 2 jobs judged by it.');
    expect(form()).toMatch(/Job b\s?comes: Long stitch \(3\)\s?goes: Too open to cover/);
    expect(form()).not.toContain('Job a');
    await fill(screen, /^Who/, 'Ada');
    await click(screen, /Keep it so/);
    expect(server.shop().rules).toEqual({ ...USUAL_RULES, limits: { 'long-stitch': 6 }, off: ['too-open'] });
    expect(screen.find('form.change').exists()).toBe(false);
  });
});

test('a job says which of its values the shop changed since, and takes them together; stock and the same values are no news', () => {
  const target = defaultTarget();
  expect(shopNews(SHOP, target)).toBeUndefined();
  const counted = { ...SHOP, threads: THREADS.map((thread) => ({ ...thread, cones: 4 })) };
  expect(shopNews(counted, target)).toBeUndefined();
  const changed: Shop = {
    ...SHOP,
    fabrics: FABRICS.map((f) => (f.id === target.fabric.id ? { ...f, maxCover: 2 } : f)),
    rules: { ...USUAL_RULES, limits: { 'long-stitch': 6 }, schools: { ...USUAL_RULES.schools, underlayOrder: 'edge-first' } },
  };
  const news = shopNews(changed, { ...target, madeFor: { ...THREADS[0]!, id: 'gone' } })!;
  expect(news.said).toEqual([
    `pique polo: Closed layers it bears (K): ${target.fabric.maxCover.toFixed(1)} → 2.0`,
    'Rulebook: Long stitch: as usual → 6 mm',
    'Rulebook: Underlay of fills: tatami, then edge run → edge run, then tatami',
  ]);
  expect([news.target.fabric.maxCover, news.target.rules]).toEqual([2, changed.rules]);
  expect(shopNews(changed, news.target)).toBeUndefined();
});
