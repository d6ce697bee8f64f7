import type { JobChange } from '@isola/contract';
import { api } from '../api/client.ts';
import { listen } from '../api/listen.ts';
import { useNotices } from './notices.ts';

/** Hears of changes of jobs, and looks again at one of them when the server could not be heard for a while; until what is given back is called. */
export function hearChanges(id: string, follow: (change: JobChange) => Promise<void>): () => void {
  const take = (act: Promise<void>): void => void act.catch((error: unknown) => useNotices().complain(error));
  const lookAgain = async (): Promise<void> => {
    const version = await api.versionOf(id);
    if (version !== undefined) await follow({ id, version });
  };
  return listen({ job: id, hear: (change) => take(follow(change)), lookAgain: () => take(lookAgain()) });
}
