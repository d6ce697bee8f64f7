import { gunzipSync } from 'node:zlib';
import type { PassedCheck, RevisionSummary } from '@isola/contract';
import { type CheckId, checksLeft, type ReleaseCheck } from '@isola/core';
import type { Models } from '../db/models/index.ts';
import { ChangedElsewhere, NotFound, NotReady } from '../errors.ts';
import type { JobDesigns } from './JobDesigns.ts';
import { conflictAt, findJob, summarizeRevision } from './records.ts';

export interface NewRevision {
  readonly name: string;
  readonly note: string;
  /** Refused while something of the check list is open. */
  readonly isRelease: boolean;
  /** Of a release: who answers for it, and why what is not settled may stay so. */
  readonly who?: string;
  readonly reasons?: Readonly<Partial<Record<CheckId, string | undefined>>>;
  /** By which the same request is known when it is sent again. */
  readonly key?: string | undefined;
}

/** States of jobs that were kept under a name; nothing overwrites them. */
export class Revisions {
  private readonly models: Models;
  private readonly designs: JobDesigns;

  constructor(models: Models, designs: JobDesigns) {
    this.models = models;
    this.designs = designs;
  }

  /** Those of a job, oldest first. */
  async list(jobId: string): Promise<RevisionSummary[]> {
    const [revisions, names] = await Promise.all([
      this.models.Revision.findAll({ where: { jobId }, order: ['number'], attributes: { exclude: ['program'] } }),
      this.models.GivenName.findAll({ where: { jobId, kind: 'revision' } }),
    ]);
    const given = new Map(names.map(({ subject, name }) => [Number(subject), name]));
    return revisions.map(summarizeRevision).map((revision) => ({ ...revision, name: given.get(revision.number) ?? revision.name }));
  }

  /** Keeps the present design of a job. @throws NotReady where it is to be released and cannot be. */
  async keep(
    id: string,
    baseVersion: number,
    { name, note, isRelease, who = '', reasons = {}, key }: NewRevision,
  ): Promise<RevisionSummary> {
    const known = key === undefined ? null : await this.models.Revision.findOne({ where: { jobId: id, requestKey: key } });
    if (known !== null) return summarizeRevision(known);
    const job = await findJob(this.models, id);
    if (job.version !== baseVersion) throw conflictAt(job.version);
    const state = await this.designs.stateAt(id, baseVersion);
    const counted = await this.designs.count(state);
    if (isRelease && counted.figures.stitches === 0) throw new NotReady('There is no stitch in it.');
    const checks = isRelease ? await this.pass(id, baseVersion, who, reasons) : null;
    const written = await this.designs.run('write', { ...state, format: 'csv.gz' as const });
    if ('refused' in written) throw new Error(`a design is not written as CSV: ${written.refused}`);
    return this.models.sequelize.transaction(async (transaction) => {
      const current = await findJob(this.models, id, transaction);
      if (current.version !== baseVersion) throw conflictAt(current.version);
      if (isRelease && current.released?.version === baseVersion)
        throw new ChangedElsewhere(
          `This state was released meanwhile, as revision ${current.released.number}. Load the page again to see it.`,
        );
      const number = (await this.models.Revision.count({ where: { jobId: id }, transaction })) + 1;
      const created = await this.models.Revision.create(
        {
          jobId: id,
          number,
          version: baseVersion,
          entryId: state.lastEntryId,
          name,
          note,
          figures: counted.figures,
          program: Buffer.from(written.content),
          isRelease,
          stopCount: counted.openStops.length,
          requestKey: key ?? null,
          who: isRelease ? who : null,
          checks,
        },
        { transaction },
      );
      const released = { number, version: baseVersion, figures: counted.figures };
      if (isRelease) await current.update({ stage: 'released', released }, { transaction });
      return summarizeRevision(created);
    });
  }

  /** What has to be gone through before a job's present design is released. */
  async checks(id: string): Promise<readonly ReleaseCheck[]> {
    const { version } = await findJob(this.models, id);
    return (await this.designs.run('check', await this.designs.stateAt(id, version))).checks;
  }

  /** The check list as it is passed. @throws NotReady where something is neither settled nor signed with a reason */
  private async pass(id: string, version: number, who: string, given: NonNullable<NewRevision['reasons']>): Promise<PassedCheck[]> {
    if (who === '') throw new NotReady('Say who releases it: the check list is signed.');
    const { checks } = await this.designs.run('check', await this.designs.stateAt(id, version));
    // Who took a file of this state answered for what stands against it already.
    const signed = await this.models.SignOff.findOne({ where: { jobId: id, version }, order: [['createdAt', 'DESC']] });
    const reasons = { ...(signed === null ? {} : { stops: `${signed.reason} (${signed.who})` }), ...given };
    const left = checksLeft(checks, reasons);
    if (left.length > 0)
      throw new NotReady(`Settle these first, or say why not: ${left.map(({ title, found }) => `${title} (${found})`).join('; ')}.`);
    return checks.map((check) => ({ id: check.id, found: check.found, reason: check.isSettled ? null : reasons[check.id]! }));
  }

  /** A revision's program as stitch CSV. */
  async program(id: string, number: number): Promise<Buffer> {
    await findJob(this.models, id);
    const revision = await this.models.Revision.findOne({ where: { jobId: id, number } });
    if (revision === null) throw new NotFound('such revision');
    return gunzipSync(revision.program);
  }
}
