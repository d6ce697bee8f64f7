import { describe, expect, test } from '@jest/globals';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { inflateRawSync } from 'node:zlib';
import type { ProblemDetails } from '@isola/contract';
import { readDesignJson, readStitchFile } from '@isola/core';
import { CspEvaluator } from 'csp_evaluator/dist/evaluator.js';
import { Severity } from 'csp_evaluator/dist/finding.js';
import { CspParser } from 'csp_evaluator/dist/parser.js';
import { Hono } from 'hono';
import { createApp } from './app.ts';
import { addressOf, findAddress } from './routes/addressOf.ts';
import { exportShop } from './services/exportShop.ts';
import { Quotas } from './services/Quotas.ts';
import { SewOuts } from './services/SewOuts.ts';
import { ShopService } from './services/ShopService.ts';
import { answer, AppUnderTest, CONFIG, HERON, heron, step } from './testing/AppUnderTest.ts';

const app = new AppUnderTest('isola_test_operating');
const ROOT = path.resolve(import.meta.dirname, '../../..');
const services = () => ({ jobs: app.jobs, shop: new ShopService(app.models), sewOuts: new SewOuts(app.models) });
const withSettings = (more: object): Hono =>
  createApp({ ...CONFIG, ...more }, { ...services(), models: app.models, bus: app.bus, pool: app.pool, audits: undefined as never });

/** The files of an archive by their names; it has to have them compressed or stored, as APPNOTE.TXT 4.3 has it. */
function unzip(archive: Buffer): Map<string, Buffer> {
  const files = new Map<string, Buffer>();
  let at = archive.readUInt32LE(archive.lastIndexOf(Buffer.from('PK\x05\x06')) + 16);
  for (; archive.readUInt32LE(at) === 0x02014b50;) {
    const [method, size, nameSize, extra, comment, local] = [
      archive.readUInt16LE(at + 10),
      archive.readUInt32LE(at + 20),
      archive.readUInt16LE(at + 28),
      archive.readUInt16LE(at + 30),
      archive.readUInt16LE(at + 32),
      archive.readUInt32LE(at + 42),
    ];
    const name = archive.toString('utf8', at + 46, at + 46 + nameSize);
    const from = local + 30 + archive.readUInt16LE(local + 26) + archive.readUInt16LE(local + 28);
    const packed = archive.subarray(from, from + size);
    files.set(name, method === 0 ? packed : inflateRawSync(packed));
    at += 46 + nameSize + extra + comment;
  }
  return files;
}

describe('who runs the server', () => {
  test('takes everything out as open files: each design as it came and as it is, what was done, the shop; what is named oddly too', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    await answer(app.append(job, 0, [step('kept')]), 200);
    await answer(app.request('POST', `/api/jobs/${job.id}/revisions`, { baseVersion: 1, name: 'For the sample' }), 201);
    await answer(
      app.request('PATCH', `/api/jobs/${job.id}`, { detailsVersion: 0, name: '../../etc/passwd: "new"', customer: 'Quayside', due: null }),
      200,
    );
    const response = await app.request('GET', '/api/export');
    expect(response.headers.get('content-type')).toBe('application/zip');
    const files = unzip(Buffer.from(await response.arrayBuffer()));
    const folder = `jobs/_.._etc_passwd_ _new_-${job.id.slice(0, 8)}`;
    expect([...files.keys()].filter((name) => name.startsWith('jobs/'))).toEqual(
      ['came/heron.csv', 'job.json', 'steps.json', 'now.csv', 'now.svg', 'now.design.json', 'revisions/1-As it came in.csv']
        .concat('revisions/2-For the sample.csv')
        .map((name) => `${folder}/${name}`),
    );
    expect(files.get(`${folder}/came/heron.csv`)!.equals(HERON)).toBe(true);
    const { rowCount } = heron();
    for (const name of ['now.csv', 'now.svg', 'revisions/1-As it came in.csv']) {
      const read = readStitchFile(files.get(`${folder}/${name}`)!);
      expect([name, read.ok && read.value.program.rowCount]).toEqual([name, rowCount]);
    }
    const design = readDesignJson(files.get(`${folder}/now.design.json`)!.toString());
    expect(design.ok && [design.value.about.customer, design.value.program.rowCount]).toEqual(['Quayside', rowCount]);
    const steps = JSON.parse(files.get(`${folder}/steps.json`)!.toString()) as { seq: number; entry: { name: string } }[];
    expect(steps.map(({ seq, entry }) => [seq, entry.name])).toEqual([[1, 'kept']]);
    expect(JSON.parse(files.get('shop/records.json')!.toString())).toMatchObject({ rules: expect.anything() });
    expect(files.get('happenings.csv')!.toString()).toContain('seq,at,who,address,method,path,status');
    // What cannot be written is told, and keeps nothing else from it.
    await app.models.JobFile.destroy({ where: { jobId: job.id } });
    const left: string[] = [];
    const outcome = await exportShop(app.models, services(), (name) => void left.push(name));
    expect([outcome.problems.length, left.includes('people.json')]).toEqual([1, true]);
  });

  test('sets how much files may take together and how many somebody may send in an hour; steps go on', async () => {
    const job = await app.takeIn(HERON, 'heron.csv');
    const taken = await new Quotas(app.models, { gigabytes: 1, filesAnHour: 9 }).taken();
    expect(taken).toBeGreaterThan(1000);
    const upload = (to: Hono) => {
      const form = new FormData();
      form.set('file', new File([HERON], 'heron.csv'));
      return Promise.resolve(to.request('http://localhost/api/jobs', { method: 'POST', headers: { host: 'localhost' }, body: form }));
    };
    const full = withSettings({ quota: { gigabytes: taken / 2e9, filesAnHour: 100 } });
    expect((await answer<ProblemDetails>(upload(full), 507)).detail).toMatch(/Files and photos of the shop take 0\.0 of the .* GB/);
    const append = await full.request(`http://localhost/api/jobs/${job.id}/journal`, {
      ...{ method: 'POST', headers: { host: 'localhost', 'Content-Type': 'application/json' } },
      body: JSON.stringify({ baseVersion: 0, entries: [step('goes on')] }),
    });
    expect(append.status).toBe(200);
    await app.models.sequelize.query('delete from rate_limits');
    const slow = withSettings({ quota: { gigabytes: 1, filesAnHour: 2 } });
    for (const status of [201, 201, 429]) expect((await upload(slow)).status).toBe(status);
  });

  test('believes of proxies alone for whom they ask', async () => {
    const told = async (proxies: string[], remote: string, forwarded?: string): Promise<string> => {
      const small = new Hono();
      small.use(findAddress(proxies));
      small.get('/', (c) => c.text(addressOf(c)));
      const headers: Record<string, string> = forwarded === undefined ? {} : { 'X-Forwarded-For': forwarded };
      const incoming = { incoming: { socket: { remoteAddress: remote, remotePort: 1, remoteFamily: 'IPv4' } } };
      return (await small.request('/', { headers }, incoming)).text();
    };
    expect(await told([], '127.0.0.1', '203.0.113.9')).toBe('127.0.0.1');
    expect(await told(['loopback'], '127.0.0.1', '203.0.113.9')).toBe('203.0.113.9');
    expect(await told(['loopback'], '198.51.100.7', '203.0.113.9')).toBe('198.51.100.7');
    // What somebody wrote there themselves stands before what the proxy saw.
    expect(await told(['loopback'], '127.0.0.1', '10.9.9.9, 203.0.113.9')).toBe('203.0.113.9');
    expect(await told(['loopback', '10.0.0.0/8'], '127.0.0.1', '203.0.113.9, 10.1.2.3')).toBe('203.0.113.9');
  });

  test('is told by health whether the last backup was brought back and was sound', async () => {
    const backupsDir = mkdtempSync(path.join(tmpdir(), 'isola-backups-'));
    const health = async () => {
      const asked = await withSettings({ backupsDir }).request('http://localhost/api/health', { headers: { host: 'localhost' } });
      return (await asked.json()) as { status: string; backup?: object };
    };
    const write = (hoursAgo: number, isSound: boolean): void =>
      writeFileSync(
        path.join(backupsDir, 'last.json'),
        JSON.stringify({ at: new Date(Date.now() - hoursAgo * 3_600_000).toISOString(), isSound, megabytes: 2, says: 'All' }),
      );
    expect(await health()).not.toHaveProperty('backup');
    write(3, true);
    expect(await health()).toMatchObject({ status: 'ok', backup: { isSound: true } });
    write(3, false);
    expect((await health()).status).toBe('the last backup is not sound');
    write(70, true);
    expect((await health()).status).toBe('the last backup is days old');
    writeFileSync(path.join(backupsDir, 'last.json'), '{broken');
    expect((await health()).status).toBe('ok');
  });

  test('keeps backups of seven days, five weeks and twelve months, and nothing else goes', async () => {
    const { chooseOld } = (await import(path.join(ROOT, 'scripts/chooseOld.mjs'))) as {
      chooseOld: (names: string[], now: Date) => string[];
    };
    const now = new Date('2026-11-30T02:31:00Z');
    const nameOf = (daysAgo: number, time = '023000'): string =>
      `isola-${new Date(now.getTime() - daysAgo * 86_400_000).toISOString().slice(0, 10)}T${time}.dump`;
    // Every night for two years, as it goes on: each night what is old then goes.
    let there = ['mine.dump', 'last.json'];
    for (let daysAgo = 730; daysAgo >= 0; daysAgo--) {
      there.push(nameOf(daysAgo));
      const gone = new Set(chooseOld(there, new Date(now.getTime() - daysAgo * 86_400_000)));
      there = there.filter((name) => !gone.has(name));
    }
    expect(there.slice(0, 2)).toEqual(['mine.dump', 'last.json']);
    for (let daysAgo = 0; daysAgo < 7; daysAgo++) expect(there).toContain(nameOf(daysAgo));
    expect(there.length).toBeLessThanOrEqual(2 + 7 + 5 + 12);
    const months = new Set(there.slice(2).map((name) => name.slice(6, 13)));
    expect(months.size).toBe(12);
    // Of two in one night the later one stays.
    expect(chooseOld([nameOf(0, '010000'), nameOf(0)], now)).toEqual([nameOf(0, '010000')]);
  });

  test('has no page of the application run what a policy of contents would let through', async () => {
    const { headers } = await app.request('GET', '/api/health');
    const policy = new CspParser(headers.get('content-security-policy')!).csp;
    // By Google's CSP Evaluator; what it says of 'self' it says where users' files are served, which are sent as downloads here.
    const findings = new CspEvaluator(policy).evaluate().filter(({ severity }) => severity < Severity.MEDIUM_MAYBE);
    expect(findings.map(({ description }) => description)).toEqual([]);
    const https = await withSettings({ publicUrl: 'https://isola.example' }).request('https://isola.example/api/health', {
      headers: { host: 'isola.example' },
    });
    expect(https.headers.get('strict-transport-security')).toBe('max-age=31536000');
    // Each answer has an id by which the log can be searched.
    expect(https.headers.get('x-request-id')).not.toBe(headers.get('x-request-id'));
  });
});
