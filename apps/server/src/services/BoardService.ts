import type { Board } from '@isola/contract';
import { BoardPlan, EMPTY_BOARD } from '@isola/core';
import type { Models } from '../db/models/index.ts';
import { ChangedElsewhere } from '../errors.ts';

const THE_BOARD = 1;

/** Which machine sews which orders, and when. */
export class BoardService {
  private readonly models: Models;

  constructor(models: Models) {
    this.models = models;
  }

  async read(): Promise<Board> {
    const found = await this.models.Board.findByPk(THE_BOARD);
    return found === null ? { version: 0, plan: EMPTY_BOARD } : { version: found.version, plan: BoardPlan.parse(found.plan) };
  }

  /** Writes the board as a whole. @throws ChangedElsewhere where somebody else did since it was read */
  async write(version: number, plan: BoardPlan): Promise<Board> {
    await this.models.sequelize.transaction(async (transaction) => {
      await this.models.Board.findOrCreate({
        where: { id: THE_BOARD },
        defaults: { id: THE_BOARD, version: 0, plan: EMPTY_BOARD },
        transaction,
      });
      const [changed] = await this.models.Board.update({ version: version + 1, plan }, { where: { id: THE_BOARD, version }, transaction });
      if (changed === 0)
        throw new ChangedElsewhere(
          'The board was changed by somebody else since it was opened here. It is shown as it is now: make your change again.',
        );
    });
    return { version: version + 1, plan };
  }
}
