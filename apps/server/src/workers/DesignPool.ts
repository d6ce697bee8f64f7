import { type ChildProcess, fork } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { constants, setPriority } from 'node:os';
import { Busy, GivenUp, PoolClosed, TookTooLong, TookTooMuch, WorkerDied } from './poolErrors.ts';
import type { Answer, Progress, Request, TaskName } from './protocol.ts';

/** Work of one kind waits for its own and never for that of another: an edit does not stand behind large files. */
interface Lane {
  /** Processes that run at once. */
  readonly size: number;
  /** Tasks that wait at most; more are turned away. */
  readonly longest: number;
  /** What a process may have in memory, MB. */
  readonly memory: number;
  /** A task that takes longer (ms) is given up, and its process with it. */
  readonly timeLimit: number;
  /** Whether it gives way to other processes of the machine. */
  readonly isPatient: boolean;
}

export const LANES = {
  // Parsing the largest file takes a few seconds.
  edits: { size: 1, longest: 200, memory: 600, timeLimit: 60_000, isPatient: false },
  files: { size: 1, longest: 12, memory: 700, timeLimit: 60_000, isPatient: true },
  audits: { size: 1, longest: 12, memory: 700, timeLimit: 45_000, isPatient: true },
} as const satisfies Record<string, Lane>;
type LaneName = keyof typeof LANES;

const LANE_OF: Readonly<Record<TaskName, LaneName>> = {
  ...{ read: 'files', adopt: 'files', convert: 'files' },
  ...{ derive: 'edits', count: 'edits', objects: 'edits', snapshot: 'edits', write: 'edits' },
  ...{ judge: 'files', check: 'files', plant: 'files', practise: 'files' },
  report: 'files',
  sheet: 'files',
  audit: 'audits',
};

/** Idle processes are let go after this, so that a server at rest is small. */
const IDLE_LIMIT = 60_000;
/** So often (ms) it is looked how much memory a process that works has. */
const LOOK_EVERY = 250;
/** Who is turned away may come again after so many seconds. */
const COME_AGAIN = 3;

interface Task {
  readonly name: TaskName;
  readonly request: unknown;
  /** Bytes of the file that it is about, or none: what weighs less is done first. */
  readonly weight: number;
  readonly resolve: (answer: never) => void;
  readonly reject: (error: Error) => void;
  readonly progress: ((at: Progress) => void) | undefined;
}

export interface RunOptions {
  readonly progress?: ((at: Progress) => void) | undefined;
  /** Gives the task up: nobody waits for it any more. */
  readonly signal?: AbortSignal | undefined;
}

interface Seat {
  readonly child: ChildProcess;
  readonly lane: LaneName;
  task: Task | undefined;
  /** Ends what takes too long or too much, or an idle process. */
  timers: NodeJS.Timeout[];
}

/** Runs computations in processes of their own, each with a limit of memory and time, so that no file can end the server or hold up the others. */
export class DesignPool {
  private readonly script: string;
  private readonly lanes: Readonly<Record<LaneName, Lane>>;
  private readonly seats: Seat[] = [];
  private readonly queues: Readonly<Record<LaneName, Task[]>> = { edits: [], files: [], audits: [] };
  private isClosed = false;

  /** `script` is the worker's bundle. */
  constructor(script: string, lanes: Readonly<Record<LaneName, Lane>> = LANES) {
    this.script = script;
    this.lanes = lanes;
  }

  /** Tasks that wait and processes that there are, by lane, for who looks after the server. */
  get state(): Readonly<Record<LaneName, { readonly waiting: number; readonly processes: number }>> {
    const of = (lane: LaneName) => ({
      waiting: this.queues[lane].length,
      processes: this.seats.filter((seat) => seat.lane === lane).length,
    });
    return { edits: of('edits'), files: of('files'), audits: of('audits') };
  }

  run<K extends TaskName>(name: K, request: Request<K>, { progress, signal }: RunOptions = {}): Promise<Answer<K>> {
    const lane = LANE_OF[name];
    const queue = this.queues[lane];
    if (this.isClosed) return Promise.reject(new PoolClosed());
    if (signal?.aborted === true) return Promise.reject(new GivenUp());
    if (queue.length >= this.lanes[lane].longest) return Promise.reject(new Busy(COME_AGAIN));
    return new Promise<Answer<K>>((resolve, reject) => {
      const task: Task = { name, request, weight: weightOf(name, request), resolve, reject, progress };
      signal?.addEventListener('abort', () => this.giveUp(lane, task), { once: true });
      queue.push(task);
      this.next(lane);
    });
  }

  /** Takes a task out of those that wait, or ends the process that works on it. One that is done by now is not found. */
  private giveUp(lane: LaneName, task: Task): void {
    const at = this.queues[lane].indexOf(task);
    const seat = this.seats.find((s) => s.task === task);
    if (at >= 0) this.queues[lane].splice(at, 1);
    if (at >= 0 || seat !== undefined) task.reject(new GivenUp());
    if (seat !== undefined) this.drop(seat);
  }

  /** Ends the processes; what they were asked is given up. */
  async close(): Promise<void> {
    this.isClosed = true;
    const waiting = Object.values(this.queues).flatMap((queue) => queue.splice(0));
    for (const task of [...waiting, ...this.seats.flatMap((seat) => seat.task ?? [])]) task.reject(new PoolClosed());
    await Promise.all(this.seats.splice(0).map((seat) => end(seat)));
  }

  private next(lane: LaneName): void {
    if (this.isClosed || this.queues[lane].length === 0) return;
    const mine = this.seats.filter((seat) => seat.lane === lane);
    const { timeLimit } = this.lanes[lane];
    const seat = mine.find((s) => s.task === undefined) ?? (mine.length < this.lanes[lane].size ? this.addSeat(lane) : undefined);
    if (seat === undefined) return;
    // Small files do not stand behind large ones.
    const queue = this.queues[lane];
    const least = Math.min(...queue.map((waiting) => waiting.weight));
    const [task] = queue.splice(
      queue.findIndex((waiting) => waiting.weight === least),
      1,
    ) as [Task];
    stopTimers(seat);
    seat.task = task;
    const giveUp = (error: Error): void => {
      task.reject(error);
      this.drop(seat);
    };
    seat.timers = [
      setTimeout(() => giveUp(new TookTooLong(timeLimit / 1000)), timeLimit),
      setInterval(() => {
        if (megabytesOf(seat.child) > this.lanes[lane].memory) giveUp(new TookTooMuch(this.lanes[lane].memory));
      }, LOOK_EVERY),
    ];
    seat.child.send({ name: task.name, request: task.request });
  }

  private addSeat(lane: LaneName): Seat {
    const { memory, isPatient } = this.lanes[lane];
    const child = fork(this.script, [], { serialization: 'advanced', execArgv: [`--max-old-space-size=${memory}`] });
    if (isPatient && child.pid !== undefined) giveWay(child.pid);
    const seat: Seat = { child, lane, task: undefined, timers: [] };
    child.on('message', (message: { answer?: never; failure?: string; progress?: Progress }) => {
      const { task } = seat;
      if (message.progress !== undefined) return task?.progress?.(message.progress);
      stopTimers(seat);
      seat.task = undefined;
      seat.timers = [setTimeout(() => this.drop(seat), IDLE_LIMIT).unref()];
      if (message.failure !== undefined) task?.reject(new Error(message.failure));
      else task?.resolve(message.answer as never);
      this.next(lane);
    });
    const die = (): void => {
      seat.task?.reject(new WorkerDied());
      this.drop(seat);
    };
    child.once('exit', die);
    child.once('error', die);
    this.seats.push(seat);
    return seat;
  }

  private drop(seat: Seat): void {
    const at = this.seats.indexOf(seat);
    if (at < 0) return;
    this.seats.splice(at, 1);
    void end(seat);
    this.next(seat.lane);
  }
}

/** Nobody waits for findings that are counted. */
const weightOf = (name: TaskName, request: object): number =>
  'bytes' in request ? (request.bytes as Uint8Array).length : name === 'count' ? 1 : 0;

async function end(seat: Seat): Promise<void> {
  stopTimers(seat);
  const { child } = seat;
  if (child.exitCode !== null || child.signalCode !== null || child.pid === undefined) return;
  const gone = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGKILL');
  await gone;
}

function stopTimers(seat: Seat): void {
  seat.timers.forEach((timer) => clearTimeout(timer));
  seat.timers = [];
}

/** What a process has in memory, MB; 0 where the system does not say it in /proc. */
function megabytesOf({ pid }: ChildProcess): number {
  try {
    return (Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * 4096) / 1048576;
  } catch {
    return 0;
  }
}

function giveWay(pid: number): void {
  try {
    setPriority(pid, constants.priority.PRIORITY_BELOW_NORMAL);
  } catch {
    // A system that does not let it is slower while large files are read, and nothing else.
  }
}
