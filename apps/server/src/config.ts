import path from 'node:path';
import proxyAddress from 'proxy-addr';
import { z } from 'zod';

const Environment = z.object({
  DATABASE_URL: z.url({ protocol: /^postgres(ql)?$/ }),
  /** The same database as the role that owns its tables; none: the server works as that role. */
  DATABASE_OWNER_URL: z.url({ protocol: /^postgres(ql)?$/ }).optional(),
  HOST: z
    .union([z.ipv4(), z.ipv6(), z.literal('localhost')], { error: 'an address of this machine, or 0.0.0.0 for all of them' })
    .default('127.0.0.1'),
  /** Whether people sign in; where nothing is said, as soon as other machines can reach the server. */
  ACCOUNTS: z.enum(['on', 'off']).optional(),
  /** Where people open it, where that is another name than this machine's: by it alone it answers besides. */
  PUBLIC_URL: z.url({ protocol: /^https?$/ }).optional(),
  PORT: z.coerce.number().int().min(0).max(65535).default(4310),
  /** Where the database keeps its files, where that is known: health looks how much room there is. */
  DATABASE_DIR: z.string().optional(),
  /** Where nightly backups are, where they are made: health looks whether the last one was sound. */
  BACKUPS_DIR: z.string().optional(),
  /** How many workers of audits run beside the server; others may run elsewhere. */
  AUDIT_WORKERS: z.coerce.number().int().min(0).max(64).default(1),
  /** How many processes answer at the one address; each takes some 150 MB and a processor. */
  PROCESSES: z.coerce.number().int().min(1).max(64).default(1),
  /** Which of them this is; set by the one that starts them. */
  PROCESS: z.coerce.number().int().nonnegative().default(0),
  /** Addresses or networks of proxies, with commas, that are believed when they say for whom they ask; `loopback` for this machine. */
  PROXIES: z
    .string()
    .default('')
    .transform((text) => text.split(',').flatMap((part) => part.trim() || []))
    .refine(isOfAddresses, 'addresses or networks of proxies, with commas between them, or loopback'),
  /** How much the files and photos of the shop may take, GB. */
  QUOTA_GB: z.coerce.number().positive().default(50),
  /** How many files one person, or one address where nobody signs in, may send in an hour. */
  FILES_AN_HOUR: z.coerce.number().int().positive().default(600),
  WEB_DIR: z.string().optional(),
  DEMO_DIR: z.string().optional(),
  /** `off` leaves a new database without the demo's jobs. */
  DEMO: z.enum(['on', 'off']).default('on'),
});

function isOfAddresses(proxies: readonly string[]): boolean {
  try {
    proxyAddress.compile([...proxies]);
    return true;
  } catch {
    return false;
  }
}

export interface Config {
  readonly databaseUrl: string;
  readonly databaseOwnerUrl: string | undefined;
  readonly host: string;
  readonly port: number;
  /** Whether PORT was set: a port asked for is taken or refused, the default one may give way to the next. */
  readonly isPortFixed: boolean;
  readonly databaseDir: string | undefined;
  readonly backupsDir: string | undefined;
  readonly hasAccounts: boolean;
  readonly publicUrl: string | undefined;
  readonly auditWorkers: number;
  readonly processes: number;
  /** Of several processes the one that does what is to be done once, or the only one. */
  readonly isFirst: boolean;
  readonly proxies: readonly string[];
  readonly quota: { readonly gigabytes: number; readonly filesAnHour: number };
  readonly webDir: string;
  readonly demoDir: string;
  readonly hasDemo: boolean;
}

/** The settings from the environment. @throws with all that is wrong when they do not make sense. */
export function readConfig(environment: NodeJS.ProcessEnv, root: string): Config {
  const read = Environment.safeParse(environment);
  if (!read.success) throw new Error(`Settings: ${z.prettifyError(read.error)}`);
  const e = read.data;
  const isOpen = !['127.0.0.1', 'localhost', '::1'].includes(e.HOST);
  if (isOpen && e.ACCOUNTS === 'off')
    throw new Error(
      `Settings: HOST ${e.HOST} lets other machines in, so people have to sign in: leave ACCOUNTS out, or listen on 127.0.0.1 only.`,
    );
  if (isOpen && e.PUBLIC_URL === undefined)
    throw new Error(
      `Settings: HOST ${e.HOST} lets other machines in: say in PUBLIC_URL under which address they open it, as https://isola.example.`,
    );
  return {
    databaseUrl: e.DATABASE_URL,
    databaseOwnerUrl: e.DATABASE_OWNER_URL,
    host: e.HOST,
    port: e.PORT,
    isPortFixed: environment.PORT !== undefined,
    databaseDir: e.DATABASE_DIR,
    backupsDir: e.BACKUPS_DIR,
    hasAccounts: e.ACCOUNTS === 'on' || isOpen,
    publicUrl: e.PUBLIC_URL,
    auditWorkers: e.AUDIT_WORKERS,
    processes: e.PROCESSES,
    isFirst: e.PROCESS === 0,
    proxies: e.PROXIES,
    quota: { gigabytes: e.QUOTA_GB, filesAnHour: e.FILES_AN_HOUR },
    webDir: e.WEB_DIR ?? path.join(root, 'apps/web/dist'),
    demoDir: e.DEMO_DIR ?? path.join(root, 'demo'),
    hasDemo: e.DEMO === 'on',
  };
}
