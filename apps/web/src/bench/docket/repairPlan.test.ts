import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { auditCsv, findRule } from '@isola/core';
import { enableAutoUnmount, flushPromises, type VueWrapper } from '@vue/test-utils';
import { parse } from 'csv-parse/sync';
import { useRepairPlan } from '../../stores/repairPlan.ts';
import { useViewing } from '../../stores/viewing.ts';
import { button, layOnBench, setTheStage, show, stepped, words } from '../testing/stage.ts';
import FindingDocket from './FindingDocket.vue';

enableAutoUnmount(afterEach);
beforeEach(setTheStage);

const steps = (docket: VueWrapper): string[] => docket.findAll('.steps .step b').map((title) => title.text());

describe('the plan of repair', () => {
  test('lists its steps with what each comes to, walks through them, and is made as one step', async () => {
    const bench = await layOnBench();
    const docket = show(FindingDocket);
    await button(docket, /^Plan the repair/).trigger('click');
    await flushPromises();
    const plan = useRepairPlan();
    const report = plan.report!;
    expect(report.steps.length).toBeGreaterThan(1);
    expect(steps(docket)).toEqual(report.steps.map(({ title }) => title));
    expect(words(docket.find('.sum'))).toMatch(/^a piece \d:\d\d → \d:\d\d stitches [\d ]+ → [\d ]+ trims 2 → 1/);
    expect(words(docket.find('.plan'))).toMatch(/pieces: .* (less|more) \(an estimate\)/);
    expect(bench.trial!.trial.after.figures.trims).toBe(report.after.trims);

    // Walked to its first step the design is as that leaves it, and what comes after stands back.
    await docket.findAll('.steps .step')[0]!.trigger('click');
    await flushPromises();
    expect(plan.report!.upTo).toBe(1);
    expect(bench.trial!.trial.after.figures.stitches).toBe(report.steps[0]!.after.stitches);
    expect(docket.findAll('.steps li.ahead')).toHaveLength(report.steps.length - 1);
    expect(button(docket, /^Accept the step as one/).exists()).toBe(true);
    await docket.findAll('.steps .step').at(-1)!.trigger('click');
    await flushPromises();

    await button(docket, /^Accept \d steps as one/).trigger('click');
    await flushPromises();
    expect(stepped).toHaveLength(1);
    expect(stepped[0]!.operation.id).toBe('sequence');
  });

  test('leaves a step out and takes it in again, says what stays and why, and is put back', async () => {
    const bench = await layOnBench();
    const docket = show(FindingDocket);
    await button(docket, /^Plan the repair/).trigger('click');
    await flushPromises();
    const plan = useRepairPlan();
    const all = steps(docket);
    await docket.find('.steps input').setValue(false);
    await flushPromises();
    expect(steps(docket)).not.toContain(all[0]);
    expect(words(docket.find('.plan'))).toContain(`Left out by you ${all[0]}`);
    expect([...plan.without]).toHaveLength(1);
    await docket.find('.left input').setValue(true);
    await flushPromises();
    expect(steps(docket)).toEqual(all);
    for (const { title, why } of plan.report!.left) expect(words(docket.find('.plan'))).toContain(`${title} ${why}`);
    await button(docket, /Put back/).trigger('click');
    await flushPromises();
    expect([bench.trial, plan.isShown, docket.find('.plan').exists()]).toEqual([undefined, false, false]);
  });

  test('of what costs nothing adds no stitch', async () => {
    await layOnBench();
    const docket = show(FindingDocket);
    await button(docket, /^What costs nothing/).trigger('click');
    await flushPromises();
    const { before, after, isFree } = useRepairPlan().report!;
    expect([isFree, after.stitches <= before.stitches]).toEqual([true, true]);
    expect(docket.find('h2').text()).toBe('What costs nothing');
  });
});

describe('the docket', () => {
  test('says whether to repair, with minutes and reasons, and what a tried repair does to other findings', async () => {
    const bench = await layOnBench();
    const docket = show(FindingDocket);
    expect(words(docket.find('.verdict'))).toMatch(/^Repair: about \d+ min, anew about \d+\. .*Minutes are estimates\.$/);
    const trim = bench.openFindings.find((f) => f.rule === 'needless-trim')!;
    useViewing().selected = trim.key;
    await flushPromises();
    await button(docket, /^Try: /).trigger('click');
    await flushPromises();
    expect(words(docket.find('.outcome'))).toMatch(/^All of it is gone then\./);
    const others = bench.trial!.trial.changes!.filter((change) => change.rule !== 'needless-trim' && change.before === undefined);
    for (const { rule } of others) expect(words(docket.find('.outcome'))).toContain(findRule(rule).title.toLowerCase());
  });

  test('is saved as a table with a line for each finding (RFC 4180)', async () => {
    const bench = await layOnBench();
    const data: string[][] = parse(auditCsv(bench.openFindings));
    expect(data).toHaveLength(bench.openFindings.length + 1);
    expect(new Set(data.map((row) => row.length))).toEqual(new Set([data[0]!.length]));
    expect(data.slice(1).map((row) => row[1])).toEqual(bench.openFindings.map((f) => f.rule));
  });
});
