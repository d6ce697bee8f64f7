import { randomUUID } from 'node:crypto';
import { promisify } from 'node:util';
import { gunzip, gzip } from 'node:zlib';
import type { AuditDetail, AuditFileRow, AuditFileState, AuditSummary, JobSummary } from '@isola/contract';
import { filesCsv, type Target, layoutOfName, type LayoutRecord } from '@isola/core';
import type PgBoss from 'pg-boss';
import { QueryTypes } from 'sequelize';
import type { AuditFileModel, AuditModel, Models } from '../db/models/index.ts';
import { AUDIT_QUEUE, type AuditTask } from '../db/queue.ts';
import { DoesNotFit, NotFound } from '../errors.ts';
import type { JobService } from './JobService.ts';

/** So many files one audit takes, and so many audits are told of. */
export const MOST_FILES = 5000;
const MOST_TOLD = 100;

const pack = promisify(gzip);
const unpack = promisify(gunzip);

/** Audits of many files at once: kept with each file and what came of it, judged by workers out of the queue. */
export class Audits {
  private readonly models: Models;
  private readonly boss: PgBoss;
  private readonly jobs: JobService;

  constructor(models: Models, boss: PgBoss, jobs: JobService) {
    this.models = models;
    this.boss = boss;
    this.jobs = jobs;
  }

  async begin(name: string, target: Target): Promise<AuditSummary> {
    const audit = await this.models.Audit.create({ id: randomUUID(), name, target });
    return summarize(audit, new Map());
  }

  /** Takes a file in by its place (from 1) and has it judged. Sent twice it is there once. */
  async add(id: string, seq: number, name: string, bytes: Buffer): Promise<void> {
    const audit = await this.find(id);
    if (audit.cancelledAt !== null) throw new DoesNotFit('This audit was cancelled; begin another for more files.');
    if (seq > MOST_FILES) throw new DoesNotFit(`One audit takes ${MOST_FILES} files; begin another for the rest.`);
    const file = { auditId: id, seq, name, bytes: await pack(bytes), state: 'waiting' as const };
    await this.models.AuditFile.bulkCreate([file], { ignoreDuplicates: true, returning: false });
    await this.queue([{ auditId: id, seq }]);
  }

  /** Puts the files that wait into the queue once more, where they were lost on their way there. */
  async resume(id: string): Promise<AuditSummary> {
    await this.find(id);
    const waiting = await this.models.AuditFile.findAll({ where: { auditId: id, state: 'waiting' }, attributes: ['seq'] });
    await this.queue(waiting.map(({ seq }) => ({ auditId: id, seq })));
    return this.summary(id);
  }

  private async queue(tasks: readonly AuditTask[]): Promise<void> {
    if (tasks.length > 0) await this.boss.insert(tasks.map((data) => ({ name: AUDIT_QUEUE, data })));
  }

  /** Lets the files that wait be; what was judged stays. */
  async cancel(id: string): Promise<AuditSummary> {
    const audit = await this.find(id);
    await this.models.sequelize.transaction(async (transaction) => {
      if (audit.cancelledAt === null) await audit.update({ cancelledAt: new Date() }, { transaction });
      const where = { auditId: id, state: 'waiting' as const };
      await this.models.AuditFile.update({ state: 'cancelled', finishedAt: new Date() }, { where, transaction });
    });
    return this.summary(id);
  }

  async remove(id: string): Promise<void> {
    if ((await this.models.Audit.destroy({ where: { id } })) === 0) throw new NotFound('such audit');
  }

  /** All that there are, the latest first. */
  async list(): Promise<AuditSummary[]> {
    const audits = await this.models.Audit.findAll({ order: [['createdAt', 'DESC']], limit: MOST_TOLD });
    const counts = await this.countsOf(audits.map(({ id }) => id));
    return audits.map((audit) => summarize(audit, counts.get(audit.id) ?? new Map()));
  }

  async summary(id: string): Promise<AuditSummary> {
    const [audit, counts] = await Promise.all([this.find(id), this.countsOf([id])]);
    return summarize(audit, counts.get(id) ?? new Map());
  }

  async get(id: string): Promise<AuditDetail> {
    return { ...(await this.summary(id)), files: await this.rows(id) };
  }

  /** What was judged so far as a table. */
  async csv(id: string): Promise<{ readonly name: string; readonly content: string }> {
    const { name } = await this.find(id);
    const files = await this.rows(id);
    const content = filesCsv(
      files.map((file) => ({ name: file.name, audit: file.audit ?? undefined, problem: file.problem ?? file.state })),
    );
    return { name, content };
  }

  /** Makes a file a job of its own, for what the audit was for. */
  async takeIn(id: string, seq: number, key?: string): Promise<JobSummary> {
    const audit = await this.find(id);
    const file = await this.models.AuditFile.findOne({ where: { auditId: id, seq } });
    if (file === null) throw new NotFound('such file');
    const fileName = file.name.split('/').at(-1)!;
    const name =
      fileName
        .replace(/\.[^.]*$/, '')
        .replaceAll(/[-_]+/g, ' ')
        .trim() || 'Untitled';
    const layouts = await this.models.ShopRecord.findAll({ where: { kind: 'layouts' } });
    return this.jobs.create({
      fileName,
      layout: layoutOfName(
        layouts.map(({ data }) => data as LayoutRecord),
        fileName,
      )?.layout,
      bytes: await unpack(file.bytes),
      target: audit.target,
      name: name[0]!.toUpperCase() + name.slice(1),
      key,
    });
  }

  private async rows(id: string): Promise<AuditFileRow[]> {
    const files = await this.models.AuditFile.findAll({ where: { auditId: id }, order: ['seq'], attributes: { exclude: ['bytes'] } });
    return files.map(({ seq, name, state, result, problem }: AuditFileModel) => ({ seq, name, state, audit: result, problem }));
  }

  private async find(id: string): Promise<AuditModel> {
    const audit = await this.models.Audit.findByPk(id);
    if (audit === null) throw new NotFound('such audit');
    return audit;
  }

  private async countsOf(ids: readonly string[]): Promise<Map<string, Map<AuditFileState, number>>> {
    const all = new Map<string, Map<AuditFileState, number>>();
    if (ids.length === 0) return all;
    const rows = await this.models.sequelize.query<{ id: string; state: AuditFileState; count: number }>(
      'select audit_id as id, state, count(*)::int as count from audit_files where audit_id in (:ids) group by audit_id, state',
      { replacements: { ids: [...ids] }, type: QueryTypes.SELECT },
    );
    for (const { id, state, count } of rows) all.set(id, (all.get(id) ?? new Map<AuditFileState, number>()).set(state, count));
    return all;
  }
}

function summarize({ id, name, target, cancelledAt, createdAt }: AuditModel, counts: ReadonlyMap<AuditFileState, number>): AuditSummary {
  const of = (state: AuditFileState): number => counts.get(state) ?? 0;
  return {
    ...{ id, name, target, isCancelled: cancelledAt !== null && cancelledAt !== undefined, createdAt: createdAt.toISOString() },
    counts: { waiting: of('waiting'), done: of('done'), failed: of('failed'), cancelled: of('cancelled') },
  };
}
