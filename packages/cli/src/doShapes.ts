import {
  type Design,
  drawShapes,
  nodesAt,
  objectsOf,
  readShapeAsk,
  SHAPE_ASKS,
  SHAPE_NAMES,
  type ShapeAsk,
  type ShapeName,
  sayCount,
} from '@isola/core';
import { isPicked } from './setSpecs.ts';
import { UsageError } from './usageError.ts';

export const DO_HELP = `
--do      OPERATION:key=value,…; objects are ids from recognize, all, all.KIND or #rrggbb, several joined by +; lengths in mm; along, widths: numbers
          with blanks between; lines: places x y x y, a hole after a /
${SHAPE_NAMES.map((name) => `          ${name}: ${Object.keys(SHAPE_ASKS[name].shape).join(', ')}`).join('\n')}`;

/** One operation as it was written: a name and keys with values. */
export interface Doing {
  readonly text: string;
  readonly name: ShapeName;
  readonly values: Readonly<Record<string, string>>;
}

/** Reads one `OPERATION:key=value,…`. @throws UsageError that names what was not understood. */
export function parseDoing(text: string): Doing {
  const [word, rest = ''] = splitOnce(text, ':');
  const name = SHAPE_NAMES.find((one) => one === word);
  if (name === undefined) throw new UsageError(`--do ${text}: there is no operation ${word}; there are ${SHAPE_NAMES.join(', ')}`);
  const values: Record<string, string> = {};
  for (const pair of rest.split(',').filter((part) => part !== '')) {
    const [key, value = ''] = splitOnce(pair, '=');
    if (value === '') throw new UsageError(`--do ${text}: ${pair} is no key=value`);
    const keys = Object.keys(SHAPE_ASKS[name].shape);
    if (!keys.includes(key)) throw new UsageError(`--do ${text}: ${name} has no ${key}; it has ${keys.join(', ')}`);
    values[key] = value;
  }
  return { text, name, values };
}

function splitOnce(text: string, by: string): [string, string | undefined] {
  const at = text.indexOf(by);
  return at < 0 ? [text, undefined] : [text.slice(0, at), text.slice(at + 1)];
}

/** Whole objects are named by these keys; a list of them by the first. */
const LISTS = ['objects'];
const SINGLES = ['object', 'by', 'under', 'after', 'before'];

/** Several numbers with blanks between: places as x y x y. */
const NUMBERS = ['along', 'widths'];

function numbersOf(text: string, value: string): number[] {
  const numbers = value.trim().split(/\s+/).map(Number);
  if (numbers.some((v) => !Number.isFinite(v))) throw new UsageError(`--do ${text}: ${value} are not numbers with blanks between`);
  return numbers;
}

/** The design after operations, one after another. @throws UsageError for what makes no sense or cannot be done. */
export function doShapes(design: Design, doings: readonly Doing[]): { readonly design: Design; readonly done: readonly string[] } {
  let current = design;
  const done: string[] = [];
  let made = 0;
  for (const doing of doings) {
    const drawn = drawShapes(current, readAsk(current, doing), () => `made-${++made}`);
    if (!drawn.ok) throw new UsageError(`--do ${doing.text}: ${drawn.error}`);
    const [before, after] = [current.program.rowCount, drawn.value.design.program.rowCount];
    done.push([`${doing.name}: ${sayCount(before)} → ${sayCount(after)} rows`, ...drawn.value.notes].join('; '));
    current = drawn.value.design;
  }
  return { design: current, done };
}

function readAsk(design: Design, { text, name, values }: Doing): ShapeAsk {
  const ask: Record<string, unknown> = {};
  for (const [key, value] of Object.entries(values)) {
    if (LISTS.includes(key)) ask[key] = value.split('+').flatMap((part) => pick(design, text, part));
    else if (SINGLES.includes(key) && Number.isNaN(Number(value))) {
      const [one, ...more] = pick(design, text, value);
      if (more.length > 0) throw new UsageError(`--do ${text}: ${key} is one object, ${value} are ${more.length + 1}`);
      ask[key] = one;
    } else if (NUMBERS.includes(key)) ask[key] = numbersOf(text, value);
    else if (key === 'lines') ask[key] = value.split('/').map((line) => nodesAt(numbersOf(text, line)));
    else if (value === 'yes' || value === 'no') ask[key] = value === 'yes';
    else ask[key] = Number.isNaN(Number(value)) ? value : Number(value);
  }
  const read = readShapeAsk(name, ask);
  if (!read.ok) throw new UsageError(`--do ${text}: ${read.error}`);
  return read.value;
}

function pick(design: Design, text: string, wanted: string): string[] {
  const found = objectsOf(design.plan).objects.filter((object) => design.plan.objects[object.id] !== undefined && isPicked(object, wanted));
  if (found.length === 0) throw new UsageError(`--do ${text}: no object is ${wanted}; recognize lists them`);
  return found.map(({ id }) => id);
}
