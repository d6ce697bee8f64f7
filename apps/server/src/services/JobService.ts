import { randomUUID } from 'node:crypto';
import { gunzipSync } from 'node:zlib';
import { type JobChange, type JobDetail, type JobSummary, KEPT_DAYS, type ShopEffect } from '@isola/contract';
import { type FormatId, type JournalEntry, RULEBOOK_VERSION } from '@isola/core';
import { Op, type Transaction } from 'sequelize';
import type { JobModel, Models } from '../db/models/index.ts';
import { ChangedElsewhere, NotFound, UnreadableFile } from '../errors.ts';
import type { DesignPool } from '../workers/DesignPool.ts';
import type { Progress, ShopValues } from '../workers/protocol.ts';
import type { Bus } from './Bus.ts';
import { JobBases, type ReplayStart } from './JobBases.ts';
import { JobLists } from './JobLists.ts';
import { JobDesigns } from './JobDesigns.ts';
import { Journals } from './Journals.ts';
import { auditSheet } from '../sheets/auditSheet.ts';
import { productionPdf } from '@isola/sheets';
import { Histories } from './Histories.ts';
import { type FileOut, Files } from './Files.ts';
import { bytesOf, findJob, MAIN, summarizeJob, summarizeSignOff } from './records.ts';
import type { NewJob, ReadJob } from './newJob.ts';
import { Practices } from './Practices.ts';
import { Recounts } from './Recounts.ts';
import { Revisions } from './Revisions.ts';

/** Jobs and all that belongs to them. Every write is one transaction: it is there as a whole once it is acknowledged, or not at all. */
export class JobService {
  readonly journals: Journals;
  readonly revisions: Revisions;
  readonly files: Files;
  readonly histories: Histories;
  readonly lists: JobLists;
  readonly recounts: Recounts;
  readonly practices: Practices;
  private readonly models: Models;
  private readonly pool: DesignPool;
  private readonly bases: JobBases;
  private readonly designs: JobDesigns;
  private readonly bus: Bus;

  constructor(models: Models, pool: DesignPool, bus: Bus) {
    this.models = models;
    this.bus = bus;
    this.pool = pool;
    this.bases = new JobBases(models, pool);
    this.designs = new JobDesigns(models, pool, this.bases);
    this.lists = new JobLists(models);
    this.histories = new Histories(models, this.bases);
    const tell = (change: JobChange): void => this.tell(change);
    this.recounts = new Recounts(models, this.designs, tell);
    this.journals = new Journals(models, {
      ...{ bases: this.bases, designs: this.designs, tips: this.histories, tell },
      countSoon: (id) => this.recounts.soon(id),
    });
    this.revisions = new Revisions(models, this.designs);
    this.files = new Files(models, pool, this.designs);
    this.practices = new Practices(models, this.designs, this);
  }

  private tell(change: JobChange): void {
    this.bus.say({ kind: 'job', ...change });
  }

  /**
   * Takes a file in. Its objects are recognized after that. A request that was sent before gives the job that was made then. `signal`:
   * who sent it does not wait any more.
   */
  async create(job: NewJob, signal?: AbortSignal): Promise<JobSummary> {
    const known = job.key === undefined ? null : await this.models.Job.findOne({ where: { requestKey: job.key } });
    if (known !== null) return summarizeJob(known);
    const ready = await this.read(job, signal);
    // From here on it is stored, whoever waits for it: sent again it is known by its key.
    const summary = await this.models.sequelize.transaction((transaction) => this.insert(ready, transaction));
    this.begin(summary.id, ready.read.original === undefined ? job.bytes : undefined);
    return summary;
  }

  /** Reads a file in a worker, so that nothing of a file that is refused is stored. */
  async read(job: NewJob, signal?: AbortSignal): Promise<ReadJob> {
    const read = await this.pool.run('read', { bytes: job.bytes, target: job.target, layout: job.layout }, { signal });
    if ('refused' in read) throw new UnreadableFile(job.fileName, read.refused);
    // A design JSON says itself what it is to be sewn on, and for whom.
    const { about } = read;
    if (about === undefined) return { job, read };
    const due = job.due ?? about.due;
    const told = {
      target: about.target ?? job.target,
      name: about.name?.trim() || job.name,
      customer: job.customer || about.customer || '',
    };
    return { job: { ...job, ...told, ...(due === undefined ? {} : { due }) }, read };
  }

  /** Stores a file that was read, as a job. */
  async insert({ job, read }: ReadJob, transaction: Transaction): Promise<JobSummary> {
    const id = randomUUID();
    const created = await this.models.Job.create(
      {
        id,
        name: job.name,
        customer: job.customer ?? '',
        due: job.due ?? null,
        fileName: job.fileName,
        fileKind: read.kind,
        warnings: read.warnings,
        initialTarget: job.target,
        target: job.target,
        before: read.figures,
        now: read.figures,
        findings: read.findings,
        stage: 'taken-in',
        version: 0,
        detailsVersion: 0,
        rulebook: RULEBOOK_VERSION,
        requestKey: job.key ?? null,
      },
      { transaction },
    );
    // What was just sent is not to come back with the answer: a file takes three times its size on its way.
    const packed = {
      jobId: id,
      sha256: read.sha256,
      bytes: Buffer.from(read.packed),
      isPacked: true,
      original: read.original === undefined ? null : Buffer.from(read.original),
    };
    await this.models.JobFile.create(packed, { transaction, returning: false });
    await this.models.Branch.create({ jobId: id, name: MAIN, entryId: null }, { transaction });
    await this.models.Revision.create(
      { jobId: id, number: 1, version: 0, name: 'As it came in', note: '', figures: read.figures, program: Buffer.from(read.program) },
      { transaction, returning: false },
    );
    return summarizeJob(created);
  }

  /** Has the objects of a job that was stored recognized, and tells of it. `bytes`: of its file, where they are in hand. */
  begin(id: string, bytes: Buffer | undefined): void {
    // What was found in its rows is found in its objects then.
    this.bases.begin(id, bytes, () => this.recounts.soon(id));
    this.tell({ id, version: 0 });
  }

  /** A job with its journal since its last snapshot, or since its base; `after`: since that version, where that is later. */
  async get(id: string, isSnapshotWanted = true, after = 0): Promise<JobDetail> {
    const job = await findJob(this.models, id);
    const base = await this.models.JobBase.findByPk(id, { attributes: ['version', 'recognizer'] });
    const snapshot = isSnapshotWanted ? await this.models.Snapshot.findByPk(id, { attributes: ['version'] }) : null;
    const from = snapshot?.version ?? base?.version ?? 0;
    const [entries, revisions, signOffs] = await Promise.all([
      base === null
        ? []
        : this.models.JournalEntry.findAll({ where: { jobId: id, seq: { [Op.gt]: Math.max(from, after) } }, order: ['seq'] }),
      this.revisions.list(id),
      this.models.SignOff.findAll({ where: { jobId: id }, order: ['createdAt'] }),
    ]);
    return {
      ...summarizeJob(job),
      initialTarget: job.initialTarget,
      base: base === null ? null : { version: from, recognizer: base.recognizer },
      journal: entries.map((e) => ({ seq: e.seq, at: e.createdAt.toISOString(), who: e.who ?? null, entry: e.entry as JournalEntry })),
      revisions,
      signOffs: signOffs.map(summarizeSignOff),
    };
  }

  /** What a job's journal builds on, as gzipped JSON with its version; or how far it is while it is made. */
  async base(id: string, isSnapshotWanted = true): Promise<ReplayStart | Progress> {
    await findJob(this.models, id);
    return this.bases.look(id, isSnapshotWanted);
  }

  async changeDetails(
    id: string,
    detailsVersion: number,
    details: { name: string; customer: string; due: string | null },
  ): Promise<JobSummary> {
    return this.models.sequelize.transaction(async (transaction) => {
      const job = await findJob(this.models, id, transaction);
      if (job.detailsVersion !== detailsVersion) {
        throw new ChangedElsewhere('Name, customer or date of this job were changed in another window. Reload to see them.');
      }
      await job.update({ ...details, detailsVersion: detailsVersion + 1 }, { transaction });
      return summarizeJob(job);
    });
  }

  /** Deletes a job, which can be put back for some time. */
  async remove(id: string): Promise<void> {
    if ((await this.models.Job.destroy({ where: { id } })) === 0) throw new NotFound('such job');
    this.tell({ id, version: null });
  }

  /** Puts a deleted job back as it was. */
  async putBack(id: string): Promise<JobSummary> {
    await this.models.Job.restore({ where: { id } });
    const job = await findJob(this.models, id);
    this.tell({ id, version: job.version });
    return summarizeJob(job);
  }

  /** Lets jobs go whose time to be put back is over, with all that belongs to them. */
  async clear(now = new Date()): Promise<void> {
    const oldest = new Date(now.getTime() - KEPT_DAYS * 86_400_000);
    await this.models.Job.destroy({ where: { deletedAt: { [Op.lt]: oldest } }, force: true });
  }

  /** @throws NotFound where there is no such job */
  async demand(id: string): Promise<void> {
    await findJob(this.models, id);
  }

  /** The file that is worked on: as it came in, byte for byte, or what was read of a machine's own file, which itself is had `asItCame`. */
  async file(id: string, asItCame = false): Promise<{ fileName: string; kind: FormatId | undefined; bytes: Buffer }> {
    const [job, file] = await Promise.all([findJob(this.models, id), this.models.JobFile.findByPk(id)]);
    if (file === null) throw new NotFound('such job');
    if (file.original === null || file.original === undefined)
      return { fileName: job.fileName, kind: job.fileKind, bytes: await bytesOf(file) };
    if (asItCame) return { fileName: job.fileName, kind: undefined, bytes: gunzipSync(file.original) };
    return { fileName: `${job.fileName}.${job.fileKind}`, kind: job.fileKind, bytes: await bytesOf(file) };
  }

  /** The audit of the present design to print, as a PDF. */
  async auditPdf(id: string): Promise<FileOut> {
    const job = await findJob(this.models, id);
    const judged = await this.designs.run('report', await this.designs.stateAt(id, job.version));
    return { fileName: `${job.fileName.replace(/\.[^.]*$/, '')}-audit.pdf`, content: await auditSheet(summarizeJob(job), judged) };
  }

  /** The production sheet of the present design, as a PDF; it says whether that was released. */
  async sheetPdf(id: string): Promise<FileOut> {
    const job = await findJob(this.models, id);
    const { sheet, program, extents } = await this.designs.run('sheet', await this.designs.stateAt(id, job.version));
    const content = await productionPdf({ title: job.name, state: this.sayState(job) }, sheet, { program, extents });
    return { fileName: `${job.fileName.replace(/\.[^.]*$/, '')}-sheet.pdf`, content };
  }

  private sayState({ released, version, customer, fileName }: JobModel): string {
    const whose = customer === '' ? fileName : `${fileName} for ${customer}`;
    const today = new Date().toLocaleDateString('en-GB', { dateStyle: 'long' });
    if (released === null || released === undefined) return `${whose}: after step ${version}, not released; ${today}`;
    if (released.version === version) return `${whose}: revision ${released.number}, released; ${today}`;
    return `${whose}: NOT revision ${released.number} that was released, but what was made of it since; ${today}`;
  }

  /** What other values of the shop would change in what is found in a job. */
  async effectOf(id: string, instead: ShopValues): Promise<ShopEffect> {
    const job = await findJob(this.models, id);
    return this.designs.run('judge', { ...(await this.designs.stateAt(id, job.version)), instead });
  }

  /** What the present design is made of. */
  async objects(id: string): Promise<readonly object[]> {
    const job = await findJob(this.models, id);
    return (await this.designs.run('objects', await this.designs.stateAt(id, job.version))).objects;
  }
}
