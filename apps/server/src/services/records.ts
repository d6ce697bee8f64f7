import { promisify } from 'node:util';
import { gunzip } from 'node:zlib';
import type { DeletedJob, JobSummary, RevisionSummary, SignOff } from '@isola/contract';
import type { Transaction } from 'sequelize';
import type { JobFileModel, JobModel, Models, RevisionModel, SignOffModel } from '../db/models/index.ts';
import { ChangedElsewhere, NotFound } from '../errors.ts';

/** The branch that work goes on. */
export const MAIN = 'main';

const unpack = promisify(gunzip);

/** A job, held until the transaction ends where there is one. */
export async function findJob({ Job }: Models, id: string, transaction?: Transaction): Promise<JobModel> {
  const job = await Job.findByPk(id, transaction === undefined ? {} : { transaction, lock: transaction.LOCK.UPDATE });
  if (job === null) throw new NotFound('such job');
  return job;
}

/** A file as it came in, byte for byte. */
export const bytesOf = async ({ bytes, isPacked }: JobFileModel): Promise<Buffer> => (isPacked ? unpack(bytes) : bytes);

export function conflictAt(version: number, known = 0): ChangedElsewhere {
  return new ChangedElsewhere('This job was changed in another window since it was opened here.', version, known);
}

export function summarizeJob(job: JobModel): JobSummary {
  const { id, name, customer, due, fileName, fileKind, warnings, target, before, now, findings, stage, version, detailsVersion } = job;
  return {
    ...{ id, name, customer, due, fileName, fileKind, warnings, target, before, now, findings, stage, version, detailsVersion },
    programHash: job.programHash ?? null,
    released: job.released ?? null,
    practice: job.practice ?? null,
    createdAt: job.createdAt.toISOString(),
    updatedAt: job.updatedAt.toISOString(),
  };
}

export function summarizeDeleted({ id, name, customer, deletedAt }: JobModel): DeletedJob {
  return { id, name, customer, deletedAt: deletedAt!.toISOString() };
}

export function summarizeRevision(revision: RevisionModel): RevisionSummary {
  const { number, version, name, note, isRelease, figures } = revision;
  return {
    number,
    version,
    name,
    note,
    isRelease,
    stopCount: revision.stopCount ?? null,
    who: revision.who ?? null,
    checks: revision.checks ?? null,
    figures,
    createdAt: revision.createdAt.toISOString(),
  };
}

export function summarizeSignOff({ version, who, reason, stops, createdAt }: SignOffModel): SignOff {
  return { version, who, reason, stops, createdAt: createdAt.toISOString() };
}
