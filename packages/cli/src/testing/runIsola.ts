import { afterAll, beforeAll } from '@jest/globals';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { runCommand } from '../run.ts';

const DEMO = path.resolve(import.meta.dirname, '../../../../demo');
export const HERON = path.join(DEMO, 'heron.csv');
export const LANTERN = path.join(DEMO, 'lantern.csv');

let dir = '';
beforeAll(() => {
  dir = mkdtempSync(path.join(tmpdir(), 'isola-'));
});
afterAll(() => rmSync(dir, { recursive: true }));

/** A file in a folder of the tests' own, which is gone after them. */
export const inFolder = (name: string): string => path.join(dir, name);

/** What the command line says and how it ends. */
export function run(...args: string[]): { status: number; out: string; err: string } {
  let [out, err] = ['', ''];
  const status = runCommand(
    args,
    (text) => (out += text),
    (text) => (err += text),
  );
  return { status, out, err };
}

export function json(...args: string[]): Record<string, unknown> {
  return JSON.parse(run(...args, '--json').out) as Record<string, unknown>;
}
