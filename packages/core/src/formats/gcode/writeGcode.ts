import { COLOR, END, JUMP, type Program, STITCH, STOP, TRIM } from '../../model/program.ts';
import { formatMillimetre } from '../formatMillimetre.ts';

/** By which M word the thread is cut: one of those that ISO 6983-1 leaves unassigned (M20 to M29), as open hardware is told to take it. */
export const TRIM_WORD = 'M20';

/**
 * The program in words of ISO 6983-1, a block a row: G21 and G90 first (mm, absolute), G0 for a jump, G1 for a stitch, T and M6 for the thread, M0 for a stop, a word of the
 * machine's own for a trim, M30 at the end. What other machines pass over, names and notes, stands in parentheses. Reads back as the same program, bit for bit.
 * `trim`: M and up to three digits.
 */
export function writeGcode(program: Program, trim = TRIM_WORD): string {
  const lines = ['%', `(stitches, trim ${trim})`, 'G21', 'G90'];
  const numbers = new Map<string, number>();
  let color = 0;
  for (let row = 0; row < program.rowCount; row++) {
    const command = program.command[row]!;
    const note = remark(program.notes.get(row) ?? '');
    if (command === STITCH || command === JUMP) {
      lines.push(`${command === STITCH ? 'G1' : 'G0'} X${formatMillimetre(program.x[row]!)} Y${formatMillimetre(program.y[row]!)}${note}`);
    } else if (command === COLOR) {
      const thread = program.threads[color++]!;
      const known = `${thread.color} ${thread.name}`;
      const number = numbers.get(known) ?? numbers.size + 1;
      numbers.set(known, number);
      lines.push(`T${number} M6 (${thread.color}${thread.name === '' ? '' : ` ${shield(thread.name)}`})`);
    } else lines.push(`${command === TRIM ? trim : command === STOP ? 'M0' : 'M30'}${note}`);
    if (command === END) break;
  }
  return `${lines.join('\n')}\n%\n`;
}

const remark = (note: string): string => (note === '' ? '' : ` (${shield(note)})`);

/** A text as it may stand in parentheses: what would end it, or the line, as the number of its character. */
function shield(text: string): string {
  // eslint-disable-next-line no-control-regex -- these are what may not stand there
  return text.replace(/[%()\u0000-\u001f\u2028\u2029]|^ | $/g, (sign) => `%${sign.charCodeAt(0).toString(16).padStart(4, '0')}`);
}
