import { describe, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import type { AuditDetail, JobDetail, JobSummary, ProblemDetails, Shop } from '@isola/contract';
import {
  decodeLayout,
  defaultTarget,
  encodeLayout,
  isSameProgram,
  type LayoutRecord,
  LAYOUTS,
  readStitchFile,
  SIMULATED_LAYOUT,
  type DesignFile,
  designSchema,
  writeDesignJson,
} from '@isola/core';
import { Ajv2020 as Ajv } from 'ajv/dist/2020.js';
import { answer, AppUnderTest, HERON, heron, step } from './testing/AppUnderTest.ts';

const app = new AppUnderTest('isola_test_machine_files');

/** Three bytes a record, steps of 0.1 mm as numbers, as small machines have them: invented for this test. */
const LOOM: LayoutRecord = {
  id: 'loom',
  name: 'test loom',
  extension: 'loom',
  layout: {
    ...{ name: 'test loom', mmPerCount: 0.1, yUp: false, header: { length: 0, fill: 0, fields: [] }, longest: 12.7, longMove: 'jump' },
    record: {
      ...{ length: 3, x: { at: 0, as: 'i8', relative: true }, y: { at: 1, as: 'i8', relative: true } },
      // What no other code says is a stitch.
      commands: (['jump', 'trim', 'color', 'stop', 'end', 'stitch'] as const).map((command, k) => ({
        ...{ command, byte: 2, mask: command === 'stitch' ? 0 : 255, value: command === 'stitch' ? 0 : k + 1 },
      })),
    },
    end: 'command',
  },
};
const put = (record: object, id = 'loom', was: object | null = null): Promise<Response> =>
  app.request('PUT', `/api/shop/layouts/${id}`, { record, was, who: 'Ada', why: 'our machine' });
const bytesOf = async (at: string): Promise<Buffer> => {
  const got = await app.request('GET', at);
  expect(got.status).toBe(200);
  return Buffer.from(await got.arrayBuffer());
};
function written(layout = SIMULATED_LAYOUT): Uint8Array {
  const file = encodeLayout(heron(), layout);
  if (!file.ok) throw new Error(file.error);
  return file.value.bytes;
}

describe('layouts of machines in the shop', () => {
  test('are kept where nothing in them contradicts itself, each with an ending of its own', async () => {
    await answer(app.request('POST', '/api/shop/defaults', { who: 'Ada', why: '' }), 200);
    const shop = await answer<Shop>(put(LOOM), 200);
    expect(shop.layouts.map(({ extension }) => extension)).toEqual([...LAYOUTS.map(({ extension }) => extension), 'loom']);
    const wrong = async (record: object, id = 'other'): Promise<string> =>
      (await answer<ProblemDetails>(put({ ...record, id }, id), 422)).detail;
    expect(await wrong({ ...LOOM, name: 'x', layout: { ...LOOM.layout, name: 'x', longest: 40 } })).toMatch(/longest move takes/);
    expect(await wrong({ ...LOOM, extension: 'csv' })).toMatch(/open format/);
    expect(await wrong({ ...LOOM, name: 'other', layout: { ...LOOM.layout, name: 'other' } })).toMatch(/read by “test loom” already/);
    expect(await wrong({ ...LOOM, name: 'other' })).toMatch(/calls itself test loom/);
  });

  test('read machines’ own files like any other: taken in, worked on, audited in a folder, and had again byte for byte', async () => {
    await put(LOOM);
    const file = written(LOOM.layout);
    const job = await answer<JobSummary>(app.upload(file, 'HERON.LOOM'), 201);
    expect(job.warnings[0]).toContain('Read by the layout of test loom');
    expect(job.warnings.join()).toContain('holds no colors');
    const decoded = decodeLayout(file, LOOM.layout);
    const worked = readStitchFile(await bytesOf(`/api/jobs/${job.id}/file`));
    expect(decoded.ok && worked.ok && isSameProgram(decoded.value.program, worked.value.program)).toBe(true);
    expect((await bytesOf(`/api/jobs/${job.id}/file?as=came`)).equals(Buffer.from(file))).toBe(true);
    expect((await bytesOf(`/api/jobs/${(await app.takeIn(HERON, 'heron.csv')).id}/file?as=came`)).equals(HERON)).toBe(true);
    for (let status = 202; status === 202;) ({ status } = await app.request('GET', `/api/jobs/${job.id}/base`));
    await answer(app.append(job, 0, [step('looked at')]), 200);
    expect((await answer<JobDetail>(app.request('GET', `/api/jobs/${job.id}`), 200)).version).toBe(1);
    // What is no such file says so, at its byte.
    const refused = await answer<ProblemDetails>(app.upload(file.slice(0, 301), 'cut.loom'), 422);
    expect([refused.byte, refused.detail]).toEqual([300, expect.stringContaining('a whole record of 3')]);
    expect((await answer<ProblemDetails>(app.upload(file, 'heron.xyz'), 422)).title).toBe('This file cannot be read');
    const audit = await answer<AuditDetail>(app.request('POST', '/api/audits', { name: 'Folder', target: defaultTarget() }), 201);
    const form = new FormData();
    form.set('path', 'folder/heron.loom');
    form.set('file', new File([new Uint8Array(file)], 'heron.loom'));
    await answer(app.request('PUT', `/api/audits/${audit.id}/files/1`, form), 204);
    const taken = await answer<JobSummary>(app.request('POST', `/api/audits/${audit.id}/files/1/job`), 201);
    expect(taken.warnings[0]).toContain('test loom');
  });

  test('write designs as such files, under the same signature as all others, named by their revision', async () => {
    await put(LOOM);
    const job = await app.takeIn(HERON, 'heron.csv');
    const out = `/api/jobs/${job.id}/export?layout=loom`;
    expect((await answer<ProblemDetails>(app.request('GET', out), 422)).detail).toContain('has to sign for it');
    await app.sign(job, 0);
    const sent = await app.request('GET', out);
    expect(sent.headers.get('content-disposition')).toContain('heron-r1.loom');
    expect(Buffer.from(await sent.arrayBuffer()).equals(Buffer.from(written(LOOM.layout)))).toBe(true);
    expect((await bytesOf(`/api/jobs/${job.id}/revisions/1/file?layout=simulated`)).subarray(0, 5).toString()).toBe('ISLA1');
    await answer(app.request('GET', `/api/jobs/${job.id}/export?layout=none`), 404);
    await answer(app.request('GET', `/api/jobs/${job.id}/export?format=exe`), 422);
    // What a layout cannot say is refused, by row.
    const { record } = LOOM.layout;
    const poor = {
      ...LOOM,
      layout: {
        ...LOOM.layout,
        record: { ...record, commands: record.commands.filter(({ command }) => command !== 'color' && command !== 'stop') },
      },
    };
    await answer(put(poor, 'loom', LOOM), 200);
    expect((await answer<ProblemDetails>(app.request('GET', out), 422)).detail).toMatch(/Row \d+: a color change/);
  });
});

describe('a job as design JSON', () => {
  test('holds program, target, objects with their specs and notes of revisions, and is taken in again as the same job', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    for (let status = 202; status === 202;) ({ status } = await app.request('GET', `/api/jobs/${job.id}/base`));
    const details = { detailsVersion: 0, name: 'Heron for the club', customer: 'Marsh Gate', due: '2026-12-04' };
    await answer(app.request('PATCH', `/api/jobs/${job.id}`, details), 200);
    const target = { ...job.target, quantity: 77, place: { x: 3, y: -2, turn: 90 } };
    const entry = { id: randomUUID(), kind: 'do' as const, name: 'another target', operation: { id: 'set-target' as const, target } };
    await answer(app.append(job, 0, [entry]), 200);
    await answer(app.release(job, 1, { stops: 'sewn before', cautions: 'read', hoop: 'it is held by hand' }), 201);
    await app.sign(job, 1);
    const bytes = await bytesOf(`/api/jobs/${job.id}/export?format=json`);
    const file = JSON.parse(bytes.toString()) as DesignFile;
    expect(file).toMatchObject({
      format: 'isola design',
      version: 1,
      name: details.name,
      customer: 'Marsh Gate',
      due: '2026-12-04',
      target,
    });
    expect(file.revisions!.map(({ number, isRelease, who }) => [number, isRelease, who ?? null])).toEqual([
      [1, false, null],
      [2, true, 'Ada'],
    ]);
    expect(file.objects!.length).toBeGreaterThan(20);
    // Read by a general validator with the schema that is served, as by our own reader.
    const schema = await answer<object>(app.request('GET', '/api/design-schema'), 200);
    const validate = new Ajv({ strict: false, validateFormats: false }).compile(schema);
    expect([validate(file), validate.errors]).toEqual([true, null]);
    expect(validate({ ...file, program: [{ command: 'stitch', x: 'far' }] })).toBe(false);
    const again = await answer<JobSummary>(app.upload(bytes, 'heron.json'), 201);
    expect(again).toMatchObject({ name: details.name, customer: 'Marsh Gate', due: '2026-12-04', target, fileKind: 'json' });
    const [one, other] = [heron(), readStitchFile(await bytesOf(`/api/jobs/${again.id}/file`))];
    expect(other.ok && isSameProgram(one, other.value.program)).toBe(true);
  });

  test('of another version is refused by its name, and a broken one with its place', async () => {
    const text = Buffer.from(writeDesignJson(heron())).toString();
    const refused = async (changed: string): Promise<string> =>
      (await answer<ProblemDetails>(app.upload(Buffer.from(changed), 'x.json'), 422)).detail;
    expect(await refused(text.replace('"version": 1', '"version": 4'))).toContain('a design JSON of version “4”; expected version 1');
    expect(await refused(text.slice(0, 3000))).toMatch(/Line \d+: found no JSON from here on/);
    expect(await refused(text.replace('"command":"trim"', '"command":"cut"'))).toMatch(/at program\.\d+/);
    expect(readFileSync(path.join(import.meta.dirname, '../../../docs/design.schema.json'), 'utf8')).toBe(
      `${JSON.stringify(designSchema(), null, 2)}\n`,
    );
  });
});
