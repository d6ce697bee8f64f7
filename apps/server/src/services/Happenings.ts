import type { Happening } from '@isola/contract';
import { Op } from 'sequelize';
import type { Models } from '../db/models/index.ts';

/** So many are told at once. */
const MOST_TOLD = 200;

/** What was asked that changes something, and what came of it; kept for good. */
export class Happenings {
  private readonly models: Models;

  constructor(models: Models) {
    this.models = models;
  }

  async note(happening: Omit<Happening, 'seq' | 'at'>): Promise<void> {
    await this.models.Happening.create(happening, { returning: false });
  }

  /** The latest ones first; those before one of them where it is given. */
  async list(before?: number): Promise<Happening[]> {
    const where = before === undefined ? {} : { seq: { [Op.lt]: before } };
    const found = await this.models.Happening.findAll({ where, order: [['seq', 'DESC']], limit: MOST_TOLD });
    return found.map(({ seq, at, who, address, method, path, words, status }) => ({
      seq: Number(seq),
      at: at.toISOString(),
      who,
      address,
      method,
      path,
      words,
      status,
    }));
  }
}
