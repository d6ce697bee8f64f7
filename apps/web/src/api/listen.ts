import type { JobChange, PresenceChange } from '@isola/contract';

export interface Hearer {
  /** Of which job, by its id; none: of all. */
  readonly job?: string;
  /** Of jobs that are changed. */
  readonly hear: (change: JobChange) => void;
  /** The connection was lost for a while: what happened meanwhile was not heard. */
  readonly lookAgain: () => void;
  /** Somebody opens or leaves a job. */
  readonly hearPresence?: (change: PresenceChange) => void;
}

const hearers = new Set<Hearer>();
let source: EventSource | undefined;
/** What the source was asked for. */
let address = '';
/** After so long (ms) a connection that the server refused is tried once more: who has to sign in may have done that by then. */
const AGAIN = 4000;

/**
 * Hears what is changed on the server, by whatever window, until what is given back is called. A lost connection is made again by the browser; who
 * listens is told then, to look what was missed. All who listen have one connection, which tells of the jobs that any of them wants to hear of.
 */
export function listen(hearer: Hearer): () => void {
  hearers.add(hearer);
  connectAsWanted();
  return () => {
    hearers.delete(hearer);
    connectAsWanted();
  };
}

/** The jobs that are listened to, or all where somebody wants that. */
function wantedAddress(): string {
  const jobs = [...hearers].map(({ job }) => job);
  if (jobs.includes(undefined)) return '/api/events';
  const asked = new URLSearchParams([...new Set(jobs as string[])].sort().map((job) => ['job', job]));
  return `/api/events?${asked.toString()}`;
}

function connectAsWanted(): void {
  const wanted = hearers.size === 0 ? '' : wantedAddress();
  if (wanted === address && (source !== undefined || wanted === '')) return;
  // What was missed between two connections is looked for; a first one missed nothing.
  const isAgain = source !== undefined;
  source?.close();
  source = undefined;
  address = wanted;
  if (wanted !== '') source = connect(wanted, isAgain);
}

let onOut = (): void => undefined;
/** Has something hear when the session of this window is ended elsewhere. */
export function hearOut(hear: () => void): void {
  onOut = hear;
}

function connect(at: string, isAgain: boolean): EventSource {
  const made = new EventSource(at);
  let wasOpen = isAgain;
  const lookAgain = (): void => hearers.forEach((hearer) => hearer.lookAgain());
  made.addEventListener('open', () => {
    if (wasOpen) lookAgain();
    wasOpen = true;
  });
  made.addEventListener('job', (event: MessageEvent<string>) => {
    const change = JSON.parse(event.data) as JobChange;
    for (const { hear, job } of hearers) if (job === undefined || job === change.id) hear(change);
  });
  made.addEventListener('presence', (event: MessageEvent<string>) => {
    const change = JSON.parse(event.data) as PresenceChange;
    for (const { hearPresence, job } of hearers) if (job === undefined || job === change.id) hearPresence?.(change);
  });
  // The server itself did not hear for a while what other servers did.
  made.addEventListener('again', lookAgain);
  made.addEventListener('out', () => onOut());
  made.addEventListener('error', () => {
    if (made !== source || made.readyState !== EventSource.CLOSED) return;
    setTimeout(() => {
      if (made === source) source = connect(address, true);
    }, AGAIN);
  });
  return made;
}
