import { baseToJson, type JournalEntry, makeBase, readStitchFile, type Target } from '@isola/core';
import type { EngineApi, Opened } from '../protocol.ts';

/** What the journal of a job builds on that was just taken in, as the server sends it. */
export function baseOf(bytes: Uint8Array, target: Target): string {
  const read = readStitchFile(bytes);
  if (!read.ok) throw new Error(read.error.message);
  const base = makeBase(read.value.program, target, []);
  if (!base.ok) throw new Error(base.error);
  return baseToJson(base.value);
}

/** Opens a file in an engine as a job that was just taken in, and audits it. */
export async function openOn(engine: EngineApi, bytes: Uint8Array, target: Target, entries: readonly JournalEntry[] = []): Promise<Opened> {
  await engine.read(bytes);
  const opened = await engine.open(baseOf(bytes, target), entries, 0);
  if (opened === 'journal-needed') throw new Error('a base has no steps before it');
  return engine.audit();
}
