import type { JobChange } from '@isola/contract';

interface Hearer {
  readonly hear: (change: JobChange) => void;
  /** The connection was lost for a while: what happened meanwhile was not heard. */
  readonly lookAgain: () => void;
}

const hearers = new Set<Hearer>();
let source: EventSource | undefined;

/**
 * Hears what is changed on the server, by whatever window, until what is given back is called. A lost connection is made again by the browser; who
 * listens is told then, to look what was missed.
 */
export function listen(hear: (change: JobChange) => void, lookAgain: () => void): () => void {
  const hearer = { hear, lookAgain };
  hearers.add(hearer);
  source ??= connect();
  return () => {
    hearers.delete(hearer);
    if (hearers.size > 0) return;
    source?.close();
    source = undefined;
  };
}

function connect(): EventSource {
  const made = new EventSource('/api/events');
  let wasOpen = false;
  made.addEventListener('open', () => {
    if (wasOpen) for (const { lookAgain } of hearers) lookAgain();
    wasOpen = true;
  });
  made.addEventListener('job', (event: MessageEvent<string>) => {
    const change = JSON.parse(event.data) as JobChange;
    for (const { hear } of hearers) hear(change);
  });
  return made;
}
