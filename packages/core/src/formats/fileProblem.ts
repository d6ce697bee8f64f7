import { END, type Program } from '../model/program.ts';
import { sayCount } from '../words/sayCount.ts';

/** Why a file is refused: where (line from 1, or byte from 0), what was found there, what was expected. `message` says all of it. */
export interface FileProblem {
  readonly line?: number;
  readonly byte?: number;
  readonly found: string;
  readonly expected: string;
  readonly message: string;
}

/** A program that was read, with what its reader should know. */
export interface ReadProgram {
  readonly program: Program;
  readonly warnings: readonly string[];
}

/** No file may hold more rows than this. */
export const MAX_ROWS = 2_000_000;
/** No coordinate may be farther from the hoop's centre, mm. */
export const MAX_COORDINATE = 1000;

/** A problem at a place, its message put together from the parts. */
export function problemAt(place: { line?: number; byte?: number }, found: string, expected: string): FileProblem {
  const where = place.line !== undefined ? `Line ${place.line}: ` : place.byte !== undefined ? `Byte ${place.byte}: ` : '';
  return { ...place, found, expected, message: `${where}found ${found}; expected ${expected}.` };
}

/** A found text as it may stand in a message: quoted, control characters shown, cut at 40 characters. */
export function quote(text: string): string {
  // eslint-disable-next-line no-control-regex -- these are what is looked for
  const shown = text.replace(/[\u0000-\u001f\u007f]/g, (c) => `\\x${c.charCodeAt(0).toString(16).padStart(2, '0')}`);
  return `“${shown.length > 40 ? `${shown.slice(0, 40)}…` : shown}”`;
}

/** What the end row of a file says that is to be drawn on from nothing: the one file without a stitch that is taken. */
const BLANK = 'blank sheet';

/** Such a file, as a stitch CSV. */
export const BLANK_SHEET = `command,x,y,color,note\nend,,,,${BLANK}\n`;

export function isBlankSheet({ command, notes }: Pick<Program, 'command' | 'notes'>): boolean {
  return command.length === 1 && command[0] === END && notes.get(0) === BLANK;
}

/** Why a program without a stitch is refused, with what it has instead. */
export function noStitchProblem(program: Pick<Program, 'command'>): FileProblem {
  let jumps = 0;
  for (const command of program.command) if (command === 1) jumps++;
  const found = jumps > 0 ? `${sayCount(jumps)} ${jumps === 1 ? 'jump' : 'jumps'} and no stitch` : 'no stitch';
  return problemAt({}, found, 'at least one stitch, since nothing would be sewn');
}
