import Papa from 'papaparse';
import { COMMANDS, type Command, ProgramBuilder } from '../../model/program.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import { type FileProblem, MAX_COORDINATE, MAX_ROWS, noStitchProblem, problemAt, quote, type ReadProgram } from '../fileProblem.ts';
import { parseDecimal } from './parseDecimal.ts';

const COLUMNS = ['command', 'x', 'y', 'color', 'note'] as const;
type Column = (typeof COLUMNS)[number];
const COLOR_CODE = /^#[0-9a-fA-F]{6}$/;
/**
 * Characters the tokenizer takes at a time: so few that its rows are gone before the garbage collector moves them, which halves the time
 * of a long file and keeps its memory level.
 */
const PIECE = 1 << 10;

/**
 * Reads a stitch CSV (RFC 4180 with a header row, one row a machine command, mm, y up). A leading byte order mark, blank lines and any
 * line ends are tolerated. A file without an end row reads with a warning; the program always ends with one.
 */
export function readStitchCsv(text: string): Result<ReadProgram, FileProblem> {
  const clean = uniteLineEnds(text.charCodeAt(0) === 0xfeff ? text.slice(1) : text);
  const builder = new ProgramBuilder(Math.min(MAX_ROWS, Math.ceil(clean.length / 16)));
  const mayBreakInside = clean.includes('"');
  const warnings: string[] = [];
  let columns: Record<Column, number> | undefined;
  let width = 0;
  let problem = undefined as FileProblem | undefined;
  let line = 1;
  let endLine = 0;
  let stitches = 0;

  for (const piece of cutIntoPieces(clean, mayBreakInside)) {
    const { data, errors } = Papa.parse<string[]>(piece, { delimiter: ',', newline: '\n' });
    const badQuote = errors.find((e) => e.type === 'Quotes');
    for (let r = 0; r < data.length; r++) {
      const fields = data[r]!;
      if (badQuote?.row === r) refuse('a quote that is not closed or not doubled', 'text in quotes as in RFC 4180');
      else if (fields.length > 1 || fields[0]!.trim() !== '') takeRow(fields);
      if (problem !== undefined) break;
      line++;
      if (mayBreakInside) for (const field of fields) for (let k = field.indexOf('\n'); k >= 0; k = field.indexOf('\n', k + 1)) line++;
    }
    if (problem !== undefined) break;
  }

  if (problem !== undefined) return fail(problem);
  if (columns === undefined) return fail(problemAt({ line: 1 }, 'an empty file', 'a header row: command,x,y,color,note'));
  if (endLine === 0) {
    warnings.push('The file has no end row; it is taken to end after its last row.');
    builder.end();
  }
  const program = builder.build();
  return stitches === 0 ? fail(noStitchProblem(program)) : succeed({ program, warnings });

  function takeRow(fields: string[]): void {
    if (columns === undefined) {
      const header = readHeader(fields);
      if (header.ok) columns = header.value;
      else problem = header.error;
      width = fields.length;
      return;
    }
    if (endLine > 0) return refuse('a row after the end row', `end as the last row (it stands in line ${endLine})`);
    if (builder.rowCount >= MAX_ROWS) return refuse(`more than ${MAX_ROWS.toLocaleString('en')} rows`, 'a smaller file');
    if (fields.length > width && fields.slice(width).some((f) => f.trim() !== '')) {
      return refuse(`${fields.length} fields`, `${width} as in the header; a text with a comma needs quotes`);
    }
    const at = columns;
    const word = fields[at.command] ?? '';
    const command = word === 'stitch' || word === 'jump' ? word : word.trim().toLowerCase();
    const note = at.note < 0 ? '' : (fields[at.note] ?? '');
    switch (command as Command) {
      case 'stitch':
      case 'jump': {
        const x = readNumber(fields[at.x] ?? '', 'x');
        const y = readNumber(fields[at.y] ?? '', 'y');
        if (x === undefined || y === undefined) return;
        if (command === 'stitch') {
          builder.stitch(x, y, note);
          stitches++;
        } else builder.jump(x, y, note);
        return;
      }
      case 'color': {
        const color = (at.color < 0 ? '' : (fields[at.color] ?? '')).trim();
        if (!COLOR_CODE.test(color)) return refuse(color === '' ? 'no color' : quote(color), 'a color as #rrggbb');
        builder.color(color, note);
        return;
      }
      case 'trim':
        builder.trim(note);
        return;
      case 'stop':
        builder.stop(note);
        return;
      case 'end':
        builder.end(note);
        endLine = line;
        return;
      default:
        return refuse(word.trim() === '' ? 'no command' : quote(word), `a command: ${COMMANDS.join(', ')}`);
    }
  }

  function readNumber(field: string, name: string): number | undefined {
    const value = parseDecimal(field);
    if (Number.isNaN(value)) {
      refuse(field.trim() === '' ? `no ${name}` : `${quote(field)} as ${name}`, 'a number in mm');
      return undefined;
    }
    if (!(Math.abs(value) <= MAX_COORDINATE)) {
      refuse(`${quote(field)} as ${name}`, `no more than ${MAX_COORDINATE} mm from the hoop's centre`);
      return undefined;
    }
    return value + 0;
  }

  function refuse(found: string, expected: string): void {
    problem ??= problemAt({ line }, found, expected);
  }
}

function readHeader(fields: readonly string[]): Result<Record<Column, number>, FileProblem> {
  const names = fields.map((f) => f.trim().toLowerCase());
  const columns = {} as Record<Column, number>;
  for (const name of COLUMNS) {
    columns[name] = names.indexOf(name);
    if (names.lastIndexOf(name) !== columns[name]) return fail(problemAt({ line: 1 }, `two columns named ${name}`, 'each column once'));
  }
  const missing = (['command', 'x', 'y'] as const).filter((name) => columns[name] < 0);
  if (missing.length === 0) return succeed(columns);
  return fail(problemAt({ line: 1 }, quote(fields.join(',')), `a header row with the columns ${missing.join(', ')}`));
}

/**
 * The text in pieces that end where a row ends: at a line end before which the quotes come in pairs. Where they never do, the rest of the
 * text is one piece, and the tokenizer says what is wrong with it.
 */
function* cutIntoPieces(text: string, hasQuotes: boolean): Generator<string> {
  let start = 0;
  let at = 0;
  let isQuoted = false;
  while (start < text.length) {
    let end = text.indexOf('\n', Math.max(at, start + PIECE));
    if (end < 0) end = text.length;
    if (hasQuotes) for (let k = text.indexOf('"', at); k >= 0 && k < end; k = text.indexOf('"', k + 1)) isQuoted = !isQuoted;
    at = end;
    if (isQuoted && end < text.length) {
      at = end + 1;
      continue;
    }
    yield text.slice(start, end);
    start = end + 1;
    isQuoted = false;
  }
}

/** The text with \n for every line end, so that files of mixed ends read. */
function uniteLineEnds(text: string): string {
  return text.includes('\r') ? text.replace(/\r\n?/g, '\n') : text;
}
