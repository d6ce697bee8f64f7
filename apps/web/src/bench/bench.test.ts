import { SHOP } from '../screens/testing/onScreens.ts';
import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { FABRICS, GARMENTS, HOOPS, THREADS } from '@isola/core';
import { enableAutoUnmount, flushPromises } from '@vue/test-utils';
import { nextTick } from 'vue';
import * as components from 'vuetify/components';
import FigureTable from '../screens/compare/FigureTable.vue';
import { compareJudged } from '../screens/compare/figureRows.ts';
import FileFacts from '../screens/takeIn/FileFacts.vue';
import TargetForm from '../screens/takeIn/TargetForm.vue';
import { numberFindings } from './docket/numberFindings.ts';
import { useNotices } from '../stores/notices.ts';
import { useShop } from '../stores/shop.ts';
import ClothLens from './cloth/ClothLens.vue';
import FindingMarks from './cloth/FindingMarks.vue';
import FindingDocket from './docket/FindingDocket.vue';
import FigureHead from './figures/FigureHead.vue';
import { button, inBody, layOnBench, setTheStage, show, stepped, words } from './testing/stage.ts';
import { useViewing } from '../stores/viewing.ts';

// The bench's parts on a real design, measured by the real engine in this thread. What needs layout or pixels is tested in the browser.

enableAutoUnmount(afterEach);
beforeEach(setTheStage);

describe('docket', () => {
  test('each finding stands with its number, words and price; opened, with its reason, figure, source and repair', async () => {
    const bench = await layOnBench();
    const docket = show(FindingDocket);
    const items = docket.findAll('.finding');
    expect(items).toHaveLength(bench.openFindings.length);
    bench.openFindings.forEach((finding, k) => expect(words(items[k]!)).toContain(finding.message));
    const trim = bench.openFindings.findIndex((f) => f.rule === 'needless-trim');
    expect(items[trim]!.find('.price').text()).toMatch(/^−0:0\d$/);
    await items[trim]!.find('button').trigger('click');
    expect(useViewing().selected).toBe(bench.openFindings[trim]!.key);
    const open = docket.find('.finding.open');
    expect(words(open)).toContain(bench.openFindings[trim]!.reason);
    expect(words(open)).toMatch(/limit 2/);
    expect(open.find('.head').attributes('aria-expanded')).toBe('true');
    await open.find('.head').trigger('click');
    expect(useViewing().selected).toBeUndefined();
  });

  test('one repair is tried and accepted in its place; those that were chosen go together and say what they save', async () => {
    const bench = await layOnBench();
    const docket = show(FindingDocket);
    useViewing().selected = bench.openFindings.find((f) => f.rule === 'needless-trim')!.key;
    await nextTick();
    await button(docket, /^Try: /).trigger('click');
    await flushPromises();
    expect(bench.trial!.keys).toEqual([useViewing().selected]);
    expect(docket.find('.finding.open').text()).toContain('Put back');
    await button(docket, /Put back/).trigger('click');
    expect(bench.trial).toBeUndefined();

    const checks = docket.findAll('input[type=checkbox]');
    expect(checks).toHaveLength(bench.openFindings.filter((f) => f.fix !== undefined).length);
    for (const check of checks.slice(0, 2)) await check.setValue(true);
    await button(docket, /^Try 2 chosen/).trigger('click');
    await flushPromises();
    expect(words(docket.find('.bar'))).toMatch(/^2 repairs tried, [−+±]0/);
    await button(docket, /^Accept all/).trigger('click');
    await flushPromises();
    expect(stepped.map((s) => s.operation.id)).toEqual(['sequence']);
    expect(docket.findAll('input[type=checkbox]').every((c) => !(c.element as HTMLInputElement).checked)).toBe(true);
  });

  test('keeping asks for a reason, takes none that is blank, and notes the one given', async () => {
    const bench = await layOnBench();
    const docket = show(FindingDocket);
    const finding = bench.openFindings[0]!;
    useViewing().selected = finding.key;
    await nextTick();
    await button(docket, /^Keep, because/).trigger('click');
    await nextTick();
    // Asked for in the docket: no dialog lies over the place it speaks of.
    expect(inBody('[role=dialog]')).toEqual([]);
    const form = (): HTMLElement => docket.find('.finding.open form').element as HTMLElement;
    const keepIt = (): HTMLButtonElement =>
      [...form().querySelectorAll('button')].find((b) => b.textContent?.trim() === 'Keep it') as HTMLButtonElement;
    const field = form().querySelector('textarea')!;
    field.value = '   ';
    field.dispatchEvent(new Event('input'));
    await nextTick();
    expect(keepIt().disabled).toBe(true);
    [...form().querySelectorAll('button')].find((b) => b.textContent?.trim() === 'Meant by the artwork')!.click();
    await nextTick();
    keepIt().click();
    await flushPromises();
    expect(stepped).toEqual([
      {
        name: 'Meant by the artwork',
        operation: {
          id: 'keep-finding',
          places: finding.places.map((p) => p.key),
          rule: finding.rule,
          title: finding.message,
          reason: 'Meant by the artwork',
        },
      },
    ]);
  });

  test('a repair that finds nothing to do, and one that fails, are said', async () => {
    const bench = await layOnBench();
    const notices = useNotices();
    const docket = show(FindingDocket);
    bench.tryRepairs = () => Promise.resolve(false);
    await button(docket, /^Try all/).trigger('click');
    await flushPromises();
    expect(notices.notice).toMatchObject({ kind: 'good', title: 'Nothing to repair here' });
    bench.tryRepairs = () => Promise.resolve('it stays too thick: carve the lower shape out');
    await button(docket, /^Try all/).trigger('click');
    await flushPromises();
    expect(notices.notice).toMatchObject({ title: 'Not repaired', text: expect.stringContaining('carve the lower shape out') });
    bench.tryRepairs = () => Promise.reject(new Error('out of thread'));
    await button(docket, /^Try all/).trigger('click');
    await flushPromises();
    expect(notices.notice).toEqual({ kind: 'bad', title: 'This did not work', text: 'out of thread' });
  });

  test('when all is settled it says what comes next', async () => {
    const bench = await layOnBench();
    bench.now = { number: 1, view: { ...bench.now!.view, findings: [] } };
    const docket = show(FindingDocket);
    expect(words(docket)).toContain('Nothing left to settle. Compare it with what came in');
    expect(words(docket)).toContain('Sew a sample on the real cloth');
  });
});

describe('on the cloth', () => {
  test('marks of findings stand apart and lead to their places; the selected one shows where else', async () => {
    const bench = await layOnBench();
    const near = bench.openFindings.map((f, k) => ({ ...f, at: { x: 5 + 0.01 * k, y: 5 } }));
    const marks = show(FindingMarks, {
      findings: near,
      numbers: numberFindings(near),
      selected: near[0]!.key,
      view: { x: 5, y: 5, scale: 4 },
      size: { width: 800, height: 600 },
    });
    const places = marks
      .findAll<HTMLElement>('.mark')
      .map((m) => [parseFloat(m.element.style.left), parseFloat(m.element.style.top)] as const);
    expect(places).toHaveLength(near.length);
    places.forEach(([x, y], k) => places.slice(0, k).forEach(([a, b]) => expect(Math.hypot(x - a, y - b)).toBeGreaterThanOrEqual(24)));
    expect(marks.findAll('.ring')).toHaveLength(near[0]!.places.length);
    await marks.findAll('.mark')[1]!.trigger('click');
    expect(marks.emitted('select')).toEqual([[near[1]!.key]]);
  });

  test('the lens names the views, and its legend says what the colors of the cover map mean on this cloth', async () => {
    const lens = show(ClothLens, { modelValue: 'cover', maxCover: 2.4, hasObjects: true });
    expect(words(lens)).toMatch(/to 0\.3 to 0\.6 to 1 to 1\.5 to 2\.2 to 2\.4 over 2\.4 over 3\.6/);
    await button(lens, /^Paths/).trigger('click');
    expect(lens.emitted('update:modelValue')).toEqual([['paths']]);
    await lens.setProps({ modelValue: 'paths' });
    expect(words(lens.find('.legend'))).toBe('carried over hidden path in the open jump trim entry exit');
    await lens.setProps({ modelValue: 'directions' });
    expect(words(lens.find('.legend'))).toBe('Stitches run 0° 30° 60° 90° 120° 150°');
    await lens.setProps({ modelValue: 'layers' });
    expect(words(lens.find('.legend'))).toBe('Covers under it 0 1 2 3 4 and more underlay and travel faint');
    await lens.setProps({ hasObjects: false });
    expect(words(lens.find('.legend'))).toContain('objects are not known yet');
    expect(
      lens
        .findAll('button')
        .find((b) => b.text() === 'Layers')!
        .attributes('disabled'),
    ).toBeDefined();
  });
});

describe('figures and the job', () => {
  test('the head of the docket shows a trial as where it leads, and else what there was', async () => {
    const bench = await layOnBench();
    const { figures } = bench.now!.view;
    const head = show(FigureHead, { now: figures, before: { ...figures, trims: 9 }, trial: undefined });
    expect(words(head)).toMatch(/2 trims 9 as it came 133 stitches$/);
    await head.setProps({ trial: { ...figures, trims: figures.trims - 1 } });
    expect(words(head)).toContain(`trims → ${figures.trims - 1}`);
    expect(head.find('.gain').text()).toBe(`→ ${figures.trims - 1}`);
  });

  test('the file is described as it is, its warnings and threads too', async () => {
    const bench = await layOnBench();
    bench.job = { fileName: 'bracket.csv', warnings: ['No end: one was added.'] } as never;
    const facts = show(FileFacts);
    expect(words(facts)).toContain('The file bracket.csv No end: one was added.');
    expect(words(facts)).toMatch(/Size 27\.0 × 24\.0 mm/);
    expect(words(facts)).toMatch(/Harbor 13\d st/);
    expect(facts.findAll('.bars i')).toHaveLength(25);
    const JUDGED = { widestGap: undefined, findings: undefined };
    const table = show(FigureTable, { rows: compareJudged({ ...JUDGED, maxCover: 1 }, { ...JUDGED, maxCover: 2 }), title: 'One piece' });
    expect(words(table)).toMatch(/Densest spot, closed layers \(K\)\s?1\.0\s?2\.0\s?1\.0 more/);
  });

  test('cloth, place and hoop are steps; a place brings its hoop, a cloth its color', async () => {
    const bench = await layOnBench();
    useShop().shop = SHOP;
    const form = show(TargetForm);
    const choose = async (label: string, value: string): Promise<void> => {
      form
        .findAllComponents(components.VSelect)
        .find((s) => s.props('label') === label)!
        .vm.$emit('update:modelValue', value);
      await flushPromises();
    };
    const fabric = FABRICS.find((f) => f.id !== bench.now!.view.target.fabric.id)!;
    await choose('Cloth', fabric.id);
    const garment = GARMENTS.find((g) => HOOPS.some((hoop) => hoop.id === g.hoopId && hoop.id !== bench.now!.view.target.hoop.id))!;
    await choose('Place on the garment', garment.id);
    await choose('Place on the garment', '');
    const targets = stepped.map((s) => (s.operation.id === 'set-target' ? s.operation.target : undefined)!);
    expect([targets[0]!.fabric, targets[0]!.clothColor]).toEqual([fabric, fabric.color]);
    expect([targets[1]!.garment, targets[1]!.hoop.id]).toEqual([garment, garment.hoopId]);
    expect([targets[2]!.garment, stepped[2]!.name]).toEqual([null, 'leave the place open']);
    // What the file was made for is said, or left to its spacing: then the record is gone, not empty.
    await choose('File made for', THREADS[3]!.id);
    await choose('File made for', '');
    const last = stepped.slice(-2).map(({ name, operation }) => [name, operation.id === 'set-target' && operation.target.madeFor]);
    expect(last).toEqual([
      [`made for ${THREADS[3]!.name}`, THREADS[3]],
      ['made for: as its spacing says', undefined],
    ]);
  });

  test('a number of pieces that cannot be is put back; a cloth that the shop no longer has is kept and said', async () => {
    const bench = await layOnBench();
    const { fabric, quantity } = bench.now!.view.target;
    useShop().shop = { ...SHOP, fabrics: FABRICS.filter((f) => f.id !== fabric.id) };
    const form = show(TargetForm);
    expect(words(form)).toContain(`${fabric.name} was deleted from the shop. This job keeps the values it was judged by`);
    const cloths = form.findAllComponents(components.VSelect).find((s) => s.props('label') === 'Cloth')!;
    expect(cloths.props('items')).toContainEqual({ title: `${fabric.name} (no longer in the shop)`, value: fabric.id });
    const field = form.find<HTMLInputElement>('input[type=number]');
    for (const wrong of ['0', '-4', '2.5', '1e9']) {
      field.element.value = wrong;
      await field.trigger('change');
      expect(field.element.value).toBe(String(quantity));
    }
    expect(stepped).toEqual([]);
    field.element.value = '250';
    await field.trigger('change');
    expect(stepped.map((s) => s.name)).toEqual(['250 pieces']);
  });
});
