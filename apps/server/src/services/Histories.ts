import type { HistoryStep, JobHistory, RevisionSummary } from '@isola/contract';
import { type EntryStub, readStepTree } from '@isola/core';
import { literal } from 'sequelize';
import type { GivenNameModel, Models } from '../db/models/index.ts';
import { DoesNotFit, NotFound } from '../errors.ts';
import type { JobBases } from './JobBases.ts';
import { findJob, summarizeRevision } from './records.ts';

/** What of an entry its history is read from: all but its operation, which may be long. */
interface LightEntry {
  readonly seq: number;
  readonly createdAt: Date;
  readonly entryId: string;
  readonly kind: 'do' | 'undo' | 'redo' | 'go';
  readonly name: string | null;
  readonly to: string | null;
  readonly operation: string | null;
  readonly reason: string | null;
  readonly who: string | null;
}

/** The steps of jobs as the trees that they are, with the names that people gave to branches and revisions. */
export class Histories {
  private readonly models: Models;
  private readonly bases: JobBases;

  constructor(models: Models, bases: JobBases) {
    this.models = models;
    this.bases = bases;
  }

  async read(jobId: string): Promise<JobHistory> {
    const { version } = await findJob(this.models, jobId);
    const base = (await this.models.JobBase.findByPk(jobId, { attributes: ['version'] })) ?? (await this.bases.get(jobId));
    const [all, revisions, names] = await Promise.all([
      this.entries(jobId),
      this.models.Revision.findAll({ where: { jobId }, attributes: ['number', 'version'], order: ['number'] }),
      this.models.GivenName.findAll({ where: { jobId, kind: 'branch' } }),
    ]);
    const [earlier, entries] = [all.slice(0, base.version), all.slice(base.version)];
    const tree = readStepTree(entries.map(stubOf));
    return {
      version,
      earlier: earlier.filter(({ kind }) => kind === 'do').map((entry) => ({ name: entry.name ?? '', at: entry.createdAt.toISOString() })),
      steps: tree.steps.map(({ parent, entry }): HistoryStep => ({ ...sayStep(entries[entry]!), parent })),
      now: tree.at.at(-1) ?? null,
      branches: names.map(({ subject, name }) => ({ step: subject, name })),
      revisions: revisions
        .filter((revision) => revision.version >= base.version && revision.version - base.version < tree.at.length)
        .map(({ number, version: at }) => ({ number, step: tree.at[at - base.version] ?? null })),
    };
  }

  /** The step that was the last one done at a version; null: none. */
  async tipAt(jobId: string, version: number): Promise<string | null> {
    const base = (await this.models.JobBase.findByPk(jobId, { attributes: ['version'] })) ?? (await this.bases.get(jobId));
    const entries = (await this.entries(jobId)).slice(base.version);
    return readStepTree(entries.map(stubOf)).at[Math.max(0, version - base.version)] ?? null;
  }

  private entries(jobId: string): Promise<readonly LightEntry[]> {
    return this.models.JournalEntry.findAll({
      where: { jobId },
      order: ['seq'],
      raw: true,
      attributes: [
        'seq',
        'createdAt',
        'entryId',
        'who',
        [literal(`entry->>'kind'`), 'kind'],
        [literal(`entry->>'name'`), 'name'],
        [literal(`entry->>'to'`), 'to'],
        [literal(`entry#>>'{operation,id}'`), 'operation'],
        [literal(`entry#>>'{operation,reason}'`), 'reason'],
      ],
    }) as unknown as Promise<readonly LightEntry[]>;
  }

  /** Names the branch that a step begins; no name lets the one that it had go. @throws DoesNotFit where another one of the job has that name */
  async nameBranch(jobId: string, step: string, name: string): Promise<void> {
    await findJob(this.models, jobId);
    if ((await this.models.JournalEntry.count({ where: { jobId, entryId: step } })) === 0) throw new NotFound('such step');
    await this.name({ jobId, kind: 'branch', subject: step }, name);
  }

  /** Names a revision anew. @throws DoesNotFit where another one of the job has that name */
  async nameRevision(jobId: string, number: number, name: string): Promise<RevisionSummary> {
    await findJob(this.models, jobId);
    const revision = await this.models.Revision.findOne({ where: { jobId, number }, attributes: { exclude: ['program'] } });
    if (revision === null) throw new NotFound('such revision');
    await this.name({ jobId, kind: 'revision', subject: String(number) }, name === revision.name ? '' : name);
    return { ...summarizeRevision(revision), name: name || revision.name };
  }

  private async name(of: Pick<GivenNameModel, 'jobId' | 'kind' | 'subject'>, name: string): Promise<void> {
    await this.models.sequelize.transaction(async (transaction) => {
      const other = await this.models.GivenName.findOne({ where: { jobId: of.jobId, kind: of.kind, name }, transaction });
      if (other !== null && other.subject !== of.subject) throw new DoesNotFit(`Another ${of.kind} of this job is called ${name} already.`);
      await this.models.GivenName.destroy({ where: { ...of }, transaction });
      if (name !== '') await this.models.GivenName.create({ ...of, name }, { transaction });
    });
  }
}

const stubOf = ({ entryId: id, kind, to }: LightEntry): EntryStub => (kind === 'go' ? { id, kind, to } : { id, kind });

function sayStep({ entryId, seq, createdAt, name, operation, reason, who }: LightEntry): Omit<HistoryStep, 'parent'> {
  return {
    id: entryId,
    seq,
    at: createdAt.toISOString(),
    name: name ?? '',
    reason,
    isTarget: operation === 'set-target',
    who: who ?? null,
  };
}
