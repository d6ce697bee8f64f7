import { parentPort } from 'node:worker_threads';
import type { Progress, TaskName } from './protocol.ts';
import { createTasks } from './tasks.ts';

const tasks = createTasks();
const port = parentPort!;

port.on('message', ({ name, request }: { name: TaskName; request: never }) => {
  try {
    const progress = (at: Progress): void => port.postMessage({ progress: at });
    const answer: unknown = tasks[name](request, progress);
    port.postMessage({ answer });
  } catch (error) {
    port.postMessage({ failure: error instanceof Error ? (error.stack ?? error.message) : String(error) });
  }
});
