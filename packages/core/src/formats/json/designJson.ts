import { COMMANDS, JUMP, type Program, ProgramBuilder, STITCH } from '../../model/program.ts';
import { COLOR } from '../../model/program.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import { type FileProblem, isBlankSheet, noStitchProblem, problemAt, quote, type ReadProgram } from '../fileProblem.ts';
import { type AboutDesign, DESIGN_MARK, DESIGN_VERSION, DesignFile } from './designFile.ts';

/** A design JSON that was read. */
export interface ReadDesign extends ReadProgram {
  readonly about: AboutDesign;
}

/** Whether a text is a design JSON, by its beginning. */
export const isDesignJson = (text: string): boolean => text.startsWith('{') && text.slice(0, 400).includes(DESIGN_MARK);

/** Reads a design JSON. Refused where it is no such file, with what is wrong and where in it; other versions are refused by name. */
export function readDesignJson(text: string): Result<ReadDesign, FileProblem> {
  let value: unknown;
  try {
    value = JSON.parse(text.replace(/^\ufeff/, ''));
  } catch (error) {
    const message = error instanceof Error ? error.message : String(error);
    const at = /position (\d+)/.exec(message);
    const line = text.slice(0, at === null ? text.length : Number(at[1])).split('\n').length;
    return fail(problemAt({ line }, 'no JSON from here on', 'a whole design JSON; the file may be cut short'));
  }
  const version = (value as { version?: unknown } | null)?.version;
  if (version !== DESIGN_VERSION) {
    const found =
      version === undefined ? 'a design JSON that says no version' : `a design JSON of version ${quote(JSON.stringify(version) ?? '')}`;
    return fail(problemAt({}, found, `version ${DESIGN_VERSION}, which this Isola reads and writes`));
  }
  const read = DesignFile.safeParse(value);
  if (!read.success) {
    const [issue] = read.error.issues;
    return fail(problemAt({}, `at ${issue!.path.join('.') || 'its root'}: ${issue!.message}`, 'a design JSON as its schema says'));
  }
  const { format: _, version: __, program: rows, ...about } = read.data;
  const builder = new ProgramBuilder(rows.length + 1);
  for (const row of rows) builder.row(row);
  const warnings = rows.at(-1)?.command === 'end' ? [] : ['The program has no end row; one was added.'];
  const program = (warnings.length === 0 ? builder : builder.end()).build();
  if (!program.command.includes(STITCH) && !isBlankSheet(program)) return fail(noStitchProblem(program));
  return succeed({ program, warnings, about });
}

/** A design as JSON, one row of the program a line; reads back as the same program. */
export function writeDesignJson(program: Program, about: AboutDesign = {}): string {
  const rows: string[] = [];
  let colors = 0;
  for (let row = 0; row < program.rowCount; row++) {
    const code = program.command[row]!;
    const command = COMMANDS[code]!;
    const note = program.notes.get(row);
    const noted = note === undefined || note === '' ? {} : { note };
    if (code === COLOR) {
      const { color, name } = program.threads[colors++]!;
      rows.push(JSON.stringify({ command, color, ...(name === '' ? {} : { note: name }) }));
    } else if (code === STITCH || code === JUMP)
      rows.push(JSON.stringify({ command, x: program.x[row]! + 0, y: program.y[row]! + 0, ...noted }));
    else rows.push(JSON.stringify({ command, ...noted }));
  }
  const head = Object.entries({ format: DESIGN_MARK, version: DESIGN_VERSION, ...about })
    .filter(([, value]) => value !== undefined)
    .map(([key, value]) => `${JSON.stringify(key)}: ${JSON.stringify(value)}`);
  return `{\n${[...head, `"program": [\n${rows.join(',\n')}\n]`].join(',\n')}\n}\n`;
}
