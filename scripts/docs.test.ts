import { expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { SimpleOperation } from '../packages/core/src/edit/operations/registry.ts';
import { CORE_ORDER } from './checks/layers.mjs';

// What the documents list is what there is.

const read = (name: string): string => readFileSync(path.join(import.meta.dirname, '..', name), 'utf8');

test('docs/core.md prints the import order of the core as the lint holds it, and README.md names its folders', () => {
  expect(read('docs/core.md')).toContain(`\n${CORE_ORDER.join(' → ')}\n`);
  const [row] = /^\| `packages\/core` .*$/m.exec(read('README.md'))!;
  expect(CORE_ORDER.filter((folder) => !row.includes(`\`${folder}\``))).toEqual([]);
});

test('docs/core.md has a row for every operation that a journal holds', () => {
  const table = read('docs/core.md')
    .split('\n')
    .filter((line) => line.startsWith('| `'));
  const ids = SimpleOperation.options.map(({ shape }) => [...shape.id.values][0]!);
  expect(ids.length).toBeGreaterThan(15);
  expect(ids.filter((id) => !table.some((row) => row.includes(`\`${id}\``)))).toEqual([]);
});
