import { describe, expect, test } from '@jest/globals';
import { readFileSync, writeFileSync } from 'node:fs';
import { isSameProgram, readStitchFile, SIMULATED_LAYOUT } from '@isola/core';
import { sheetFile } from './sheetFile.ts';
import { HERON, inFolder, json, run } from './testing/runIsola.ts';

describe('files of machines', () => {
  test('are written and read by their layout, checked, sewn, and go on into any other format', () => {
    const [bin, again, csv] = [inFolder('heron.bin'), inFolder('again.bin'), inFolder('back.csv')];
    const layout = inFolder('machine.json');
    writeFileSync(layout, JSON.stringify(SIMULATED_LAYOUT));
    const converted = json('convert', HERON, bin, '--layout', layout);
    expect(converted).toMatchObject({ written: bin, notes: [expect.stringMatching(/moves over 12\.7 mm are parted/)] });
    const checked = json('layout', layout, bin);
    expect(checked).toMatchObject({ ok: true, problems: [], records: expect.any(Number), rows: expect.any(Number) });
    expect(run('layout', layout).out).toContain('nothing in it contradicts itself');
    run('convert', bin, again, '--layout', layout);
    // The header holds the name of the file.
    const [one, other] = [bin, again].map((file) => readFileSync(file));
    expect([one!.toString('latin1', 32, 37), other!.toString('latin1', 32, 37)]).toEqual(['heron', 'again']);
    expect(Buffer.compare(one!.subarray(64), other!.subarray(64))).toBe(0);
    expect(run('convert', bin, csv, '--layout', 'simulated').status).toBe(0);
    const [a, b] = [csv, HERON].map((file) => readStitchFile(readFileSync(file)));
    if (a?.ok !== true || b?.ok !== true) throw new Error('a file does not read');
    expect(isSameProgram(a.value.program, b.value.program)).toBe(false);
    expect(json('inspect', bin, '--layout', layout)['stitches']).toBe(json('inspect', HERON)['stitches']);
    const sewn = json('simulate', bin, '--layout', layout);
    expect(Object.keys(sewn)).toEqual(expect.arrayContaining(['ok', 'seconds', 'sewn', 'stops', 'refused']));
    expect(sewn).toMatchObject({ ok: true, refused: [] });
    expect(json('simulate', HERON)['sewn']).toBe(sewn['sewn']);
  });

  test('a production sheet is written, or why it is not', async () => {
    const [out, said]: [string, string[]] = [inFolder('sheet.pdf'), []];
    const sheet = (...args: string[]): Promise<0 | 2> =>
      sheetFile(
        ['sheet', ...args],
        (text) => said.push(text),
        (text) => said.push(text),
      );
    expect(await sheet(HERON, '--fabric', 'pique-polo', '--garment', 'left-chest', '--pieces', '240', '--out', out, '--json')).toBe(0);
    expect(JSON.parse(said[0]!)).toMatchObject({ written: out, sheet: { runs: 240, turns: expect.any(Array) } });
    expect(readFileSync(out).subarray(0, 5).toString()).toBe('%PDF-');
    expect(await sheet(HERON, '--fabric', 'pique-polo')).toBe(2);
    expect(await sheet(HERON, '--out', out, '--fabric', 'pique-polo', '--pieces', 'many')).toBe(2);
    expect(await sheet('--out', out)).toBe(2);
    expect(await sheet(HERON, '--out', out, '--fix', 'all')).toBe(2);
    expect(said.slice(1).join('')).toMatch(/needs --out.*--pieces takes a whole number.*takes one file.*takes no --fix/s);
  });

  test('what stands against a run, a layout or a file is said with its place', () => {
    const refused = json('simulate', HERON, '--hoop', 'cap-frame');
    expect(refused).toMatchObject({ ok: false });
    expect((refused['refused'] as { row: number; why: string }[])[0]).toMatchObject({ why: expect.stringContaining('outside of') });
    const broken = inFolder('broken.json');
    writeFileSync(broken, JSON.stringify({ ...SIMULATED_LAYOUT, end: 'count', header: { length: 4 } }));
    expect(run('layout', broken)).toMatchObject({ status: 2, out: expect.stringMatching(/^end: no field of the header/) });
    expect(run('convert', HERON, inFolder('x.bin'), '--layout', broken)).toMatchObject({
      status: 2,
      err: expect.stringMatching(/end: no field of the header/),
    });
    writeFileSync(broken, '{ "name": ');
    expect(run('layout', broken)).toMatchObject({ status: 2, err: expect.stringContaining('no JSON') });
    const cut = inFolder('cut.bin');
    run('convert', HERON, cut, '--layout', 'simulated');
    writeFileSync(cut, readFileSync(cut).subarray(0, 1000));
    expect(run('layout', 'simulated', cut)).toMatchObject({
      status: 2,
      out: expect.stringMatching(/Byte 1000: found the end of the file|Byte 99\d/),
    });
    expect(run('inspect', cut).err).toMatch(/zero byte/);
    expect(run('inspect', cut, '--layout', 'simulated').status).toBe(2);
    expect(run('simulate', HERON, '--machine', 'none').err).toMatch(/there is no machine none; there are/);
  });
});
