import Papa from 'papaparse';
import type { Finding } from './finding.ts';
import { findRule } from './rulebook.ts';

export const AUDIT_COLUMNS = [
  'severity',
  'rule',
  'finding',
  'places',
  'measured',
  'limit',
  'unit',
  'seconds',
  'stitches',
  'repair',
  'source',
] as const;

/** Findings as rows of a table, worst first as they are, in the columns of {@link AUDIT_COLUMNS}. */
export function auditRows(findings: readonly Finding[]): string[][] {
  return findings.map((f) => [
    ...[f.severity, f.rule, f.message, String(f.places.length), figure(f.measured), figure(f.limit), f.unit],
    ...[f.cost.seconds.toFixed(0), String(f.cost.stitches), f.fix ?? f.advice ?? '', findRule(f.rule).source],
  ]);
}

function figure(value: number): string {
  return Number.isFinite(value) ? String(Math.round(value * 100) / 100) : '';
}

/** The same as a CSV file (RFC 4180) with a head row. */
export function auditCsv(findings: readonly Finding[]): string {
  return `${Papa.unparse([[...AUDIT_COLUMNS], ...auditRows(findings)])}\r\n`;
}
