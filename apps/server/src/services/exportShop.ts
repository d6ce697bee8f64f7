import { gunzipSync } from 'node:zlib';
import { type FormatId, formatOf } from '@isola/core';
import type { Models } from '../db/models/index.ts';
import type { JobService } from './JobService.ts';
import type { SewOuts } from './SewOuts.ts';
import type { ShopService } from './ShopService.ts';

/** Takes one file, by its path with slashes. */
export type TakeFile = (path: string, content: Uint8Array | string) => Promise<void> | void;

/** What each design is written as. */
const WRITTEN_AS: readonly FormatId[] = ['csv', 'svg', 'json'];
/** So many lines of what happened are read at once. */
const PART = 5000;

export interface Exported {
  readonly jobs: number;
  readonly files: number;
  /** What could not be written, and why. */
  readonly problems: readonly string[];
}

/**
 * All of a shop as files that other programs read: each job's file as it came, its design now, its revisions, steps and samples with photos; the shop's
 * records and changes; the board; who may come in; and what happened. Passwords and sessions are not among them. One file is in memory at a time.
 */
export async function exportShop(models: Models, { jobs, shop, sewOuts }: Services, take: TakeFile): Promise<Exported> {
  const problems: string[] = [];
  let files = 0;
  const put: TakeFile = async (path, content) => {
    await take(path, content);
    files++;
  };
  const json = (path: string, value: unknown): unknown => put(path, `${JSON.stringify(value, null, 2)}\n`);
  const list = await models.Job.findAll({ attributes: ['id', 'name'], order: ['createdAt'] });
  for (const { id, name } of list)
    await exportJob(models, jobs, id, `jobs/${plain(name)}-${id.slice(0, 8)}`, put, json).catch((error: unknown) => {
      problems.push(`${name}: ${error instanceof Error ? error.message : String(error)}`);
    });
  for (const sample of await sewOuts.list()) {
    const folder = `samples/${plain(sample.jobName)}-${sample.id.slice(0, 8)}`;
    await json(`${folder}/sample.json`, sample);
    for (const photo of await models.SewOutPhoto.findAll({ where: { sewOutId: sample.id } }))
      await put(`${folder}/${photo.id.slice(0, 8)}-${plain(photo.name)}`, photo.bytes);
  }
  await json('shop/records.json', await shop.list());
  await json('shop/changes.json', await models.ShopChange.findAll({ order: ['createdAt'], raw: true }));
  await json('shop/board.json', (await models.Board.findOne({ raw: true }))?.plan ?? null);
  await json(
    'people.json',
    await models.Person.findAll({ attributes: ['id', 'name', 'role', 'isOut', 'createdAt'], order: ['name'], raw: true }),
  );
  await exportHappenings(models, put);
  return { jobs: list.length, files, problems };
}

interface Services {
  readonly jobs: JobService;
  readonly shop: ShopService;
  readonly sewOuts: SewOuts;
}

async function exportJob(
  models: Models,
  jobs: JobService,
  id: string,
  folder: string,
  put: TakeFile,
  json: (path: string, value: unknown) => unknown,
): Promise<void> {
  const { fileName, bytes } = await jobs.file(id, true);
  await put(`${folder}/came/${plain(fileName)}`, bytes);
  const { journal: _, ...about } = await jobs.get(id, false);
  await json(`${folder}/job.json`, about);
  const entries = await models.JournalEntry.findAll({ where: { jobId: id }, order: ['seq'] });
  const steps = entries.map(({ seq, createdAt, who, entry }) => ({ seq, at: createdAt.toISOString(), who: who ?? null, entry }));
  await json(`${folder}/steps.json`, steps);
  for (const format of WRITTEN_AS) await put(`${folder}/now.${endingOf(format)}`, await jobs.files.plainly(id, format));
  for (const { number, name } of about.revisions) {
    const revision = await models.Revision.findOne({ where: { jobId: id, number }, attributes: ['program'] });
    await put(`${folder}/revisions/${number}-${plain(name)}.csv`, gunzipSync(revision!.program));
  }
}

const endingOf = (format: FormatId): string => (format === 'json' ? 'design.json' : formatOf(format).extensions[0]!.slice(1));

async function exportHappenings(models: Models, put: TakeFile): Promise<void> {
  const columns = ['seq', 'at', 'who', 'address', 'method', 'path', 'status'] as const;
  const lines: string[] = [columns.join(',')];
  for (let offset = 0; ; offset += PART) {
    const rows = await models.Happening.findAll({ order: ['seq'], limit: PART, offset });
    for (const row of rows) lines.push(columns.map((column) => cell(row[column])).join(','));
    if (rows.length < PART) break;
  }
  await put('happenings.csv', `${lines.join('\n')}\n`);
}

/** As RFC 4180 has it. */
function cell(value: string | number | Date | null | undefined): string {
  const text = value instanceof Date ? value.toISOString() : String(value ?? '');
  return /[",\n\r]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}

/** A name that every system takes as a file's: no slashes, nothing that hides or points elsewhere. */
const plain = (name: string): string =>
  name
    .normalize('NFC')
    .replaceAll(/[\p{Cc}\p{Surrogate}/\\:*?"<>|]+/gu, '_')
    .slice(0, 80)
    .replace(/^[.\s]+/, '')
    .trimEnd() || 'unnamed';
