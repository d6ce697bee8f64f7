import type { SaxesTagPlain } from 'saxes';
import type { Result } from '../../model/result.ts';
import type { FileProblem, ReadProgram } from '../fileProblem.ts';

/** What reads the elements once the root said which kind of SVG it is. A problem it returns ends the reading. */
export interface ElementReader {
  open(tag: SaxesTagPlain, line: number): FileProblem | undefined;
  close(name: string): void;
  finish(): Result<ReadProgram, FileProblem>;
}
