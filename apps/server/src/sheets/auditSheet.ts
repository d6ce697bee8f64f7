import type { JobSummary } from '@isola/contract';
import { findRule, type Verdict } from '@isola/core';
import type { JudgedDesign } from '../workers/protocol.ts';
import { Sheet } from '@isola/sheets';

const minutes = (seconds: number): string => `${Math.floor(seconds / 60)}:${String(Math.round(seconds % 60)).padStart(2, '0')}`;
const tidy = (value: number): string => (Number.isFinite(value) ? String(Math.round(value * 100) / 100) : 'none');

/** The audit of a job to print: what it is sewn on, its figures, every open finding with its repair, and what was kept and why. */
export async function auditSheet(
  job: Pick<JobSummary, 'name' | 'customer' | 'fileName' | 'version'>,
  judged: JudgedDesign,
): Promise<Buffer> {
  const { target, figures, findings, kept, verdict } = judged;
  const { extents, run } = figures;
  const sheet = new Sheet(`Audit of ${job.name}`).title(job.name);
  sheet.text(`Audit of ${job.fileName}${job.customer === '' ? '' : ` for ${job.customer}`}, after step ${job.version}`, true);
  sheet.facts([
    ['Sewn on', `${target.fabric.name}, ${target.garment?.name ?? 'no place chosen'}, hoop ${target.hoop.name}`],
    ['With', `${target.thread.name}, needle ${target.thread.needle}, on ${target.machine.name}`],
    ['Under and over it', `${target.fabric.stabilizer}${target.fabric.topping === '' ? '' : `, ${target.fabric.topping} topping`}`],
    ['Size', `${extents.width.toFixed(1)} × ${extents.height.toFixed(1)} mm, ${figures.colors.length} threads`],
    [
      'One piece',
      `${figures.stitches} stitches, ${figures.trims} trims, ${figures.colorChanges} color changes, ${minutes(run.seconds)} (an estimate)`,
    ],
    ['Verdict', sayVerdict(verdict)],
  ]);
  sheet.heading(
    findings.length === 0 ? 'Nothing is found' : `${findings.length === 1 ? '1 finding' : `${findings.length} findings`}, worst first`,
  );
  findings.forEach((finding, k) => {
    const { severity, message, reason, measured, limit, unit, cost, places, fix, advice, rule } = finding;
    const price =
      cost.seconds === 0 && cost.stitches === 0
        ? ''
        : ` Costs ${minutes(Math.abs(cost.seconds))} and ${Math.abs(cost.stitches)} stitches a piece.`;
    const where = places.length > 1 ? `${places.length} places, the worst at` : 'At';
    sheet.entry(`${k + 1}  ${severity}`, message, [
      reason,
      `Measured ${tidy(measured)} ${unit}, limit ${tidy(limit)} ${unit} (${findRule(rule).source}). ${where} ${finding.at.x.toFixed(1)}, ${finding.at.y.toFixed(1)} mm.${price}`,
      `Repair: ${fix ?? advice ?? 'by hand'}.`,
    ]);
  });
  const reasons = new Map<string, { title: string; reason: string; count: number }>();
  for (const { title, reason } of Object.values(kept)) {
    const known = reasons.get(`${title}\n${reason}`);
    reasons.set(`${title}\n${reason}`, { title, reason, count: (known?.count ?? 0) + 1 });
  }
  if (reasons.size > 0) {
    sheet.heading('Kept as it is');
    for (const { title, reason, count } of reasons.values())
      sheet.entry('kept', title, [`${reason}${count > 1 ? `, at ${count} places` : ''}`]);
  }
  return sheet.finish('Times and lengths are estimates: sew a sample on the real cloth before a run. Isola');
}

function sayVerdict({ choice, repairMinutes, anewMinutes, reasons }: Verdict): string {
  const anew = Number.isFinite(anewMinutes) ? `, digitizing anew about ${anewMinutes.toFixed(0)}` : '';
  const why = reasons.length === 0 ? '' : `: ${reasons.join('; ')}`;
  return `${choice === 'repair' ? 'repair it' : 'better digitized anew'}, repairs take about ${repairMinutes.toFixed(0)} minutes${anew}${why}`;
}
