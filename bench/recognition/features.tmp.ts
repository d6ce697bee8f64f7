import { handSet } from './handSet.ts';
import { stitchSet } from './stitchSet.ts';
import { splitIntoStretches } from '../../packages/core/src/model/stretches.ts';
import { cutPieces } from '../../packages/core/src/recognize/cutPieces.ts';
import { weighFillRows } from '../../packages/core/src/recognize/fillOrSatin.ts';
const out: { t: string; e: number; kind: string; set: string; n: number }[] = [];
function run(set: string, name: string, program: any, objects: any[]) {
  const stretches = splitIntoStretches(program);
  const pieces = stretches.flatMap((s, i) => cutPieces(program, s, i, { first: i === 0, last: i === stretches.length - 1 }));
  for (const p of pieces) {
    const rows = p.rows;
    if (!rows || (p.measured.kind !== 'fill' && p.measured.kind !== 'satin')) continue;
    const mid = (p.first + p.last) / 2;
    const o = objects.find((o) => (o.role ?? 'cover') === 'cover' && o.first <= mid && mid <= o.last);
    if (!o || o.pattern || rows.count < 8) continue;
    const e = weighFillRows(program, rows);
    out.push({ t: `${set} ${name} ${p.first}-${p.last} ${o.kind}${o.kindAny ? '*' : ''} ${o.join ?? ''} n ${rows.count} found ${p.measured.kind}`, e, kind: o.kind, set, n: rows.count });
  }
}
for (const h of handSet('work')) run('hand', h.name, h.program, h.objects as any[]);
for (const s of stitchSet(6, 'tune')) run('own', s.name, s.program, s.objects as any[]);
const bins = [-99, -3, -2, -1, -0.5, 0, 0.5, 1, 2, 3, 99];
for (const set of ['hand', 'own']) for (let b = 0; b + 1 < bins.length; b++) {
  const g = out.filter((o) => o.set === set && o.e >= bins[b]! && o.e < bins[b + 1]!);
  console.log(set, bins[b], bins[b + 1], 'fill', g.filter((o) => o.kind === 'fill').length, 'satin', g.filter((o) => o.kind === 'satin').length, 'run', g.filter((o) => o.kind === 'run').length);
}
console.log(out.filter((o) => o.kind === 'satin' && o.e > -0.5).map((o) => `${o.e.toFixed(2)} ${o.t}`).slice(0, 40).join('\n'));
console.log(out.filter((o) => o.kind === 'fill' && o.e < 0 && o.n > 25).map((o) => `${o.e.toFixed(2)} ${o.t}`).slice(0, 40).join('\n'));
