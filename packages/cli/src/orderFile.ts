import { type Design, inspectProgram, ORDER_PARTS, type OrderPart, placeProgram, type Program, proposeOrder, sayCount } from '@isola/core';
import { UsageError } from './usageError.ts';

export interface OrderSettings {
  readonly only?: string | undefined;
  readonly hold?: string | undefined;
}

/** What a command came to: the program to be written, the published shape, and the same in words. */
export interface WrittenFile {
  readonly program: Program;
  readonly json: object;
  readonly text: string;
}

/** Proposes a sew order for a design. @throws UsageError for a part or an object that is not there. */
export function orderFile(design: Design, { only, hold }: OrderSettings): WrittenFile {
  const parts = only === undefined ? ORDER_PARTS : list(only).map(readPart);
  const held = list(hold ?? '');
  const missing = held.find((id) => design.plan.objects[id] === undefined);
  if (missing !== undefined)
    throw new UsageError(`there is no object ${missing} to hold; recognize lists them, and only covers have a place of their own`);
  const found = proposeOrder(design, { parts, hold: new Set(held) });
  const before = inspectProgram(design.program, design.target);
  const after = inspectProgram(found.design.program, design.target);
  const nameOf = (id: string): string => design.plan.objects[id]!.name;
  const connectors = found.connectors.map(({ from, to, how, length, seconds, why }) => ({ from, to, how, length, seconds, why }));
  const pair = (name: string, a: number, b: number): string => `${name} ${sayCount(a)} → ${sayCount(b)}`;
  const text = [
    ...(found.operations.length === 0 ? ['nothing better was found'] : []),
    ...found.moved.map(({ object, from, to }) => `moved ${nameOf(object)}: ${from + 1} → ${to + 1}`),
    ...found.sewn.map((id) => `sewn  ${nameOf(id)} anew, to begin and end elsewhere`),
    ...connectors
      .filter(({ how }) => how === 'hidden')
      .map((c) => `path  ${nameOf(c.from)} → ${nameOf(c.to)}: ${c.length.toFixed(1)} mm ${c.why}`),
    ...connectors
      .filter(({ how }) => how === 'trim')
      .map((c) => `cut   ${nameOf(c.from)} → ${nameOf(c.to)}${c.why === '' ? '' : `: ${c.why}`}`),
    `${pair('trims', before.trims, after.trims)}, ${pair('thread changes', before.colorChanges, after.colorChanges)}, ${pair('seconds', before.run.seconds, after.run.seconds)} (an estimate: sew a sample)`,
    `${(100 * found.changed).toFixed(3)} % of the topmost picture differ`,
  ];
  return {
    program: placeProgram(found.design.program, found.design.target.place),
    json: { before, after, moved: found.moved, picture: { changed: found.changed }, connectors },
    text: `${text.join('\n')}\n`,
  };
}

function list(text: string): string[] {
  return text.split(',').filter((part) => part !== '');
}

function readPart(text: string): OrderPart {
  const part = ORDER_PARTS.find((p) => p === text);
  if (part === undefined) throw new UsageError(`--only takes ${ORDER_PARTS.join(', ')}, got ${text}`);
  return part;
}
