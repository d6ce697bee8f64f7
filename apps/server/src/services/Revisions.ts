import { gunzipSync } from 'node:zlib';
import type { RevisionSummary } from '@isola/contract';
import type { Models } from '../db/models/index.ts';
import { NotFound, NotReady } from '../errors.ts';
import type { JobDesigns } from './JobDesigns.ts';
import { conflictAt, findJob, summarizeRevision } from './records.ts';

export interface NewRevision {
  readonly name: string;
  readonly note: string;
  /** Refused while findings of severity stop are open. */
  readonly isRelease: boolean;
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
  async keep(id: string, baseVersion: number, { name, note, isRelease, key }: NewRevision): Promise<RevisionSummary> {
    const known = key === undefined ? null : await this.models.Revision.findOne({ where: { jobId: id, requestKey: key } });
    if (known !== null) return summarizeRevision(known);
    const job = await findJob(this.models, id);
    if (job.version !== baseVersion) throw conflictAt(job.version);
    const state = await this.designs.stateAt(id, baseVersion);
    const derived = await this.designs.derive(state, []);
    if (isRelease && derived.openStops.length > 0) {
      throw new NotReady(`Repair these first, or keep them with a reason: ${derived.openStops.join('; ')}.`);
    }
    if (isRelease && derived.figures.stitches === 0) throw new NotReady('There is no stitch in it.');
    const { content } = await this.designs.run('write', { ...state, format: 'csv.gz' as const });
    return this.models.sequelize.transaction(async (transaction) => {
      const current = await findJob(this.models, id, transaction);
      if (current.version !== baseVersion) throw conflictAt(current.version);
      const number = (await this.models.Revision.count({ where: { jobId: id }, transaction })) + 1;
      const created = await this.models.Revision.create(
        {
          jobId: id,
          number,
          version: baseVersion,
          entryId: state.lastEntryId,
          name,
          note,
          figures: derived.figures,
          program: Buffer.from(content),
          isRelease,
          stopCount: derived.openStops.length,
          requestKey: key ?? null,
        },
        { transaction },
      );
      const released = { number, version: baseVersion, figures: derived.figures };
      if (isRelease) await current.update({ stage: 'released', released }, { transaction });
      return summarizeRevision(created);
    });
  }

  /** A revision's program as stitch CSV. */
  async program(id: string, number: number): Promise<Buffer> {
    await findJob(this.models, id);
    const revision = await this.models.Revision.findOne({ where: { jobId: id, number } });
    if (revision === null) throw new NotFound('such revision');
    return gunzipSync(revision.program);
  }
}
