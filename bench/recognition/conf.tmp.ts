import { handSet } from './handSet.ts';
import { scoreHands } from './handScore.ts';
const s = scoreHands(handSet('work'));
const rows = s.found.map((f) => ({ k: f.object.pattern ?? f.object.kind, c: f.object.confidence, n: f.object.stitches, r: f.isRight, u: f.object.underlay.length, sp: f.object.spans.length }));
const by = (name: string, key: (r: (typeof rows)[number]) => string) => {
  const m = new Map<string, [number, number]>();
  for (const r of rows) { const k = key(r); const v = m.get(k) ?? [0, 0]; v[0]++; if (r.r) v[1]++; m.set(k, v); }
  console.log(name, [...m].sort().map(([k, [a, b]]) => `${k}: ${a} ${((100 * b) / a).toFixed(0)}%`).join('  '));
};
by('kind', (r) => r.k);
for (const k of ['fill', 'satin', 'run', 'edge-stitch']) {
  by(k + ' size', (r) => (r.k === k ? String(r.n < 6 ? 'a<6' : r.n < 10 ? 'b<10' : r.n < 16 ? 'c<16' : r.n < 30 ? 'd<30' : r.n < 60 ? 'e<60' : 'f') : 'z'));
  by(k + ' conf', (r) => (r.k === k ? (Math.floor(r.c * 20) / 20).toFixed(2) : 'z'));
}
