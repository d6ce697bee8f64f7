// Runs processes beside each other, so many at once, in the order that ends soonest.
import { spawn } from 'node:child_process';

/**
 * A process to run: `node ARGS`.
 * @typedef {{ name: string, args: string[], env?: Record<string, string>, seconds: number, after?: string[] }} Item
 * `seconds`: how long it takes about; `after`: names of items that have to end well before it begins.
 * @typedef {{ isGood: boolean, seconds: number, output: string }} Outcome  `output`: what it wrote, both streams as they came.
 */

/**
 * Runs all items, `width` at a time: of those that may begin the one with the longest way to the end of what waits for it.
 * `done` hears of each as it ends; an item whose precondition failed is not run, and fails.
 * @param {Item[]} items
 * @param {number} width
 * @param {(item: Item, outcome: Outcome) => void} done
 */
export async function runQueue(items, width, done) {
  const waiting = new Map(items.map((item) => [item.name, item]));
  const ended = new Map();
  const running = new Map();
  const wayOf = (item) => item.seconds + Math.max(0, ...items.filter(({ after = [] }) => after.includes(item.name)).map(wayOf));
  const end = (item, outcome) => {
    waiting.delete(item.name);
    ended.set(item.name, outcome.isGood);
    done(item, outcome);
  };
  while (waiting.size > 0 || running.size > 0) {
    for (const item of [...waiting.values()])
      if (item.after?.some((name) => ended.get(name) === false))
        end(item, { isGood: false, seconds: 0, output: `not run: ${item.after.join(', ')} failed` });
    const ready = [...waiting.values()].filter(({ after = [] }) => after.every((name) => ended.get(name)));
    ready.sort((a, b) => wayOf(b) - wayOf(a));
    for (const item of ready.slice(0, width - running.size)) {
      waiting.delete(item.name);
      running.set(
        item.name,
        runItem(item).then((outcome) => {
          running.delete(item.name);
          end(item, outcome);
        }),
      );
    }
    if (running.size > 0) await Promise.race(running.values());
    else if (waiting.size > 0 && ready.length === 0) throw new Error(`nothing can begin of: ${[...waiting.keys()].join(', ')}`);
  }
}

/** Runs one, to its end. */
async function runItem({ args, env }) {
  const begun = performance.now();
  const child = spawn(process.execPath, args, { stdio: ['ignore', 'pipe', 'pipe'], env: { ...process.env, ...env } });
  let output = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (data) => (output += data));
  const status = await new Promise((resolve) => child.once('close', resolve));
  return { isGood: status === 0, seconds: (performance.now() - begun) / 1000, output: output.trimEnd() };
}
