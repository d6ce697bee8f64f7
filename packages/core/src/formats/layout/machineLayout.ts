import { z } from 'zod';

const Byte = z.number().int().min(0).max(255);
const Offset = z.number().int().min(0).max(4096);

export const NUMBERS = ['u8', 'i8', 'u16le', 'u16be', 'i16le', 'i16be', 'u32le', 'u32be', 'i32le', 'i32be'] as const;
export type NumberKind = (typeof NUMBERS)[number];

/** What a header's field says: a text that is always the same, a count, an extent (in counts), or the design's name. */
export const FIELD_OF = ['stitches', 'records', 'colors', 'minX', 'maxX', 'minY', 'maxY', 'name'] as const;

const Field = z.union([
  z.strictObject({ at: Offset, text: z.string().min(1).max(64) }),
  z.strictObject({ at: Offset, of: z.literal('name'), length: z.number().int().min(1).max(256) }),
  z.strictObject({ at: Offset, as: z.enum(NUMBERS), of: z.enum(FIELD_OF).exclude(['name']) }),
]);
export type LayoutField = z.infer<typeof Field>;

/** A number, or a sum of the weights whose bits are set; the way from the place before, or the place itself. */
const Axis = z.union([
  z.strictObject({ at: Offset, as: z.enum(NUMBERS), relative: z.boolean() }),
  z.strictObject({
    bits: z
      .array(z.strictObject({ byte: Offset, bit: z.number().int().min(0).max(7), weight: z.number().int().min(-4096).max(4096) }))
      .min(1)
      .max(24),
    relative: z.boolean(),
  }),
]);
export type LayoutAxis = z.infer<typeof Axis>;

export const LAYOUT_COMMANDS = ['stitch', 'jump', 'trim', 'color', 'stop', 'end'] as const;

const Command = z.union([
  z.strictObject({
    command: z.enum(LAYOUT_COMMANDS),
    byte: Offset,
    mask: Byte,
    value: Byte,
    /** So many such records in place are one command. */
    repeat: z.number().int().min(2).max(16).optional(),
  }),
  /** Just these bytes; of a stitch or a jump the record of the move follows. */
  z.strictObject({ command: z.enum(LAYOUT_COMMANDS), prefix: z.array(Byte).min(1).max(8) }),
]);
export type LayoutCommand = z.infer<typeof Command>;

/**
 * How a machine's own file stands in bytes: a header, then records of one length, each with a way or a place and a command. Lengths in mm and in counts of
 * `mmPerCount`; a move longer than `longest` is written as several, all but the last as `longMove`.
 */
export const MachineLayout = z.strictObject({
  name: z.string().trim().min(1).max(80),
  mmPerCount: z.number().min(0.001).max(10),
  yUp: z.boolean(),
  header: z
    .strictObject({
      length: z.number().int().min(0).max(4096),
      fill: Byte.default(0),
      fields: z.array(Field).max(64).default([]),
      /** Threads in the order in which they are put on, three bytes each: red, green, blue. */
      colors: z.strictObject({ at: Offset, entry: z.literal('rgb'), max: z.number().int().min(1).max(256) }).optional(),
    })
    .default({ length: 0, fill: 0, fields: [] }),
  record: z.strictObject({
    length: z.number().int().min(1).max(16),
    x: Axis,
    y: Axis,
    commands: z.array(Command).min(1).max(32),
  }),
  longest: z.number().positive().max(1000),
  longMove: z.enum(['jump', 'stitch']),
  /** By what a reader knows the last record: its command, the header's count of records, or the end of the file. */
  end: z.enum(['command', 'count', 'size']),
});
export type MachineLayout = z.infer<typeof MachineLayout>;

/** Bytes that a number of a kind takes. */
export const widthOf = (kind: NumberKind): number => Number(/\d+/.exec(kind)![0]) / 8;

/** The least and the largest whole number of a kind. */
export function rangeOf(kind: NumberKind): readonly [least: number, most: number] {
  const bits = widthOf(kind) * 8;
  return kind.startsWith('i') ? [-(2 ** (bits - 1)), 2 ** (bits - 1) - 1] : [0, 2 ** bits - 1];
}

export function putNumber(view: DataView, at: number, kind: NumberKind, value: number): void {
  const isLittle = kind.endsWith('le');
  const [, sign, bits] = /^([ui])(\d+)/.exec(kind)!;
  if (bits === '8') view.setUint8(at, value & 0xff);
  else if (bits === '16' && sign === 'i') view.setInt16(at, value, isLittle);
  else if (bits === '16') view.setUint16(at, value, isLittle);
  else if (sign === 'i') view.setInt32(at, value, isLittle);
  else view.setUint32(at, value, isLittle);
}

/** Reads a number of a kind; made once for all records. */
export function numberReader(kind: NumberKind): (view: DataView, at: number) => number {
  const isLittle = kind.endsWith('le');
  switch (kind) {
    case 'u8':
      return (view, at) => view.getUint8(at);
    case 'i8':
      return (view, at) => view.getInt8(at);
    case 'u16le':
    case 'u16be':
      return (view, at) => view.getUint16(at, isLittle);
    case 'i16le':
    case 'i16be':
      return (view, at) => view.getInt16(at, isLittle);
    case 'u32le':
    case 'u32be':
      return (view, at) => view.getUint32(at, isLittle);
    default:
      return (view, at) => view.getInt32(at, isLittle);
  }
}
