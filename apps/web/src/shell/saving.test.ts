import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import type { JobDetail } from '@isola/contract';
import type { JournalEntry } from '@isola/core';
import { enableAutoUnmount, flushPromises } from '@vue/test-utils';
import { nextTick } from 'vue';
import { sayCount } from '../bench/figures/sayFigures.ts';
import { inBody, layOnBench, setTheStage, show } from '../bench/testing/stage.ts';
import { type Outgoing, type SendingState, useOutbox } from '../stores/outbox.ts';
import ConflictDialog from './ConflictDialog.vue';
import SaveState from './SaveState.vue';

enableAutoUnmount(afterEach);
beforeEach(setTheStage);

describe('what is said of saving', () => {
  test('whether it is saved is always said, of other jobs too; a conflict says which steps fit and what they make of it', async () => {
    const bench = await layOnBench();
    const outbox = useOutbox();
    bench.job = { id: 'one', name: 'One', version: 3 } as JobDetail;
    const state = show(SaveState);
    const said: string[] = [];
    const entries: JournalEntry[] = [
      { id: crypto.randomUUID(), kind: 'undo' },
      { id: crypto.randomUUID(), kind: 'do', name: 'all repairs', operation: { id: 'rename-object', object: 'o1', name: 'n' } },
    ];
    const queueOf = (jobId: string, at: SendingState): Outgoing => ({
      ...{
        jobId,
        jobName: `Job ${jobId}`,
        state: at,
        reason: 'It does not fit.',
        version: 3,
        own: [],
        isAside: false,
        entries,
        orders: [1, 2],
      },
    });
    const say = async (...queues: Outgoing[]): Promise<void> => {
      outbox.queues = new Map(queues.map((queue) => [queue.jobId, queue]));
      await nextTick();
      said.push(state.text());
    };
    outbox.savedAt = new Date(2026, 10, 23, 9, 5, 7);
    await say();
    await say(queueOf('one', 'sending'));
    await say(queueOf('two', 'sending'));
    await say(queueOf('two', 'offline'));
    await say(queueOf('two', 'conflict'));
    await say(queueOf('one', 'refused'));
    outbox.keepProblem = 'The browser has no room left to keep steps.';
    await say(queueOf('two', 'sending'));
    await say(queueOf('one', 'conflict'));
    expect(said).toEqual([
      'Saved 09:05:07',
      'Saving…',
      'Saving another job…',
      'Not saved: no connection, trying again. Your steps are kept here.',
      'Steps of Job two are not saved: open it to settle them',
      'A step was refused',
      'Not saved. The browser has no room left to keep steps. Leave this page open until it is.',
      'Changed in another window',
    ]);
    const { figures } = bench.now!.view;
    bench.settling = {
      ...{ version: 4, before: figures, after: { ...figures, stitches: 12_345 } },
      steps: [
        { entry: entries[0]!, problem: 'another step was done since' },
        { entry: entries[1]!, problem: undefined },
      ],
    };
    const settled: boolean[] = [];
    bench.settle = (isKept) => Promise.resolve(void settled.push(isKept));
    show(ConflictDialog);
    await nextTick();
    const dialog = inBody('[role=dialog]').find((d) => d.textContent?.includes('another window'))!;
    expect([...dialog.querySelectorAll('li')].map((li) => li.textContent.trim())).toEqual([
      'undo does not fit: another step was done since',
      'all repairs',
    ]);
    expect([...dialog.querySelectorAll('tbody tr')].map((tr) => tr.children[1]!.textContent)).toContain(sayCount(12_345));
    const [away, , make] = dialog.querySelectorAll('button');
    expect(make!.textContent).toContain('Make the 1 that fit');
    away!.click();
    await flushPromises();
    make!.click();
    await nextTick();
    expect(settled).toEqual([false, true]);
    // What touches the same as others did is in the history before anybody is asked.
    outbox.queues = new Map([
      ['one', { ...queueOf('one', 'conflict'), isAside: true, reason: 'Mara changed Left wing, which was changed here, too.' }],
    ]);
    await nextTick();
    expect(state.text()).toBe('Kept as a branch');
    expect(dialog.textContent).toContain('Mara changed Left wing, which was changed here, too. The job stays as they left it.');
    expect([...dialog.querySelectorAll('button')].map((button) => button.textContent.trim())[0]).toBe('Leave them on their branch');
  });
});
