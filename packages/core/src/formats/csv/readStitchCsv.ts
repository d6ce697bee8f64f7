import Papa from 'papaparse';
import { COMMANDS, type Command, ProgramBuilder } from '../../model/program.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import {
  type FileProblem,
  isBlankSheet,
  MAX_COORDINATE,
  MAX_ROWS,
  noStitchProblem,
  problemAt,
  quote,
  type ReadProgram,
} from '../fileProblem.ts';
import { parseDecimal } from './parseDecimal.ts';
import { sayCount } from '../../words/sayCount.ts';

const COLUMNS = ['command', 'x', 'y', 'color', 'note'] as const;
type Column = (typeof COLUMNS)[number];
const COLOR_CODE = /^#[0-9a-fA-F]{6}$/;
/**
 * Characters the tokenizer takes at a time: so few that its rows are gone before the garbage collector moves them, which halves the time
 * of a long file and keeps its memory level.
 */
const PIECE = 1 << 10;
const COMMA = 44;
const LINE_FEED = 10;

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

  let at = 0;
  while (at < clean.length && problem === undefined) {
    const from = at;
    at = takePlainRows(at);
    if (at >= clean.length) break;
    // Where plain rows go on for long, what stands between them is a row or two; else the tokenizer takes more at once.
    const end = findRowEnd(clean, at, at - from > PIECE ? 1 : PIECE, mayBreakInside);
    takePiece(clean.slice(at, end));
    at = end + 1;
  }

  if (problem !== undefined) return fail(problem);
  if (columns === undefined) return fail(problemAt({ line: 1 }, 'an empty file', 'a header row: command,x,y,color,note'));
  if (endLine === 0) {
    warnings.push('The file has no end row; it is taken to end after its last row.');
    builder.end();
  }
  const program = builder.build();
  return stitches === 0 && !isBlankSheet(program) ? fail(noStitchProblem(program)) : succeed({ program, warnings });

  /**
   * Takes stitches and jumps from `start` on as long as they are written as this format writes them, straight from the text, and gives the
   * start of the first row that is not: the general tokenizer takes that. Such rows are nearly all of a file.
   */
  function takePlainRows(start: number): number {
    if (columns?.command !== 0 || columns.x !== 1 || columns.y !== 2 || endLine > 0) return start;
    let row = start;
    while (row < clean.length && builder.rowCount < MAX_ROWS) {
      const isStitch = clean.startsWith('stitch,', row);
      if (!isStitch && !clean.startsWith('jump,', row)) return row;
      const x = row + (isStitch ? 7 : 5);
      const y = clean.indexOf(',', x) + 1;
      if (y === 0) return row;
      let yEnd = y;
      while (yEnd < clean.length && clean.charCodeAt(yEnd) !== COMMA && clean.charCodeAt(yEnd) !== LINE_FEED) yEnd++;
      let end = yEnd;
      while (end < clean.length && clean.charCodeAt(end) === COMMA) end++;
      if ((end < clean.length && clean.charCodeAt(end) !== LINE_FEED) || end - yEnd > width - 3) return row;
      const px = parseDecimal(clean, x, y - 1);
      const py = parseDecimal(clean, y, yEnd);
      if (!(Math.abs(px) <= MAX_COORDINATE && Math.abs(py) <= MAX_COORDINATE)) return row;
      if (isStitch) {
        builder.stitch(px + 0, py + 0);
        stitches++;
      } else builder.jump(px + 0, py + 0);
      line++;
      row = end + 1;
    }
    return row;
  }

  function takePiece(piece: string): void {
    const { data, errors } = Papa.parse<string[]>(piece, { delimiter: ',', newline: '\n' });
    const badQuote = errors.find((e) => e.type === 'Quotes');
    for (let r = 0; r < data.length && problem === undefined; r++) {
      const fields = data[r]!;
      if (badQuote?.row === r) refuse('a quote that is not closed or not doubled', 'text in quotes as in RFC 4180');
      else if (fields.length > 1 || fields[0]!.trim() !== '') takeRow(fields);
      if (problem !== undefined) return;
      line++;
      if (mayBreakInside) for (const field of fields) for (let k = field.indexOf('\n'); k >= 0; k = field.indexOf('\n', k + 1)) line++;
    }
  }

  function takeRow(fields: string[]): void {
    if (columns === undefined) {
      const header = readHeader(fields);
      if (header.ok) columns = header.value;
      else problem = header.error;
      width = fields.length;
      return;
    }
    if (endLine > 0) return refuse('a row after the end row', `end as the last row (it stands in line ${endLine})`);
    if (builder.rowCount >= MAX_ROWS) return refuse(`more than ${sayCount(MAX_ROWS)} rows`, 'a smaller file');
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
 * Where the first row ends that has at least `least` characters before its end, counted from `start`: at a line end before which the quotes
 * come in pairs, or at the end of the text where they never do, so that the tokenizer can say what is wrong.
 */
function findRowEnd(text: string, start: number, least: number, hasQuotes: boolean): number {
  let isQuoted = false;
  let seen = start;
  let end = start + least - 1;
  for (;;) {
    end = text.indexOf('\n', end);
    if (end < 0) return text.length;
    if (!hasQuotes) return end;
    for (let k = text.indexOf('"', seen); k >= 0 && k < end; k = text.indexOf('"', k + 1)) isQuoted = !isQuoted;
    if (!isQuoted) return end;
    seen = end;
    end++;
  }
}

/** The text with \n for every line end, so that files of mixed ends read. */
function uniteLineEnds(text: string): string {
  return text.includes('\r') ? text.replace(/\r\n?/g, '\n') : text;
}
