import { describe, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import type { JobSummary, Practice, ProblemDetails } from '@isola/contract';
import { RULES } from '@isola/core';
import { answer, AppUnderTest, HERON } from './testing/AppUnderTest.ts';

const app = new AppUnderTest('isola_test_practice');

async function ready(id: string): Promise<void> {
  for (let status = 202; status === 202;) ({ status } = await app.request('GET', `/api/jobs/${id}/base`));
}

describe('practice', () => {
  test('is a job of its own with planted faults that nobody is told of before it is judged, once', async () => {
    const source = await app.takeIn(HERON, 'heron.csv');
    await ready(source.id);
    const job = await answer<JobSummary>(app.request('POST', `/api/jobs/${source.id}/practice`, { faults: 2 }), 201);
    expect(job).toMatchObject({ practice: 'open', name: `Practice: ${source.name}` });
    expect(job.before.stitches).not.toBe(source.now.stitches);
    const begun = await answer<Practice>(app.request('GET', `/api/jobs/${job.id}/practice`), 200);
    expect(begun).toEqual({ jobId: job.id, version: 0, faults: begun.faults, claims: [], result: null });
    expect(begun.faults).toBeGreaterThan(0);
    // What it was made of stays as it was, and is no practice.
    expect(await answer<JobSummary>(app.request('GET', `/api/jobs/${source.id}`), 200)).toMatchObject({ practice: null, now: source.now });
    await answer(app.request('GET', `/api/jobs/${source.id}/practice`), 404);

    const planted = (await app.models.Practice.findByPk(job.id))!.planted;
    const [{ rule, name, box }] = planted as [(typeof planted)[number]];
    const right = { rule, name, x: (box[0] + box[2]) / 2, y: (box[1] + box[3]) / 2 };
    const wrong = { rule: RULES.find(({ id }) => !planted.some((one) => one.rule === id))!.id, name: 'Beak', x: 900, y: 900 };
    const say = (version: number, claims: object[]) => app.request('PUT', `/api/jobs/${job.id}/practice`, { version, claims });
    expect((await answer<Practice>(say(0, [right, wrong]), 200)).version).toBe(1);
    expect((await answer<ProblemDetails>(say(0, []), 409)).detail).toContain('another window');
    expect((await answer<ProblemDetails>(say(1, [{ ...right, rule: 'ugly' }]), 422)).detail).toContain('no rule of the rulebook');
    await ready(job.id);
    const { result } = await answer<Practice>(app.request('POST', `/api/jobs/${job.id}/practice/judge`), 200);
    expect(result!.faults.map(({ isFound }) => isFound)).toEqual(planted.map((_, k) => k === 0));
    expect(result!.faults.every(({ isMended, why }) => !isMended && why !== '')).toBe(true);
    expect([result!.others, result!.broken]).toEqual([[expect.objectContaining({ name: 'Beak', isThere: false })], []]);
    expect((await answer<JobSummary>(app.request('GET', `/api/jobs/${job.id}`), 200)).practice).toBe('judged');
    // It is judged once, and says the same when it is asked again.
    expect((await answer<Practice>(app.request('POST', `/api/jobs/${job.id}/practice/judge`), 200)).result).toEqual(result);
    expect((await answer<ProblemDetails>(say(1, []), 422)).detail).toContain('judged already');
    // Where faults fit is found by trying, behind whatever else the machine does.
  }, 240_000);

  test('is refused where there is nothing to plant in, or no such job', async () => {
    const tiny = 'command,x,y\nstitch,0,0\nstitch,2,0\nstitch,4,0\nend,,\n';
    const job = await answer<JobSummary>(app.upload(Buffer.from(tiny), 'tiny.csv'), 201);
    await ready(job.id);
    const begin = (id: string, faults: number) => app.request('POST', `/api/jobs/${id}/practice`, { faults });
    expect((await answer<ProblemDetails>(begin(job.id, 3), 422)).detail).toContain('Choose another file');
    await answer(begin(job.id, 0), 422);
    await answer(begin(randomUUID(), 3), 404);
    expect(await app.models.Practice.count()).toBe(0);
  });
});
