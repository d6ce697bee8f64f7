import { afterEach, describe, expect, jest, test } from '@jest/globals';
import { readSteps, saveSteps, STEPS_EXTENSION } from './stepsFile.ts';

afterEach(() => void jest.restoreAllMocks());

/** Files that were handed to the browser's downloads. */
async function savedAs(name: string): Promise<{ readonly name: string; readonly blob: Blob }> {
  const blobs: Blob[] = [];
  const names: string[] = [];
  Object.assign(URL, { createObjectURL: (blob: Blob) => (blobs.push(blob), 'blob:steps'), revokeObjectURL: () => undefined });
  jest.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (this: HTMLAnchorElement) {
    names.push(this.download);
  });
  saveSteps({ ...STEPS, name });
  await Promise.resolve();
  return { name: names[0]!, blob: blobs[0]! };
}

const STEPS = {
  job: '7e1f0f3e-6a55-4f0e-9a43-0f6a6d2f1c11',
  name: 'Heron',
  version: 4,
  entries: [
    { id: '0b0c9be6-5b0a-4c0e-8a39-5f2a7c1f7a10', kind: 'undo' as const, step: '3c5ad0aa-95ab-4a9e-a7de-6c5f0a3d5b9e' },
    {
      id: 'd9a6bb0e-3f1f-45a9-9a5e-0a4f6b8f3c52',
      kind: 'do' as const,
      name: 'keep',
      operation: { id: 'keep-finding' as const, places: ['k'], rule: 'r', title: 't', reason: 'so it is' },
    },
  ],
};

describe('steps as a file', () => {
  test('are read as they were saved, under a name that every system takes', async () => {
    const { name, blob } = await savedAs('Heron: crest / left <chest>\u0000');
    expect(name).toBe(`Heron_ crest _ left _chest__${STEPS_EXTENSION}`);
    const text = await readWith(blob);
    const read = await readSteps({ text: () => Promise.resolve(text) } as Blob);
    expect(read).toMatchObject({ job: STEPS.job, version: 4, entries: STEPS.entries });
    expect((await savedAs('')).name).toBe(`job${STEPS_EXTENSION}`);
  });

  test.each([
    ['no JSON', '{broken'],
    ['other JSON', '{"isola":"figures"}'],
    ['no steps', JSON.stringify({ isola: 'steps', ...STEPS, entries: [] })],
    ['a step that is none', JSON.stringify({ isola: 'steps', ...STEPS, entries: [{ id: 'x', kind: 'jump' }] })],
    ['no job', JSON.stringify({ isola: 'steps', ...STEPS, job: 'heron' })],
  ])('%s is no such file', async (_, text) => {
    expect(await readSteps({ text: () => Promise.resolve(text) } as Blob)).toBeUndefined();
  });
});

function readWith(blob: Blob): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.onerror = () => reject(new Error('the file cannot be read'));
    reader.readAsText(blob);
  });
}
