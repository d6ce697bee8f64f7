import { sayHands, sayMissed, scoreHands } from './handScore.ts';
import { handSet } from './handSet.ts';
import { sayPatterns, scorePatterns } from './patternScore.ts';
import { patternSet } from './patternSet.ts';
import { type Match, scoreProgram, summarize } from './score.ts';
import { readArguments } from './shapes.ts';
import { stitchSet } from './stitchSet.ts';

// How well recognition finds again what was drawn: `npm run score` reports on the shapes set aside, `npm run score -- tune` on the others,
// `-- more` on further ones, `-- tune misses` with what was missed there.
const { part, namesMisses } = readArguments(process.argv.slice(2));

// Programs of other hands come in two parts: one to work on, and one kept for reports.
const hands = part === 'more' ? undefined : scoreHands(handSet(part === 'tune' ? 'work' : 'kept'));

const matches = stitchSet(6, part).flatMap(scoreProgram);
const percent = (v: number): string => `${(100 * v).toFixed(1)} %`;
const line = (name: string, list: readonly Match[]): void => {
  const s = summarize(list);
  console.log(
    [
      name.padEnd(12),
      String(s.objects).padStart(5),
      percent(s.right).padStart(8),
      `${percent(s.spacingMedian)} / ${percent(s.spacing90)}`.padStart(17),
      `${s.angleMedian.toFixed(2)}° / ${s.angle90.toFixed(2)}°`.padStart(16),
      `${s.outlineMedian.toFixed(3)} / ${s.outline10.toFixed(3)}`.padStart(15),
      `${percent(s.layersFound)} of ${s.layers}`.padStart(18),
    ].join('  '),
  );
};
console.log(`shapes: ${part}`);
console.log('kind         count     right   pitch off 50/90   angle off 50/90  outline 50/10      layers found');
line('all', matches);
for (const kind of ['fill', 'satin', 'run'] as const)
  line(
    kind,
    matches.filter((m) => m.drawn.kind === kind),
  );

const patterns = patternSet(3, part).flatMap(scorePatterns);
console.log('\npattern                 right   pitch off  layers found');
for (const said of sayPatterns(patterns)) console.log(said);
const plain = matches.filter((m) => m.found?.pattern !== undefined);
console.log(`${plain.length} of ${matches.length} others are taken for a pattern`);

if (hands !== undefined) console.log(`\n${sayHands(hands).join('\n')}`);

if (namesMisses) {
  if (hands !== undefined) console.log(sayMissed(hands).join('\n'));
  for (const m of matches) {
    const lost = m.layers.filter((l) => !l.isFound).map((l) => l.kind);
    if (m.isRight && lost.length === 0) continue;
    const f = m.found;
    console.log(
      `${m.program}: ${m.drawn.kind} ${m.drawn.first}–${m.drawn.last} pitch ${m.drawn.spacing?.toFixed(2)} angle ${m.drawn.angle?.toFixed(0)}`,
      m.isRight
        ? 'right'
        : `found ${f?.kind} ${f?.first}–${f?.last} (${m.overlap.toFixed(2)}) pitch ${f?.spacing?.toFixed(2)} angle ${f?.angle?.toFixed(0)}`,
      lost.length > 0 ? `lost ${lost.join(', ')}` : '',
    );
  }
  for (const { program, name, isRight, found, layers } of patterns) {
    const lost = layers.filter((l) => !l.isFound).map((l) => l.kind);
    if (!isRight || lost.length > 0) console.log(`${program}: ${name} is ${found}`, lost.length > 0 ? `lost ${lost.join(', ')}` : '');
  }
}
