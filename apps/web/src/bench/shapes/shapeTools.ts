import { readShapeAsk, SHAPE_ASKS, type ShapeAsk, type ShapeName, type StitchObject } from '@isola/core';

/** A value of a shape tool: a length in mm, a factor, degrees, one of several, another object, a color, or words. */
export interface ToolField {
  readonly key: string;
  readonly label: string;
  readonly as: 'length' | 'factor' | 'degrees' | 'choice' | 'object' | 'color' | 'words';
  readonly choices?: readonly (readonly [value: string, words: string])[];
}

export interface ShapeTool {
  readonly id: ShapeName;
  readonly title: string;
  /** What it does, in a sentence. */
  readonly what: string;
  /** What it is done to: the selected object, that with others, the whole design, or whichever of the two is meant. */
  readonly on: 'object' | 'objects' | 'design' | 'any';
  readonly fields: readonly ToolField[];
}

const length = (key: string, label: string): ToolField => ({ key, label, as: 'length' });
const color: ToolField = { key: 'color', label: 'Color', as: 'color' };

/** What can be done to shapes here, as it is found: edges, areas, the whole. */
export const SHAPE_TOOLS: readonly ShapeTool[] = [
  {
    ...{ id: 'outline', title: 'Outline', on: 'objects', what: 'A line along the edge, sewn right after it.' },
    fields: [
      {
        ...{ key: 'as', label: 'As', as: 'choice' },
        choices: [
          ['satin', 'satin'],
          ['run', 'run'],
          ['triple', 'triple run'],
          ['edge', 'edge stitch'],
        ],
      },
      length('width', 'Width'),
      {
        ...{ key: 'place', label: 'Where', as: 'choice' },
        choices: [
          ['center', 'on the edge'],
          ['inside', 'inside'],
          ['outside', 'outside'],
        ],
      },
      length('offset', 'Distance'),
      {
        ...{ key: 'overlap', label: 'Where they overlap', as: 'choice' },
        choices: [
          ['whole', 'each whole'],
          ['merged', 'one around all'],
          ['trimmed', 'what is hidden left out'],
        ],
      },
      color,
    ],
  },
  {
    ...{ id: 'carve', title: 'Carve', on: 'object', what: 'Takes out what another object covers, but for a rim under its edge.' },
    fields: [{ key: 'by', label: 'Under', as: 'object' }, length('keep', 'Rim left under it')],
  },
  {
    ...{ id: 'cut-away', title: 'Cut away', on: 'object', what: 'Cuts away what lies behind another object, and a gap around it.' },
    fields: [{ key: 'by', label: 'Behind', as: 'object' }, length('gap', 'Gap around it')],
  },
  {
    ...{
      id: 'reach',
      title: 'Reach under',
      on: 'object',
      what: 'Lets its edge grow under another object, there only, by what the cloth pulls.',
    },
    fields: [{ key: 'under', label: 'Under', as: 'object' }, length('by', 'By')],
  },
  {
    ...{
      id: 'join',
      title: 'Join shapes',
      on: 'objects',
      what: 'Makes one shape of those that touch and are sewn with one thread: letters, pieces.',
    },
    fields: [{ key: 'by', label: 'With', as: 'object' }, length('across', 'Gap bridged')],
  },
  {
    ...{
      id: 'one-path',
      title: 'Sew as one path',
      on: 'objects',
      what: 'One after another with hidden runs between, locked at the first and the last only.',
    },
    fields: [{ key: 'by', label: 'With', as: 'object' }],
  },
  {
    ...{ id: 'fill-holes', title: 'Fill holes', on: 'objects', what: 'Sews through holes that details cover.' },
    fields: [length('under', 'Narrower than')],
  },
  {
    ...{
      id: 'applique',
      title: 'Applique',
      on: 'objects',
      what: 'Placement line, cloth, tack-down and cover take the place of the stitches.',
    },
    fields: [
      length('cover', 'Cover, width'),
      {
        ...{ key: 'as', label: 'Cover as', as: 'choice' },
        choices: [
          ['satin', 'satin'],
          ['edge', 'edge stitch'],
        ],
      },
      {
        ...{ key: 'tack', label: 'Tack-down', as: 'choice' },
        choices: [
          ['zigzag', 'zigzag'],
          ['run', 'run'],
        ],
      },
      {
        ...{ key: 'batting', label: 'Under the cloth', as: 'choice' },
        choices: [
          ['false', 'nothing'],
          ['true', 'batting: cover 0.5 mm wider'],
        ],
      },
      {
        ...{ key: 'regroup', label: 'Several pieces', as: 'choice' },
        choices: [
          ['true', 'step by step'],
          ['false', 'piece by piece'],
        ],
      },
      { key: 'cloth', label: 'Cloth laid', as: 'color' },
      { key: 'lay', label: 'Words to lay it', as: 'words' },
      { key: 'cut', label: 'Words to cut it', as: 'words' },
    ],
  },
  {
    ...{ id: 'remove', title: 'Remove', on: 'objects', what: 'Takes it out with its underlay; what is left is joined cleanly.' },
    fields: [],
  },
  {
    ...{ id: 'border', title: 'Border', on: 'design', what: 'A satin around the whole design, as a patch has.' },
    fields: [length('distance', 'Distance'), length('width', 'Width'), color],
  },
  {
    ...{ id: 'backing', title: 'Backing', on: 'design', what: 'A closed fill beneath all of it, sewn first.' },
    fields: [
      length('margin', 'Margin'),
      {
        ...{ key: 'holes', label: 'Holes', as: 'choice' },
        choices: [
          ['sew', 'sewn through'],
          ['keep', 'left open'],
        ],
      },
      color,
    ],
  },
  {
    ...{ id: 'nap', title: 'Nap layer', on: 'design', what: 'An open layer in the cloth’s color that holds its pile down, sewn first.' },
    fields: [length('margin', 'Margin')],
  },
  {
    ...{
      id: 'place',
      title: 'Move, turn, mirror',
      on: 'any',
      what: 'With the stitches that it has: none is sewn anew.',
    },
    fields: [
      length('dx', 'To the right'),
      length('dy', 'Up'),
      { key: 'turn', label: 'Turned left', as: 'degrees' },
      {
        ...{ key: 'mirror', label: 'Mirrored', as: 'choice' },
        choices: [
          ['none', 'not'],
          ['sides', 'left to right'],
          ['ends', 'top to bottom'],
        ],
      },
    ],
  },
  {
    ...{ id: 'scale', title: 'Scale', on: 'any', what: 'Larger or smaller with its spacings kept: sewn anew.' },
    fields: [{ key: 'factor', label: 'Times', as: 'factor' }],
  },
];

/** What a tool asks for where nothing is said, by field; what has no usual value is left out. */
export function usualValues({ id, fields }: ShapeTool): Record<string, string> {
  const example: Record<string, unknown> = {
    object: 'x',
    objects: ['x', 'y'],
    by: id === 'reach' ? undefined : 'y',
    under: id === 'reach' ? 'y' : undefined,
    factor: 1,
  };
  const kept = Object.fromEntries(Object.entries(example).filter(([key, value]) => key in SHAPE_ASKS[id].shape && value !== undefined));
  const read = readShapeAsk(id, kept);
  const usual = read.ok ? (read.value as unknown as Record<string, unknown>) : {};
  return Object.fromEntries(
    fields
      .filter(({ as }) => as !== 'object')
      .map(({ key }) => [key, usual[key] === undefined ? '' : String(usual[key] as string | number | boolean)]),
  );
}

/** What is asked for, by a tool's fields as they are filled in; in words where that makes no sense. */
export function askOf(
  tool: ShapeTool,
  values: Readonly<Record<string, string>>,
  selected: readonly Pick<StitchObject, 'id'>[],
): ShapeAsk | string {
  const ids = selected.map(({ id }) => id);
  const asked: Record<string, unknown> = {};
  for (const { key, as, label } of tool.fields) {
    const value = values[key]?.trim() ?? '';
    if (value === '') continue;
    const number = Number(value.replace('−', '-').replace(',', '.'));
    const isNumber = as === 'length' || as === 'factor' || as === 'degrees';
    if (isNumber && !Number.isFinite(number)) return `${label} takes a number`;
    asked[key] = isNumber ? number : value === 'true' || value === 'false' ? value === 'true' : value;
  }
  const takesSeveral = tool.id === 'join' || tool.id === 'one-path';
  for (const { key, label, as } of tool.fields)
    if (as === 'object' && asked[key] === undefined && !(takesSeveral && ids.length > 1))
      return `choose an object for “${label.toLowerCase()}”`;
  if (takesSeveral) {
    const other = asked['by'];
    delete asked['by'];
    asked['objects'] = [...ids, ...(typeof other === 'string' ? [other] : [])];
  } else if (tool.id === 'cut-away') asked['objects'] = [ids[0]];
  else if (tool.on === 'object') asked['object'] = ids[0];
  else if (tool.on === 'objects' || tool.on === 'any') asked['objects'] = ids;
  const read = readShapeAsk(tool.id, asked);
  return read.ok ? read.value : read.error;
}
