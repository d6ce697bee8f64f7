import { describe, expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { gunzipSync } from 'node:zlib';
import { defaultTarget, isSameProgram, type JournalEntry, readStitchCsv, readStitchFile, RowEntry } from '@isola/core';
import type { Answer, Progress, WholeJob } from './protocol.ts';
import { createTasks, type Tasks } from './tasks.ts';

const bytes = readFileSync(path.resolve(import.meta.dirname, '../../../../demo/birch.csv'));
const target = defaultTarget();
const silent = (): void => undefined;

function adopted(tasks: Tasks, entries: readonly RowEntry[] = []): WholeJob {
  const { base } = tasks.adopt({ bytes, target, entries }, silent);
  return { bytes, base, entries: [] };
}

const rename = (object: string, name: string): JournalEntry => ({
  id: crypto.randomUUID(),
  kind: 'do',
  name: 'rename',
  operation: { id: 'rename-object', object, name },
});

interface Published {
  readonly id: string;
  readonly name: string;
  readonly role: string;
}

function objectsIn(answer: Answer<'objects'>): readonly Published[] {
  if (typeof answer === 'string') throw new Error('asked for the state');
  return answer.objects as Published[];
}

const namesOf = (answer: Answer<'objects'>): string[] => objectsIn(answer).map(({ name }) => name);

describe('what workers compute', () => {
  test('reading gives figures and the rows as they came; adopting says how far it is, from none to all', () => {
    const tasks = createTasks();
    const read = tasks.read({ bytes, target }, silent);
    if ('refused' in read) throw new Error(read.refused.message);
    const again = readStitchCsv(gunzipSync(read.program).toString());
    const file = readStitchFile(bytes);
    expect(again.ok && file.ok && isSameProgram(again.value.program, file.value.program)).toBe(true);
    const heard: Progress[] = [];
    tasks.adopt({ bytes, target, entries: [] }, (at) => heard.push(at));
    expect(heard.length).toBeGreaterThan(5);
    expect(heard.every(({ share, doing }) => share >= 0 && share <= 1 && doing !== '')).toBe(true);
  });

  test('a job is known again by its version and last entry; any other state of it is asked for, and gives the same', () => {
    const tasks = createTasks();
    const whole = adopted(tasks);
    const start = { jobId: 'a', version: 0, lastEntryId: null };
    expect(tasks.objects(start, silent)).toBe('state-needed');
    const first = namesOf(tasks.objects({ ...start, whole }, silent));
    expect(namesOf(tasks.objects(start, silent))).toEqual(first);
    const cover = objectsIn(tasks.objects(start, silent)).find(({ role }) => role === 'cover')!;
    const step = rename(cover.id, 'the very first');
    const derived = tasks.derive({ ...start, more: [step] }, silent);
    expect(derived).toHaveProperty('figures');
    const after = { jobId: 'a', version: 1, lastEntryId: step.id };
    const names = namesOf(tasks.objects(after, silent));
    expect([names.includes('the very first'), first.includes('the very first')]).toEqual([true, false]);
    // Another worker, which starts from the whole job, answers the same.
    expect(namesOf(createTasks().objects({ ...after, whole: { ...whole, entries: [step] } }, silent))).toEqual(names);
    expect(tasks.objects({ ...after, lastEntryId: 'another' }, silent)).toBe('state-needed');
    expect(namesOf(tasks.objects(start, silent))).toEqual(first);
  });

  test('jobs are in hand up to so many rows; one that was let go is asked for', () => {
    // The file has some 3,200: the third job is one too many, and the one asked for longest ago goes.
    const tasks = createTasks(8000);
    const whole = adopted(tasks);
    const at = (jobId: string) => ({ jobId, version: 0, lastEntryId: null });
    for (const jobId of ['a', 'b']) tasks.objects({ ...at(jobId), whole }, silent);
    expect(tasks.objects(at('a'), silent)).not.toBe('state-needed');
    tasks.objects({ ...at('c'), whole }, silent);
    expect(['a', 'b', 'c'].map((jobId) => tasks.objects(at(jobId), silent) === 'state-needed')).toEqual([false, true, false]);
    // A design larger than all of that is in hand while it is worked on.
    const small = createTasks(10);
    small.objects({ ...at('a'), whole }, silent);
    expect(small.objects(at('a'), silent)).not.toBe('state-needed');
  });

  test('a step that does not fit is an answer with the reason; a stored journal or file that does not read is a fault of ours', () => {
    const tasks = createTasks();
    const whole = adopted(tasks);
    const start = { jobId: 'a', version: 0, lastEntryId: null };
    expect(tasks.derive({ ...start, whole, more: [rename('nobody', 'x')] }, silent)).toEqual({
      refused: 'there is no object nobody any more',
    });
    const broken = { ...whole, entries: [rename('nobody', 'x')] };
    expect(() => tasks.write({ jobId: 'b', version: 1, lastEntryId: 'x', whole: broken, format: 'csv' }, silent)).toThrow(
      /does not replay/,
    );
    expect(() => tasks.adopt({ bytes: new Uint8Array(3), target, entries: [] }, silent)).toThrow(/stored file does not read/);
    const undo = RowEntry.parse({ id: crypto.randomUUID(), kind: 'undo' });
    expect(() => adopted(tasks, [undo])).toThrow(/journal of rows does not replay: step 1/);
  });
});
