import { readdirSync, readFileSync, statSync } from 'node:fs';
import path from 'node:path';
import { auditFile, type AuditedFile, FORMAT_EXTENSIONS, rankFiles, SEVERITIES, type Severity, type Target } from '@isola/core';
import { reasonOf, UsageError } from './usageError.ts';

/** Files as they are named, and all stitch files in folders that are named, by path. @throws UsageError for what is not there. */
export function filesIn(names: readonly string[]): string[] {
  return names.flatMap((name) => {
    if (!isFolder(name)) return [name];
    const found = readdirSync(name, { recursive: true, encoding: 'utf8' })
      .filter((file) => FORMAT_EXTENSIONS.some((extension) => file.toLowerCase().endsWith(extension)))
      .sort()
      .map((file) => path.join(name, file));
    if (found.length === 0) throw new UsageError(`${name}: there is no stitch file in this folder (${FORMAT_EXTENSIONS.join(', ')})`);
    return found;
  });
}

export const isFolder = (name: string): boolean => statSync(name, { throwIfNoEntry: false })?.isDirectory() === true;

/** Judges files one by one; one that cannot be read gets its reason, and the rest go on. Ranked, what saves most first. */
export function auditFiles(files: readonly string[], target: Target): AuditedFile[] {
  return rankFiles(
    files.map((name) => {
      try {
        const audited = auditFile(readFileSync(name), target);
        return audited.ok ? { name, audit: audited.value } : { name, problem: audited.error.message };
      } catch (error) {
        return { name, problem: reasonOf(error) };
      }
    }),
  );
}

/** A line for each file: minutes to save and of all, findings by severity, name, and the worst of them or what is wrong. */
export function describeFiles(files: readonly AuditedFile[]): string {
  const lines = files.map(({ name, audit, problem }) => {
    if (audit === undefined) return `${'–'.padStart(6)} ${'–'.padStart(6)}              ${name}: ${problem}`;
    const { saves, figures, counts, findings, verdict } = audit;
    const found = `${counts.stop} / ${counts.fix} / ${counts.note}`.padStart(12);
    const worst = findings[0]?.message ?? 'no findings';
    return `${minutes(saves)} ${minutes(figures.seconds)} ${found}  ${name}: ${worst}${verdict.choice === 'anew' ? ' (better digitized anew)' : ''}`;
  });
  return `  save     of  stop/fix/note  file: worst\n${lines.join('\n')}\nMinutes are of one piece and estimates: sew a sample on the real cloth before a run.\n`;
}

/** Whether any file has a finding at or above a severity. */
export function isAnyBad(files: readonly AuditedFile[], failOn: string | undefined): boolean {
  if (failOn === undefined) return false;
  const bad = SEVERITIES.slice(0, SEVERITIES.indexOf(failOn as Severity) + 1);
  return files.some(({ audit }) => audit !== undefined && bad.some((severity) => audit.counts[severity] > 0));
}

const minutes = (seconds: number): string => (seconds / 60).toFixed(1).padStart(6);
