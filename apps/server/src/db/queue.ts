import PgBoss from 'pg-boss';

// The queue of audits lies in the same database, in a schema of its own that pg-boss keeps.

export const AUDIT_QUEUE = 'audit-file';
const SCHEMA = 'pgboss';

/** What waits in the queue: one file of an audit. */
export interface AuditTask {
  readonly auditId: string;
  readonly seq: number;
}

/** A file that a worker began on comes to another one when nothing was heard for so many seconds, and so often. */
const EXPIRES = 60;
const RETRIES = 5;
/** So often (s) it is looked for such files. */
const MAINTENANCE = 10;

/** Brings the queue's tables up to date, as the role that owns them. Any number of servers may do it at once. */
export async function prepareQueue(ownerUrl: string): Promise<void> {
  const boss = new PgBoss({ connectionString: ownerUrl, schema: SCHEMA, max: 1, supervise: false, schedule: false, migrate: true });
  await boss.start();
  await boss.createQueue(AUDIT_QUEUE, {
    ...{ name: AUDIT_QUEUE, policy: 'standard', retryLimit: RETRIES, retryDelay: 0, retryBackoff: false, expireInSeconds: EXPIRES },
  });
  await stop(boss);
}

/** What the server's role may do with the queue: use it, not change how it is made. */
export function grantsOfQueue(role: string): string {
  return `
    grant usage on schema ${SCHEMA} to ${role};
    grant select, insert, update, delete on all tables in schema ${SCHEMA} to ${role};
    grant execute on all functions in schema ${SCHEMA} to ${role};`;
}

/** The queue, open; `onError` hears what goes wrong in its own housekeeping. `isSupervised`: it sees to files whose worker is gone. */
export async function openQueue(url: string, onError: (error: Error) => void, isSupervised: boolean): Promise<PgBoss> {
  const boss = new PgBoss({
    ...{ connectionString: url, schema: SCHEMA, max: 2, migrate: false, schedule: false },
    ...{ supervise: isSupervised, maintenanceIntervalSeconds: MAINTENANCE },
  });
  boss.on('error', onError);
  await boss.start();
  return boss;
}

/** Lets the queue go; what was begun is begun anew by another. */
export async function stop(boss: PgBoss): Promise<void> {
  await boss.stop({ graceful: false, wait: true });
}
