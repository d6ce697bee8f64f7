import { readFileSync } from 'node:fs';
import {
  adaptThread,
  applyOperation,
  countProgram,
  type Design,
  drawShapes,
  type Finding,
  proposeOpening,
  proposeOrder,
  readShapeAsk,
  readStitchFile,
  regroupApplique,
  repairFindings,
  runClock,
  sewSpecs,
  startDesign,
  THREADS,
} from '@isola/core';
import { DEMO_JOBS } from '../demo/jobs.ts';

// Nine repairs that take somebody 5 to 23 minutes by hand: what they come to, how long they take to work out, and how many actions they ask for.

/** What somebody needs for one action, s: to find it, to read what it will do, to accept it. From memory. */
const SECONDS_AN_ACTION = 20;
/** By hand no repair of these takes less or more, minutes. Common practice. */
const LIMIT = 3;

type Operations = readonly object[];

function applied(design: Design, operations: Operations): Design {
  const next = applyOperation(design, { id: 'sequence', operations: operations as never });
  if (!next.ok) throw new Error(next.error);
  return next.value;
}

const mended =
  (...rules: string[]) =>
  (design: Design): Design =>
    repairFindings(design, ({ rule }: Finding) => rules.includes(rule)).design;

let ids = 0;
function drawn(design: Design, name: 'border' | 'nap', ask: Readonly<Record<string, unknown>>): Design {
  const read = readShapeAsk(name, ask);
  const made = read.ok ? drawShapes(design, read.value, () => `${name}-${++ids}`) : read;
  if (!made.ok) throw new Error(made.error);
  return made.value.design;
}

interface Mending {
  readonly what: string;
  readonly file: string;
  /** Actions in the interface: opening the tool, each choice, accepting. */
  readonly actions: number;
  readonly mend: (design: Design) => Design;
}

const REPAIRS: readonly Mending[] = [
  { what: 'cuts between dots walked under later cover', file: 'heron', actions: 2, mend: mended('needless-trim') },
  {
    ...{ what: 'a heavy back opened to 60 % of its stitches', file: 'chainring', actions: 4 },
    mend(design) {
      const { steps } = proposeOpening(design, 0.6 * countProgram(design.program).stitches);
      return applied(
        design,
        sewSpecs(
          design,
          steps.map(({ edit }) => edit),
        ).operations,
      );
    },
  },
  {
    ...{ what: 'adapted to a thread a weight thicker', file: 'heron', actions: 4 },
    mend(design) {
      const thread = THREADS.find(({ weight }) => weight === 30)!;
      return applied(design, sewSpecs(design, adaptThread(design, thread, 'thickness').edits).operations);
    },
  },
  { what: 'underlay as the cloth wants it, everywhere', file: 'birch', actions: 2, mend: mended('no-underlay', 'wrong-underlay') },
  { what: 'wide columns split', file: 'birch', actions: 2, mend: mended('wide-satin', 'satin-should-be-fill') },
  { what: 'narrow fills made satins', file: 'kettle', actions: 2, mend: mended('fill-should-be-satin') },
  {
    ...{ what: 'applique by step in place of piece by piece', file: 'pears', actions: 2 },
    mend(design) {
      const regrouped = regroupApplique(design);
      if (!regrouped.ok) throw new Error(regrouped.error);
      return applied(design, regrouped.value.operations);
    },
  },
  { what: 'copies in a hoop by color in place of one by one', file: 'fobs', actions: 3, mend: (design) => proposeOrder(design).design },
  {
    ...{ what: 'a layer that holds the pile, and a border around it', file: 'lantern', actions: 7 },
    mend: (design) => drawn(drawn(design, 'nap', {}), 'border', { distance: 3, width: 2 }),
  },
];

const say = (a: number, b: number, digits = 0): string => `${a.toFixed(digits)} → ${b.toFixed(digits)}`;

console.table(
  REPAIRS.map(({ what, file, actions, mend }) => {
    const job = DEMO_JOBS.find((one) => one.file === file)!;
    const read = readStitchFile(readFileSync(`demo/${file}.csv`));
    if (!read.ok) throw new Error(read.error.message);
    const design = startDesign(read.value.program, job.target);
    const start = performance.now();
    const { program } = mend(design);
    const seconds = (performance.now() - start) / 1000;
    const [before, after] = [countProgram(design.program), countProgram(program)];
    const minutes = (of: Design['program']): number => runClock(of, design.target.machine).totals.seconds / 60;
    const whole = (seconds + actions * SECONDS_AN_ACTION) / 60;
    return {
      repair: `${what} (${file})`,
      stitches: say(before.stitches, after.stitches),
      trims: say(before.trims, after.trims),
      'color changes': say(before.colorChanges, after.colorChanges),
      'a piece, min': say(minutes(design.program), minutes(program), 1),
      'worked out in s': seconds.toFixed(1),
      actions,
      'minutes with both': whole.toFixed(1),
      [`under ${LIMIT}`]: whole < LIMIT ? 'yes' : 'no',
    };
  }),
);
