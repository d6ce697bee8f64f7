import { handSet } from './handSet.ts';
import { recognizeProgram } from '@isola/core';
const [name, from, to] = process.argv.slice(2);
const h = [...handSet('work')].find((p) => p.name.startsWith(name!))!;
const r = recognizeProgram(h.program);
for (const o of r.objects) if (o.last >= +from! && o.first <= +to!) console.log('found', o.id, o.role, o.layer ?? '', o.kind, o.pattern ?? '', o.first, o.last, 'sp', o.spacing?.toFixed(2), 'an', o.angle?.toFixed(0), 'parent', o.parent, 'conf', o.confidence.toFixed(2), o.passes ?? '');
for (const o of h.objects as any[]) if (o.last >= +from! && (o.span?.[0] ?? o.first) <= +to!) { console.log('TRUE', o.role, o.kind, o.first, o.last, JSON.stringify(o.underlay)); }
