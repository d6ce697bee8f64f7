import { JournalEntry } from '@isola/core';
import { z } from 'zod';

/** Steps that could not be saved, as a file to keep and to take up again. */
const StepsFile = z.object({
  isola: z.literal('steps'),
  job: z.uuid(),
  name: z.string(),
  version: z.number().int().nonnegative(),
  entries: z.array(JournalEntry).min(1),
});
export type StepsFile = z.infer<typeof StepsFile>;

export const STEPS_EXTENSION = '.steps.json';

/** Hands a file of steps to the browser's downloads. */
export function saveSteps(steps: Omit<StepsFile, 'isola'>): void {
  const url = URL.createObjectURL(new Blob([JSON.stringify({ isola: 'steps', ...steps })], { type: 'application/json' }));
  const link = document.createElement('a');
  link.href = url;
  link.download = `${steps.name.replace(/[^\p{L}\p{N} _-]/gu, '_').slice(0, 80) || 'job'}${STEPS_EXTENSION}`;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/** The steps in a file, or nothing where it has none. */
export async function readSteps(file: Blob): Promise<StepsFile | undefined> {
  try {
    return StepsFile.safeParse(JSON.parse(await file.text())).data;
  } catch {
    return undefined;
  }
}
