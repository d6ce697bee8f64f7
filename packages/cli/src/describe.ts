import { type Figures, type Finding, type StitchObject, sayCount } from '@isola/core';

/** A program's figures as a few lines of text. */
export function describeFigures(figures: Figures): string {
  const { extents, run } = figures;
  const rows: [string, string][] = [
    ['stitches', sayCount(figures.stitches)],
    ['size', `${extents.width.toFixed(1)} × ${extents.height.toFixed(1)} mm`],
    ['colors', `${figures.colors.length}, changed ${figures.colorChanges} times`],
    ['jumps', String(figures.jumps)],
    ['trims', String(figures.trims)],
    ['stops', String(figures.stops)],
    ['longest', `${figures.longestStitch.toFixed(2)} mm`],
    ['thread', `${figures.threadM.toFixed(1)} m, bobbin ${figures.bobbinM.toFixed(1)} m`],
    [
      'run',
      `${asMinutes(run.seconds)}: sewing ${asMinutes(run.sewing)}, trims ${asMinutes(run.trims)}, jumps ${asMinutes(run.jumps)}, colors ${asMinutes(run.colorChanges)}, stops ${asMinutes(run.stops)}`,
    ],
    ['equal to', `${sayCount(run.equivalentStitches)} stitches at top speed`],
  ];
  const colors = figures.colors.map(
    (c) => `  ${c.color}  ${c.name || '(no name)'}: ${sayCount(c.stitches)} stitches, ${c.threadM.toFixed(1)} m`,
  );
  return `${rows.map(([name, value]) => `${name.padEnd(10)}${value}`).join('\n')}\n${colors.join('\n')}\nTimes and lengths are estimates: sew a sample on the real cloth before a run.\n`;
}

/** Findings as text, one paragraph each, worst first as they come. */
export function describeFindings(findings: readonly Finding[]): string {
  if (findings.length === 0) return 'No findings.\n';
  return findings
    .map((f) => {
      const price =
        f.cost.seconds === 0 && f.cost.stitches === 0 ? '' : `  saves ${f.cost.seconds.toFixed(1)} s, ${f.cost.stitches} stitches\n`;
      return `${f.severity.toUpperCase().padEnd(5)} ${f.message}  [${f.rule}]\n  at ${f.at.x.toFixed(1)}, ${f.at.y.toFixed(1)} mm, rows ${f.first} to ${f.last}\n  ${f.reason}\n${price}  → ${f.fix ?? f.advice ?? ''}\n`;
    })
    .join('\n');
}

/** Objects as text, a line each in sewing order; ties, of which there are many, are only counted. */
export function describeObjects(objects: readonly StitchObject[]): string {
  const ties = objects.filter((o) => o.role === 'tie').length;
  const lines = objects
    .filter((o) => o.role !== 'tie')
    .map((o) => {
      const facts = [
        o.spacing === undefined ? '' : `${o.spacing.toFixed(2)} mm`,
        o.angle === undefined || o.kind !== 'fill' ? '' : `at ${o.angle.toFixed(0)}°`,
        o.width === undefined ? '' : `${o.width.mean.toFixed(1)} mm wide`,
        `stitch ${o.stitchLength.toFixed(1)}`,
        o.passes !== undefined && o.passes > 1 ? `${o.passes} passes` : '',
        o.underlay.length === 0 ? '' : `on ${o.underlay.map((u) => u.kind.replace('-', ' ')).join(' then ')}`,
        `${sayCount(o.stitches)} stitches`,
        `${(100 * o.confidence).toFixed(0)} %`,
      ];
      return `${o.id.padEnd(6)}${o.color}  ${o.name}: ${facts.filter((f) => f !== '').join(', ')}  [rows ${o.first} to ${o.last}]`;
    });
  return `${lines.join('\n')}\n${ties} ties besides.\n`;
}

function asMinutes(seconds: number): string {
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}
