import { createHash } from 'node:crypto';
import { RateLimiterPostgres, type RateLimiterRes } from 'rate-limiter-flexible';
import { QueryTypes } from 'sequelize';
import type { Models } from '../db/models/index.ts';
import { NoRoom, TooOften } from '../errors.ts';

/** How much files take is looked at no more often than this, ms. */
const LOOK_EVERY = 30_000;
const GIGABYTE = 1e9;

/** How much the shop's files may take together, and how many somebody may send in an hour. */
export class Quotas {
  private readonly models: Models;
  private readonly gigabytes: number;
  private readonly ofSender: RateLimiterPostgres;
  private looked: { readonly at: number; readonly bytes: number } | undefined;

  constructor(models: Models, { gigabytes, filesAnHour }: { readonly gigabytes: number; readonly filesAnHour: number }) {
    this.models = models;
    this.gigabytes = gigabytes;
    this.ofSender = new RateLimiterPostgres({
      ...{ storeClient: models.sequelize, storeType: 'sequelize', tableName: 'rate_limits', tableCreated: true },
      ...{ keyPrefix: 'files', points: filesAnHour, duration: 3600 },
    });
  }

  /** @throws NoRoom where files take all that they may */
  async findRoom(): Promise<void> {
    const taken = await this.taken();
    if (taken >= this.gigabytes * GIGABYTE) throw new NoRoom(taken / GIGABYTE, this.gigabytes);
  }

  /** Lets somebody (by an id, or an address) send a file. @throws TooOften after too many in an hour */
  async letSend(sender: string): Promise<void> {
    try {
      await this.ofSender.consume(createHash('sha256').update(sender).digest('hex'));
    } catch (error) {
      if (error instanceof Error) throw error;
      throw new TooOften(Math.ceil((error as RateLimiterRes).msBeforeNext / 1000));
    }
  }

  /** Bytes that files and photos take, as stored; as of half a minute ago at most. */
  async taken(): Promise<number> {
    const now = Date.now();
    if (this.looked === undefined || this.looked.at < now - LOOK_EVERY) {
      const [sum] = await this.models.sequelize.query<{ bytes: string }>(
        `select (select coalesce(sum(pg_column_size(bytes) + coalesce(pg_column_size(original), 0)), 0) from job_files)
              + (select coalesce(sum(pg_column_size(bytes)), 0) from sew_out_photos)
              + (select coalesce(sum(pg_column_size(bytes)), 0) from audit_files) as bytes`,
        { type: QueryTypes.SELECT },
      );
      this.looked = { at: now, bytes: Number(sum!.bytes) };
    }
    return this.looked.bytes;
  }
}
