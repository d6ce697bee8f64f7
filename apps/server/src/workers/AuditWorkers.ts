import { type ChildProcess, fork } from 'node:child_process';

/** A worker that ended by itself is started again after this, ms. */
const REST = 2000;

/** The workers of audits that a server keeps beside it: each a process, started again when it ends. */
export class AuditWorkers {
  private readonly script: string;
  private readonly children = new Set<ChildProcess>();
  private isClosed = false;

  /** `script` is the worker's bundle. */
  constructor(script: string, count: number) {
    this.script = script;
    for (let k = 0; k < count; k++) this.start();
  }

  private start(): void {
    if (this.isClosed) return;
    const child = fork(this.script, []);
    this.children.add(child);
    child.once('exit', () => {
      this.children.delete(child);
      setTimeout(() => this.start(), REST).unref();
    });
  }

  /** Ends them; the files that they have in hand wait for the next. */
  async close(): Promise<void> {
    this.isClosed = true;
    await Promise.all(
      [...this.children].map(async (child) => {
        const gone = new Promise((resolve) => child.once('exit', resolve));
        child.kill('SIGTERM');
        await gone;
      }),
    );
  }
}
