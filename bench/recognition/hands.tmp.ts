import { handSet, type HandPart } from './handSet.ts';
import { scoreHands, sayHands, sayMissed } from './handScore.ts';
const [part, detail] = process.argv.slice(2);
const score = scoreHands(handSet((part ?? 'work') as HandPart));
console.log(sayHands(score).join('\n'));
if (detail === 'misses' && part === 'work') console.log(sayMissed(score).join('\n'));
