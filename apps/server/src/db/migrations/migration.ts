import type { QueryInterface, Transaction } from 'sequelize';

/** One step of the schema. It happens in one transaction, or not at all. */
export interface Migration {
  readonly name: string;
  up(queries: QueryInterface, transaction: Transaction): Promise<void>;
}
