import { describe, expect, test } from '@jest/globals';
import { copyFileSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { type FileAudit, type Figures, HOOPS, readStitchFile } from '@isola/core';
import { HERON, inFolder, json, LANTERN, run } from './testing/runIsola.ts';

describe('command line', () => {
  test('inspect gives figures of the documented shape', () => {
    const figures = json('inspect', HERON);
    for (const field of ['stitches', 'jumps', 'trims', 'colorChanges', 'stops', 'threadM', 'bobbinM'])
      expect(typeof figures[field]).toBe('number');
    expect(Object.keys(figures['extents'] as object)).toEqual(expect.arrayContaining(['minX', 'minY', 'maxX', 'maxY', 'width', 'height']));
    expect(Object.keys(figures['run'] as object)).toEqual(
      expect.arrayContaining(['seconds', 'sewing', 'trims', 'jumps', 'colorChanges', 'stops', 'equivalentStitches']),
    );
    expect((figures['colors'] as unknown[]).length).toBe(8);
    expect(run('inspect', HERON).out).toContain('estimates');
  });

  test('audit gives findings of the documented shape, and its exit status can say that it found some', () => {
    const { findings, totals } = json('audit', HERON, '--fabric', 'pique-polo', '--garment', 'left-chest') as {
      findings: Record<string, unknown>[];
      totals: object;
    };
    expect(findings.map((f) => f['rule'])).toContain('needless-trim');
    for (const finding of findings) {
      expect(Object.keys(finding)).toEqual(
        expect.arrayContaining(['rule', 'severity', 'objects', 'first', 'last', 'at', 'measured', 'limit', 'unit', 'message', 'cost']),
      );
      expect(Object.keys(finding['at'] as object)).toEqual(['x', 'y']);
      expect(Object.keys(finding['cost'] as object).sort()).toEqual(['seconds', 'stitches']);
    }
    expect(totals).toMatchObject({ findings: findings.length });
    expect(run('audit', HERON, '--fabric', 'pique-polo').status).toBe(0);
    expect(run('audit', HERON, '--fabric', 'pique-polo', '--fail-on', 'fix').status).toBe(1);
    expect(run('audit', LANTERN, '--fabric', 'canvas', '--fail-on', 'stop').status).toBe(1);
  });

  test('audit of a folder gives each file its line, what saves most first; broken files among good ones do not keep the rest from it', () => {
    const folder = inFolder('files');
    mkdirSync(path.join(folder, 'more'), { recursive: true });
    for (const name of ['heron', 'kettle'])
      copyFileSync(path.join(path.dirname(HERON), `${name}.csv`), path.join(folder, 'more', `${name}.csv`));
    writeFileSync(path.join(folder, 'notes.txt'), 'no stitches');
    writeFileSync(path.join(folder, 'torn.csv'), 'command,x,y\nstitch,1,over there\n');
    writeFileSync(path.join(folder, 'empty.csv'), '');
    const { status, out } = run('audit', folder, '--fabric', 'twill');
    expect(status).toBe(2);
    const lines = out.split('\n').slice(1, -2);
    expect(lines.map((line) => ['heron', 'kettle', 'empty', 'torn'].find((name) => line.includes(`${name}.csv`)))).toEqual([
      'heron',
      'kettle',
      'empty',
      'torn',
    ]);
    expect(lines[3]).toMatch(/torn\.csv: line 2/i);
    expect(out).toContain('estimates');
    const { files } = json('audit', path.join(folder, 'more'), '--fabric', 'twill') as { files: { name: string; audit: FileAudit }[] };
    expect(files[0]!.audit.saves).toBeGreaterThan(files[1]!.audit.saves);
    for (const { audit } of files) {
      expect(audit.saves).toBeLessThanOrEqual(audit.figures.seconds);
      expect(audit.findings.length).toBe(audit.counts.stop + audit.counts.fix + audit.counts.note);
    }
    expect(run('audit', path.join(folder, 'more'), '--fabric', 'twill').status).toBe(0);
    expect(
      run('audit', ...['heron', 'kettle'].map((name) => path.join(folder, 'more', `${name}.csv`)), '--fabric', 'twill', '--fail-on', 'fix')
        .status,
    ).toBe(1);
    expect(run('audit', path.join(folder, 'none'), '--fabric', 'twill')).toMatchObject({
      status: 2,
      err: expect.stringContaining('no such file'),
    });
    mkdirSync(inFolder('bare'));
    expect(run('audit', inFolder('bare'), '--fabric', 'twill').err).toMatch(/no stitch file in this folder/);
  });

  test('recognize gives objects of the documented shape, and pictures of its steps', () => {
    const folder = inFolder('steps');
    const { objects } = json('recognize', HERON, '--debug', folder) as { objects: Record<string, unknown>[] };
    for (const object of objects) {
      expect(Object.keys(object)).toEqual(
        expect.arrayContaining(['id', 'kind', 'role', 'color', 'first', 'last', 'stitchLength', 'outline', 'holes', 'underlay']),
      );
    }
    const wing = objects.find((o) => o['kind'] === 'fill' && o['role'] === 'cover' && Math.abs((o['angle'] as number) - 128) < 1);
    expect(wing).toMatchObject({ underlay: [{ kind: 'tatami' }, { kind: 'edge-run' }] });
    expect(wing!['spacing']).toBeCloseTo(0.4, 2);
    const pictures = readdirSync(folder).sort();
    expect(pictures).toHaveLength(6);
    for (const picture of pictures) expect(readStitchFile(readFileSync(path.join(folder, picture))).ok).toBe(true);
    expect(run('recognize', HERON).out).toMatch(/fill, middle, 37 mm \(2\): 0\.40 mm, at 128°.*on tatami then edge run/);
    const { findings } = json('audit', HERON, '--fabric', 'pique-polo') as { findings: { objects: string[] }[] };
    expect(findings.filter((f) => f.objects.length > 0).length).toBeGreaterThan(0);
    expect(objects.map((o) => o['id'])).toEqual(expect.arrayContaining(findings.flatMap((f) => f.objects)));
  });

  test('order writes a file that loses less time and says what it moved, what it hid and what stays cut', () => {
    const out = inFolder('ordered.csv');
    const result = json('order', HERON, '--out', out) as {
      before: Figures;
      after: Figures;
      picture: { changed: number };
      connectors: { how: string; why: string }[];
    };
    expect([result.before.trims, result.picture.changed < 0.002]).toEqual([44, true]);
    expect(result.after.trims).toBeLessThan(20);
    expect(result.after).toEqual(json('inspect', out));
    expect(result.connectors.filter((c) => c.how === 'carry').length).toBeGreaterThan(23);
    expect(run('order', HERON, '--out', out, '--only', 'colors').out).toMatch(/nothing better was found/);
  });

  test('lay-out writes copies for one hoop', () => {
    const out = inFolder('copies.csv');
    const result = json('lay-out', HERON, '--hoop', HOOPS.at(-1)!.id, '--copies', '4', '--marks', '--out', out) as {
      copies: number;
      placed: unknown[];
      before: Figures;
      after: Figures;
    };
    expect([result.copies, result.placed.length, result.after.colorChanges - result.before.colorChanges]).toEqual([4, 4, 1]);
    expect(result.after.run.seconds).toBeLessThan(4 * result.before.run.seconds);
  });

  test('convert to SVG and back gives the same file, letter for letter', () => {
    const [svg, csv] = [inFolder('a.svg'), inFolder('a.csv')];
    expect(run('convert', HERON, svg).status).toBe(0);
    expect(run('convert', svg, csv).status).toBe(0);
    expect(readFileSync(csv, 'utf8')).toBe(readFileSync(HERON, 'utf8'));
  });

  test.each([
    [[], 'Usage'],
    [['fly', 'a'], 'no command fly'],
    [['inspect'], 'takes one file'],
    [['inspect', 'none.csv'], 'none.csv: no such file'],
    [['audit', HERON], '--fabric ID is needed'],
    [['audit', HERON, '--fabric', 'cardboard'], 'no fabric cardboard'],
    [['audit', HERON, '--fabric', 'twill', '--goal', 'cheap'], '--goal takes'],
    [['audit', HERON, '--fabric', 'twill', '--fail-on', 'rain'], '--fail-on takes'],
    [['inspect', HERON, '--fabric', 'twill'], 'inspect takes no --fabric'],
    [['inspect', HERON, '--colour'], 'colour'],
    [['rework', HERON, '--fabric', 'twill'], 'needs --out'],
    [['order', HERON], 'needs --out'],
    [['order', HERON, '--out', 'x.csv', '--only', 'threads'], '--only takes'],
    [['order', HERON, '--out', 'x.csv', '--hold', 'o9999'], 'no object o9999'],
    [['lay-out', HERON, '--out', 'x.csv'], 'needs --hoop'],
    [['lay-out', HERON, '--out', 'x.csv', '--hoop', 'round-120', '--copies', '5'], 'do not fit'],
    [['lay-out', HERON, '--out', 'x.csv', '--hoop', 'round-120', '--gap', 'wide'], '--gap mm'],
    [['rework', HERON, '--fabric', 'twill', '--out', 'x.csv', '--fix', 'sing'], 'no rule sing'],
    [['rework', HERON, '--fabric', 'twill', '--out', 'x.csv', '--fix', 'thread-vanishes'], 'no repair'],
    [['rework', HERON, '--fabric', 'twill', '--out', 'x.csv', '--set', 'all'], 'OBJECT:name=value'],
    [['rework', HERON, '--fabric', 'twill', '--out', 'x.csv', '--set', 'all:spacing=wide'], 'spacing takes a number'],
    [['rework', HERON, '--fabric', 'twill', '--out', 'x.csv', '--set', 'all:spacing=0'], 'spacing 0 is out of range'],
    [['rework', HERON, '--fabric', 'twill', '--out', 'x.csv', '--set', 'all.satin:colour=red'], 'no value colour'],
    [['rework', HERON, '--fabric', 'twill', '--out', 'x.csv', '--set', 'all.star:spacing=1'], 'no kind star'],
    [['rework', HERON, '--fabric', 'twill', '--out', 'x.csv', '--set', 'o1:underlay=straw'], 'no underlay straw'],
    [['rework', HERON, '--fabric', 'twill', '--out', 'x.csv', '--set', 'o9999:spacing=0.4'], 'no object is o9999'],
    [['recognize', HERON, '--debug', HERON], 'exist'],
    [['convert', HERON, 'x.txt'], 'none of .csv, .svg'],
  ])('bad usage %j ends with status 2 and one line that says why', (args, words) => {
    const { status, out, err } = run(...args);
    expect(status).toBe(2);
    expect(out).toBe('');
    expect(err).toContain(words);
  });

  test('bad input ends with status 2 and one line that names the file and the line', () => {
    const file = inFolder('bad.csv');
    writeFileSync(file, 'command,x,y\nstitch,1,oops\n');
    const { status, err } = run('audit', file, '--fabric', 'twill', '--json');
    expect(status).toBe(2);
    expect(err.trim().split('\n')).toHaveLength(1);
    expect(err).toMatch(/bad\.csv: Line 2: .*oops/);
  });
});
