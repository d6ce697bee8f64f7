import { readFileSync } from 'node:fs';
import path from 'node:path';
import {
  decodeLayout,
  defaultTarget,
  encodeLayout,
  FORMAT_IDS,
  JournalEntry,
  LAYOUTS,
  readDesignJson,
  readStitchFile,
  Target,
  writeDesignJson,
  writeStitchFile,
} from '@isola/core';
import { DoesNotFit } from '../apps/server/src/errors.ts';
import { readPicture } from '../apps/server/src/services/readPicture.ts';
import { mutator } from './mutate.ts';
import { entryOf, stepsOn } from './steps.ts';
import { chance } from './TorturedServer.ts';

export interface MutatedCount {
  readonly inputs: number;
  /** How many of each kind were read all the same. */
  readonly read: Readonly<Record<string, number>>;
  /** ms. */
  readonly slowest: number;
  readonly faults: readonly string[];
}

/** Longer than this (ms) one of these small inputs may not take. */
const SLOW = 2000;

/** What reads things of other hands, each with something that it reads. */
function readers(): readonly { readonly name: string; readonly inputs: readonly Buffer[]; readonly read: (bytes: Buffer) => boolean }[] {
  const lines = readFileSync('demo/heron.csv', 'utf8').split('\n').slice(0, 380);
  const sewn = readStitchFile(Buffer.from([...lines, 'end,,'].join('\n')));
  if (!sewn.ok) throw new Error(sewn.error.message);
  const { program } = sewn.value;
  const parse = (read: (value: unknown) => boolean) => (bytes: Buffer) => {
    let value: unknown;
    try {
      value = JSON.parse(bytes.toString('utf8'));
    } catch {
      return false;
    }
    return read(value);
  };
  const json = (value: unknown): Buffer => Buffer.from(JSON.stringify(value));
  const { operations } = stepsOn('demo/birch.csv', 9);
  return [
    {
      name: 'open formats',
      inputs: FORMAT_IDS.map((format) => Buffer.from(writeStitchFile(program, format))),
      read: (bytes) => readStitchFile(bytes).ok,
    },
    ...LAYOUTS.flatMap((record) => {
      const written = encodeLayout(program, record.layout);
      const read = (bytes: Buffer): boolean => decodeLayout(bytes, record.layout).ok;
      return written.ok ? [{ name: `a machine's own (${record.name})`, inputs: [Buffer.from(written.value.bytes)], read }] : [];
    }),
    {
      name: 'design JSON',
      inputs: [Buffer.from(writeDesignJson(program, { name: 'x', target: defaultTarget() }))],
      read: (bytes) => readDesignJson(bytes.toString('utf8')).ok,
    },
    {
      name: 'steps',
      inputs: operations.map((operation) => json(entryOf(operation))),
      read: parse((v) => JournalEntry.safeParse(v).success),
    },
    { name: 'targets', inputs: [json(defaultTarget())], read: parse((value) => Target.safeParse(value).success) },
    {
      name: 'photos',
      inputs: [readFileSync(path.resolve('docs/screenshots/jobs.png')).subarray(0, 4000)],
      read: (bytes) => {
        try {
          return readPicture(bytes, 'x').width > 0;
        } catch (error) {
          if (error instanceof DoesNotFit) return false;
          throw error;
        }
      },
    },
  ];
}

/** Inputs changed by chance are read or refused in words by all that reads things of other hands: none throws, and none takes long. */
export function readMutated(count: number, seed = 11): MutatedCount {
  const random = chance(seed);
  const mutate = mutator(random);
  const all = readers();
  const read: Record<string, number> = {};
  const faults = new Set<string>();
  let slowest = 0;
  for (let k = 0; k < count; k++) {
    const reader = all[k % all.length]!;
    const bytes = mutate(reader.inputs[Math.floor(random() * reader.inputs.length)]!);
    const start = performance.now();
    try {
      if (reader.read(bytes)) read[reader.name] = (read[reader.name] ?? 0) + 1;
    } catch (error) {
      faults.add(`${reader.name}, input ${k}: ${error instanceof Error ? (error.stack ?? '').slice(0, 300) : String(error)}`);
    }
    const took = performance.now() - start;
    slowest = Math.max(slowest, took);
    if (took > SLOW) faults.add(`${reader.name}, input ${k}: ${took.toFixed(0)} ms`);
  }
  return { inputs: count, read, slowest, faults: [...faults] };
}
