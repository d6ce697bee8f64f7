import { describe, expect, test } from '@jest/globals';
import { parse } from 'csv-parse/sync';
import fc from 'fast-check';
import { svgPathProperties } from 'svg-path-properties';
import { COLOR, COMMANDS, isSameProgram, JUMP, STITCH, TRIM } from '../model/program.ts';
import { anyProgram, buildProgram } from '../testing/programs.ts';
import { readStitchCsv } from './csv/readStitchCsv.ts';
import { writeStitchCsv } from './csv/writeStitchCsv.ts';
import { MAX_FILE_BYTES, readStitchFile } from './readStitchFile.ts';
import { flattenPath } from './svg/flattenPath.ts';
import { FORMAT_IDS, formatOfName, FORMATS, writeStitchFile } from './formats.ts';
import { readSvg } from './svg/readSvg.ts';
import { writeSvg } from './svg/writeSvg.ts';
import { runs } from '../testing/runs.ts';

const EXAMPLE = `command,x,y,color,note
color,,,#1f4e79,Deep water
jump,-12.4,3.1,,
stitch,-12.4,3.1,,
stitch,-12.02,4.9,,
trim,,,,
jump,10,4,,
stitch,10,4,,
stop,,,,Lay the badge fabric
color,,,#e0a526,Signal amber
end,,,,
`;

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

function problemOf(text: string) {
  const read = readStitchFile(bytes(text));
  if (read.ok) throw new Error('this was expected to be refused');
  return read.error;
}

describe('stitch CSV', () => {
  test('the documented example reads as documented and writes back letter for letter', () => {
    const read = readStitchCsv(EXAMPLE);
    if (!read.ok) throw new Error(read.error.message);
    const { program, warnings } = read.value;
    expect(warnings).toEqual([]);
    expect([...program.command].map((c) => COMMANDS[c])).toEqual('color jump stitch stitch trim jump stitch stop color end'.split(' '));
    expect(program.threads.map((t) => t.name)).toEqual(['Deep water', 'Signal amber']);
    expect(program.notes.get(7)).toBe('Lay the badge fabric');
    expect([program.x[3], program.y[3]]).toEqual([-12.02, 4.9]);
    expect(writeStitchCsv(program)).toBe(EXAMPLE);
  });

  test('any program comes back from CSV and from SVG bit for bit, since untouched stitches leave as they came', () => {
    fc.assert(
      fc.property(anyProgram, (program) => {
        const csv = readStitchCsv(writeStitchCsv(program));
        expect(csv.ok && isSameProgram(csv.value.program, program)).toBe(true);
        const svg = readSvg(writeSvg(program));
        expect(svg.ok && isSameProgram(svg.value.program, program)).toBe(true);
      }),
      runs(300, 20261),
    );
  });

  test('an SVG of stitches whose first run says nothing of what comes before it keeps its thread’s color', () => {
    const read = readSvg(
      '<svg data-isola="stitches"><polyline stroke="#1F4E79" points="0,0 1,1"/><polyline stroke="#1f4e79" points="3,3 4,4"/></svg>',
    );
    expect(read.ok && read.value.program.threads).toEqual([{ color: '#1f4e79', name: '' }]);
  });

  test('every format is found by its ending and by what it writes, and reads that back', () => {
    const read = readStitchCsv(EXAMPLE);
    if (!read.ok) throw new Error(read.error.message);
    expect(FORMATS.map(({ id }) => id)).toEqual([...FORMAT_IDS]);
    for (const { id, extensions } of FORMATS) {
      expect(formatOfName(`wing${extensions[0]!.toUpperCase()}`)?.id).toBe(id);
      const again = readStitchFile(writeStitchFile(read.value.program, id));
      expect(again.ok && [again.value.kind, isSameProgram(again.value.program, read.value.program)]).toEqual([id, true]);
    }
    expect(formatOfName('wing.doc')).toBeUndefined();
  });

  test('decimals that a machine does not need survive all the same', () => {
    const read = readStitchCsv('command,x,y\nstitch,0.1234567,-0.0000001\nend,,\n');
    if (!read.ok) throw new Error(read.error.message);
    expect(writeStitchCsv(read.value.program)).toContain('stitch,0.1234567,-0.0000001,,');
  });

  test('fields are split as by a general CSV library (csv-parse) on quotes, commas, line ends and a byte order mark', () => {
    const text = `\ufeffnote,command,extra,x,y,color\r\n"a ""b"", c",stop,1,,,\r\n"two\nlines",color,,,,#ABCDEF\r\n,stitch,"x,y",1.5,-2,\r\n,end,,,,\r\n`;
    const read = readStitchCsv(text);
    if (!read.ok) throw new Error(read.error.message);
    const theirs = parse<Record<string, string>>(text, { bom: true, columns: true });
    const { program } = read.value;
    expect([...program.command].map((c) => COMMANDS[c])).toEqual(theirs.map((r) => r['command']));
    expect(program.notes.get(0)).toBe(theirs[0]!['note']);
    expect(program.threads[0]).toEqual({ name: theirs[1]!['note'], color: '#abcdef' });
    expect(program.x[2]).toBe(Number(theirs[2]!['x']));
  });

  test('a file without an end row reads, with a warning', () => {
    const read = readStitchCsv('command,x,y\nstitch,1,2\n');
    expect(read.ok && read.value.warnings).toHaveLength(1);
    expect(read.ok && COMMANDS[read.value.program.command[1]!]).toBe('end');
  });

  test.each([
    ['an unknown command', 'command,x,y\nsew,1,2\n', 2, 'sew'],
    ['a missing number', 'command,x,y\nstitch,1,\n', 2, 'no y'],
    ['a number that is none', 'command,x,y\nstitch,1,0x10\n', 2, '0x10'],
    ['a number that is not finite', 'command,x,y\nstitch,1e999,0\n', 2, '1e999'],
    ['a coordinate beyond a metre', 'command,x,y\nstitch,1,2\njump,1000.001,0\n', 3, '1000.001'],
    ['a malformed color', 'command,x,y,color\ncolor,,,#12345\nstitch,1,2,\n', 2, '#12345'],
    ['a column that is missing', 'command,x,note\nstitch,1,\n', 1, 'command,x,note'],
    ['a column that is there twice', 'command,x,x,y\nstitch,1,1,2\n', 1, 'two columns'],
    ['a quote left open', 'command,x,y,color,note\nstitch,1,2,,\nstop,,,,"open\n', 3, 'quote'],
    ['a note whose comma is not quoted', 'command,x,y,color,note\nstop,,,,lay it, then go\n', 2, '6 fields'],
    ['rows after the end', 'command,x,y\nstitch,1,2\nend,,\nstitch,2,2\n', 4, 'after the end'],
    ['the line after a note of two lines', 'command,x,y,color,note\nstop,,,,"a\nb"\nstitch,x,2,,\n', 4, '“x” as x'],
  ])('%s is refused with its line and what was found', (_name, text, line, found) => {
    const problem = problemOf(text);
    expect(problem.line).toBe(line);
    expect(problem.message).toContain(found);
    expect(problem.expected).not.toBe('');
  });

  test('empty, blank, foreign, binary, too large and stitchless files each get their own words', () => {
    expect(problemOf('').found).toBe('an empty file');
    expect(problemOf(' \n ').found).toBe('only blank space');
    expect(problemOf('hello\nworld').found).toBe('text of another kind');
    expect(problemOf('\x89PNG'.replace('\x89', '\u0089')).message).toBeTruthy();
    const png = readStitchFile(Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d));
    expect(!png.ok && png.error.found).toBe('a PNG picture');
    const zero = readStitchFile(Uint8Array.of(0x63, 0x00));
    expect(!zero.ok && zero.error.byte).toBe(1);
    const latin = readStitchFile(Uint8Array.of(...bytes('command,x,y,color,note\nstop,,,,caf'), 0xe9, 0x0a));
    expect(!latin.ok && latin.error.byte).toBe(34);
    const large = readStitchFile(new Uint8Array(MAX_FILE_BYTES + 1));
    expect(!large.ok && large.error.message).toContain('32 MB');
    const jumps = problemOf(`command,x,y\n${'jump,1,2\n'.repeat(1_000_000)}`);
    expect(jumps.found).toBe('1\u202f000\u202f000 jumps and no stitch');
  });

  test('no file may have more than two million rows', () => {
    const problem = problemOf(`command,x,y\n${'stitch,1,2\n'.repeat(2_000_001)}`);
    expect(problem.line).toBe(2_000_002);
    expect(problem.found).toContain('2\u202f000\u202f000');
  });
});

describe('SVG as line work', () => {
  const read = (body: string, root = 'width="100mm" height="50mm" viewBox="0 0 200 100"') => {
    const result = readSvg(`<svg xmlns="http://www.w3.org/2000/svg" ${root}>${body}</svg>`);
    if (!result.ok) throw new Error(result.error.message);
    return result.value;
  };

  test('straight segments keep their vertices, in mm with y up; a viewBox scales and shifts nothing', () => {
    const { program } = read('<polyline points="0,0 20,10 40,0" stroke="#ff0000" fill="none"/>');
    expect([...program.command]).toEqual([COLOR, JUMP, STITCH, STITCH, STITCH, 5]);
    expect([...program.x.subarray(2, 5)]).toEqual([0, 10, 20]);
    expect([...program.y.subarray(2, 5)]).toEqual([0, -5, 0]);
  });

  test('gaps join, jump or trim by their width, and another color is a color change', () => {
    const at = (x: number, color = 'red'): string => `<line x1="${x}" y1="0" x2="${x + 2}" y2="0" stroke="${color}"/>`;
    const one = 'width="100mm" height="50mm" viewBox="0 0 100 50"';
    const commands = (body: string): string => [...read(body, one).program.command].map((c) => COMMANDS[c]![0]).join('');
    expect(commands(at(0) + at(2))).toBe('cjssse');
    expect(commands(at(0) + at(3))).toBe('cjssjsse');
    expect(commands(at(0) + at(9))).toBe('cjsstjsse');
    expect(commands(at(0) + at(2, 'blue'))).toBe('cjsstcjsse');
  });

  test('transforms, styles, groups and every basic shape are read; defs, scripts and hidden parts are not', () => {
    const { program, warnings } = read(
      `<defs><path d="M0 0L9 9"/></defs><script>alert(1)</script><style>x{}</style>
       <g transform="translate(10 0) scale(2)" style="stroke: rgb(0, 128, 0); fill:none">
         <rect width="4" height="3"/><circle cx="9" cy="9" r="5"/><ellipse cx="9" cy="9" rx="5" ry="2"/><polygon points="0 0 3 0 3 3"/>
       </g><path display="none" d="M0 0L5 5"/><text x="1">no</text>`,
    );
    expect(program.threads).toEqual([{ color: '#008000', name: '' }]);
    expect(program.x[2]).toBe(5);
    expect(warnings.join()).toContain('<text>');
    expect(Math.max(...program.x)).toBeCloseTo((10 + 2 * 14) / 2, 3);
  });

  test('lengths of flattened curves agree with a path-geometry library (svg-path-properties) to a tenth of a percent', () => {
    for (const d of [
      'M0 0C10 40 60 -20 80 30',
      'M5 5Q40 60 70 0T120 10',
      'M10 80A45 30 20 1 1 90 60',
      'M0 0c20 0 20 30 0 30s-30 20 0 40',
      'M0 0C0 0 50 0 50 0',
    ]) {
      const flat = flattenPath(d, '', 1, 0.3);
      if (!flat.ok) throw new Error(flat.error.found);
      const run = flat.value[0]!;
      let length = 0;
      for (let k = 2; k < run.length; k += 2) length += Math.hypot(run[k]! - run[k - 2]!, run[k + 1]! - run[k - 1]!);
      const theirs = new svgPathProperties(d).getTotalLength();
      expect(Math.abs(length - theirs) / theirs).toBeLessThan(0.001);
    }
  });

  test('curves are stepped at 2.5 mm at most, and evenly', () => {
    const { program } = read(
      '<path d="M0 0C40 80 120 80 160 0" stroke="red" fill="none"/>',
      'width="160mm" height="80mm" viewBox="0 0 160 80"',
    );
    const lengths: number[] = [];
    for (let i = 3; i < program.rowCount - 1; i++)
      lengths.push(Math.hypot(program.x[i]! - program.x[i - 1]!, program.y[i]! - program.y[i - 1]!));
    expect(Math.max(...lengths)).toBeLessThanOrEqual(2.501);
    expect(Math.min(...lengths)).toBeGreaterThan(2.3);
  });

  test.each([
    ['not XML', '<svg><g></svg>', 1],
    ['another root', '<html xmlns="x"><p/></html>', 1],
    ['an entity', '<!DOCTYPE svg [<!ENTITY a "aa">]>\n<svg xmlns="x" width="1mm" viewBox="0 0 1 1">&a;</svg>', 2],
    ['path data that breaks off', '<svg width="9mm" viewBox="0 0 9 9">\n<path d="M0 0L5 x" stroke="red"/></svg>', 2],
    ['a bad number', '<svg width="9mm" viewBox="0 0 9 9">\n<rect width="a" height="3"/></svg>', 2],
    ['a width in no known unit', '<svg width="9parsec" height="3mm" viewBox="0 0 9 9"/>', 1],
    ['a drawing that is too large', '<svg width="9000mm" height="9000mm" viewBox="0 0 9 9">\n<line x2="9" y2="9" stroke="red"/></svg>', 2],
    ['stitches with a transform', '<svg data-isola="stitches">\n<polyline transform="scale(2)" points="0,0 1,1"/></svg>', 2],
    ['stitches with half a point', '<svg data-isola="stitches">\n<polyline points="0,0 1"/></svg>', 2],
    ['an unknown break', '<svg data-isola="stitches">\n<polyline data-before="start fly" points="0,0 1,1"/></svg>', 2],
    [
      'a stroke that is not the thread',
      '<svg data-isola="stitches">\n<polyline stroke="#112233" data-before="start color" points="0,0 1,1"/>\n<polyline stroke="#445566" data-before="trim" points="0,0 1,1"/></svg>',
      3,
    ],
    ['no line at all', '<svg width="9mm" viewBox="0 0 9 9"/>', undefined],
  ])('%s is refused with its line', (_name, text, line) => {
    const problem = problemOf(text);
    expect(problem.line).toBe(line);
    expect(problem.found).not.toBe('');
  });
});

describe('damaged files', () => {
  test('no mutation of a good file throws or hangs: it reads, or it is refused in words', () => {
    const svg = writeSvg(
      buildProgram([
        { command: 'color', color: '#aabbcc', note: 'A' },
        { command: 'jump', x: 1, y: 1 },
        { command: 'stitch', x: 1, y: 1 },
        { command: 'trim' },
        { command: 'stitch', x: 4, y: 2 },
      ]),
    );
    const lines =
      '<svg xmlns="http://www.w3.org/2000/svg" width="10mm" height="10mm" viewBox="0 0 10 10"><g transform="rotate(5)"><path d="M1 1c2 3 4 5 6 1a3 3 0 0 1 2 2z" stroke="#333"/><circle cx="5" cy="5" r="2" fill="teal"/></g></svg>';
    const edit = fc.record({
      at: fc.nat(2000),
      drop: fc.nat(6),
      add: fc.oneof(fc.string({ maxLength: 4 }), fc.constantFrom('"', ',', '\n', '<', '>', '&', 'e999', '-', 'M', '#', '\u0000')),
    });
    fc.assert(
      fc.property(fc.constantFrom(EXAMPLE, svg, lines), fc.array(edit, { minLength: 1, maxLength: 5 }), (start, edits) => {
        let text = start;
        for (const { at, drop, add } of edits)
          text = text.slice(0, at % (text.length + 1)) + add + text.slice((at % (text.length + 1)) + drop);
        const read = readStitchFile(bytes(text));
        if (read.ok) expect(read.value.program.command.includes(STITCH)).toBe(true);
        else expect(read.error.message).toMatch(/found .*; expected .*\.$/s);
      }),
      runs(1500, 77),
    );
  });

  test('random bytes are refused', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (random) => {
        expect(readStitchFile(random).ok).toBe(false);
      }),
      runs(300, 3),
    );
  });

  test('trims are kept where the drawing says them', () => {
    const read = readSvg(
      writeSvg(
        buildProgram([{ command: 'stitch', x: 0, y: 0 }, { command: 'trim' }, { command: 'stitch', x: 9, y: 0 }, { command: 'trim' }]),
      ),
    );
    expect(read.ok && [...read.value.program.command].filter((c) => c === TRIM)).toHaveLength(2);
  });
});
