import { runCommand } from './run.ts';
import { sheetFile } from './sheetFile.ts';

const args = process.argv.slice(2);
const print = (text: string): unknown => process.stdout.write(text);
const complain = (text: string): unknown => process.stderr.write(text);
process.exitCode = args[0] === 'sheet' ? await sheetFile(args, print, complain) : runCommand(args, print, complain);
