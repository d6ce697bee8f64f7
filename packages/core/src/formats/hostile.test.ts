import { describe, expect, test } from '@jest/globals';
import { parseDecimal } from './csv/parseDecimal.ts';
import { MAX_ROWS } from './fileProblem.ts';
import { sayCount } from '../words/sayCount.ts';
import { readStitchFile } from './readStitchFile.ts';

const svg = (inner: string, size = 'width="80mm" height="60mm" viewBox="0 0 80 60"') =>
  readStitchFile(new TextEncoder().encode(`<svg xmlns="http://www.w3.org/2000/svg" ${size}>${inner}</svg>`));
const line = '<path d="M0 0L1 1" stroke="red"/>';

describe('files that mean harm are refused as soon as that is known', () => {
  test('curves that would be more stitches than a file may have, said in few bytes', () => {
    const far = svg(`<path stroke="red" d="M0 0${'C90000 90000 -90000 -90000 1 1'.repeat(900)}"/>`);
    expect(far.ok ? '' : far.error.found).toBe(`curves of more than ${sayCount(MAX_ROWS)} stitches`);
    const beyond = svg('<path stroke="red" d="M0 0C1e9 1e9 5 5 1 1"/>');
    expect(beyond.ok ? '' : beyond.error.found).toBe('a point far outside');
  });

  test('elements nested so deep that their transforms would be longer than the file', () => {
    const nested = (depth: number) => svg(`${'<g transform="translate(0 0)">'.repeat(depth)}${line}${'</g>'.repeat(depth)}`);
    expect(nested(150).ok).toBe(true);
    for (const depth of [250, 20_000]) {
      const deep = nested(depth);
      expect(deep.ok ? '' : deep.error.message).toContain('nested more than 200 deep');
    }
  });

  test.each([50_000, 200_000, 1_500_000])('numbers of %d digits that end as no number', (digits) => {
    const number = `${'9'.repeat(digits)}x`;
    const length = svg(line, `width="${number}" height="1mm" viewBox="0 0 1 1"`);
    expect(length.ok ? '' : length.error.found).toMatch(/^the width/);
    const row = readStitchFile(new TextEncoder().encode(`command,x,y\nstitch,${number},0\nend,,\n`));
    expect(row.ok ? undefined : row.error.line).toBe(2);
    // What is quoted of it is short enough to be read.
    for (const refused of [length, row]) expect(refused.ok ? Infinity : refused.error.message.length).toBeLessThan(400);
    const points = readStitchFile(
      new TextEncoder().encode(
        `<svg xmlns="http://www.w3.org/2000/svg" data-stitches="1"><polyline points="0,0 ${number},1" stroke="red"/></svg>`,
      ),
    );
    expect(points.ok).toBe(false);
  });

  test.each([
    ['12', 12],
    ['12.', 12],
    ['.5', 0.5],
    ['-0.25e2', -25],
    ['+3', 3],
    [' 7 ', 7],
    ['1234567890123456789', Number('1234567890123456789')],
    ['', NaN],
    ['.', NaN],
    ['1.2.3', NaN],
    ['0x10', NaN],
    ['1e', NaN],
    ['--1', NaN],
  ])('%j is still read as it was', (text, value) => {
    expect(parseDecimal(text)).toBe(value);
  });
});
