import { type Remote, transfer, wrap } from 'comlink';
import type { ClothWorkerApi } from './clothProtocol.ts';
import type { EngineWorkerApi } from './protocol.ts';

let cloth: Remote<ClothWorkerApi> | undefined;

/** The drawing worker, one for the whole application, started when first asked for. */
export function clothWorker(): Remote<ClothWorkerApi> {
  cloth ??= wrap<ClothWorkerApi>(new Worker(new URL('./cloth.worker.ts', import.meta.url), { type: 'module' }));
  return cloth;
}

/** A worker and the only remote of it: that one is let go ends its hearing. */
interface Engine {
  readonly worker: Worker;
  readonly remote: Remote<EngineWorkerApi>;
}

let spare: Engine | undefined;

function newEngine(): Engine {
  const worker = new Worker(new URL('./engine.worker.ts', import.meta.url), { type: 'module' });
  return { worker, remote: wrap<EngineWorkerApi>(worker) };
}

/** Has workers at hand with their code loaded and run, for the job that is opened next. */
export function prepareWorkers(): void {
  clothWorker();
  if (spare !== undefined) return;
  spare = newEngine();
  void spare.remote.rehearse();
}

/**
 * A worker that computes for one job, with a way of its own to the drawing worker; `stop` ends it with all it holds. Should it die, what it was
 * asked is rejected and `onDeath` hears why.
 */
export function startEngine(onDeath: (error: Error) => void): { engine: Remote<EngineWorkerApi>; stop: () => void } {
  const { worker, remote } = spare ?? newEngine();
  spare = undefined;
  const engine = failLoudly(remote, worker, onDeath);
  const { port1, port2 } = new MessageChannel();
  // Who asks it for something hears of its death; this is answered to nobody.
  engine.connect(transfer(port1, [port1])).catch(() => undefined);
  void clothWorker().serve(transfer(port2, [port2]));
  return { engine, stop: () => worker.terminate() };
}

/** A remote whose calls are rejected when its worker dies: by itself it would leave them unanswered. */
function failLoudly<T extends object>(remote: T, worker: Worker, onDeath: (error: Error) => void): T {
  const died = new Promise<never>((_, reject) => {
    const end = (event: Event): void => {
      event.preventDefault();
      const error = new Error(event instanceof ErrorEvent && event.message !== '' ? event.message : 'a worker stopped');
      worker.terminate();
      reject(error);
      onDeath(error);
    };
    worker.addEventListener('error', end);
    worker.addEventListener('messageerror', end);
  });
  died.catch(() => undefined);
  return new Proxy(remote, {
    get(target, name) {
      const call = Reflect.get(target, name) as (...args: unknown[]) => Promise<unknown>;
      return (...args: unknown[]) => Promise.race([call(...args), died]);
    },
  });
}

let programs = 0;

/** A number for a program that is handed to the drawing worker, never used twice. */
export function nextProgramNumber(): number {
  return ++programs;
}
