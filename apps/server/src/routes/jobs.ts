import { JournalEntry, CHECK_IDS, MAX_FILE_BYTES, PracticeClaim, Target, layoutOfName } from '@isola/core';
import { SAVED_HEADER, TOTAL_HEADER, VERSION_HEADER } from '@isola/contract';
import { Hono } from 'hono';
import { z } from 'zod';
import { Problem } from '../problem.ts';
import { MOST_LISTED } from '../services/JobLists.ts';
import type { JobService } from '../services/JobService.ts';
import type { NewJob } from '../services/newJob.ts';
import type { ShopService } from '../services/ShopService.ts';
import { Busy } from '../workers/poolErrors.ts';
import { signedBy } from './people.ts';
import { shortenName } from './attachment.ts';
import { readUpload, type Upload } from './readUpload.ts';
import { findWrongText, JobId, limitBody, RevisionNumber, validate } from './validate.ts';
import { may } from './may.ts';

const Details = z.object({
  name: z.string().trim().min(1).max(200),
  customer: z.string().trim().max(200).default(''),
  due: z.iso.date().nullable().default(null),
});
const ChangedDetails = Details.extend({ detailsVersion: z.number().int().nonnegative() });
const Append = z.object({
  baseVersion: z.number().int().nonnegative(),
  entries: z.array(JournalEntry).min(1).max(200),
  /** Which of the entries since are who sends these': said, they may go on top of what others did, where that touches nothing in common. */
  own: z.array(z.uuid()).max(1000).optional(),
  /** They are kept as a branch, beside what others did. */
  isAside: z.boolean().default(false),
});
const NewRevision = z.object({
  baseVersion: z.number().int().nonnegative(),
  name: z.string().trim().min(1).max(200),
  note: z.string().trim().max(2000).default(''),
  isRelease: z.boolean().default(false),
  /** Of a release: who answers for it, and why what is not settled may stay so. */
  who: z.string().trim().max(200).default(''),
  reasons: z.partialRecord(z.enum(CHECK_IDS), z.string().trim().max(2000)).default({}),
});
/** What people call a branch or a revision; none: as it was called when it was made. */
const GivenName = z.object({ name: z.string().trim().max(80) });
const BranchStep = JobId.extend({ step: z.uuid({ error: 'no step has such an id' }) });
/** What a journal is replayed from: the last snapshot of the job, or its base. */
const From = z.object({ from: z.enum(['start', 'snapshot']).optional(), after: z.coerce.number().int().nonnegative().optional() });
/** Of a job's target what is to be other, for once. */
const ShopValues = Target.pick({ rules: true, fabric: true, machine: true }).partial();

/** Which jobs are wanted: all, in parts, or those that have all of some words. */
const Search = z.object({
  search: z.string().max(200).optional(),
  of: z.enum(['open', 'board']).optional(),
  limit: z.coerce.number().int().min(1).max(MOST_LISTED).optional(),
  offset: z.coerce.number().int().nonnegative().max(1e7).optional(),
});

const NewPractice = z.object({ faults: z.number().int().min(1).max(10) });
const Claims = z.object({ version: z.number().int().nonnegative(), claims: z.array(PracticeClaim).max(100) });

/** The form around a file: its field names and boundaries. */
const FORM_OVERHEAD = 64 * 1024;

const limit = (maxSize: number) => limitBody(maxSize, 'This file is too large', `Isola takes files up to ${MAX_FILE_BYTES / 1048576} MB.`);

/** So many files are taken in at once: each is in memory as a whole while it is. */
const MOST_UPLOADS = 4;
const COME_AGAIN = 3;

/** By which a request that is sent again, because its answer was lost, is known. */
const RequestKey = z.object({ 'idempotency-key': z.uuid().optional() });

export function jobRoutes(jobs: JobService, shop: ShopService): Hono {
  const app = new Hono();

  app.get('/', may('guest'), validate('query', Search), async (c) => {
    const { search, ...query } = c.req.valid('query');
    const { jobs: found, total, savedSeconds } = await jobs.lists.list({ ...query, words: search });
    if (savedSeconds !== undefined) c.header(SAVED_HEADER, savedSeconds.toFixed(3));
    return c.json(found, 200, { [TOTAL_HEADER]: String(total) });
  });

  let uploads = 0;
  app.post(
    '/',
    may('digitizer', { says: 'took a file in', takes: 'file' }),
    limit(MAX_FILE_BYTES + FORM_OVERHEAD),
    validate('header', RequestKey),
    async (c) => {
      if (uploads >= MOST_UPLOADS) throw new Busy(COME_AGAIN);
      uploads++;
      try {
        const upload = await readUpload(c.req.raw);
        const job = await jobs.create({ ...(await jobOf(upload, shop)), key: c.req.valid('header')['idempotency-key'] }, c.req.raw.signal);
        return c.json(job, 201, { Location: `/api/jobs/${job.id}` });
      } finally {
        uploads--;
      }
    },
  );

  app.get('/deleted', may('guest'), async (c) => c.json(await jobs.lists.deleted()));

  app.post('/:id/put-back', may('digitizer', { says: 'put a job back' }), validate('param', JobId), async (c) =>
    c.json(await jobs.putBack(c.req.valid('param').id)),
  );

  app.get('/:id', may('guest'), validate('param', JobId), validate('query', From), async (c) => {
    const { from, after } = c.req.valid('query');
    return c.json(await jobs.get(c.req.valid('param').id, from !== 'start', after));
  });

  app.patch('/:id', may('digitizer', { says: 'renamed a job' }), validate('param', JobId), validate('json', ChangedDetails), async (c) => {
    const { detailsVersion, ...details } = c.req.valid('json');
    return c.json(await jobs.changeDetails(c.req.valid('param').id, detailsVersion, details));
  });

  app.delete('/:id', may('digitizer', { says: 'deleted a job' }), validate('param', JobId), async (c) => {
    await jobs.remove(c.req.valid('param').id);
    return c.body(null, 204);
  });

  app.get('/:id/base', may('guest'), validate('param', JobId), validate('query', From), async (c) => {
    const base = await jobs.base(c.req.valid('param').id, c.req.valid('query').from !== 'start');
    if (!('json' in base)) return c.json(base, 202);
    return c.body(new Uint8Array(base.json), 200, {
      'Content-Type': 'application/json',
      'Content-Encoding': 'gzip',
      [VERSION_HEADER]: String(base.version),
    });
  });

  app.post(
    '/:id/journal',
    may('digitizer', { takes: 'steps' }),
    limit(MAX_FILE_BYTES),
    validate('param', JobId),
    validate('json', Append),
    async (c) => {
      const { baseVersion, entries, own, isAside } = c.req.valid('json');
      const sender = { who: c.get('person')?.name, own };
      const { id } = c.req.valid('param');
      return c.json(await jobs.journals[isAside ? 'keepAside' : 'append'](id, baseVersion, entries, sender));
    },
  );

  app.post(
    '/:id/revisions',
    may('digitizer', { says: 'kept or released a revision' }),
    validate('param', JobId),
    validate('header', RequestKey),
    validate('json', NewRevision),
    async (c) => {
      const { baseVersion, ...revision } = c.req.valid('json');
      return c.json(
        await jobs.revisions.keep(c.req.valid('param').id, baseVersion, {
          ...revision,
          who: signedBy(c, revision.who),
          key: c.req.valid('header')['idempotency-key'],
        }),
        201,
      );
    },
  );

  app.post(
    '/:id/practice',
    may('digitizer', { says: 'began to practise on a job' }),
    validate('param', JobId),
    validate('json', NewPractice),
    async (c) => c.json(await jobs.practices.begin(c.req.valid('param').id, c.req.valid('json').faults), 201),
  );

  app.get('/:id/practice', may('guest'), validate('param', JobId), async (c) => c.json(await jobs.practices.get(c.req.valid('param').id)));

  app.put(
    '/:id/practice',
    may('digitizer', { says: 'noted what they found in a practice job' }),
    validate('param', JobId),
    validate('json', Claims),
    async (c) => {
      const { version, claims } = c.req.valid('json');
      return c.json(await jobs.practices.claim(c.req.valid('param').id, version, claims));
    },
  );

  app.post('/:id/practice/judge', may('digitizer', { says: 'had a practice job judged' }), validate('param', JobId), async (c) =>
    c.json(await jobs.practices.judge(c.req.valid('param').id)),
  );

  app.get('/:id/checks', may('guest'), validate('param', JobId), async (c) => c.json(await jobs.revisions.checks(c.req.valid('param').id)));

  app.patch(
    '/:id/revisions/:number',
    may('digitizer', { says: 'named a revision' }),
    validate('param', RevisionNumber),
    validate('json', GivenName),
    async (c) => {
      const { id, number } = c.req.valid('param');
      return c.json(await jobs.histories.nameRevision(id, number, c.req.valid('json').name));
    },
  );

  app.get('/:id/history', may('guest'), validate('param', JobId), async (c) => c.json(await jobs.histories.read(c.req.valid('param').id)));

  app.put(
    '/:id/branches/:step',
    may('digitizer', { says: 'named a branch' }),
    validate('param', BranchStep),
    validate('json', GivenName),
    async (c) => {
      const { id, step } = c.req.valid('param');
      await jobs.histories.nameBranch(id, step, c.req.valid('json').name);
      return c.json(await jobs.histories.read(id));
    },
  );

  app.post(
    '/:id/shop-effect',
    may('digitizer', { says: 'asked what a change of the shop moves in a job' }),
    validate('param', JobId),
    validate('json', ShopValues),
    async (c) => c.json(await jobs.effectOf(c.req.valid('param').id, c.req.valid('json'))),
  );

  app.get('/:id/objects', may('guest'), validate('param', JobId), async (c) =>
    c.json({ objects: await jobs.objects(c.req.valid('param').id) }),
  );

  return app;
}

async function jobOf({ fileName: sentName, bytes, fields }: Upload, shop: ShopService): Promise<NewJob> {
  const fileName = shortenName(sentName.replaceAll(/[\p{Cc}\p{Surrogate}]/gu, '_') || 'design');
  const wrong = findWrongText(fields);
  if (wrong !== undefined) throw new Problem(422, 'The request does not fit', `${wrong.join('.')}: text that cannot be stored`);
  const given = Details.partial().safeParse(fields);
  if (!given.success) throw new Problem(422, 'The request does not fit', z.prettifyError(given.error));
  const { name, customer, due } = given.data;
  const fromFile =
    fileName
      .replace(/\.[^.]*$/, '')
      .replaceAll(/[-_]+/g, ' ')
      .trim() || 'Untitled';
  return {
    fileName,
    bytes,
    layout: layoutOfName(await shop.layouts(), fileName)?.layout,
    target: fields['target'] === undefined ? await shop.usualTarget() : readTarget(fields['target']),
    name: name ?? fromFile[0]!.toUpperCase() + fromFile.slice(1),
    ...(customer === undefined ? {} : { customer }),
    ...(due === undefined ? {} : { due }),
  };
}

function readTarget(json: string): Target {
  let value: unknown;
  try {
    value = JSON.parse(json);
  } catch {
    throw new Problem(422, 'The request does not fit', 'The field “target” is no JSON.');
  }
  const target = Target.safeParse(value);
  if (!target.success) throw new Problem(422, 'The request does not fit', `target: ${z.prettifyError(target.error)}`);
  return target.data;
}
