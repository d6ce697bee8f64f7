import { COLOR, COMMANDS, JUMP, type Program, STITCH } from '../../model/program.ts';
import { formatMillimetre } from '../formatMillimetre.ts';

/** The program as a stitch CSV, lines ended by \n. Reads back as the same program, bit for bit. */
export function writeStitchCsv(program: Program): string {
  const lines = ['command,x,y,color,note'];
  let color = 0;
  for (let i = 0; i < program.rowCount; i++) {
    const command = program.command[i]!;
    const name = COMMANDS[command]!;
    const note = program.notes.size > 0 ? quoteField(program.notes.get(i) ?? '') : '';
    if (command === STITCH || command === JUMP) {
      lines.push(`${name},${formatMillimetre(program.x[i]!)},${formatMillimetre(program.y[i]!)},,${note}`);
    } else if (command === COLOR) {
      const thread = program.threads[color++]!;
      lines.push(`${name},,,${thread.color},${quoteField(thread.name)}`);
    } else lines.push(`${name},,,,${note}`);
  }
  lines.push('');
  return lines.join('\n');
}

function quoteField(text: string): string {
  return /[",\r\n]|^\s|\s$/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}
