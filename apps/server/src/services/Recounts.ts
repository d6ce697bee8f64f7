import type { JobChange } from '@isola/contract';
import { RULEBOOK_VERSION } from '@isola/core';
import { Op } from 'sequelize';
import type { Models } from '../db/models/index.ts';
import { NotFound } from '../errors.ts';
import { log } from '../log.ts';
import { Busy, PoolClosed } from '../workers/poolErrors.ts';
import type { JobDesigns } from './JobDesigns.ts';
import { findJob } from './records.ts';

/** After a step its findings are counted once no other came for so long (ms); where too much waits, after so long again. */
const QUIET = 250;
const AGAIN = 3000;
/** Of a job whose findings are to be counted: no rulebook has counted them. */
export const UNCOUNTED = 0;

/**
 * Counts the findings of jobs as lists show them. A step is acknowledged before: judging a design takes longer than making the step, and who made it has
 * it judged in their own page. A server that ends before it counted does so at its next start.
 */
export class Recounts {
  private readonly models: Models;
  private readonly designs: JobDesigns;
  private readonly tell: (change: JobChange) => void;
  private readonly waiting = new Map<string, NodeJS.Timeout>();
  private isOver = false;

  constructor(models: Models, designs: JobDesigns, tell: (change: JobChange) => void) {
    this.models = models;
    this.designs = designs;
    this.tell = tell;
  }

  /** Counts a job's findings once it is left alone for a moment. */
  soon(id: string, after = QUIET): void {
    if (this.isOver) return;
    clearTimeout(this.waiting.get(id));
    const timer = setTimeout(() => {
      this.waiting.delete(id);
      this.count(id).catch((error: unknown) => {
        if (error instanceof Busy) this.soon(id, AGAIN);
        else this.complain(id, error);
      });
    }, after);
    this.waiting.set(id, timer.unref());
  }

  /** Counts anew where that was done by an earlier rulebook, or not since the last step. One job after another. */
  async all(): Promise<void> {
    const stale = await this.models.Job.findAll({ where: { rulebook: { [Op.lt]: RULEBOOK_VERSION } }, attributes: ['id'] });
    for (const { id } of stale) {
      if (this.isOver) return;
      // A job that cannot be counted, or is deleted meanwhile, does not keep the others from it; opening it says what is wrong.
      await this.count(id).catch((error: unknown) => this.complain(id, error));
    }
  }

  private complain(id: string, error: unknown): void {
    if (!this.isOver && !(error instanceof NotFound) && !(error instanceof PoolClosed))
      log.error(`the findings of job ${id} cannot be counted anew`, error);
  }

  private async count(id: string): Promise<void> {
    const { version } = await findJob(this.models, id);
    const { figures, findings } = await this.designs.count(await this.designs.stateAt(id, version));
    // Where a step came between, what is found then is counted after it.
    await this.models.Job.update({ now: figures, findings, rulebook: RULEBOOK_VERSION }, { where: { id, version }, silent: true });
    this.tell({ id, version });
  }

  /** What is not counted yet is counted at the next start. */
  close(): void {
    this.isOver = true;
    for (const timer of this.waiting.values()) clearTimeout(timer);
  }
}
