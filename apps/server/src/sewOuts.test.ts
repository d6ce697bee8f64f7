import { describe, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import type { Board, JobSummary, Lessons, ProblemDetails, RevisionSummary, SewOutRecord, Shop, ShopEffect } from '@isola/contract';
import { expectRun, type PhotoPoint, type SewOut, withClock, withPull } from '@isola/core';
import { PNG } from 'pngjs';
import { answer, AppUnderTest, heron, HERON } from './testing/AppUnderTest.ts';

const app = new AppUnderTest('isola_test_sew_outs');

const sampleOf = ({ target: { fabric, garment, thread, machine } }: JobSummary, more: Partial<SewOut> = {}): SewOut => ({
  ...{
    revision: 1,
    sewnOn: '2026-03-02',
    who: 'Mara',
    fabric,
    garment,
    thread,
    machine,
    minutes: 16,
    breaks: 1,
    puckering: 'slight',
    note: 'a loop at the beak',
  },
  ...{ expected: expectRun(heron(), machine), counts: true },
  places: [
    {
      ...{ kind: 'width' as const, name: 'Wing', from: { x: 0, y: 0 }, to: { x: 20, y: 0 } },
      ...{ designed: 20, perPull: -2, expected: 19.4, measured: 19.1 },
    },
  ],
  ...more,
});
const record = (job: JobSummary, sewOut: unknown, key: string = randomUUID()): Promise<Response> =>
  app.request('POST', '/api/sew-outs', { jobId: job.id, sewOut }, { 'idempotency-key': key });
const list = (query = ''): Promise<SewOutRecord[]> => answer(app.request('GET', `/api/sew-outs${query}`), 200);
const picture = (width = 40, height = 30): Buffer => PNG.sync.write(new PNG({ width, height, fill: true }));
function send(id: string, bytes: Uint8Array, name = 'sample.png'): Promise<Response> {
  const form = new FormData();
  form.set('file', new File([new Uint8Array(bytes)], name));
  return app.request('POST', `/api/sew-outs/${id}/photos`, form);
}

describe('samples that were sewn', () => {
  test('are kept with their job, once however often they are sent, and changed only as they were last read', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    const key = randomUUID();
    const first = await answer<SewOutRecord>(record(job, sampleOf(job), key), 201);
    expect((await answer<SewOutRecord>(record(job, sampleOf(job), key), 201)).id).toBe(first.id);
    expect(first).toMatchObject({ jobId: job.id, jobName: job.name, version: 0, photos: [], sewOut: sampleOf(job) });
    const later = sampleOf(job, { minutes: 15, note: 'sewn again' });
    const change = (version: number) => app.request('PUT', `/api/sew-outs/${first.id}`, { version, sewOut: later });
    expect(await answer<SewOutRecord>(change(0), 200)).toMatchObject({ version: 1, sewOut: { minutes: 15 } });
    expect((await answer<ProblemDetails>(change(0), 409)).detail).toContain('changed by somebody else');
    expect((await list(`?job=${job.id}`)).map(({ sewOut }) => sewOut.note)).toEqual(['sewn again']);
    // What cannot be is named.
    expect((await answer<ProblemDetails>(record(job, sampleOf(job, { revision: 7 })), 422)).detail).toContain('no revision 7');
    expect((await answer<ProblemDetails>(record(job, sampleOf(job, { who: ' ' })), 422)).detail).toContain('say who sewed it');
    expect((await answer<ProblemDetails>(record(job, sampleOf(job, { minutes: -3 })), 422)).detail).toContain('minutes');
    await answer(app.request('GET', `/api/sew-outs/${randomUUID()}`), 404);
  });

  test('outlast their job: what cloth and machine learned of them stays', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    const { id } = await answer<SewOutRecord>(record(job, sampleOf(job)), 201);
    await app.models.Job.destroy({ where: { id: job.id }, force: true });
    const kept = (await list()).find((one) => one.id === id)!;
    expect(kept).toMatchObject({ jobId: null, jobName: job.name });
    await answer(app.request('PUT', `/api/sew-outs/${id}`, { version: 0, sewOut: { ...kept.sewOut, counts: false } }), 200);
    const moved = { version: 1, sewOut: { ...kept.sewOut, revision: 2 } };
    expect((await answer<ProblemDetails>(app.request('PUT', `/api/sew-outs/${id}`, moved), 422)).detail).toContain('Its job is gone');
  });

  test('teach: what the shop takes up says what stands behind it, is offered once, and says what it moves in jobs', async () => {
    await app.models.SewOut.destroy({ where: {} }).catch(() => undefined);
    await answer(app.request('POST', '/api/shop/defaults', { who: 'Ada', why: '' }), 200);
    const job = await app.takeIn(HERON, 'heron.csv');
    const { fabric, machine } = job.target;
    const lessons = (): Promise<Lessons> =>
      answer(app.request('GET', `/api/sew-outs/lessons?fabric=${fabric.id}&machine=${machine.id}`), 200);
    expect(await lessons()).toEqual({ pull: null, clock: null });
    await answer(record(job, sampleOf(job)), 201);
    await answer(record(job, sampleOf(job, { counts: false })), 201);
    const { pull, clock } = await lessons();
    expect(pull).toMatchObject({ from: fabric.pull, samples: 1, readings: 1 });
    expect(pull!.mean).toBeGreaterThan(fabric.pull);
    // It took longer than was expected.
    expect(clock!.topSpeed.mean).toBeLessThan(machine.topSpeed);
    const next = { fabric: withPull(fabric, pull!), machine: withClock(machine, clock!) };
    const effect = await answer<ShopEffect>(app.request('POST', `/api/jobs/${job.id}/shop-effect`, next), 200);
    expect(effect.seconds.after).toBeGreaterThan(effect.seconds.before);
    const put = { record: next.fabric, was: fabric, who: 'Mara', why: 'a sample' };
    const shop = await answer<Shop>(app.request('PUT', `/api/shop/fabrics/${fabric.id}`, put), 200);
    expect(shop.fabrics.find(({ id }) => id === fabric.id)!.learned).toMatchObject({ from: fabric.pull, samples: 1 });
    // Asked again it says the same.
    const again = await lessons();
    expect(withPull(next.fabric, again.pull!)).toEqual(next.fabric);
    // A job that was there keeps what it was judged by.
    expect((await answer<JobSummary>(app.request('GET', `/api/jobs/${job.id}`), 200)).target.fabric).toEqual(fabric);
  });
});

describe('photos of samples', () => {
  test('are kept as they came and laid by three points; what is no picture, too large or too many is refused by name', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    const { id } = await answer<SewOutRecord>(record(job, sampleOf(job)), 201);
    const bytes = picture();
    const [photo] = (await answer<SewOutRecord>(send(id, bytes), 201)).photos;
    expect(photo).toMatchObject({ name: 'sample.png', width: 40, height: 30, points: null });
    const sent = await app.request('GET', `/api/sew-outs/photos/${photo!.id}`);
    expect([sent.headers.get('content-type'), Buffer.from(await sent.arrayBuffer()).equals(bytes)]).toEqual(['image/png', true]);
    expect((await answer<ProblemDetails>(send(id, Buffer.from('<svg xmlns="x"/>'), 'a.svg'), 422)).detail).toContain('a.svg is no picture');
    expect((await answer<ProblemDetails>(send(id, bytes.subarray(0, 14), 'cut.png'), 422)).detail).toContain('cut short');
    const huge = Buffer.from(bytes);
    huge.writeUInt32BE(90_000, 16);
    huge.writeUInt32BE(90_000, 20);
    expect((await answer<ProblemDetails>(send(id, huge), 422)).detail).toContain('million pixels');
    expect((await answer<ProblemDetails>(send(id, Buffer.alloc(17 * 1024 * 1024)), 413)).detail).toContain('16 MB');
    const point = (px: number, py: number, x: number, y: number): PhotoPoint => ({ photo: { x: px, y: py }, design: { x, y } });
    const lay = (...points: PhotoPoint[]) => app.request('PUT', `/api/sew-outs/photos/${photo!.id}`, { points });
    const points = [point(0, 0, -20, 15), point(40, 0, 20, 15), point(0, 30, -20, -15)];
    expect((await answer<SewOutRecord>(lay(...points), 200)).photos[0]!.points).toEqual(points);
    expect((await answer<ProblemDetails>(lay(points[0]!, points[0]!, points[1]!), 422)).detail).toContain('one line');
    await answer(lay(points[0]!), 422);
    expect((await answer<SewOutRecord>(lay(), 200)).photos[0]!.points).toBeNull();
    for (let k = 1; k < 12; k++) await answer(send(id, bytes), 201);
    expect((await answer<ProblemDetails>(send(id, bytes), 422)).detail).toContain('up to 12 photos');
    expect((await answer<SewOutRecord>(app.request('DELETE', `/api/sew-outs/photos/${photo!.id}`), 200)).photos).toHaveLength(11);
    await answer(send(randomUUID(), bytes), 404);
  });
});

describe('the check list', () => {
  test('is signed as a whole: what is open needs a reason, the cautions a tick, and the release keeps who said what', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    expect((await answer<{ id: string }[]>(app.request('GET', `/api/jobs/${job.id}/checks`), 200)).map(({ id }) => id)).toEqual([
      ...['stops', 'threads', 'stock', 'needles', 'hoop', 'cautions'],
    ]);
    const refused = (await answer<ProblemDetails>(app.release(job, 0, { stops: 'ok' }), 422)).detail;
    expect(refused).toMatch(/This stands against sewing it .*layers thick.*Cautions are read/);
    const unsigned = { baseVersion: 0, name: 'Released', isRelease: true, reasons: { stops: 'sewn before', cautions: 'read' } };
    expect((await answer<ProblemDetails>(app.request('POST', `/api/jobs/${job.id}/revisions`, unsigned), 422)).detail).toContain(
      'Say who releases it',
    );
    const released = await answer<RevisionSummary>(app.release(job, 0, { stops: 'sewn before', cautions: 'read' }), 201);
    expect(released).toMatchObject({ who: 'Ada', isRelease: true });
    expect(released.checks!.filter(({ reason }) => reason !== null).map(({ id, reason }) => [id, reason])).toEqual([
      ['stops', 'sewn before'],
      ['cautions', 'read'],
    ]);
  });

  test('of two who release at once one is told; who took a file before answered for what stood against it', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    await app.sign(job, 0);
    const both = await Promise.all([app.release(job, 0), app.release(job, 0)]);
    expect(both.map(({ status }) => status).sort()).toEqual([201, 409]);
    const told = (await both.find(({ status }) => status === 409)!.json()) as ProblemDetails;
    expect(told.detail).toContain('was released meanwhile, as revision 2');
    const { revisions } = await answer<{ revisions: RevisionSummary[] }>(app.request('GET', `/api/jobs/${job.id}`), 200);
    expect(revisions).toHaveLength(2);
    expect(revisions[1]!.checks!.find(({ id }) => id === 'stops')!.reason).toBe('for this test (Ada)');
  });
});

describe('the board', () => {
  test('is one plan that is written as it was last read, never with an order twice', async () => {
    const first = await answer<Board>(app.request('GET', '/api/board'), 200);
    const write = (version: number, more: object): Promise<Response> =>
      app.request('PUT', '/api/board', { version, plan: { ...first.plan, ...more } });
    const [a, b] = [randomUUID(), randomUUID()];
    const both = await Promise.all([write(first.version, { lanes: { one: [a] } }), write(first.version, { lanes: { one: [b] } })]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    const now = await answer<Board>(app.request('GET', '/api/board'), 200);
    expect(now.version).toBe(first.version + 1);
    expect((await answer<ProblemDetails>(write(now.version, { lanes: { one: [a], other: [a] } }), 422)).detail).toContain(
      'stands on it twice',
    );
    const backward = { hours: { ...first.plan.hours, from: '18:00' } };
    expect((await answer<ProblemDetails>(write(now.version, backward), 422)).detail).toContain('ends before it begins');
  });
});
