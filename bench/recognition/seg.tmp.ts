import { readHand } from './handSet.ts';
import { splitIntoStretches } from '../../packages/core/src/model/stretches.ts';
import { cutPieces } from '../../packages/core/src/recognize/cutPieces.ts';
const [name, a, b] = process.argv.slice(2);
const h = readHand(name!, 'work');
const st = splitIntoStretches(h.program);
st.forEach((s, i) => cutPieces(h.program, s, i, { first: i === 0, last: i === st.length - 1 }, ({ strokes, evidence, segments }) => {
  if (strokes.count === 0) return;
  for (const g of segments) {
    const [f, l] = [strokes.first[g.first]!, strokes.last[g.last]!];
    if (l < +a! || f > +b!) continue;
    console.log('SEG', g.label, f, l, 'cost', g.cost.toFixed(2));
    for (let k = g.first; k <= g.last; k++) if (strokes.last[k]! >= +a! && strokes.first[k]! <= +b!) console.log('  ', strokes.first[k], strokes.last[k], 'len', strokes.length[k]!.toFixed(2), 'own', [0, 1, 2].map((l) => evidence.own[k * 3 + l]!.toFixed(2)).join(' '), 'on', [0, 1, 2].map((l) => evidence.onward[k * 3 + l]!.toFixed(2)).join(' '), evidence.isTurn[k] ? 'turn' : '');
  }
}));
