import {
  encodeLayout,
  type LayoutProblem,
  type MachineLayout,
  ProgramBuilder,
  readLayout,
  type TracedFile,
  traceLayout,
} from '@isola/core';

/** A layout as it is being written: what its text says, or what is wrong with it and where. */
export interface CheckedText {
  readonly layout: MachineLayout | undefined;
  readonly problems: readonly LayoutProblem[];
}

/** Reads a layout's JSON. What is no JSON is said with its line. */
export function checkText(text: string): CheckedText {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return { layout: undefined, problems: [sayNoJson(text, error)] };
  }
  const read = readLayout(value);
  return read.ok ? { layout: read.value, problems: [] } : { layout: undefined, problems: read.error };
}

function sayNoJson(text: string, error: unknown): LayoutProblem {
  const message = error instanceof Error ? error.message : String(error);
  const position = /position (\d+)/.exec(message);
  const at = position === null ? text.length : Number(position[1]);
  return { at: `line ${text.slice(0, at).split('\n').length}`, message: `no JSON: ${message.replace(/ in JSON at position.*$/, '')}` };
}

/** So many records are shown beside the layout. */
const MOST_RECORDS = 200;

export interface TriedFile extends TracedFile {
  readonly bytes: Uint8Array;
  /** Whose bytes they are. */
  readonly name: string;
}

/** Reads a file by a layout as far as that makes sense; without a file, a small sample is written by it first. */
export function tryLayout(
  layout: MachineLayout,
  file: { readonly name: string; readonly bytes: Uint8Array } | undefined,
): TriedFile | string {
  if (file !== undefined) return { ...traceLayout(file.bytes, layout, MOST_RECORDS), ...file };
  const written = encodeLayout(sample(layout), layout, 'sample');
  if (!written.ok) return written.error;
  return { ...traceLayout(written.value.bytes, layout, MOST_RECORDS), bytes: written.value.bytes, name: 'a sample written by this layout' };
}

/** A little of all that a layout has: steps in every direction, a long move, a trim, a color change and a stop. */
function sample({ record, longest }: MachineLayout) {
  const has = (command: string): boolean => record.commands.some((one) => one.command === command);
  const out = new ProgramBuilder().color('#1f4e79', '').jump(0, 0);
  for (const [x, y] of [
    [0, 0],
    [2, 0],
    [4, 1],
    [2, 3],
    [0, 4],
    [-3, 2],
    [-2, -1],
    [0, -2],
  ] as const)
    out.stitch(x, y);
  if (has('trim')) out.trim();
  out
    .jump(1.5 * longest, 0)
    .stitch(1.5 * longest, 0)
    .stitch(1.5 * longest + 1, 1);
  if (has('stop')) out.stop('');
  if (has('color') || has('stop'))
    out
      .color('#b8722c', '')
      .stitch(1.5 * longest, 2)
      .stitch(1.5 * longest - 2, 2);
  return out.end().build();
}

/** A byte as two digits. */
export const hex = (byte: number): string => byte.toString(16).padStart(2, '0');
