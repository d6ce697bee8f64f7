import { describe, expect, test } from '@jest/globals';
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
} from '@isola/core';
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
    expect((await bytesOf(`/api/jobs/${(await app.takeIn()).id}/file?as=came`)).equals(HERON)).toBe(true);
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
    const job = await app.takeIn();
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
