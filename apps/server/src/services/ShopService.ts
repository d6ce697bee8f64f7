import { randomUUID } from 'node:crypto';
import { isDeepStrictEqual } from 'node:util';
import { type RecordUse, RULES_RECORD, type Shop, type ShopChange, type ShopKind, type ShopSignature } from '@isola/contract';
import {
  defaultTarget,
  Fabric,
  FABRICS,
  Garment,
  GARMENTS,
  Hoop,
  HOOPS,
  LAYOUTS,
  LayoutRecord,
  Machine,
  MACHINES,
  problemsOfRules,
  RULES,
  ShopRules,
  type Target,
  THREADS,
  ThreadType,
  USUAL_RULES,
} from '@isola/core';
import { Op, type Transaction, type WhereOptions } from 'sequelize';
import type { Models, ShopChangeModel, ShopRecordModel } from '../db/models/index.ts';
import { ChangedElsewhere, DoesNotFit, NotFound } from '../errors.ts';

/** What the shop keeps lists of, with what a record must look like, what a new shop starts with, and where a job's target holds one. */
export const SHOP_LISTS = {
  fabrics: { schema: Fabric, defaults: FABRICS, word: 'cloth', inTarget: ['fabric'] },
  garments: { schema: Garment, defaults: GARMENTS, word: 'place', inTarget: ['garment'] },
  hoops: { schema: Hoop, defaults: HOOPS, word: 'hoop', inTarget: ['hoop'] },
  machines: { schema: Machine, defaults: MACHINES, word: 'machine', inTarget: ['machine'] },
  threads: { schema: ThreadType, defaults: THREADS, word: 'thread', inTarget: ['thread', 'madeFor'] },
  layouts: { schema: LayoutRecord, defaults: LAYOUTS, word: 'machine layout', inTarget: [] },
} as const satisfies Record<ShopKind, { inTarget: readonly (keyof Target)[]; [key: string]: unknown }>;
export const SHOP_KINDS = Object.keys(SHOP_LISTS) as [ShopKind, ...ShopKind[]];

type Kind = ShopKind | 'rules';

/** So many changes, and jobs that use a record, are told at once. */
const MOST_TOLD = 200;

/** The shop's cloths, places, hoops, machines and threads and its rulebook, with every change of them. */
export class ShopService {
  private readonly models: Models;

  constructor(models: Models) {
    this.models = models;
  }

  async list(): Promise<Shop> {
    const records = await this.models.ShopRecord.findAll({ order: ['position', 'id'] });
    const of = (kind: Kind): unknown[] => records.filter((r) => r.kind === kind).map((r) => r.data);
    const lists = Object.fromEntries(SHOP_KINDS.map((kind) => [kind, of(kind)])) as unknown as Omit<Shop, 'rules'>;
    return { ...lists, rules: (of('rules')[0] as ShopRules | undefined) ?? USUAL_RULES };
  }

  /** Of machines' own files. */
  async layouts(): Promise<LayoutRecord[]> {
    const records = await this.models.ShopRecord.findAll({ where: { kind: 'layouts' }, order: ['position', 'id'] });
    return records.map(({ data }) => data as LayoutRecord);
  }

  /** What a file is judged for until somebody says otherwise, by the shop's values. */
  async usualTarget(): Promise<Target> {
    const { fabrics, garments, hoops, machines, threads, rules } = await this.list();
    const usual = defaultTarget();
    const mine = <T extends { readonly id: string }>(list: readonly T[], wanted: T): T =>
      list.find(({ id }) => id === wanted.id) ?? list[0] ?? wanted;
    const fabric = mine(fabrics, usual.fabric);
    const garment = mine(garments, usual.garment!);
    return {
      ...usual,
      ...{ fabric, clothColor: fabric.color, garment },
      hoop: hoops.find(({ id }) => id === garment.hoopId) ?? mine(hoops, usual.hoop),
      ...{ machine: mine(machines, usual.machine), thread: mine(threads, usual.thread) },
      ...(isDeepStrictEqual(rules, USUAL_RULES) ? {} : { rules }),
    };
  }

  /** Puts a record in its list or changes it. `was`: as it was when the change was begun (null: not there), where that is to be held to. */
  async put(kind: Kind, id: string, data: object, signature: ShopSignature, was?: unknown): Promise<void> {
    await this.models.sequelize.transaction(async (transaction) => {
      const known = await this.find(kind, id, transaction);
      const before: unknown = known?.data ?? null;
      if (was !== undefined && !isDeepStrictEqual(before, was)) {
        throw new ChangedElsewhere(
          'It was changed by somebody else since it was opened here. Look at it as it is now and change it again.',
        );
      }
      await this.check(kind, id, data, transaction);
      await this.store(kind, id, known, data, { signature, undoes: null }, transaction);
    });
  }

  /** Takes a record out. Jobs keep the values they were judged by; a place needs its hoop. */
  async remove(kind: ShopKind, id: string, signature: ShopSignature): Promise<void> {
    await this.models.sequelize.transaction(async (transaction) => {
      const known = await this.find(kind, id, transaction);
      if (known === null) throw new NotFound(`${id} among the ${kind}`);
      await this.checkRemoval(kind, id, transaction);
      await this.store(kind, id, known, null, { signature, undoes: null }, transaction);
    });
  }

  /** The last changes, the latest first. */
  async changes(): Promise<ShopChange[]> {
    const found = await this.models.ShopChange.findAll({ order: [['seq', 'DESC']], limit: MOST_TOLD });
    return found.map(tellChange);
  }

  /** Puts a record back as it was before a change, which is a change like any other. */
  async undo(changeId: string, signature: ShopSignature): Promise<void> {
    await this.models.sequelize.transaction(async (transaction) => {
      const change = await this.models.ShopChange.findOne({ where: { id: changeId }, transaction });
      if (change === null) throw new NotFound('such change');
      const kind = change.kind as Kind;
      const known = await this.find(kind, change.recordId, transaction);
      if (!isDeepStrictEqual(known?.data ?? null, change.after)) {
        throw new ChangedElsewhere('It was changed again since. Take that back first, or set its values by hand.');
      }
      if (change.before === null && kind !== 'rules') await this.checkRemoval(kind, change.recordId, transaction);
      else if (change.before !== null) await this.check(kind, change.recordId, change.before as object, transaction);
      await this.store(kind, change.recordId, known, change.before, { signature, undoes: change.id }, transaction);
    });
  }

  /** In which jobs a record is, and whether they hold the same values. */
  async usesOf(kind: ShopKind, id: string): Promise<RecordUse[]> {
    const record = await this.models.ShopRecord.findOne({ where: { kind, id } });
    const inTarget: readonly (keyof Target)[] = SHOP_LISTS[kind].inTarget;
    if (inTarget.length === 0) return [];
    const where: WhereOptions = { [Op.or]: inTarget.map((part) => ({ target: { [part]: { id } } })) };
    const jobs = await this.models.Job.findAll({ where, order: ['name'], limit: MOST_TOLD, attributes: ['id', 'name', 'target'] });
    return jobs.map(({ id: jobId, name, target }) => {
      const held = inTarget
        .map((part) => (target as Record<string, unknown>)[part])
        .filter((one) => (one as { id?: string } | undefined)?.id === id);
      return { id: jobId, name, isSame: held.every((one) => isSameRecord(one, record?.data)) };
    });
  }

  /** Brings back the records that a new shop starts with and that are missing; leaves the others as they are. */
  async restoreDefaults(signature?: ShopSignature, outer?: Transaction): Promise<void> {
    const act = async (transaction: Transaction): Promise<void> => {
      for (const kind of SHOP_KINDS)
        for (const [position, data] of SHOP_LISTS[kind].defaults.entries()) {
          if ((await this.find(kind, data.id, transaction)) !== null) continue;
          if (signature === undefined) await this.models.ShopRecord.create({ kind, id: data.id, position, data }, { transaction });
          else await this.store(kind, data.id, null, data, { signature, undoes: null, position }, transaction);
        }
    };
    await (outer === undefined ? this.models.sequelize.transaction(act) : act(outer));
  }

  private find(kind: Kind, id: string, transaction: Transaction): Promise<ShopRecordModel | null> {
    return this.models.ShopRecord.findOne({ where: { kind, id }, transaction, lock: transaction.LOCK.UPDATE });
  }

  /** @throws DoesNotFit when a record cannot stand beside the others. */
  private async check(kind: Kind, id: string, data: object, transaction: Transaction): Promise<void> {
    if (kind === 'rules') {
      const problems = problemsOfRules(data as ShopRules, RULES, defaultTarget());
      if (problems.length > 0) throw new DoesNotFit(problems.join(' '));
      return;
    }
    const { name } = data as { name: string };
    const others = await this.models.ShopRecord.findAll({ where: { kind, id: { [Op.ne]: id } }, transaction });
    const isTaken = others.some((other) => (other.data as { name: string }).name.toLowerCase() === name.toLowerCase());
    if (isTaken) throw new DoesNotFit(`Another ${SHOP_LISTS[kind].word} is called “${name}”: give this one a name of its own.`);
    if (kind === 'layouts') {
      const { extension } = data as LayoutRecord;
      const other = others.map((one) => one.data as LayoutRecord).find((one) => one.extension === extension);
      if (other !== undefined)
        throw new DoesNotFit(`Files that end with .${extension} are read by “${other.name}” already: give this one another ending.`);
    }
    if (kind !== 'garments') return;
    const { hoopId } = data as Garment;
    if ((await this.find('hoops', hoopId, transaction)) === null)
      throw new DoesNotFit(`There is no hoop ${hoopId} in the shop: choose one that there is.`);
  }

  private async checkRemoval(kind: ShopKind, id: string, transaction: Transaction): Promise<void> {
    if (kind === 'layouts') return;
    const { word } = SHOP_LISTS[kind];
    if ((await this.models.ShopRecord.count({ where: { kind }, transaction })) === 1)
      throw new DoesNotFit(`It is the last ${word} of the shop, and nothing could be judged without one. Add another first.`);
    if (kind !== 'hoops') return;
    const places = await this.models.ShopRecord.findAll({ where: { kind: 'garments' }, transaction });
    const users = places.map(({ data }) => data as Garment).filter(({ hoopId }) => hoopId === id);
    if (users.length > 0)
      throw new DoesNotFit(`It is the hoop of ${users.map(({ name }) => name).join(', ')}: give them another one first.`);
  }

  /** Writes a record (null: takes it out) and what was changed, as one. */
  private async store(
    kind: Kind,
    id: string,
    known: ShopRecordModel | null,
    data: unknown,
    { signature, undoes, position }: { signature: ShopSignature; undoes: string | null; position?: number },
    transaction: Transaction,
  ): Promise<void> {
    const before: unknown = known?.data ?? null;
    if (isDeepStrictEqual(before, data)) return;
    if (data === null) await known?.destroy({ transaction });
    else if (known !== null) await known.update({ data }, { transaction });
    else {
      const last = position ?? (await this.models.ShopRecord.count({ where: { kind }, transaction }));
      await this.models.ShopRecord.create({ kind, id, data, position: last }, { transaction });
    }
    await this.models.ShopChange.create(
      { id: randomUUID(), kind, recordId: id, before, after: data, undoes, ...signature },
      { transaction },
    );
  }
}

/** The rulebook is one record of its own. */
export const THE_RULES = { kind: 'rules', id: RULES_RECORD, schema: ShopRules } as const;

/** What is counted in the store room is no value that anything is judged by. */
function isSameRecord(held: unknown, record: unknown): boolean {
  const judged = (one: unknown): unknown => ({ ...(one as object), cones: undefined });
  return isDeepStrictEqual(judged(held), judged(record));
}

function tellChange({ id, kind, recordId, before, after, undoes, who, why, createdAt }: ShopChangeModel): ShopChange {
  return { id, kind: kind as Kind, recordId, before, after, undoes, who, why, at: createdAt.toISOString() };
}
