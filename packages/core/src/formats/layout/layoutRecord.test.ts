import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { anyProgramWithin } from '../../testing/programs.ts';
import { FORMATS } from '../formats.ts';
import { decodeLayout, traceLayout } from './decodeLayout.ts';
import { encodeLayout } from './encodeLayout.ts';
import { layoutOfName, LayoutRecord, LAYOUTS } from './layoutRecord.ts';
import { SIMULATED_LAYOUT } from './simulatedLayout.ts';
import { runs } from '../../testing/runs.ts';

describe('a layout as the shop keeps it', () => {
  const [simulated] = LAYOUTS;

  test('has an ending of its own, no format’s, and is called as its layout is', () => {
    expect(LayoutRecord.parse(simulated)).toEqual(simulated);
    const wrong = (more: object): string => LayoutRecord.safeParse({ ...simulated, ...more }).error?.issues[0]?.message ?? '';
    for (const { extensions } of FORMATS)
      for (const extension of extensions) expect(wrong({ extension: extension.slice(1) })).toContain('open format');
    for (const extension of ['', '.isla', 'ISLA', 'a b', 'ninechars']) expect(wrong({ extension })).toContain('one to eight small letters');
    expect(wrong({ name: 'another' })).toContain('calls itself simulated machine');
    expect(wrong({ layout: { ...SIMULATED_LAYOUT, record: { ...SIMULATED_LAYOUT.record, length: 3 } } })).toMatch(/beyond the record/);
  });

  test('is found by how a file’s name ends, whatever its case, and by nothing else', () => {
    for (const name of ['a.isla', 'A.B.ISLA']) expect(layoutOfName(LAYOUTS, name)).toBe(simulated);
    for (const name of ['isla', 'a.isla.csv', 'a.islax', '']) expect(layoutOfName(LAYOUTS, name)).toBeUndefined();
  });
});

describe('the first records of a file', () => {
  test('are those that it is read as, each where the one before it ends (property)', () => {
    fc.assert(
      fc.property(anyProgramWithin(300), fc.integer({ min: 1, max: 40 }), (program, most) => {
        const written = encodeLayout(program, SIMULATED_LAYOUT);
        if (!written.ok) return;
        const { bytes } = written.value;
        const { records, read, problem } = traceLayout(bytes, SIMULATED_LAYOUT, most);
        const whole = decodeLayout(bytes, SIMULATED_LAYOUT);
        expect([problem, read]).toEqual([undefined, whole.ok ? whole.value : undefined]);
        expect(records.length).toBe(Math.min(most, read!.records));
        records.forEach(({ at }, k) => expect(at).toBe(k === 0 ? 256 : records[k - 1]!.at + records[k - 1]!.size));
      }),
      runs(60, 43),
    );
  });

  test('stop where a file does, at the byte that is said (property)', () => {
    fc.assert(
      fc.property(anyProgramWithin(300), fc.double({ min: 0, max: 1, noNaN: true }), (program, share) => {
        const written = encodeLayout(program, SIMULATED_LAYOUT);
        if (!written.ok) return;
        const { bytes } = written.value;
        const cut = bytes.slice(0, Math.floor(share * (bytes.length - 1)));
        const { records, problem } = traceLayout(cut, SIMULATED_LAYOUT, Infinity);
        expect(problem).toBeDefined();
        expect(records.length).toBe(Math.max(0, Math.floor((cut.length - 256) / 6)));
        if (cut.length >= 256) expect(problem!.byte).toBe(256 + 6 * records.length);
      }),
      runs(60, 43),
    );
  });
});
