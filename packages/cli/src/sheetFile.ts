import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { countProgram, placeProgram, productionSheet, type Target } from '@isola/core';
import { productionPdf } from '@isola/sheets';
import { readProgram, readTarget } from './readFiles.ts';
import { parseCommandLine, TAKES } from './usage.ts';
import { reasonOf, UsageError } from './usageError.ts';

/** Writes a file's production sheet; the exit status as of the other commands. */
export async function sheetFile(args: readonly string[], print: (text: string) => void, complain: (text: string) => void): Promise<0 | 2> {
  try {
    const { values, positionals } = parseCommandLine(args);
    const [, file, ...more] = positionals;
    const wrong = Object.keys(values).find((option) => !TAKES['sheet']!.includes(option as 'out'));
    if (wrong !== undefined) throw new UsageError(`sheet takes no --${wrong}`);
    if (file === undefined || more.length > 0) throw new UsageError(`sheet takes one file, got ${positionals.length - 1}`);
    if (values.out === undefined) throw new UsageError('sheet needs --out SHEET.pdf');
    const target: Target = { ...readTarget(values), quantity: readPieces(values.pieces) };
    const program = placeProgram(readProgram(file, values), target.place);
    const sheet = productionSheet({ program, target, kept: {} });
    const head = { title: path.parse(file).name, state: `${path.basename(file)}, not released` };
    const content = await productionPdf(head, sheet, { program, extents: countProgram(program).extents });
    try {
      writeFileSync(values.out, content);
    } catch (error) {
      throw new UsageError(`${values.out}: ${reasonOf(error)}`);
    }
    print(values.json ? `${JSON.stringify({ written: values.out, sheet }, null, 2)}\n` : `written to ${values.out}\n`);
    return 0;
  } catch (error) {
    if (!(error instanceof UsageError)) throw error;
    complain(`isola: ${error.message}\n`);
    return 2;
  }
}

function readPieces(text: string | undefined): number {
  const pieces = Number(text ?? 1);
  if (!Number.isInteger(pieces) || pieces < 1 || pieces > 1_000_000)
    throw new UsageError(`--pieces takes a whole number from 1, got ${text}`);
  return pieces;
}
