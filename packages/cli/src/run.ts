import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import {
  auditDesign,
  defaultTarget,
  drawSteps,
  publishFinding,
  totalFindings,
  findRule,
  HOOPS,
  inspectProgram,
  placeProgram,
  type Program,
  publishObject,
  sayCount,
  recognizeProgram,
  repairFindings,
  RULES,
  SEVERITIES,
  type Severity,
  startDesign,
  FORMAT_EXTENSIONS,
  formatOfName,
} from '@isola/core';
import { auditFiles, describeFiles, filesIn, isAnyBad, isFolder } from './auditFiles.ts';
import { describeFigures, describeFindings, describeObjects } from './describe.ts';
import { doShapes, parseDoing } from './doShapes.ts';
import { layOutFile } from './layOutFile.ts';
import { checkLayoutFile, layoutFrom, machineFile, simulateFile } from './machineFiles.ts';
import { orderFile } from './orderFile.ts';
import { pick, readProgram, readTarget } from './readFiles.ts';
import { parseSetting, setSpecs } from './setSpecs.ts';
import type { OPTIONS } from './usage.ts';
import { parseCommandLine, TAKES, USAGE, type Values } from './usage.ts';
import { reasonOf, UsageError } from './usageError.ts';

/**
 * Runs one command. `print` gets what belongs on standard output, `complain` what belongs on standard error; the return value is the exit
 * status: 0 done, 1 the audit found something at or above `--fail-on`, 2 bad usage or bad input.
 */
export function runCommand(args: readonly string[], print: (text: string) => void, complain: (text: string) => void): 0 | 1 | 2 {
  try {
    const { values, positionals } = parseCommandLine(args);
    const [command, ...files] = positionals;
    if (values.help || command === undefined) {
      (values.help ? print : complain)(USAGE);
      return values.help ? 0 : 2;
    }
    const takes = TAKES[command];
    if (takes === undefined) throw new UsageError(`there is no command ${command}; there are ${Object.keys(TAKES).join(', ')}`);
    for (const option of Object.keys(values)) {
      if (!takes.includes(option as keyof typeof OPTIONS)) throw new UsageError(`${command} takes no --${option}`);
    }
    if (command === 'layout') return layout(files, values, print);
    const wanted = command === 'convert' ? 2 : 1;
    const isOfMany = command === 'audit' && (files.length > 1 || files.some(isFolder));
    if (isOfMany) return auditMany(files, values, print);
    if (files.length !== wanted) throw new UsageError(`${command} takes ${wanted === 1 ? 'one file' : 'two files'}, got ${files.length}`);
    switch (command) {
      case 'inspect':
        return inspect(files[0]!, values, print);
      case 'recognize':
        return recognize(files[0]!, values, print);
      case 'audit':
        return audit(files[0]!, values, print);
      case 'rework':
        return rework(files[0]!, values, print);
      case 'order':
        return order(files[0]!, values, print);
      case 'lay-out':
        return layOut(files[0]!, values, print);
      case 'simulate':
        return simulate(files[0]!, values, print);
      default:
        return convert(files[0]!, files[1]!, values, print);
    }
  } catch (error) {
    if (!(error instanceof UsageError)) throw error;
    complain(`isola: ${error.message}\n`);
    return 2;
  }
}

function inspect(file: string, values: Values, print: (text: string) => void): 0 {
  const figures = inspectProgram(readProgram(file, values), defaultTarget());
  print(values.json ? toJson(figures) : describeFigures(figures));
  return 0;
}

function recognize(file: string, values: Values, print: (text: string) => void): 0 {
  const program = readProgram(file, values);
  const { objects } = recognizeProgram(program);
  if (values.debug !== undefined) {
    makeFolder(values.debug);
    for (const { name, svg } of drawSteps(program)) writeOut(path.join(values.debug, `${name}.svg`), svg);
  }
  print(values.json ? toJson({ objects: objects.map(publishObject) }) : describeObjects(objects));
  return 0;
}

/** Several files, or all in folders, each with its line: one that cannot be read does not keep the others from being judged. */
function auditMany(names: readonly string[], values: Values, print: (text: string) => void): 0 | 1 | 2 {
  const failOn = readFailOn(values);
  const files = auditFiles(filesIn(names), readTarget(values));
  print(values.json ? toJson({ files }) : describeFiles(files));
  if (files.some(({ audit: done }) => done === undefined)) return 2;
  return isAnyBad(files, failOn) ? 1 : 0;
}

function readFailOn(values: Values): string | undefined {
  const failOn = values['fail-on'];
  if (failOn !== undefined && !SEVERITIES.includes(failOn as Severity)) {
    throw new UsageError(`--fail-on takes ${SEVERITIES.join(', ')}, got ${failOn}`);
  }
  return failOn;
}

function audit(file: string, values: Values, print: (text: string) => void): 0 | 1 {
  const failOn = readFailOn(values);
  const target = readTarget(values);
  const findings = auditDesign(startDesign(readProgram(file, values), target));
  print(values.json ? toJson({ findings: findings.map(publishFinding), totals: totalFindings(findings) }) : describeFindings(findings));
  const isBad = failOn !== undefined && findings.some((f) => SEVERITIES.indexOf(f.severity) <= SEVERITIES.indexOf(failOn as Severity));
  return isBad ? 1 : 0;
}

function rework(file: string, values: Values, print: (text: string) => void): 0 {
  if (values.out === undefined) throw new UsageError('rework needs --out FILE');
  const target = readTarget(values);
  const settings = (values.set ?? []).map(parseSetting);
  // Who sets specs or draws shapes and names no repairs wants those and nothing else.
  const doings = (values.do ?? []).map(parseDoing);
  const rules = (values.fix ?? (settings.length + doings.length > 0 ? '' : 'all')).split(',').filter((rule) => rule !== '');
  if (values.fix !== undefined && values.fix !== 'all') {
    for (const id of rules) {
      if (!RULES.some((r) => r.id === id)) throw new UsageError(`there is no rule ${id}; there are ${RULES.map((r) => r.id).join(', ')}`);
      const { repair, mend, retarget } = findRule(id);
      if (repair === undefined && mend === undefined && retarget === undefined)
        throw new UsageError(`${id} has no repair that can be made for you`);
    }
  }
  const write = writerFor(values.out);
  const design = startDesign(readProgram(file, values), target);
  const set = setSpecs(design, settings);
  const drawn = doShapes(set.design, doings);
  const repair = repairFindings(drawn.design, (finding) => rules.includes('all') || rules.includes(finding.rule));
  const before = inspectProgram(design.program, target);
  const after = inspectProgram(repair.design.program, target);
  writeOut(values.out, write(placeProgram(repair.design.program, repair.design.target.place)));
  const shaped = drawn.done.map((change, k) => ({ rule: doings[k]!.name, objects: [], change }));
  const applied = [...set.applied, ...shaped, ...repair.applied];
  const refused = [...set.refused, ...repair.refused];
  if (values.json) print(toJson({ before, after, applied, refused }));
  else {
    for (const a of applied) print(`done  ${a.change}\n`);
    for (const r of refused) print(`left  ${r.rule}: ${r.why}\n`);
    print(
      `stitches ${sayCount(before.stitches)} → ${sayCount(after.stitches)}, trims ${sayCount(before.trims)} → ${sayCount(after.trims)}, `,
    );
    print(
      `seconds ${sayCount(before.run.seconds)} → ${sayCount(after.run.seconds)} (an estimate: sew a sample)\nwritten to ${values.out}\n`,
    );
  }
  return 0;
}

function order(file: string, values: Values, print: (text: string) => void): 0 {
  if (values.out === undefined) throw new UsageError('order needs --out FILE');
  const target = values.fabric === undefined ? defaultTarget() : readTarget(values);
  const write = writerFor(values.out);
  const { program, json, text } = orderFile(startDesign(readProgram(file, values), target), values);
  writeOut(values.out, write(program));
  print(values.json ? toJson(json) : `${text}written to ${values.out}\n`);
  return 0;
}

function layOut(file: string, values: Values, print: (text: string) => void): 0 {
  if (values.out === undefined) throw new UsageError('lay-out needs --out FILE');
  if (values.hoop === undefined) throw new UsageError('lay-out needs --hoop ID');
  const write = writerFor(values.out);
  const design = startDesign(readProgram(file, values), { ...defaultTarget(), hoop: pick(HOOPS, values.hoop, 'hoop') });
  const { program, json, text } = layOutFile(design, file, values);
  writeOut(values.out, write(program));
  print(values.json ? toJson(json) : `${text}written to ${values.out}\n`);
  return 0;
}

function convert(input: string, output: string, values: Values, print: (text: string) => void): 0 {
  const isMachine = values.layout !== undefined && formatOfName(output) === undefined;
  const write = isMachine ? undefined : writerFor(output);
  const program = readProgram(input, values);
  const { content, notes } =
    write === undefined ? toMachine(machineFile(program, layoutFrom(values.layout!), output)) : { content: write(program), notes: [] };
  writeOut(output, content);
  const text = `${sayCount(program.rowCount)} rows written to ${output}\n${notes.map((note) => `${note}\n`).join('')}`;
  print(values.json ? toJson({ rows: program.rowCount, written: output, notes }) : text);
  return 0;
}

const toMachine = ({ bytes, notes }: { bytes: Uint8Array; notes: readonly string[] }) => ({ content: bytes, notes });

function simulate(file: string, values: Values, print: (text: string) => void): 0 {
  const { json, text } = simulateFile(readProgram(file, values), values.machine, values.hoop);
  print(values.json ? toJson(json) : text);
  return 0;
}

function layout(files: readonly string[], values: Values, print: (text: string) => void): 0 | 2 {
  if (files.length < 1 || files.length > 2) throw new UsageError(`layout takes a layout and at most one file, got ${files.length}`);
  const { status, json, text } = checkLayoutFile(files[0]!, files[1]);
  print(values.json ? toJson(json) : text);
  return status;
}

function writerFor(file: string): (program: Program) => string {
  const format = formatOfName(file);
  if (format !== undefined) return format.write;
  throw new UsageError(`${file}: its name ends in none of ${FORMAT_EXTENSIONS.join(', ')}, so there is no telling what to write`);
}

function writeOut(file: string, text: string | Uint8Array): void {
  try {
    writeFileSync(file, text);
  } catch (error) {
    throw new UsageError(`${file}: ${reasonOf(error)}`);
  }
}

function makeFolder(folder: string): void {
  try {
    mkdirSync(folder, { recursive: true });
  } catch (error) {
    throw new UsageError(`${folder}: ${reasonOf(error)}`);
  }
}

function toJson(value: unknown): string {
  return `${JSON.stringify(value, null, 2)}\n`;
}
