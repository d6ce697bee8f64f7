import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { defaultTarget } from '../../materials/shop.ts';
import { isSameProgram, type Program } from '../../model/program.ts';
import { anyProgram } from '../../testing/programs.ts';
import { readStitchFile } from '../readStitchFile.ts';
import { DESIGN_VERSION, designSchema } from './designFile.ts';
import { readDesignJson, writeDesignJson } from './designJson.ts';
import { runs } from '../../testing/runs.ts';

const sewable = (program: Program): boolean => program.command.includes(0);

describe('design JSON', () => {
  test('reads back as the same program with all that was said beside it, and is told as such a file (property)', () => {
    const about = { name: 'Heron, left chest', customer: 'Marsh Gate', due: '2026-12-04', target: defaultTarget() };
    fc.assert(
      fc.property(anyProgram.filter(sewable), (program) => {
        const text = writeDesignJson(program, about);
        const read = readDesignJson(text);
        if (!read.ok) throw new Error(read.error.message);
        expect(isSameProgram(read.value.program, program)).toBe(true);
        expect(read.value.about).toEqual(about);
        expect(read.value.warnings).toEqual([]);
        // Written of what was read it is the same to the last character from then on.
        const again = writeDesignJson(read.value.program, read.value.about);
        const twice = readDesignJson(again);
        expect(twice.ok && writeDesignJson(twice.value.program, twice.value.about)).toBe(again);
        const file = readStitchFile(new TextEncoder().encode(`\ufeff${text}`));
        expect(file.ok && [file.value.kind, isSameProgram(file.value.program, program)]).toEqual(['json', true]);
      }),
      runs(100, 54),
    );
  });

  test('is one row of the program a line, so that two versions can be compared line by line', () => {
    const text = writeDesignJson({ ...someProgram(), notes: new Map() }, {});
    const lines = text.split('\n');
    expect(lines.filter((one) => one.startsWith('{"command"'))).toHaveLength(someProgram().rowCount);
    expect(lines.slice(0, 3)).toEqual(['{', '"format": "isola design",', `"version": ${DESIGN_VERSION},`]);
  });

  test('is refused with what is wrong and where: other versions by name, no JSON by line, rows by place', () => {
    const text = writeDesignJson(someProgram());
    const refused = (changed: string): string => {
      const read = readDesignJson(changed);
      return read.ok ? '' : read.error.message;
    };
    expect(refused(text.replace('"version": 1', '"version": 2'))).toMatch(/version “2”; expected version 1/);
    expect(refused(text.replace('"version": 1', '"version": "new"'))).toContain('version “"new"”');
    expect(refused(text.replace('"version": 1,', ''))).toContain('says no version');
    expect(refused(text.slice(0, -40))).toMatch(/Line \d+: found no JSON/);
    expect(refused(text.replace('"x":3', '"x":3000'))).toMatch(/at program\.\d+\.x/);
    expect(refused(text.replace('#1f4e79', 'blue'))).toMatch(/at program\.0\.color.*a color like/);
    expect(refused('{"format":"isola design","version":1,"program":[{"command":"end"}]}')).toContain('no stitch');
    const open = readDesignJson(text.replace(/,\n\{"command":"end"\}/, ''));
    expect(open.ok && open.value.warnings).toEqual(['The program has no end row; one was added.']);
  });

  test('never throws, whatever stands in it (property)', () => {
    const text = writeDesignJson(someProgram(), { target: defaultTarget() });
    fc.assert(
      fc.property(fc.nat(text.length - 1), fc.string({ maxLength: 4 }), fc.nat(30), (at, put, less) => {
        const read = readDesignJson(text.slice(0, at) + put + text.slice(at + less));
        if (!read.ok) expect(read.error.message.length).toBeGreaterThan(10);
      }),
      runs(100, 55),
    );
    fc.assert(
      fc.property(fc.jsonValue(), (value) => void readDesignJson(JSON.stringify(value))),
      runs(100, 56),
    );
  });

  test('has a schema that names every part that it is made of', () => {
    const schema = designSchema() as { properties: object; required: string[] };
    expect(Object.keys(schema.properties)).toEqual([
      'format',
      'version',
      'name',
      'customer',
      'due',
      'target',
      'program',
      'objects',
      'revisions',
    ]);
    expect(schema.required).toEqual(['format', 'version', 'program']);
  });
});

function someProgram(): Program {
  const read = readStitchFile(
    new TextEncoder().encode(
      'command,x,y,color,note\ncolor,,,#1f4e79,Deep water\njump,3,4,,\nstitch,3,4,,\nstitch,5,4.25,,"a, note"\ntrim,,,,\nend,,,,\n',
    ),
  );
  if (!read.ok) throw new Error(read.error.message);
  return read.value.program;
}
