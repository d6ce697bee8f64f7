import type { JobChange } from '@isola/contract';

const hearers = new Set<(change: JobChange) => void>();
let source: EventSource | undefined;

/** Hears what is changed on the server, by whatever window, until what is given back is called. A lost connection is made again by the browser. */
export function listen(hear: (change: JobChange) => void): () => void {
  hearers.add(hear);
  source ??= connect();
  return () => {
    hearers.delete(hear);
    if (hearers.size > 0) return;
    source?.close();
    source = undefined;
  };
}

function connect(): EventSource {
  const made = new EventSource('/api/events');
  made.addEventListener('job', (event: MessageEvent<string>) => {
    const change = JSON.parse(event.data) as JobChange;
    for (const hear of hearers) hear(change);
  });
  return made;
}
