import { COMMANDS, JUMP, type Program, ProgramBuilder } from './program.ts';

/** Each digit carries five bits and whether more follow. */
const DIGITS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_';
const BITS = 5;
const MORE = 1 << BITS;
/** Places are whole thousandths of a millimetre. */
const GRAIN = 1000;

/**
 * Rows without colors or notes as a short text: how many of each command follow each other, then the steps from place to place as differences,
 * in thousandths of a millimetre. Places between those are lost, so it is for generated rows. About five characters a stitch.
 */
export function packRows({ rowCount, x, y, command }: Program): string {
  const numbers: number[] = [rowCount];
  for (let i = 0; i < rowCount;) {
    let n = i;
    while (n < rowCount && command[n] === command[i]) n++;
    numbers.push(command[i]!, n - i);
    i = n;
  }
  let [px, py] = [0, 0];
  for (let i = 0; i < rowCount; i++) {
    if (command[i]! > JUMP) continue;
    const [qx, qy] = [Math.round(x[i]! * GRAIN), Math.round(y[i]! * GRAIN)];
    numbers.push(qx - px, qy - py);
    [px, py] = [qx, qy];
  }
  return numbers.map(writeNumber).join('');
}

/** The rows of such a text. @throws when it is no such text, saying at which character. */
export function unpackRows(text: string): Program {
  let at = 0;
  const next = (): number => {
    let value = 0;
    let scale = 1;
    for (;;) {
      const digit = DIGITS.indexOf(text[at] ?? ' ');
      if (digit < 0) throw new RangeError(`packed rows do not read at character ${at}: got ${text[at] ?? 'the end'}`);
      at++;
      value += (digit % MORE) * scale;
      scale *= MORE;
      if (digit < MORE) return value % 2 === 0 ? value / 2 : -(value - 1) / 2;
    }
  };
  const count = next();
  const commands: number[] = [];
  while (commands.length < count) {
    const [command, length] = [next(), next()];
    if (COMMANDS[command] === undefined || length < 1 || commands.length + length > count)
      throw new RangeError(`packed rows do not read before character ${at}: ${length} rows of command ${command} of ${count}`);
    for (let k = 0; k < length; k++) commands.push(command);
  }
  const out = new ProgramBuilder(count);
  let [px, py] = [0, 0];
  for (const command of commands) {
    if (command <= JUMP) {
      px += next();
      py += next();
    }
    out.row({ command: COMMANDS[command]!, x: px / GRAIN, y: py / GRAIN });
  }
  if (at !== text.length) throw new RangeError(`packed rows go on after character ${at}`);
  return out.build();
}

/** Zigzag: the sign in the lowest bit, so that small steps either way are short. */
function writeNumber(value: number): string {
  let rest = value < 0 ? -value * 2 + 1 : value * 2;
  let text = '';
  do {
    const low = rest % MORE;
    rest = Math.floor(rest / MORE);
    text += DIGITS[rest > 0 ? low + MORE : low]!;
  } while (rest > 0);
  return text;
}
