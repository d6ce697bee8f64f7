import type { Shop, ShopKind } from '@isola/contract';
import { CLOTH_LOOKS, Fabric, FIBERS, Garment, Hoop, LayoutRecord, Machine, ThreadType } from '@isola/core';
import type { z } from 'zod';

/** A value of a record, as tables head it and forms ask for it. */
export interface Field {
  readonly key: string;
  readonly label: string;
  readonly unit?: string;
  readonly as: 'text' | 'number' | 'color' | 'choice';
  /** Digits behind the point in tables, and the step of a number field. */
  readonly digits?: number;
  readonly step?: number;
  /** It may be left empty, which then means this. */
  readonly empty?: string;
  readonly choices?: (shop: Shop) => readonly { readonly title: string; readonly value: string }[];
  /** Asked for, but too much for the table. */
  readonly isLong?: boolean;
}

export interface RecordKind {
  /** One of them, and what a new one is called. */
  readonly word: string;
  readonly schema: z.ZodType;
  readonly fields: readonly Field[];
}

const name: Field = { key: 'name', label: 'Name', as: 'text' };
const size = (key: string, label: string): Field => ({ key, label, unit: 'mm', as: 'number', step: 1 });
const seconds = (key: string, label: string, isLong = true): Field => ({ key, label, unit: 's', as: 'number', step: 0.1, isLong });
const words = (list: readonly string[]) => (): { title: string; value: string }[] => list.map((value) => ({ title: value, value }));

/** What the lists of the shop hold, in the order in which it is read. */
export const RECORD_KINDS: Readonly<Record<ShopKind, RecordKind>> = {
  fabrics: {
    word: 'cloth',
    schema: Fabric,
    fields: [
      name,
      { key: 'mass', label: 'Mass', unit: 'g/m²', as: 'number', step: 5 },
      { key: 'stretch', label: 'Stretch', unit: '%', as: 'number', step: 1 },
      { key: 'pile', label: 'Pile', unit: 'mm', as: 'number', step: 0.1 },
      { key: 'fillSpacing', label: 'Fill spacing', unit: 'mm', as: 'number', digits: 2, step: 0.01 },
      { key: 'satinSpacing', label: 'Satin spacing', unit: 'mm', as: 'number', digits: 2, step: 0.01 },
      { key: 'pull', label: 'Pull a side', unit: 'mm', as: 'number', digits: 2, step: 0.05 },
      { key: 'maxCover', label: 'Closed layers it bears (K)', as: 'number', digits: 1, step: 0.1 },
      {
        key: 'tearsUnder',
        label: 'Tears where holes are nearer than',
        unit: 'mm',
        as: 'number',
        step: 0.1,
        empty: 'does not tear',
        isLong: true,
      },
      { key: 'stabilizer', label: 'Stabilizer', as: 'text' },
      { key: 'topping', label: 'Topping', as: 'text', empty: 'none' },
      { key: 'look', label: 'Drawn as', as: 'choice', choices: words(CLOTH_LOOKS), isLong: true },
      { key: 'color', label: 'Color', as: 'color', isLong: true },
    ],
  },
  threads: {
    word: 'thread',
    schema: ThreadType,
    fields: [
      name,
      { key: 'weight', label: 'Weight', as: 'number', step: 1 },
      { key: 'fiber', label: 'Fiber', as: 'choice', choices: words(FIBERS) },
      { key: 'needle', label: 'Needle', as: 'number', step: 5 },
      { key: 'coneMetres', label: 'On a cone', unit: 'm', as: 'number', step: 100 },
      { key: 'cones', label: 'Cones in stock', as: 'number', step: 1, empty: 'not counted' },
    ],
  },
  garments: {
    word: 'place',
    schema: Garment,
    fields: [
      name,
      size('width', 'Zone, width'),
      size('height', 'Zone, height'),
      { key: 'hoopId', label: 'Hoop', as: 'choice', choices: ({ hoops }) => hoops.map((hoop) => ({ title: hoop.name, value: hoop.id })) },
    ],
  },
  hoops: { word: 'hoop', schema: Hoop, fields: [name, size('width', 'Field, width'), size('height', 'Field, height')] },
  machines: {
    word: 'machine',
    schema: Machine,
    fields: [
      name,
      { key: 'heads', label: 'Heads', as: 'number', step: 1 },
      { key: 'needles', label: 'Needles', as: 'number', step: 1 },
      { key: 'topSpeed', label: 'Top speed', unit: 'st/min', as: 'number', step: 50 },
      { key: 'startSpeed', label: 'Speed after a start', unit: 'st/min', as: 'number', step: 50, isLong: true },
      { key: 'maxStitch', label: 'Longest stitch', unit: 'mm', as: 'number', step: 0.1 },
      seconds('trimCycle', 'A trim', false),
      seconds('colorChange', 'A color change', false),
      seconds('stop', 'A stop'),
      seconds('moveSettle', 'Standstill of a move'),
      { key: 'moveSpeed', label: 'Speed of a move', unit: 'mm/s', as: 'number', step: 10, isLong: true },
    ],
  },
  // Its bytes are described by hand, in an editor of its own.
  layouts: { word: 'machine layout', schema: LayoutRecord, fields: [name, { key: 'extension', label: 'File ending', as: 'text' }] },
};

export type ShopRecord = Readonly<Record<string, unknown>> & { readonly id: string; readonly name: string };

/** The records of a list, whatever they hold. */
export function recordsOf(shop: Shop, kind: ShopKind): readonly ShopRecord[] {
  return shop[kind] as readonly unknown[] as readonly ShopRecord[];
}

/** A value as people read it, with its unit. */
export function sayValue(shop: Shop, field: Field, value: unknown): string {
  if (value === undefined || value === '') return field.empty ?? '–';
  if (typeof value === 'string') {
    return field.as === 'choice' ? (field.choices?.(shop).find((choice) => choice.value === value)?.title ?? value) : value;
  }
  if (typeof value !== 'number') return '–';
  const number = field.digits === undefined ? String(Math.round(value * 100) / 100) : value.toFixed(field.digits);
  return field.unit === undefined ? number : `${number} ${field.unit}`;
}

/** How a field is headed in a table, its unit with it. */
export const headOf = ({ label, unit }: Field): string => (unit === undefined ? label : `${label}, ${unit}`);

/** What is wrong with a record, by field; empty where nothing is. */
export function problemsOf(kind: ShopKind, record: unknown): Readonly<Record<string, string>> {
  const read = RECORD_KINDS[kind].schema.safeParse(record);
  if (read.success) return {};
  const problems: Record<string, string> = {};
  for (const { path, message } of read.error.issues) problems[String(path[0])] ??= message;
  return problems;
}
