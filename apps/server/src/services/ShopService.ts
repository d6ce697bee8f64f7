import type { Shop, ShopKind } from '@isola/contract';
import { Fabric, FABRICS, Garment, GARMENTS, Hoop, HOOPS, Machine, MACHINES, THREADS, ThreadType } from '@isola/core';
import type { Transaction } from 'sequelize';
import type { Models } from '../db/models/index.ts';
import { NotFound } from '../errors.ts';

/** What the shop keeps lists of, with what a record must look like and what a new shop starts with. */
export const SHOP_LISTS = {
  fabrics: { schema: Fabric, defaults: FABRICS },
  garments: { schema: Garment, defaults: GARMENTS },
  hoops: { schema: Hoop, defaults: HOOPS },
  machines: { schema: Machine, defaults: MACHINES },
  threads: { schema: ThreadType, defaults: THREADS },
} as const;
export const SHOP_KINDS = Object.keys(SHOP_LISTS) as [ShopKind, ...ShopKind[]];

/** The shop's cloths, places, hoops, machines and threads. */
export class ShopService {
  private readonly models: Models;

  constructor(models: Models) {
    this.models = models;
  }

  async list(): Promise<Shop> {
    const records = await this.models.ShopRecord.findAll({ order: ['position', 'id'] });
    const of = (kind: ShopKind): unknown[] => records.filter((r) => r.kind === kind).map((r) => r.data);
    return {
      fabrics: of('fabrics'),
      garments: of('garments'),
      hoops: of('hoops'),
      machines: of('machines'),
      threads: of('threads'),
    } as unknown as Shop;
  }

  async put(kind: ShopKind, id: string, data: unknown): Promise<void> {
    const known = await this.models.ShopRecord.findOne({ where: { kind, id } });
    if (known !== null) await known.update({ data });
    else await this.models.ShopRecord.create({ kind, id, data, position: await this.models.ShopRecord.count({ where: { kind } }) });
  }

  /** Jobs keep the values they were judged by; nothing else hangs on a record. */
  async remove(kind: ShopKind, id: string): Promise<void> {
    if ((await this.models.ShopRecord.destroy({ where: { kind, id } })) === 0) throw new NotFound(`${id} among the ${kind}`);
  }

  /** Brings back the records that a new shop starts with and that are missing; leaves the others as they are. */
  async restoreDefaults(transaction?: Transaction): Promise<void> {
    for (const kind of SHOP_KINDS) {
      await this.models.ShopRecord.bulkCreate(
        SHOP_LISTS[kind].defaults.map((data, position) => ({ kind, id: data.id, position, data })),
        { ignoreDuplicates: true, ...(transaction === undefined ? {} : { transaction }) },
      );
    }
  }
}
