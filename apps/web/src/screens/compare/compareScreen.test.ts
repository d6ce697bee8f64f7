import { describe, expect, jest, test } from '@jest/globals';
import type { JobHistory } from '@isola/contract';
import { defaultTarget, ProgramBuilder, writeStitchCsv } from '@isola/core';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { createEngine } from '../../workers/createEngine.ts';
import { openOn } from '../../workers/testing/openOn.ts';
import { AT, click, job, said, setTheStage, show, stage } from '../testing/onScreens.ts';
import '../../workers/testing/quietWorkers.ts';

// Pictures and charts are drawn in browsers alone; figures, objects and steps are those of the real engine.
const stub = (name: string) => () => ({ default: { props: ['one', 'other', 'titles'], template: `<figure class="${name}" />` } });
jest.unstable_mockModule('./TwoCloths.vue', stub('cloths'));
jest.unstable_mockModule('./CompareCharts.vue', stub('charts'));
const { useBench } = await import('../../stores/bench.ts');
const { default: CompareScreen } = await import('./CompareScreen.vue');

setTheStage();

/** Two runs; the first is given a name, then a name that is better: two steps, of which the second was left for a third. */
async function compare(): Promise<VueWrapper> {
  const out = new ProgramBuilder().color('#1f4e79', 'Deep water').jump(0, 0);
  for (let k = 0; k <= 12; k++) out.stitch(k * 2.5, 0);
  out.trim().color('#e0a526', 'Amber').jump(0, 10);
  for (let k = 0; k <= 12; k++) out.stitch(k * 2.5, 10);
  const engine = createEngine();
  const opened = await openOn(engine, new TextEncoder().encode(writeStitchCsv(out.trim().end().build())), defaultTarget());
  const object = opened.now.objects!.blocks[0]!.objects[0]!;
  const ids = Array.from({ length: 3 }, () => crypto.randomUUID());
  const rename = (id: string, name: string) => ({
    ...{ id, kind: 'do' as const, name: `call it ${name}` },
    operation: { id: 'rename-object' as const, object, name },
  });
  const [a, b, c] = ids as [string, string, string];
  const changed = await engine.extend([
    rename(a, 'Keel'),
    rename(b, 'Hull'),
    { id: crypto.randomUUID(), kind: 'go', to: a },
    rename(c, 'Bow'),
  ]);
  if (!changed.ok) throw new Error(changed.reason);
  const step = (id: string, parent: string | null, seq: number, name: string) => ({
    id,
    parent,
    seq,
    at: AT,
    name,
    reason: null,
    isTarget: false,
    who: null,
  });
  const told: JobHistory = {
    ...{ version: 4, earlier: [], now: c, branches: [{ step: b, name: 'As ordered' }], revisions: [{ number: 1, step: null }] },
    steps: [step(a, null, 1, 'call it Keel'), step(b, a, 2, 'call it Hull'), step(c, a, 4, 'call it Bow')],
  };
  stage.answers = (_, path) => (path.endsWith('/history') ? told : undefined);
  const bench = useBench();
  bench.now = { number: 1, view: changed.now };
  bench.job = { ...job('one'), version: 4, initialTarget: defaultTarget(), base: null, journal: [], revisions: [], signOffs: [] };
  [bench.done, bench.undone] = [changed.done, changed.undone];
  bench.compareStates = async (one, other) => {
    const compared = await engine.compareStates(one, other);
    if (typeof compared === 'string') throw new Error(compared);
    return compared;
  };
  bench.judgeStates = () => engine.judgeStates();
  const screen = await show(CompareScreen);
  for (let k = 0; k < 6; k++) await flushPromises();
  return screen;
}

describe('Compare', () => {
  test('begins with the file and the bench, takes any other two by address, and turns them round', async () => {
    const screen = await compare();
    const differs = () => said(screen.find('[aria-label="What differs"]'));
    expect(
      screen
        .findAll('.head')
        .slice(0, 2)
        .map((head) => head.text()),
    ).toEqual(['as it came', 'now']);
    expect(differs()).toMatch(/What differs\s*1.*Bow.*another name/s);
    expect(said(screen.find('ol.steps'))).toMatch(/call it Keel.*call it Bow/s);
    expect(said(screen)).toMatch(/Findings left: stop.*Thread by color.*Deep water.*Amber/s);
    expect(screen.findAll('figure')).toHaveLength(2);

    const other = (stage.router.currentRoute.value.query['one'] ?? '') as string;
    expect(other).toBe('');
    const left = [...screen.findAllComponents({ name: 'VSelect' })][0]!;
    const branch = (left.props('items') as { value: string; title: string }[]).find(({ title }) => title === 'Branch: As ordered')!;
    (left.vm as { $emit: (event: string, value: string) => void }).$emit('update:modelValue', branch.value);
    for (let k = 0; k < 8; k++) await flushPromises();
    expect(stage.router.currentRoute.value.query).toEqual({ one: branch.value, other: 'now' });
    expect(screen.find('.head').text()).toBe('As ordered');
    expect(said(screen)).toMatch(/What was done\s*call it Bow\s*Done only in: As ordered\s*call it Hull/);

    await click(screen, /^\s*Change sides/);
    for (let k = 0; k < 8; k++) await flushPromises();
    expect(
      screen
        .findAll('.head')
        .slice(0, 2)
        .map((head) => head.text()),
    ).toEqual(['now', 'As ordered']);
    expect(said(screen)).toMatch(/What was done\s*call it Hull\s*Done only in: now\s*call it Bow/);
  });

  test('says what is not there, and keeps what it showed', async () => {
    const screen = await compare();
    await stage.router.replace({ query: { one: crypto.randomUUID(), other: 'now' } });
    for (let k = 0; k < 8; k++) await flushPromises();
    expect(screen.find('[role=alert]').text()).not.toBe('');
    expect(screen.findAll('figure')).toHaveLength(2);
  });
});
