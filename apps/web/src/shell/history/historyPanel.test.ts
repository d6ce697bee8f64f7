import { describe, expect, test } from '@jest/globals';
import type { HistoryStep, JobHistory } from '@isola/contract';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { createEngine } from '../../workers/createEngine.ts';
import { openOn } from '../../workers/testing/openOn.ts';
import { defaultTarget, writeStitchCsv } from '@isola/core';
import { AT, click, file, job, said, setTheStage, show, stage } from '../../screens/testing/onScreens.ts';
import '../../workers/testing/quietWorkers.ts';

const { useBench } = await import('../../stores/bench.ts');
const { useHistory } = await import('../../stores/history.ts');
const { useNotices } = await import('../../stores/notices.ts');
const { default: HistoryPanel } = await import('./HistoryPanel.vue');

setTheStage();

const step = (id: string, parent: string | null, seq: number, reason: string | null = null): HistoryStep => ({
  ...{ id, parent, seq, at: AT, name: `step ${id}`, reason, isTarget: false, who: null },
});
/** a, b done; from a another way, c. */
const TOLD: JobHistory = {
  version: 4,
  earlier: [{ name: 'split a long stitch', at: AT }],
  steps: [step('a', null, 1), step('c', 'a', 2, 'the customer wants it so'), step('b', 'a', 4)],
  now: 'b',
  branches: [{ step: 'c', name: 'Cheaper' }],
  revisions: [
    { number: 1, step: null },
    { number: 2, step: 'a' },
  ],
};

/** The panel beside a bench with those steps; `gone`: where it was told to go. */
async function open(): Promise<{ panel: VueWrapper; gone: (string | null)[] }> {
  const bench = useBench();
  const opened = await openOn(createEngine(), new TextEncoder().encode(writeStitchCsv(file)), defaultTarget());
  bench.now = { number: 1, view: opened.now };
  const revisions = ['As it came in', 'For the sample'].map((name, k) => ({
    ...{
      number: k + 1,
      version: k,
      name,
      note: '',
      isRelease: false,
      stopCount: 0,
      who: null,
      checks: null,
      figures: opened.now.figures,
      createdAt: AT,
    },
  }));
  bench.job = { ...job('one'), version: 4, initialTarget: defaultTarget(), base: null, journal: [], signOffs: [], revisions };
  const view = (id: string) => ({ id, name: `step ${id}`, reason: undefined, isTarget: false, isFixed: false });
  bench.done = [view('a'), view('b')];
  bench.undone = [];
  const gone: (string | null)[] = [];
  bench.goTo = (to) => Promise.resolve(void gone.push(to));
  bench.pictureState = () => Promise.resolve(undefined);
  stage.answers = (method, path, body) => {
    if (path.endsWith('/history')) return TOLD;
    if (method === 'PUT') return { ...TOLD, branches: [{ step: path.split('/').at(-1)!, name: (body as { name: string }).name }] };
    return undefined;
  };
  const panel = await show(HistoryPanel);
  await flushPromises();
  return { panel, gone };
}

const lines = (panel: VueWrapper): string[] => panel.findAll('ol .line .name').map((line) => said(line).trim());

describe('the history beside the bench', () => {
  test('lists what is done with its revisions, folds other branches, and says what is from before', async () => {
    const { panel } = await open();
    expect(lines(panel)).toEqual(['step b', 'Cheaper', expect.stringMatching(/^step a *revision 2: For the sample/), 'Before these steps']);
    expect(panel.find('[aria-current=step]').text()).toContain('step b');
    expect(said(panel.find('section'))).toContain('split a long stitch');
    await panel.findAll('ol .line')[1]!.trigger('click');
    expect(lines(panel)).toEqual([
      'step b',
      'Cheaper',
      expect.stringContaining('because: the customer wants it so'),
      ...lines(panel).slice(3),
    ]);
    expect(panel.findAll('ol .line')[1]!.attributes('aria-expanded')).toBe('true');
    await panel.findAll('ol .line')[1]!.trigger('click');
    expect(lines(panel)).toHaveLength(4);
  });

  test('goes to a step, compares it, and names the branch that it is on; what goes wrong is said', async () => {
    const { panel, gone } = await open();
    await panel.findAll('ol .line')[1]!.trigger('click');
    await panel.findAll('ol .line')[2]!.trigger('click');
    await click(panel, /^\s*Go here/);
    expect(gone).toEqual(['c']);
    await click(panel, /^\s*Name this branch/);
    const field = panel.find<HTMLInputElement>('.naming input');
    expect(field.element.value).toBe('Cheaper');
    await field.setValue(' Open wings ');
    await panel.find('.naming').trigger('submit');
    await flushPromises();
    expect(stage.asked).toContainEqual(['PUT', '/jobs/one/branches/c', { name: 'Open wings' }]);
    expect([useHistory().names.get('c'), panel.find('.naming').exists()]).toEqual(['Open wings', false]);
    await click(panel, /^\s*Compare with now/);
    expect(stage.router.currentRoute.value.query).toEqual({ one: 'c', other: 'now' });
    useBench().goTo = () => Promise.reject(new Error('there is no such step'));
    await click(panel, /^\s*Go here/);
    expect(useNotices().notice!.text).toBe('there is no such step');
  });

  test('Escape leaves what is being named first, then the panel; the step on the bench is not gone to', async () => {
    const { panel } = await open();
    await panel.findAll('ol .line')[0]!.trigger('click');
    expect(said(panel.find('.choices'))).toMatch(/on the bench.*Name this branch/s);
    await click(panel, /^\s*Name this branch/);
    await panel.trigger('keydown', { key: 'Escape' });
    expect([panel.find('.naming').exists(), panel.emitted('close')]).toEqual([false, undefined]);
    await panel.trigger('keydown', { key: 'Escape' });
    expect(panel.emitted('close')).toHaveLength(1);
  });
});
