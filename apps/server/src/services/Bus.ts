import type { JobChange, PresenceChange } from '@isola/contract';
import { Client } from 'pg';
import type { Models } from '../db/models/index.ts';
import { log } from '../log.ts';

/** What server processes tell each other, and all pages that listen to them. */
export type BusMessage =
  | ({ readonly kind: 'job' } & JobChange)
  | ({ readonly kind: 'presence' } & PresenceChange)
  /** Sessions of somebody ended: what goes on for as long as one does is looked at again. */
  | { readonly kind: 'sessions'; readonly personId: string };

const CHANNEL = 'isola';
/** After so long (ms) a connection that was lost is made again. */
const AGAIN = 1000;

/**
 * Messages between all server processes of one database, by its own notifications: what one of them does the pages of the others hear, too. A message is
 * heard by who says it in the same way. While the connection is lost nothing is heard; who listens is told when it is there again.
 */
export class Bus {
  private readonly models: Models;
  private readonly url: string;
  private readonly hearers = new Set<(message: BusMessage | 'again') => void>();
  private client: Client | undefined;
  private isClosed = false;
  private saying: Promise<unknown> = Promise.resolve();

  /** `url`: of the database, for a connection of its own. */
  constructor(models: Models, url: string) {
    this.models = models;
    this.url = url;
  }

  /** Begins to hear. @throws where the database does not answer */
  async open(): Promise<void> {
    const client = new Client({ connectionString: this.url, keepAlive: true });
    const lose = (): void => {
      if (this.client !== client) return;
      this.client = undefined;
      client.end().catch(() => undefined);
      this.openAgain();
    };
    client.on('error', lose);
    client.on('end', lose);
    client.on('notification', ({ payload }) => this.pass(JSON.parse(payload!) as BusMessage));
    await client.connect();
    await client.query(`listen ${CHANNEL}`);
    if (this.isClosed) return client.end();
    this.client = client;
  }

  private openAgain(): void {
    if (this.isClosed) return;
    setTimeout(() => {
      this.open().then(
        () => this.pass('again'),
        () => this.openAgain(),
      );
    }, AGAIN).unref();
  }

  private pass(message: BusMessage | 'again'): void {
    for (const hear of this.hearers) hear(message);
  }

  /** Hears all that is said from now on, and `again` where something may have been missed, until what is given back is called. */
  listen(hear: (message: BusMessage | 'again') => void): () => void {
    this.hearers.add(hear);
    return () => this.hearers.delete(hear);
  }

  /** Says something to all. What cannot be said is noted: pages see it when they next look. */
  say(message: BusMessage): void {
    const replacements = { channel: CHANNEL, payload: JSON.stringify(message) };
    // One after another: connections of a pool would overtake each other.
    this.saying = this.saying
      .then(() => this.models.sequelize.query('select pg_notify(:channel, :payload)', { replacements }))
      .catch((error: unknown) => {
        if (!this.isClosed) log.warn('pages could not be told of a change', error);
      });
  }

  async close(): Promise<void> {
    this.isClosed = true;
    const { client } = this;
    this.client = undefined;
    await client?.end().catch(() => undefined);
  }
}
