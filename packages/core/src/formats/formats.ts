import type { Program } from '../model/program.ts';
import type { Result } from '../model/result.ts';
import { readStitchCsv } from './csv/readStitchCsv.ts';
import { writeStitchCsv } from './csv/writeStitchCsv.ts';
import type { FileProblem, ReadProgram } from './fileProblem.ts';
import { readGcode } from './gcode/readGcode.ts';
import { writeGcode } from './gcode/writeGcode.ts';
import { isDesignJson, readDesignJson, writeDesignJson } from './json/designJson.ts';
import { readSvg } from './svg/readSvg.ts';
import { writeSvg } from './svg/writeSvg.ts';

export const FORMAT_IDS = ['csv', 'svg', 'gcode', 'json'] as const;
export type FormatId = (typeof FORMAT_IDS)[number];

/** A format of files that hold programs, as text; what is binary is told before ({@link readStitchFile}). */
export interface StitchFormat {
  readonly id: FormatId;
  /** As people call it, with and without its article. */
  readonly name: string;
  readonly article: string;
  /** With the dot; the first one is written. */
  readonly extensions: readonly string[];
  readonly mime: string;
  /** What a file of this format holds, for who is to choose one. */
  readonly note: string;
  /** What tells a file of this format, for who has another one; ends a sentence. */
  readonly sign: string;
  /** Whether a file is of this format, by its text from the first character that is no blank. */
  readonly detect: (text: string) => boolean;
  readonly read: (text: string) => Result<ReadProgram, FileProblem>;
  readonly write: (program: Program) => string;
}

/** So much of a text is looked at for the names of columns, characters. */
const HEADER = 4096;

/** All formats that are read and written; the command line, the server, the drop zone and Release go by this list. */
export const FORMATS: readonly StitchFormat[] = [
  {
    id: 'csv',
    name: 'stitch CSV',
    article: 'a stitch CSV',
    extensions: ['.csv'],
    mime: 'text/csv; charset=utf-8',
    note: 'one row a machine command, in mm',
    sign: 'its first line names the columns command, x, y',
    detect: (text) => !text.startsWith('<') && /^[^\n]*command/i.test(text.slice(0, HEADER)),
    read: readStitchCsv,
    write: writeStitchCsv,
  },
  {
    id: 'svg',
    name: 'SVG',
    article: 'an SVG',
    extensions: ['.svg'],
    mime: 'image/svg+xml',
    note: 'the stitches as lines at true size; reads back as the same program',
    sign: 'it begins with <',
    detect: (text) => text.startsWith('<'),
    read: readSvg,
    write: writeSvg,
  },
  {
    id: 'gcode',
    name: 'G-code',
    article: 'a G-code',
    extensions: ['.gcode', '.ngc', '.nc'],
    mime: 'text/plain; charset=utf-8',
    note: 'words of ISO 6983 for open hardware; reads back as the same program',
    sign: 'it begins with % or with G21',
    detect: (text) => /^(?:%|\(|G\d|N\d)/i.test(text) && /(?:^|[\s\d])G21(?!\d)/i.test(text.slice(0, HEADER)),
    read: readGcode,
    write: writeGcode,
  },
  {
    id: 'json',
    name: 'design JSON',
    article: 'a design JSON',
    extensions: ['.json'],
    mime: 'application/json',
    note: 'the whole job: program, objects with their specs, target, notes of its revisions',
    sign: 'it begins with { and names its format',
    detect: isDesignJson,
    read: readDesignJson,
    write: (program) => writeDesignJson(program),
  },
];

/** The format of an id. */
export function formatOf(id: FormatId): StitchFormat {
  return FORMATS.find((format) => format.id === id)!;
}

/** The format that a file name asks for by its ending; none where no format has that. */
export function formatOfName(name: string): StitchFormat | undefined {
  return FORMATS.find(({ extensions }) => extensions.some((extension) => name.toLowerCase().endsWith(extension)));
}

/** The endings of all formats, the most usual first. */
export const FORMAT_EXTENSIONS: readonly string[] = FORMATS.flatMap(({ extensions }) => extensions);

/** The formats by name: “stitch CSV and SVG”. */
export const FORMAT_NAMES: string = inList(
  FORMATS.map(({ name }) => name),
  'and',
);

/** One of the formats: “a stitch CSV or an SVG”. */
export const FORMAT_CHOICE: string = inList(
  FORMATS.map(({ article }) => article),
  'or',
);

/** The formats with what tells each, for who brought a file of none: “a stitch CSV (its first line names …) or an SVG (it begins with <)”. */
export const FORMAT_SIGNS: string = inList(
  FORMATS.map(({ article, sign }) => `${article} (${sign})`),
  'or',
);

/** A program in a format, as the bytes of a file. */
export function writeStitchFile(program: Program, id: FormatId): Uint8Array {
  return new TextEncoder().encode(formatOf(id).write(program));
}

function inList(names: readonly string[], word: string): string {
  return names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} ${word} ${names[names.length - 1]!}`;
}
