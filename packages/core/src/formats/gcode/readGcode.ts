import { ProgramBuilder, UNNAMED_THREAD } from '../../model/program.ts';
import { fail, type Result, succeed } from '../../model/result.ts';
import { sayCount } from '../../words/sayCount.ts';
import { parseDecimal } from '../csv/parseDecimal.ts';
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
import { TRIM_WORD } from './writeGcode.ts';

const WORD = /^([A-Z])([+-]?(?:\d+\.?\d*|\.\d+))\s*/;

/**
 * Reads stitches in words of ISO 6983-1, as Isola and machines of open hardware write them: G0 and G1 with X and Y in mm (G21), absolute (G90), T and M6, M0, M30, and
 * the word for a trim that the first remark names. N words and blank blocks are passed over; G0, G1, X and Y hold until they are said anew. Anything else is refused with
 * its line: a word that is not understood may be one that moves the needle.
 */
export function readGcode(text: string): Result<ReadProgram, FileProblem> {
  const builder = new ProgramBuilder(Math.min(MAX_ROWS, Math.ceil(text.length / 14)));
  const warnings: string[] = [];
  let [move, tool, stitches, line]: [number | undefined, number, number, number] = [undefined, 0, 0, 0];
  let [x, y] = [0, 0];
  let trim = TRIM_WORD;
  let isEnded = false;
  let isMetric = false;
  let hasBareTool = false;
  for (const raw of text.split(/\r\n?|\n/)) {
    line++;
    const found = splitBlock(raw.trim());
    if (found === undefined) return refuse(quote(raw.trim()), 'words such as G1 X2.5 Y0, with remarks in one pair of parentheses');
    const { words, remark } = found;
    const note = remark === undefined ? '' : unshield(remark);
    if (words.trim() === '' || words.trim() === '%') {
      const named = /\btrim (M\d{1,3})\b/.exec(remark ?? '');
      if (named !== null && builder.rowCount === 0) trim = named[1]!;
      continue;
    }
    if (isEnded) return refuse(quote(words.trim()), 'nothing after M30');
    if (builder.rowCount >= MAX_ROWS) return refuse(`more than ${sayCount(MAX_ROWS)} rows`, 'a smaller file');
    let rest = words.trim().toUpperCase();
    const seen: string[] = [];
    let isPlaced = false;
    while (rest !== '') {
      const word = WORD.exec(rest);
      if (word === null) return refuse(quote(rest), 'a letter and a number');
      const [whole, letter, digits] = word as unknown as [string, string, string];
      rest = rest.slice(whole.length);
      const value = parseDecimal(digits);
      const name = letter === 'X' || letter === 'Y' || letter === 'N' || letter === 'T' ? letter : `${letter}${value}`;
      if (letter === 'X' || letter === 'Y') {
        if (!(Math.abs(value) <= MAX_COORDINATE))
          return refuse(`${letter}${digits}`, `no more than ${MAX_COORDINATE} mm from the hoop's centre`);
        if (letter === 'X') x = value + 0;
        else y = value + 0;
        isPlaced = true;
      } else if (letter === 'T') tool = value;
      else if (name === 'G0' || name === 'G1') move = value;
      else if (name === 'G21') isMetric = true;
      else if (!['N', 'G90', 'M0', 'M6', 'M30', trim].includes(name)) {
        const wanted = `G0, G1, G21, G90, M0, M6, M30, ${trim} (the trim), N, T, X or Y`;
        return refuse(`${letter}${digits}`, name === 'G20' ? 'G21: lengths in mm' : name === 'G91' ? 'G90: absolute places' : wanted);
      }
      seen.push(name);
    }
    if (isPlaced) {
      if (move === undefined) return refuse(quote(words.trim()), 'G0 or G1 before the first place');
      if (!isMetric) return refuse(quote(words.trim()), 'G21 before the first place: lengths in mm');
      if (move === 1) {
        builder.stitch(x, y, note);
        stitches++;
      } else builder.jump(x, y, note);
    }
    if (seen.includes('M6')) {
      const thread = /^(#[0-9a-f]{6})(?: (.*))?$/is.exec(remark ?? '');
      hasBareTool ||= thread === null;
      if (thread === null) builder.color(UNNAMED_THREAD.color, `T${tool}`);
      else builder.color(thread[1]!, unshield(thread[2] ?? ''));
    }
    if (seen.includes('M0')) builder.stop(note);
    if (seen.includes(trim)) builder.trim(note);
    if (seen.includes('M30')) {
      builder.end(note);
      isEnded = true;
    }
  }
  if (!isEnded) {
    warnings.push('The file has no M30; it is taken to end after its last block.');
    builder.end();
  }
  if (hasBareTool) warnings.push('Some M6 name no color in parentheses; such threads are gray until they are told.');
  const program = builder.build();
  return stitches === 0 && !isBlankSheet(program) ? fail(noStitchProblem(program)) : succeed({ program, warnings });

  function refuse(found: string, expected: string): Result<ReadProgram, FileProblem> {
    return fail(problemAt({ line }, found, expected));
  }
}

/** A block's words and its remark, where it has one; nothing where parentheses do not come as one pair after the words. */
function splitBlock(block: string): { readonly words: string; readonly remark: string | undefined } | undefined {
  const [open, comment] = [block.indexOf('('), block.indexOf(';')];
  if (open < 0 || (comment >= 0 && comment < open)) {
    const words = comment < 0 ? block : block.slice(0, comment);
    return words.includes(')') ? undefined : { words, remark: undefined };
  }
  const close = block.indexOf(')', open);
  const [words, remark, rest] = [block.slice(0, open), block.slice(open + 1, close), block.slice(close + 1).trim()];
  const isOne = close > open && !words.includes(')') && !remark.includes('(') && (rest === '' || rest.startsWith(';'));
  return isOne ? { words, remark } : undefined;
}

function unshield(text: string): string {
  return text.replace(/%([0-9a-f]{4})/gi, (_, digits: string) => String.fromCharCode(Number.parseInt(digits, 16)));
}
