import { describe, expect, test } from '@jest/globals';
import type { Shop } from '@isola/contract';
import { encodeLayout, SIMULATED_LAYOUT } from '@isola/core';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { nextTick } from 'vue';
import { useShop } from '../../../stores/shop.ts';
import { buttonIn, click, file, said, setTheStage, SHOP, show, stage } from '../../testing/onScreens.ts';
import LayoutsPanel from './LayoutsPanel.vue';

setTheStage();

async function onLayouts(): Promise<VueWrapper> {
  let shop = SHOP;
  stage.answers = (method, path, body) => {
    const [, , kind, id] = path.split('/');
    if (kind !== 'layouts') return shop;
    const others = shop.layouts.filter((one) => one.id !== id);
    return (shop = { ...shop, layouts: method === 'PUT' ? [...others, (body as { record: Shop['layouts'][number] }).record] : others });
  };
  const store = useShop();
  store.shop = SHOP;
  store.who = 'Ada';
  const screen = await show(LayoutsPanel, { shop: SHOP });
  return screen;
}
const write = async (screen: VueWrapper, text: string): Promise<void> => {
  await screen.find('textarea').setValue(text);
  await nextTick();
};
const json = (layout: object): string => JSON.stringify(layout, null, 2);

describe('machine files in the shop', () => {
  test('stand as they are read: each record of a sample beside its bytes, the header too', async () => {
    const screen = await onLayouts();
    expect(said(screen)).toContain('Nothing in it contradicts itself');
    expect(said(screen.find('.bytes'))).toMatch(/Read to its end: \d+ records/);
    const rows = screen.findAll('tbody tr').map((row) => said(row));
    expect(rows[0]).toMatch(/49 53 4c 41 31.*ISLA1/);
    expect(rows.join('\n')).toMatch(/53 \w\w\s?stitch\s?2\.00\s?0\.00/);
    for (const word of ['trim', 'color', 'stop', 'end']) expect(rows.join()).toContain(word);
  });

  test('name what is wrong while it is written: no JSON with its line, what contradicts itself with its place', async () => {
    const screen = await onLayouts();
    await write(screen, '{\n  "name": "x",\n  oops');
    expect(said(screen.find('.problems'))).toMatch(/line 3\s?no JSON/);
    expect((buttonIn(screen.element as ParentNode, /Keep it so/) as HTMLButtonElement).disabled).toBe(true);
    await write(screen, json({ ...SIMULATED_LAYOUT, record: { ...SIMULATED_LAYOUT.record, y: { at: 1, as: 'i16le', relative: false } } }));
    expect(said(screen.find('.problems'))).toMatch(/record\.y\s?bit \d of byte 1 belongs to record\.x already/);
    await write(screen, json({ ...SIMULATED_LAYOUT, longest: 'far' }));
    expect(said(screen.find('.problems'))).toContain('longest');
    await click(screen, /Back as it was/);
    expect(screen.find('.problems').exists()).toBe(false);
  });

  test('are tried on a file of the machine, and say the byte at which it stops making sense', async () => {
    const screen = await onLayouts();
    const whole = encodeLayout(file, SIMULATED_LAYOUT);
    if (!whole.ok) throw new Error(whole.error);
    const choose = async (bytes: Uint8Array): Promise<void> => {
      const picker = screen.find<HTMLInputElement>('input[aria-label="A file of the machine"]');
      const chosen = { name: 'north.isla', arrayBuffer: () => Promise.resolve(bytes.slice().buffer) };
      Object.defineProperty(picker.element, 'files', { value: [chosen], configurable: true });
      await picker.trigger('change');
      await flushPromises();
    };
    await choose(whole.value.bytes);
    expect(said(screen.find('.try'))).toMatch(/Tried on north\.isla.*Read to its end/);
    await choose(whole.value.bytes.slice(0, 256 + 6 * 2 + 2));
    expect(said(screen.find('.stops'))).toContain('It stops making sense');
    expect(said(screen.find('.broken'))).toMatch(/^\s*268.*a whole record of 6/);
    // The records before it are read.
    expect(screen.findAll('tbody tr:not(.head, .broken)')).toHaveLength(2);
    await click(screen, /A sample instead/);
    expect(screen.find('.broken').exists()).toBe(false);
  });

  test('are kept with an ending of their own, under a name, and deleted', async () => {
    const screen = await onLayouts();
    await click(screen, /\+ new/);
    expect(said(screen.find('.problems'))).toMatch(/file ending/);
    const ending = screen.findAll<HTMLInputElement>('.fields input')[0]!;
    await ending.setValue('isla');
    expect(said(screen.find('.problems'))).toContain('simulated machine has it already');
    await ending.setValue('mine');
    await click(screen, /Keep it so/);
    const [method, path, body] = stage.asked.at(-1)!;
    expect([method, path]).toEqual(['PUT', expect.stringMatching(/^\/shop\/layouts\//)]);
    expect(body).toMatchObject({
      who: 'Ada',
      was: null,
      record: { name: 'my machine', extension: 'mine', layout: { name: 'my machine' } },
    });
    expect(useShop().shop!.layouts.map(({ name }) => name)).toContain('my machine');
    await screen.setProps({ shop: useShop().shop });
    await click(screen, /^simulated machine/);
    await click(screen, /^\s*Delete/);
    expect(useShop().shop!.layouts.map(({ name }) => name)).toEqual(['my machine']);
  });
});
