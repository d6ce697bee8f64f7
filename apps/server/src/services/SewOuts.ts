import { randomUUID } from 'node:crypto';
import type { Lessons, SewOutPhoto, SewOutRecord } from '@isola/contract';
import { Fabric, learnClock, learnPull, Machine, type PhotoPoint, placePhoto, type SewOut } from '@isola/core';
import { type ImageInfo, readPicture } from './readPicture.ts';
import { Op } from 'sequelize';
import type { Models, SewOutModel, SewOutPhotoModel } from '../db/models/index.ts';
import { ChangedElsewhere, DoesNotFit, NotFound } from '../errors.ts';
import { findJob } from './records.ts';

/** So many photos a sample has at most. */
const MOST_PHOTOS = 12;

/** What of a photo is told: all but its bytes. */
const TOLD = ['id', 'sewOutId', 'name', 'mime', 'width', 'height', 'points'] as const;

/** Samples that were sewn, of all jobs, with their photos and what they taught. */
export class SewOuts {
  private readonly models: Models;

  constructor(models: Models) {
    this.models = models;
  }

  /** Those of one job, or of all, the latest first. */
  async list(jobId?: string): Promise<SewOutRecord[]> {
    const where = jobId === undefined ? {} : { jobId };
    const found = await this.models.SewOut.findAll({ where, order: [['createdAt', 'DESC']] });
    const photos = await this.models.SewOutPhoto.findAll({
      where: jobId === undefined ? {} : { sewOutId: found.map(({ id }) => id) },
      order: ['createdAt'],
      attributes: [...TOLD],
    });
    return found.map((one) => tell(one, photos));
  }

  async get(id: string): Promise<SewOutRecord> {
    const found = await this.find(id);
    return tell(found, await this.models.SewOutPhoto.findAll({ where: { sewOutId: id }, order: ['createdAt'], attributes: [...TOLD] }));
  }

  /** Records a sample of a job; one that was sent before is there once. @throws DoesNotFit where there is no such revision */
  async add(jobId: string, record: SewOut, key?: string): Promise<SewOutRecord> {
    const known = key === undefined ? null : await this.models.SewOut.findOne({ where: { requestKey: key } });
    if (known !== null) return this.get(known.id);
    const job = await findJob(this.models, jobId);
    await this.check(jobId, record);
    const { id } = await this.models.SewOut.create({ id: randomUUID(), jobId, jobName: job.name, record, requestKey: key ?? null });
    return this.get(id);
  }

  /** Writes a sample anew, as it was based on `version`. */
  async change(id: string, version: number, record: SewOut): Promise<SewOutRecord> {
    const { jobId, record: before } = await this.find(id);
    if (jobId !== null) await this.check(jobId, record);
    else if (record.revision !== before.revision) throw new DoesNotFit('Its job is gone: the revision that was sewn stays as it is.');
    const [changed] = await this.models.SewOut.update({ record, version: version + 1 }, { where: { id, version } });
    if (changed === 0) throw new ChangedElsewhere('This sample was changed by somebody else since it was opened here. Load it again.');
    return this.get(id);
  }

  private async check(jobId: string, { revision }: SewOut): Promise<void> {
    if ((await this.models.Revision.count({ where: { jobId, number: revision } })) === 0)
      throw new DoesNotFit(`This job has no revision ${revision}: keep what was sewn as one first.`);
  }

  /** Keeps a photo of a sample. @throws DoesNotFit where it is no picture, or too many are there */
  async addPhoto(sewOutId: string, name: string, bytes: Buffer): Promise<SewOutRecord> {
    const { mime, width, height }: ImageInfo = readPicture(bytes, name);
    return this.models.sequelize
      .transaction(async (transaction) => {
        // Held, so that two who add at once count each other's.
        if ((await this.models.SewOut.findByPk(sewOutId, { transaction, lock: transaction.LOCK.UPDATE })) === null)
          throw new NotFound('such sample');
        if ((await this.models.SewOutPhoto.count({ where: { sewOutId }, transaction })) >= MOST_PHOTOS)
          throw new DoesNotFit(`A sample has up to ${MOST_PHOTOS} photos. Take one away first.`);
        const id = randomUUID();
        await this.models.SewOutPhoto.create(
          { id, sewOutId, name, mime, width, height, bytes, points: null },
          { transaction, returning: false },
        );
      })
      .then(() => this.get(sewOutId));
  }

  async photo(id: string): Promise<{ readonly mime: string; readonly bytes: Buffer }> {
    const photo = await this.models.SewOutPhoto.findByPk(id);
    if (photo === null) throw new NotFound('such photo');
    return photo;
  }

  /** Lays a photo over the design by three points, or takes it off again (none). @throws DoesNotFit where they do not tell how it lies */
  async lay(id: string, points: readonly PhotoPoint[]): Promise<SewOutRecord> {
    if (points.length === 3) {
      const placed = placePhoto(points as [PhotoPoint, PhotoPoint, PhotoPoint]);
      if (!placed.ok) throw new DoesNotFit(placed.error);
    }
    const photo = await this.models.SewOutPhoto.findByPk(id, { attributes: ['id', 'sewOutId'] });
    if (photo === null) throw new NotFound('such photo');
    await photo.update({ points: points.length === 3 ? points : null });
    return this.get(photo.sewOutId);
  }

  async removePhoto(id: string): Promise<SewOutRecord> {
    const photo = await this.models.SewOutPhoto.findByPk(id, { attributes: ['id', 'sewOutId'] });
    if (photo === null) throw new NotFound('such photo');
    await photo.destroy();
    return this.get(photo.sewOutId);
  }

  /** What all samples that count taught about a cloth and a machine of the shop, by their ids. */
  async lessons(fabricId: string, machineId: string): Promise<Lessons> {
    const of = async (part: 'fabric' | 'machine', id: string): Promise<SewOut[]> =>
      (await this.models.SewOut.findAll({ where: { record: { [part]: { id } } } })).map(({ record }) => record);
    const records = await this.models.ShopRecord.findAll({
      where: {
        [Op.or]: [
          { kind: 'fabrics', id: fabricId },
          { kind: 'machines', id: machineId },
        ],
      },
    });
    const fabric = Fabric.safeParse(records.find(({ kind }) => kind === 'fabrics')?.data).data;
    const machine = Machine.safeParse(records.find(({ kind }) => kind === 'machines')?.data).data;
    return {
      pull: (fabric && learnPull(fabric, await of('fabric', fabricId))) ?? null,
      clock: (machine && learnClock(machine, await of('machine', machineId))) ?? null,
    };
  }

  private async find(id: string): Promise<SewOutModel> {
    const found = await this.models.SewOut.findByPk(id);
    if (found === null) throw new NotFound('such sample');
    return found;
  }
}

function tell({ id, jobId, jobName, version = 0, record, createdAt }: SewOutModel, photos: readonly SewOutPhotoModel[]): SewOutRecord {
  const own = photos
    .filter(({ sewOutId }) => sewOutId === id)
    .map(({ id: photo, name, width, height, points }): SewOutPhoto => ({ id: photo, name, width, height, points: points ?? null }));
  return { id, jobId, jobName, version, sewOut: record, photos: own, createdAt: createdAt.toISOString() };
}
