import { randomUUID } from 'node:crypto';
import { gunzipSync } from 'node:zlib';
import type { SignOff } from '@isola/contract';
import type { AboutDesign, FormatId, LayoutRecord, MachineLayout } from '@isola/core';
import { Op } from 'sequelize';
import type { Models } from '../db/models/index.ts';
import { DoesNotFit, NotFound, NotSigned } from '../errors.ts';
import type { DesignPool } from '../workers/DesignPool.ts';
import type { JobDesigns } from './JobDesigns.ts';
import { conflictAt, findJob, summarizeRevision, summarizeSignOff } from './records.ts';

export interface FileOut {
  readonly fileName: string;
  readonly content: Uint8Array;
}

/** Files that leave for a machine. While something stands against sewing them they do so only under somebody's name and reason. */
export class Files {
  private readonly models: Models;
  private readonly pool: DesignPool;
  private readonly designs: JobDesigns;

  constructor(models: Models, pool: DesignPool, designs: JobDesigns) {
    this.models = models;
    this.pool = pool;
    this.designs = designs;
  }

  /** The present design, named by the revision that it is or was last. @throws NotSigned */
  async present(id: string, format: FormatId | LayoutRecord): Promise<FileOut> {
    const { version, fileName } = await findJob(this.models, id);
    const state = await this.designs.stateAt(id, version);
    const { openStops } = await this.designs.count(state);
    await this.demandSignature(id, version, openStops);
    const last = await this.models.Revision.findOne({
      where: { jobId: id, version: { [Op.lte]: version } },
      order: [['number', 'DESC']],
      attributes: ['number', 'version'],
    });
    const since = version - (last?.version ?? 0);
    const name = `r${last?.number ?? 1}${since === 0 ? '' : `-and-${since}-${since === 1 ? 'step' : 'steps'}`}`;
    const written = await this.designs.run('write', {
      ...state,
      format: wordOf(format),
      ...(format === 'json' ? { about: await this.about(id) } : {}),
    });
    if ('refused' in written) throw new DoesNotFit(written.refused);
    const { content } = written;
    return { fileName: nameFile(fileName, name, format), content };
  }

  /** The present design in a format, to be kept and not to be sewn: nobody signs for it. */
  async plainly(id: string, format: FormatId): Promise<Uint8Array> {
    const { version } = await findJob(this.models, id);
    const about = format === 'json' ? { about: await this.about(id) } : {};
    const written = await this.designs.run('write', { ...(await this.designs.stateAt(id, version)), format, ...about });
    if ('refused' in written) throw new DoesNotFit(written.refused);
    return written.content;
  }

  /** What a job says of itself beside its design. */
  private async about(id: string): Promise<AboutDesign> {
    const { name, customer, due } = await findJob(this.models, id);
    const revisions = await this.models.Revision.findAll({ where: { jobId: id }, order: ['number'], attributes: { exclude: ['program'] } });
    return {
      ...{ name, customer, due },
      revisions: revisions.map((one) => {
        const { number, name: called, note, isRelease, createdAt, who } = summarizeRevision(one);
        return { number, name: called, note, isRelease, createdAt, who };
      }),
    };
  }

  /** A revision as it was kept; the first one is the file that came in. @throws NotSigned */
  async revision(id: string, number: number, format: FormatId | LayoutRecord): Promise<FileOut> {
    const { fileName, target } = await findJob(this.models, id);
    const revision = await this.models.Revision.findOne({ where: { jobId: id, number } });
    if (revision === null) throw new NotFound('such revision');
    const written = await this.pool.run('convert', { bytes: gunzipSync(revision.program), target, format: wordOf(format) });
    if ('refused' in written) throw new DoesNotFit(written.refused);
    if (!revision.isRelease && number > 1) await this.demandSignature(id, revision.version, written.openStops);
    return { fileName: nameFile(fileName, `r${number}`, format), content: written.content };
  }

  /** The present design for pictures: nothing of it leaves for a machine. */
  async program(id: string): Promise<Uint8Array> {
    return this.plainly(id, 'csv');
  }

  /** Notes who answers for files of a job at this version though something stands against it, and why. */
  async sign(id: string, baseVersion: number, signature: { who: string; reason: string }): Promise<SignOff> {
    const { version } = await findJob(this.models, id);
    if (version !== baseVersion) throw conflictAt(version);
    const { openStops } = await this.designs.count(await this.designs.stateAt(id, version));
    const signed = await this.models.SignOff.create({ id: randomUUID(), jobId: id, version, ...signature, stops: openStops });
    return summarizeSignOff(signed);
  }

  private async demandSignature(jobId: string, version: number, stops: readonly string[]): Promise<void> {
    if (stops.length === 0 || (await this.models.SignOff.count({ where: { jobId, version } })) > 0) return;
    throw new NotSigned(stops);
  }
}

const wordOf = (format: FormatId | LayoutRecord): FormatId | MachineLayout => (typeof format === 'string' ? format : format.layout);
const nameFile = (fileName: string, name: string, format: FormatId | LayoutRecord): string =>
  `${fileName.replace(/\.[^.]*$/, '')}-${name}.${typeof format === 'string' ? format : format.extension}`;
