import net from 'node:net';

/**
 * Stands between a server and its database and counts the statements that go by, to end the server right before one of them: at no other moment is it
 * surer that a step was half made. Frontend messages as in PostgreSQL's documentation, "Message Formats": a startup message without a type, then
 * a type of one byte and a length of four.
 */
export class StatementProxy {
  /** Statements so far. */
  count = 0;
  private readonly server: net.Server;
  private readonly open = new Set<net.Socket>();
  private readonly databasePort: number;
  private readonly before: (count: number) => boolean;

  /** `before` is told of each statement, by its number from 1, and says whether it may go on. */
  constructor(databasePort: number, before: (count: number) => boolean = () => true) {
    this.databasePort = databasePort;
    this.before = before;
    this.server = net.createServer((client) => this.join(client));
  }

  async listen(): Promise<number> {
    await new Promise<void>((resolve) => this.server.listen(0, '127.0.0.1', resolve));
    return (this.server.address() as net.AddressInfo).port;
  }

  async close(): Promise<void> {
    for (const socket of this.open) socket.destroy();
    await new Promise((resolve) => this.server.close(resolve));
  }

  private join(client: net.Socket): void {
    const database = net.connect({ host: '127.0.0.1', port: this.databasePort });
    for (const socket of [client, database]) {
      this.open.add(socket);
      socket.on('error', () => undefined);
      socket.once('close', () => [client, database].forEach((one) => (one.destroy(), this.open.delete(one))));
    }
    database.pipe(client);
    let isStarted = false;
    let waiting = Buffer.alloc(0);
    client.on('data', (data: Buffer) => {
      waiting = Buffer.concat([waiting, data]);
      for (;;) {
        const head = isStarted ? 1 : 0;
        if (waiting.length < head + 4) return;
        const length = head + waiting.readUInt32BE(head);
        if (waiting.length < length) return;
        const message = waiting.subarray(0, length);
        waiting = waiting.subarray(length);
        const isStatement = isStarted && (message[0] === SIMPLE_QUERY || message[0] === PARSE);
        isStarted = true;
        if (isStatement && !this.before(++this.count)) {
          client.destroy();
          return;
        }
        database.write(message);
      }
    });
  }
}

const SIMPLE_QUERY = 'Q'.charCodeAt(0);
const PARSE = 'P'.charCodeAt(0);
