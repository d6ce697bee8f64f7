import { Worker } from 'node:worker_threads';
import type { Answer, Progress, Request, TaskName } from './protocol.ts';

/** A task that takes longer is given up, and its worker with it. Parsing the largest file takes a few seconds. */
const TIME_LIMIT = 60_000;
/** Idle workers are let go after this, so that a server at rest is small. */
const IDLE_LIMIT = 60_000;

interface Task {
  readonly name: TaskName;
  readonly request: unknown;
  readonly resolve: (answer: never) => void;
  readonly reject: (error: Error) => void;
  readonly progress: ((at: Progress) => void) | undefined;
}

interface Seat {
  readonly worker: Worker;
  task: Task | undefined;
  timer: NodeJS.Timeout | undefined;
}

/** The pool was closed before a task was done. */
export class PoolClosed extends Error {}

/** A task was given up. */
export class TookTooLong extends Error {
  readonly seconds: number;

  constructor(seconds: number) {
    super(`not done within ${seconds} s`);
    this.seconds = seconds;
  }
}

/** Runs computations beside the server's own thread, a few at a time, so that one large file does not stop the others. */
export class DesignPool {
  private readonly script: string | URL;
  private readonly size: number;
  private readonly seats: Seat[] = [];
  private readonly queue: Task[] = [];

  /** `script` is the worker's bundle; at most `size` run at once. */
  constructor(script: string | URL, size = 2) {
    this.script = script;
    this.size = size;
  }

  run<K extends TaskName>(name: K, request: Request<K>, progress?: (at: Progress) => void): Promise<Answer<K>> {
    return new Promise<Answer<K>>((resolve, reject) => {
      this.queue.push({ name, request, resolve, reject, progress });
      this.next();
    });
  }

  /** Ends the workers; what they were asked is given up. */
  async close(): Promise<void> {
    for (const task of [...this.queue.splice(0), ...this.seats.flatMap((seat) => seat.task ?? [])]) task.reject(new PoolClosed());
    await Promise.all(this.seats.map((seat) => seat.worker.terminate()));
  }

  private next(): void {
    if (this.queue.length === 0) return;
    const seat = this.seats.find((s) => s.task === undefined) ?? (this.seats.length < this.size ? this.addSeat() : undefined);
    if (seat === undefined) return;
    const task = this.queue.shift()!;
    clearTimeout(seat.timer);
    seat.task = task;
    seat.timer = setTimeout(() => {
      task.reject(new TookTooLong(TIME_LIMIT / 1000));
      this.drop(seat);
    }, TIME_LIMIT);
    seat.worker.postMessage({ name: task.name, request: task.request });
  }

  private addSeat(): Seat {
    const worker = new Worker(this.script);
    const seat: Seat = { worker, task: undefined, timer: undefined };
    worker.on('message', (message: { answer?: never; failure?: string; progress?: Progress }) => {
      const task = seat.task;
      if (message.progress !== undefined) {
        task?.progress?.(message.progress);
        return;
      }
      clearTimeout(seat.timer);
      seat.task = undefined;
      seat.timer = setTimeout(() => this.drop(seat), IDLE_LIMIT).unref();
      if (message.failure !== undefined) task?.reject(new Error(message.failure));
      else task?.resolve(message.answer as never);
      this.next();
    });
    worker.on('error', (error) => {
      seat.task?.reject(error instanceof Error ? error : new Error(String(error)));
      this.drop(seat);
    });
    this.seats.push(seat);
    return seat;
  }

  private drop(seat: Seat): void {
    clearTimeout(seat.timer);
    const at = this.seats.indexOf(seat);
    if (at >= 0) this.seats.splice(at, 1);
    void seat.worker.terminate();
    this.next();
  }
}
