import { FABRICS, GARMENTS, GOALS, HOOPS, RULES, THREADS } from '@isola/core';
import { parseArgs } from 'node:util';
import { machineIds } from './machineFiles.ts';
import { DO_HELP } from './doShapes.ts';
import { SETTING_HELP } from './setSpecs.ts';
import { UsageError } from './usageError.ts';

export const USAGE = `Usage: npm run -s isola -- COMMAND …

  inspect FILE [--json]
  recognize FILE [--debug DIR] [--json]
  audit FILE|FOLDER … --fabric ID [--garment ID] [--thread ID] [--goal GOAL] [--fail-on SEVERITY] [--json]
  rework FILE --fabric ID --out FILE [--garment ID] [--thread ID] [--goal GOAL] [--fix all|RULE,…]
         [--set OBJECT:name=value,…] [--do OPERATION:key=value,…] [--json]
  order FILE --out FILE [--fabric ID] [--only colors,objects,connectors] [--hold OBJECT,…] [--json]
  lay-out FILE --hoop ID --out FILE [--copies N] [--gap MM] [--marks] [--turned] [--json]
  convert IN OUT [--layout L.json]
  sheet FILE --fabric ID --out SHEET.pdf [--garment ID] [--thread ID] [--pieces N] [--json]
  simulate FILE [--machine ID] [--hoop ID] [--json]
  layout L.json [FILE] [--json]

FILE is stitch CSV, SVG or G-code; with --layout L.json (or --layout simulated) also a machine's binary file.

machines  ${machineIds()}
hoops     ${HOOPS.map((h) => h.id).join(', ')}
fabrics   ${FABRICS.map((f) => f.id).join(', ')}
garments  ${GARMENTS.map((g) => g.id).join(', ')}
threads   ${THREADS.map((t) => t.id).join(', ')}
goals     ${GOALS.join(', ')}
rules     ${RULES.map((r) => r.id).join(', ')}
${SETTING_HELP}${DO_HELP}
`;

export const OPTIONS = {
  json: { type: 'boolean' },
  help: { type: 'boolean' },
  fabric: { type: 'string' },
  garment: { type: 'string' },
  thread: { type: 'string' },
  goal: { type: 'string' },
  out: { type: 'string' },
  fix: { type: 'string' },
  set: { type: 'string', multiple: true },
  do: { type: 'string', multiple: true },
  debug: { type: 'string' },
  hoop: { type: 'string' },
  copies: { type: 'string' },
  gap: { type: 'string' },
  marks: { type: 'boolean' },
  turned: { type: 'boolean' },
  only: { type: 'string' },
  hold: { type: 'string' },
  'fail-on': { type: 'string' },
  layout: { type: 'string' },
  machine: { type: 'string' },
  pieces: { type: 'string' },
} as const;

/** Which options each command takes; others are refused, so that a slip of the pen is not passed over. */
export const TAKES: Readonly<Record<string, readonly (keyof typeof OPTIONS)[]>> = {
  inspect: ['json', 'layout'],
  recognize: ['json', 'debug', 'layout'],
  audit: ['json', 'fabric', 'garment', 'thread', 'goal', 'fail-on', 'layout'],
  rework: ['json', 'fabric', 'garment', 'thread', 'goal', 'out', 'fix', 'set', 'do', 'layout'],
  order: ['json', 'fabric', 'garment', 'thread', 'out', 'only', 'hold', 'layout'],
  'lay-out': ['json', 'hoop', 'out', 'copies', 'gap', 'marks', 'turned', 'layout'],
  convert: ['json', 'layout'],
  simulate: ['json', 'layout', 'machine', 'hoop'],
  layout: ['json'],
  sheet: ['json', 'layout', 'fabric', 'garment', 'thread', 'goal', 'out', 'pieces'],
};

export type Values = ReturnType<typeof parseCommandLine>['values'];

/** @throws UsageError for an option that there is not. */
export function parseCommandLine(args: readonly string[]) {
  try {
    return parseArgs({ args: [...args], options: OPTIONS, allowPositionals: true });
  } catch (error) {
    throw new UsageError(error instanceof Error ? error.message.split('. ')[0]! : String(error));
  }
}
