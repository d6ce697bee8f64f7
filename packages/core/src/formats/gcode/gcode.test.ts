import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { COMMANDS, isSameProgram } from '../../model/program.ts';
import { anyProgram } from '../../testing/programs.ts';
import { readStitchFile } from '../readStitchFile.ts';
import { readGcode } from './readGcode.ts';
import { writeGcode } from './writeGcode.ts';
import { runs } from '../../testing/runs.ts';

const FILE = `%
(stitches, trim M20)
G21
G90
T1 M6 (#1f4e79 Deep water)
G0 X-12.4 Y3.1
G1 X-12.4 Y3.1
G1 X-12.02 Y4.9
M20
M0 (Lay the badge fabric)
T2 M6 (#e0a526)
M30
%
`;
const said = (text: string): string => {
  const read = readGcode(text);
  return read.ok ? 'read' : read.error.message;
};

// Words and their meaning as in ISO 6983-1, Automation systems and integration, numerical control of machines, part 1, tables of preparatory functions (G0 point to point,
// G1 linear, G21 metric, G90 absolute) and miscellaneous functions (M0 programmed stop, M6 tool change, M30 end of data; M20 to M29 unassigned): from memory of the tables.
describe('G-code', () => {
  test('says each row in a block of standard words, and reads it back', () => {
    const read = readGcode(FILE);
    if (!read.ok) throw new Error(read.error.message);
    const { program, warnings } = read.value;
    expect([...program.command].map((c) => COMMANDS[c])).toEqual('color jump stitch stitch trim stop color end'.split(' '));
    expect([program.threads, program.notes.get(5), warnings]).toEqual([
      [
        { color: '#1f4e79', name: 'Deep water' },
        { color: '#e0a526', name: '' },
      ],
      'Lay the badge fabric',
      [],
    ]);
    expect(writeGcode(program)).toBe(FILE);
    const kind = readStitchFile(new TextEncoder().encode(FILE));
    expect(kind.ok && kind.value.kind).toBe('gcode');
  });

  test('any program comes back bit for bit, whatever its names and notes say, with any word for the trim', () => {
    fc.assert(
      fc.property(anyProgram, fc.integer({ min: 20, max: 29 }), (program, word) => {
        const written = writeGcode(program, `M${word}`);
        const read = readGcode(written);
        expect(read.ok ? isSameProgram(read.value.program, program) : read.error.message).toBe(true);
        // One word a letter and a number in every block, and no remark within another.
        for (const line of written.split('\n')) expect(line).toMatch(/^(%|[GMTXY0-9 .-]*(\([^()\n]*\))?)$/);
      }),
      runs(300, 6983),
    );
  });

  test('as others write it: numbered, modal, in small letters, with comments after a semicolon', () => {
    const read = readGcode('g21 g90\nn10 g0 x0 y0 ; begin\nn20 g1 x1\nn30 y2.\nn40 t3 m6\nn50 g01 x+.5');
    if (!read.ok) throw new Error(read.error.message);
    const { program, warnings } = read.value;
    expect([...program.x].slice(0, 3)).toEqual([0, 1, 1]);
    expect([program.y[2], program.x[4], program.threads[0]!.name]).toEqual([2, 0.5, 'T3']);
    expect(warnings).toEqual([expect.stringContaining('no M30'), expect.stringContaining('name no color')]);
  });

  test('what it does not understand is refused with its line, since it may be a word that moves the needle', () => {
    expect(said('G21\nG2 X1 Y1')).toMatch(/^Line 2: found G2; expected G0, G1/);
    expect(said('G20\nG1 X1 Y1')).toMatch(/^Line 1: found G20; expected G21: lengths in mm/);
    expect(said('G21 G91')).toContain('G90: absolute places');
    expect(said('G21\nX1 Y1')).toContain('G0 or G1 before the first place');
    expect(said('G1 X1 Y1')).toContain('G21 before the first place');
    expect(said('G21\nG1 X2000 Y0')).toContain('1000 mm from the hoop');
    expect(said('G21\nG1 X1 (a) Y1')).toMatch(/^Line 2: found “G1 X1 \(a\) Y1”/);
    expect(said('G21\nG1 X1 Y')).toContain('a letter and a number');
    expect(said('G21\nG1 X1 Y1\nM30\nG1 X2')).toMatch(/^Line 4: .*nothing after M30/);
    expect(said('G21\nG0 X1 Y1\nM30')).toContain('1 jump and no stitch');
  });
});
