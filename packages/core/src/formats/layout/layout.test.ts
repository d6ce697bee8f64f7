import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { COMMANDS, type Program, ProgramBuilder } from '../../model/program.ts';
import { anyProgram } from '../../testing/programs.ts';
import { reachOf, sumsOf } from './bitSums.ts';
import { checkLayout, readLayout } from './checkLayout.ts';
import { decodeLayout } from './decodeLayout.ts';
import { encodeLayout } from './encodeLayout.ts';
import { type LayoutAxis, MachineLayout } from './machineLayout.ts';
import { SIMULATED_LAYOUT } from './simulatedLayout.ts';
import { runs } from '../../testing/runs.ts';

/** Numbers of three bytes with their bits anywhere, in three manners: weights of three with both signs, two's complement, or a number as it stands. */
const anyAxes = fc
  .tuple(
    fc.constantFrom('threes', 'twos', 'i8', 'i16le', 'i16be'),
    fc.boolean(),
    fc.shuffledSubarray([...Array(24).keys()], { minLength: 24 }),
  )
  .map(([manner, isTurned, order]): { length: number; x: LayoutAxis; y: LayoutAxis; most: number } => {
    const weights = { threes: [1, -1, 3, -3, 9, -9, 27, -27, 81, -81], twos: [1, 2, 4, 8, 16, 32, 64, 128, -256] }[manner as 'threes'];
    if (weights === undefined) {
      const size = manner === 'i8' ? 1 : 2;
      const axis = (at: number): LayoutAxis => ({ at, as: manner as 'i8', relative: true });
      const [x, y] = isTurned ? [axis(size), axis(0)] : [axis(0), axis(size)];
      return { length: 2 * size, x, y, most: size === 1 ? 127 : 300 };
    }
    const axis = (from: number): LayoutAxis => ({
      bits: weights.map((weight, k) => ({ byte: order[from + k]! >> 3, bit: order[from + k]! & 7, weight })),
      relative: true,
    });
    return { length: 3, x: axis(0), y: axis(weights.length), most: manner === 'threes' ? 121 : 255 };
  });

const anyLayout = fc
  .record({
    axes: anyAxes,
    isPrefixed: fc.boolean(),
    repeat: fc.constantFrom(undefined, 2, 3),
    end: fc.constantFrom('command' as const, 'count' as const, 'size' as const),
    mmPerCount: fc.constantFrom(0.05, 0.1, 0.2, 0.025),
    yUp: fc.boolean(),
    longMove: fc.constantFrom('jump' as const, 'stitch' as const),
    extra: fc.integer({ min: 0, max: 5 }),
    fill: fc.integer({ min: 0, max: 255 }),
    hasColors: fc.boolean(),
  })
  .map(({ axes, isPrefixed, repeat, end, mmPerCount, yUp, longMove, extra, fill, hasColors }): MachineLayout => {
    const at = axes.length;
    const masked = (command: 'stitch', value: number) => ({ command, byte: at, mask: 0xe0, value });
    const prefixed = (command: 'stitch', code: number) => ({ command, prefix: [0x80, 0x80, 0x80, 0x80, code].slice(-(at + 1)) });
    // A step of −128 in a byte would read as the first byte of a prefix.
    const canBePrefixed = isPrefixed && !('bits' in axes.x) && axes.x.as === 'i8';
    const names = ['jump', 'trim', 'color', 'stop', 'end'] as unknown as 'stitch'[];
    const commands = canBePrefixed
      ? [...names.map((name, k) => prefixed(name, 0x10 + k)), { command: 'stitch' as const, byte: 0, mask: 0, value: 0 }]
      : [
          ...(repeat === undefined ? [] : [{ ...masked('trim' as 'stitch', 0x40), repeat }]),
          masked('stitch', 0x20),
          masked('jump' as 'stitch', 0x40),
          ...(repeat === undefined ? [masked('trim' as 'stitch', 0x60)] : []),
          masked('color' as 'stitch', 0x80),
          masked('end' as 'stitch', 0xa0),
          { command: 'stop' as const, byte: at, mask: 0, value: 0 },
        ];
    return {
      ...{ name: 'by chance', mmPerCount, yUp, longest: axes.most * mmPerCount, longMove, end },
      header: {
        ...{ length: 160, fill },
        fields: [
          { at: 0, text: 'HEAD' },
          { at: 4 + extra, as: 'u32be', of: 'records' },
          { at: 12 + extra, as: 'u32le', of: 'stitches' },
          { at: 20 + extra, of: 'name', length: 8 },
          { at: 30 + extra, as: 'i32le', of: 'minX' },
        ],
        ...(hasColors ? { colors: { at: 60, entry: 'rgb' as const, max: 32 } } : {}),
      },
      record: { length: canBePrefixed ? at : at + 1 + extra, x: axes.x, y: axes.y, commands },
    };
  });

describe('a machine layout', () => {
  test('of any allowed kind takes any program: what is written reads back the same, and written again is the same to the last byte', () => {
    const seen = new Set<string>();
    fc.assert(
      fc.property(anyLayout, anyProgram, (layout, program) => {
        expect(checkLayout(layout)).toEqual([]);
        expect(MachineLayout.parse(JSON.parse(JSON.stringify(layout)))).toEqual(layout);
        const written = encodeLayout(program, layout, 'Wing');
        if (!written.ok) {
          expect(written.error).toMatch(/no stitch/);
          return;
        }
        const read = decodeLayout(written.value.bytes, layout);
        if (!read.ok) throw new Error(read.error.message);
        const { program: again, records, byteOfRow } = read.value;
        expect([records, byteOfRow.length]).toEqual([written.value.records, again.rowCount]);
        seen.add(`${layout.end} ${'bits' in layout.record.x}`);
        // Each stitch lies within half a count of where it was, however many came before it.
        const stitches = (of: Program): number[][] =>
          [...of.command].flatMap((c, k) => (COMMANDS[c] === 'stitch' ? [[of.x[k]!, of.y[k]!]] : []));
        if (layout.longMove === 'jump') {
          const [were, are] = [stitches(program), stitches(again)];
          expect(are).toHaveLength(were.length);
          were.forEach(([x, y], k) => {
            expect(Math.abs(are[k]![0]! - x!)).toBeLessThanOrEqual(layout.mmPerCount / 2 + 1e-6);
            expect(Math.abs(are[k]![1]! - y!)).toBeLessThanOrEqual(layout.mmPerCount / 2 + 1e-6);
          });
        }
        const twice = encodeLayout(again, layout, 'Wing');
        expect(twice.ok && Buffer.compare(Buffer.from(twice.value.bytes), Buffer.from(written.value.bytes))).toBe(0);
      }),
      runs(400, 4),
    );
    expect(seen.size).toBe(6);
  });

  test('is refused where it contradicts itself, each time with its place', () => {
    expect(checkLayout(SIMULATED_LAYOUT)).toEqual([]);
    const bits = (weights: readonly number[]): LayoutAxis => ({
      bits: weights.map((weight, k) => ({ byte: 1, bit: k, weight })),
      relative: true,
    });
    const { record, header } = SIMULATED_LAYOUT;
    const problems = (more: object): string[] => {
      const read = readLayout({ ...structuredClone(SIMULATED_LAYOUT), ...more });
      return read.ok ? [] : read.error.map(({ at, message }) => `${at}: ${message}`);
    };
    expect(problems({ record: { ...record, x: bits([1, -1, 4]) } })).toContainEqual(
      expect.stringMatching(/^record\.x: its weights make no 2/),
    );
    expect(problems({ record: { ...record, x: bits([1, -1, 3, -3]) } })).toContainEqual(
      expect.stringMatching(/^record\.x: it holds -4 to 4, and the longest move takes ±635/),
    );
    expect(problems({ record: { ...record, y: { at: 1, as: 'i16le', relative: false } } })).toContainEqual(
      expect.stringMatching(/^record\.y: bit 0 of byte 1 belongs to record\.x already/),
    );
    expect(problems({ record: { ...record, y: { at: 5, as: 'i16le', relative: false } } })).toContainEqual(
      expect.stringMatching(/^record\.y: byte 6 is beyond the record's 6/),
    );
    const commands = (list: object[]): object => ({ record: { ...record, commands: list } });
    expect(problems(commands([{ command: 'stitch', byte: 3, mask: 3, value: 1 }]))).toContainEqual(
      expect.stringMatching(/^record\.commands\.0: bit 0 of byte 3 belongs to y: masks may not lie on coordinates/),
    );
    expect(problems(commands([{ command: 'stitch', byte: 4, mask: 1, value: 2 }, ...record.commands]))).toContainEqual(
      expect.stringMatching(/value 2 has bits that mask 1 does not look at/),
    );
    expect(problems(commands([record.commands.at(-1)!, ...record.commands]))).toContainEqual(
      expect.stringMatching(/^record\.commands\.1: it is never reached: stop before it/),
    );
    expect(problems(commands(record.commands.slice(0, -1)))).toEqual([expect.stringMatching(/byte 4 with 0 leads to no command/)]);
    expect(problems(commands(record.commands.slice(1)))).toEqual(['record.commands: no record is a stitch']);
    expect(problems({ header: { ...header, fields: [{ at: 30, text: 'over' }, ...header.fields] } })).toContainEqual(
      expect.stringMatching(/lies on header\.fields\.0, at byte 32/),
    );
    expect(problems({ header: { ...header, length: 40 } })).toContainEqual(expect.stringMatching(/ends at byte 64, and the header has 40/));
    expect(problems({ end: 'count', header: { ...header, fields: [] } })).toContainEqual(
      'end: no field of the header says how many records there are',
    );
    expect(problems({ mmPerCount: 0 })).toContainEqual(expect.stringMatching(/^mmPerCount: /));
    expect(problems({ record: { ...record, x: { at: 0 } } })).toContainEqual(expect.stringMatching(/^record\.x/));
    expect(problems({ extra: 1 })).toHaveLength(1);
  });

  test('takes the fewest bits for a value, and knows which values it can make', () => {
    const bits = [1, -1, 3, -3, 9, -9].map((weight, k) => ({ byte: 0, bit: k, weight }));
    const sums = sumsOf(bits);
    for (const [value, mask] of sums) {
      expect(bits.reduce((sum, { weight }, k) => sum + ((mask >> k) & 1) * weight, 0)).toBe(value);
      for (let other = 0; other < 64; other++) {
        if (bits.reduce((sum, { weight }, k) => sum + ((other >> k) & 1) * weight, 0) !== value) continue;
        expect(mask.toString(2).replaceAll('0', '').length).toBeLessThanOrEqual(other.toString(2).replaceAll('0', '').length);
      }
    }
    expect(reachOf(bits)).toEqual({ least: -13, most: 13, gap: undefined });
  });

  const small = new ProgramBuilder()
    .color('#1f4e79', 'Deep water')
    .jump(0, 0)
    .stitch(0, 0)
    .stitch(2, 1)
    .trim()
    .stop('Lay the badge')
    .color('#e0a526')
    .jump(40, 0)
    .stitch(40, 0)
    .stitch(41, 3)
    .end()
    .build();

  test('that lacks a command says what is lost, and refuses what the machine has to know', () => {
    const written = encodeLayout(small, SIMULATED_LAYOUT, 'Wing');
    if (!written.ok) throw new Error(written.error);
    expect(written.value.notes).toEqual([expect.stringContaining('1 move over 12.7 mm'), expect.stringContaining('production sheet')]);
    const without = (...gone: string[]): MachineLayout => ({
      ...SIMULATED_LAYOUT,
      record: {
        ...SIMULATED_LAYOUT.record,
        commands: [
          ...SIMULATED_LAYOUT.record.commands.filter(({ command }) => !gone.includes(command) && command !== 'stop'),
          { command: gone.includes('stop') ? 'jump' : 'stop', byte: 4, mask: 0, value: 0 },
        ],
      },
    });
    const trimless = encodeLayout(small, without('trim', 'color'));
    expect(trimless.ok && trimless.value.notes.join(' ')).toMatch(/1 trim is left out.*1 color change is written as stops/);
    expect(encodeLayout(small, without('stop'))).toMatchObject({
      ok: false,
      error: expect.stringMatching(/Row 5: a stop for the operator, and simulated machine has none/),
    });
    expect(encodeLayout(small, without('stop', 'color'))).toMatchObject({ ok: false });
    const far = new ProgramBuilder().color('#1f4e79').stitch(0, 0).stitch(800, 0).end().build();
    expect(encodeLayout(far, SIMULATED_LAYOUT)).toMatchObject({
      ok: false,
      error: expect.stringMatching(/Row \d+: a place at 6\d\d.*do not reach/),
    });
    const narrow = {
      ...SIMULATED_LAYOUT,
      header: { ...SIMULATED_LAYOUT.header, fields: [{ at: 8, as: 'u8' as const, of: 'stitches' as const }] },
    };
    const many = new ProgramBuilder().color('#1f4e79');
    for (let k = 0; k < 300; k++) many.stitch(k % 7, k % 5);
    expect(encodeLayout(many.end().build(), narrow)).toMatchObject({ ok: false, error: expect.stringContaining('would have to say 300') });
  });

  test('reads no file that is cut short, altered or of another kind without saying where', () => {
    const written = encodeLayout(small, SIMULATED_LAYOUT, 'Wing');
    if (!written.ok) throw new Error(written.error);
    const { bytes } = written.value;
    const said = (of: Uint8Array): string => {
      const read = decodeLayout(of, SIMULATED_LAYOUT);
      return read.ok ? read.value.warnings.join(' ') : read.error.message;
    };
    expect(said(bytes)).toBe('');
    const read = decodeLayout(bytes, SIMULATED_LAYOUT);
    expect(read.ok && read.value.program.threads.map(({ color }) => color)).toEqual(['#1f4e79', '#e0a526']);
    expect(said(bytes.subarray(0, 100))).toMatch(/^Byte 100: found 100 bytes in all; expected a header of 256/);
    expect(said(bytes.subarray(0, bytes.length - 3))).toMatch(/^Byte 3\d\d: found 3 bytes; expected a whole record of 6/);
    expect(said(bytes.subarray(0, bytes.length - 6))).toMatch(
      /found the end of the file; expected an end record; the file may be cut short/,
    );
    const other = Uint8Array.from(bytes);
    other[0] = 0x58;
    expect(said(other)).toMatch(/^Byte 0: found “XSLA1”; expected “ISLA1”/);
    const altered = Uint8Array.from(bytes);
    altered[256 + 6 * 2 + 4] = 0x4a;
    expect(said(altered)).toContain('The header says 4 stitches, and the records make 3: the file may have been altered.');
    expect(said(Uint8Array.from([...bytes, 1, 2]))).toContain('2 bytes after its end were passed over');
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), anyLayout, (noise, layout) => {
        const of = Uint8Array.from([...new TextEncoder().encode('HEAD'), ...noise]);
        const got = decodeLayout(of, layout);
        if (!got.ok) expect(got.error.message).toMatch(/found .*; expected /);
      }),
      runs(300, 5),
    );
  });
});
