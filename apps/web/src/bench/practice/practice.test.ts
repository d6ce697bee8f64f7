import { describe, expect, test } from '@jest/globals';
import type { Practice } from '@isola/contract';
import { defaultTarget, RULES, writeStitchCsv } from '@isola/core';
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { nextTick } from 'vue';
import PracticeScreen from '../../screens/practice/PracticeScreen.vue';
import { buttonIn, click, file, job, said, setTheStage, show, stage } from '../../screens/testing/onScreens.ts';
import { useBench } from '../../stores/bench.ts';
import { useObjects } from '../../stores/objects.ts';
import { createEngine } from '../../workers/createEngine.ts';
import { openOn } from '../../workers/testing/openOn.ts';
import PracticePanel from './PracticePanel.vue';
import '../../workers/testing/quietWorkers.ts';

setTheStage();

const RULE = RULES.find(({ id }) => id === 'too-open')!;
const JUDGED: Practice['result'] = {
  faults: [
    { rule: RULE.id, title: RULE.title, name: 'Keel', words: 'its rows were drawn apart', why: RULE.why, isFound: true, isMended: true },
    {
      rule: 'no-underlay',
      title: 'No underlay',
      name: 'Hull',
      words: 'its underlay was taken away',
      why: 'It sinks in.',
      isFound: false,
      isMended: false,
    },
  ],
  others: [{ title: 'Needless trim', name: 'Bow', isThere: true }],
  broken: [{ title: 'A gap will open', message: 'A gap of 0.4 mm', why: 'Cloth shows.' }],
};

async function onPractice(): Promise<VueWrapper> {
  let practice: Practice = { jobId: 'one', version: 0, faults: 2, claims: [], result: null };
  stage.answers = (method, path, body) => {
    if (path.endsWith('/judge')) practice = { ...practice, result: JUDGED };
    else if (method === 'PUT') practice = { ...practice, version: practice.version + 1, claims: (body as Practice).claims };
    return practice;
  };
  const bench = useBench();
  const opened = await openOn(createEngine(), new TextEncoder().encode(writeStitchCsv(file)), defaultTarget());
  bench.now = { number: 1, view: opened.now };
  bench.job = { ...job('one', { practice: 'open' }), initialTarget: defaultTarget(), base: null, journal: [], revisions: [], signOffs: [] };
  await nextTick();
  return show(PracticePanel);
}

describe('practice on the bench', () => {
  test('takes what is said of an object by its rule, takes it back, and judges once it is done, with why each matters', async () => {
    const panel = await onPractice();
    expect(said(panel)).toContain('2 faults to find');
    const say = (): HTMLButtonElement => buttonIn(panel.element as ParentNode, /Say so/) as HTMLButtonElement;
    await panel.find('select').setValue(RULE.id);
    expect(say().disabled).toBe(true);
    const objects = useObjects();
    objects.select(objects.objects[0]);
    await nextTick();
    await click(panel, /Say so/);
    const [object] = objects.objects;
    expect(stage.asked.at(-1)).toEqual([
      'PUT',
      '/jobs/one/practice',
      { version: 0, claims: [expect.objectContaining({ rule: RULE.id, name: object!.name })] },
    ]);
    await click(panel, /Take back/);
    expect(said(panel)).toContain('Nothing said yet');
    await click(panel, /I am done/);
    await flushPromises();
    expect(useBench().job!.practice).toBe('judged');
    expect(said(panel)).toMatch(/1 of 2 found, 1 mended/);
    expect(panel.findAll('.faults .missed').map((one) => said(one))).toEqual([
      expect.stringMatching(/No underlay.*Hull.*not named, still there.*taken away.*It sinks in/),
    ]);
    expect(said(panel)).toMatch(/Broken on the way.*A gap of 0\.4 mm.*Said besides.*Right: the file had that/);
  });

  test('is begun from a design of the shop; practices are not offered as sources', async () => {
    stage.answers = (method, path) => {
      if (path === '/jobs') return [job('one'), job('two', { practice: 'judged', name: 'Practice: Job one' })];
      return method === 'POST' ? job('three', { practice: 'open' }) : undefined;
    };
    const screen = await show(PracticeScreen);
    expect(screen.findAll('fieldset label')).toHaveLength(1);
    expect(said(screen)).toMatch(/Job one\s?judged/);
    expect((buttonIn(screen.element as ParentNode, /Plant them/) as HTMLButtonElement).disabled).toBe(true);
    await screen.find('input[type=radio]').setValue(true);
    await screen.find('input[type=number]').setValue(5);
    await screen.find('form').trigger('submit');
    await flushPromises();
    expect(stage.asked).toContainEqual(['POST', '/jobs/one/practice', { faults: 5 }]);
    expect(stage.router.currentRoute.value.fullPath).toBe('/jobs/three/audit');
  });
});
