import Papa from 'papaparse';
import type { FileProblem } from '../formats/fileProblem.ts';
import { readStitchFile } from '../formats/readStitchFile.ts';
import { type Figures, inspectProgram } from '../measure/inspect.ts';
import type { Result } from '../model/result.ts';
import type { Target } from '../model/target.ts';
import { startDesign } from '../plan/designOf.ts';
import { objectsOf } from '../plan/objectsOf.ts';
import { auditDesign } from './auditDesign.ts';
import { SEVERITIES, type Severity } from './finding.ts';
import { type Verdict, weighRepair } from './verdict.ts';

/** A file among others, judged for one target: short enough to keep a thousand of them. */
export interface FileAudit {
  readonly warnings: readonly string[];
  readonly figures: Pick<Figures, 'stitches' | 'trims' | 'colorChanges'> & {
    readonly width: number;
    readonly height: number;
    readonly seconds: number;
  };
  /** Open findings by severity. */
  readonly counts: Readonly<Record<Severity, number>>;
  /** Seconds of machine time on one piece that the repairs of its findings save, together no more than its lost time and half of its sewing. An estimate. */
  readonly saves: number;
  /** Its findings, worst first for the target's goal. */
  readonly findings: readonly { readonly rule: string; readonly severity: Severity; readonly message: string; readonly places: number }[];
  readonly verdict: Verdict;
}

/** Repairs leave at least this share of what is sewn. From memory. */
const MOST_OF_SEWING = 0.5;

/** Reads a file and judges it on a target, its objects recognized. */
export function auditFile(bytes: Uint8Array, target: Target): Result<FileAudit, FileProblem> {
  const read = readStitchFile(bytes);
  if (!read.ok) return read;
  const { program, warnings } = read.value;
  const figures = inspectProgram(program, target);
  const design = startDesign(program, target);
  const findings = auditDesign(design);
  const counts = { stop: 0, fix: 0, note: 0 };
  for (const { severity } of findings) counts[severity]++;
  const promised = findings.reduce((sum, { fix, cost }) => sum + (fix === undefined ? 0 : Math.max(0, cost.seconds)), 0);
  const { stitches, trims, colorChanges, extents, run } = figures;
  return {
    ok: true,
    value: {
      warnings,
      figures: { stitches, trims, colorChanges, width: extents.width, height: extents.height, seconds: run.seconds },
      counts,
      saves: Math.min(promised, run.seconds - MOST_OF_SEWING * run.sewing),
      findings: findings.map(({ rule, severity, message, places }) => ({ rule, severity, message, places: places.length })),
      verdict: weighRepair(findings, objectsOf(design.plan).objects, stitches),
    },
  };
}

/** A file of many with its audit, or why there is none. */
export interface AuditedFile {
  readonly name: string;
  readonly audit?: FileAudit | undefined;
  readonly problem?: string | undefined;
}

/** What saves most machine time first; then what has most to stop for; files that could not be judged last. */
export function rankFiles<F extends AuditedFile>(files: readonly F[]): F[] {
  const order = (file: F): number[] => {
    if (file.audit === undefined) return [1];
    return [0, -file.audit.saves, ...SEVERITIES.map((severity) => -file.audit!.counts[severity])];
  };
  return [...files].sort((a, b) => {
    const [left, right] = [order(a), order(b)];
    for (let k = 0; k < left.length; k++) if (left[k] !== right[k]) return left[k]! - (right[k] ?? 0);
    return a.name.localeCompare(b.name);
  });
}

export const FILE_COLUMNS = [
  ...['file', 'minutes to save', 'minutes', 'stitches', 'trims', 'color changes', 'width mm', 'height mm'],
  ...['stop', 'fix', 'note', 'repair or digitize anew', 'minutes of that', 'worst', 'problem'],
] as const;

/** Audited files as one table (CSV, RFC 4180), ranked, in the columns of {@link FILE_COLUMNS}. Minutes are of one piece and estimates. */
export function filesCsv(files: readonly AuditedFile[]): string {
  const rows = rankFiles(files).map(({ name, audit, problem }) => {
    if (audit === undefined) return [name, ...Array.from({ length: FILE_COLUMNS.length - 2 }, () => ''), problem ?? 'not judged'];
    const { figures, counts, verdict, saves, findings } = audit;
    const minutes = verdict.choice === 'anew' ? verdict.anewMinutes : verdict.repairMinutes;
    return [
      ...[name, minutesOf(saves), minutesOf(figures.seconds), figures.stitches, figures.trims, figures.colorChanges],
      ...[figures.width.toFixed(1), figures.height.toFixed(1), counts.stop, counts.fix, counts.note, verdict.choice, minutes.toFixed(0)],
      ...[findings[0]?.message ?? '', ''],
    ];
  });
  return `${Papa.unparse([[...FILE_COLUMNS], ...rows])}\r\n`;
}

const minutesOf = (seconds: number): string => (seconds / 60).toFixed(1);
