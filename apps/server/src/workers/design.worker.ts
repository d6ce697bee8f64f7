import type { Progress, TaskName } from './protocol.ts';
import { createTasks } from './tasks.ts';

const tasks = createTasks();
/** What nobody hears any more, since the server is gone, is no fault. */
const say = (message: object): void => void process.send?.(message, undefined, undefined, () => undefined);

process.on('message', ({ name, request }: { name: TaskName; request: never }) => {
  try {
    const answer: unknown = tasks[name](request, (progress: Progress) => say({ progress }));
    say({ answer });
  } catch (error) {
    say({ failure: error instanceof Error ? (error.stack ?? error.message) : String(error) });
  }
});
// Without the server there is nobody to answer.
process.on('disconnect', () => process.exit(0));
