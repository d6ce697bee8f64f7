import type { JobChange, JobDetail, JobSummary } from '@isola/contract';
import type { Remote } from 'comlink';
import { computed, type ComputedRef, ref, type ShallowRef, watch } from 'vue';
import { api } from '../api/client.ts';
import type { Changed, EngineApi, Opened } from '../workers/protocol.ts';
import { entriesOf, loadJob } from './loadJob.ts';
import { useNotices } from './notices.ts';
import { type Outgoing, useOutbox } from './outbox.ts';
import { useSession } from './session.ts';

interface Followed {
  readonly job: ShallowRef<JobDetail | undefined>;
  readonly outgoing: ComputedRef<Outgoing | undefined>;
  /** What is being tried: what others do comes in when that is over. */
  readonly trial: Readonly<ShallowRef<object | undefined>>;
  readonly engine: () => Remote<EngineApi> | undefined;
  readonly open: (id: string) => Promise<void>;
  readonly show: (opened: Opened) => Promise<void>;
  readonly inTurn: (act: () => Promise<void>) => Promise<void>;
  /** The job is gone. */
  readonly lose: () => void;
}

/** Steps that others make of the job on the bench, and those of this window that were stored on top of them, are taken up as they come. */
export function createFollowing({ job, outgoing, trial, engine, open, show, inTurn, lose }: Followed) {
  const outbox = useOutbox();
  const session = useSession();
  const notices = useNotices();
  /** All entries up to this version are on the bench as the server has them, before those of this window. */
  let seen = 0;
  const mine = new Set<string>();
  /** Who made the steps that are known; null: somebody, where people do not sign in. */
  const makers = ref<ReadonlyMap<string, string | null>>(new Map());
  /** Something waits until what is tried is over. */
  const isWaiting = ref(false);

  function begin(detail: JobDetail): void {
    seen = detail.version;
    makers.value = new Map();
    isWaiting.value = false;
    noteMakers(detail);
  }

  function noteMakers({ journal }: JobDetail): void {
    makers.value = new Map([...makers.value, ...journal.map(({ entry, who }) => [entry.id, who] as const)]);
  }

  /** Who made a step, where that is somebody else. */
  function otherMaker(step: string): string | undefined {
    const who = makers.value.get(step) ?? undefined;
    return who === session.person?.name || mine.has(step) ? undefined : who;
  }

  outbox.onSaved((summary: JobSummary, _, isMerged) => {
    if (job.value?.id !== summary.id) return;
    if (isMerged) void later();
    else seen = Math.max(seen, summary.version);
  });

  /** Others made steps, or the job is gone. */
  async function follow({ id, version }: JobChange): Promise<void> {
    if (job.value?.id !== id) return;
    if (version === null) return lose();
    // Steps that are on their way go on top of what others did, and bring it with their answer.
    if (outgoing.value !== undefined || version <= seen) return;
    await takeUpSoon();
  }

  const later = (): Promise<void> => inTurn(takeUpSoon);

  async function takeUpSoon(): Promise<void> {
    if (trial.value === undefined) return takeUp();
    isWaiting.value = true;
  }

  watch(trial, (tried) => {
    if (tried !== undefined || !isWaiting.value) return;
    isWaiting.value = false;
    later().catch((error: unknown) => notices.complain(error));
  });

  async function takeUp(): Promise<void> {
    const id = job.value?.id;
    if (id === undefined || engine() === undefined) return;
    let detail = await api.job(id, 'snapshot', seen);
    // A snapshot was kept since, and what came before it is not said with it.
    if ((detail.base?.version ?? 0) > seen) detail = await api.job(id, 'start', seen);
    if (job.value?.id !== id || detail.version <= seen) return;
    // A step of this window was stored between asking and this answer.
    if (detail.version < job.value.version) return takeUp();
    const stored = detail.journal.filter(({ seq }) => seq > seen);
    const ids = new Set(stored.map(({ entry }) => entry.id));
    const unsent = (outgoing.value?.entries ?? []).filter((entry) => !ids.has(entry.id));
    const changed = await goOn(id, structuredClone([...stored.map(({ entry }) => entry), ...unsent]));
    if (job.value.id !== id) return;
    if (!changed.ok) return open(id);
    seen = detail.version;
    outbox.takenUp(id, seen, ids);
    job.value = { ...detail, version: Math.max(detail.version, job.value.version) };
    noteMakers(detail);
    await show(changed);
    const theirs = stored.filter(({ entry }) => otherMaker(entry.id) !== undefined);
    const names = [...new Set(theirs.map(({ who }) => who))].join(', ');
    if (theirs.length > 0) notices.say(`${names} changed this job`, theirs.map(({ entry }) => nameOf(entry)).join('; '));
  }

  async function goOn(id: string, entries: JobDetail['journal'][number]['entry'][]): Promise<Changed> {
    const changed = await engine()!.goOnFrom(seen, entries);
    if (changed.ok || !changed.isFar) return changed;
    const { base, detail } = await loadJob(id, () => undefined, 'start');
    await engine()!.reachBack(base, entriesOf(detail));
    return engine()!.goOnFrom(seen, entries);
  }

  return {
    begin,
    follow,
    otherMaker,
    isWaiting: computed(() => isWaiting.value),
    /** The version that a step of this window goes on top of. */
    on: (): number => seen,
    /** A step was made here. */
    note: (entryId: string): void => void mine.add(entryId),
  };
}

const nameOf = (entry: JobDetail['journal'][number]['entry']): string =>
  ({ do: '', undo: 'a step taken back', redo: 'a step done again', go: 'gone to another step' })[entry.kind] ||
  ('name' in entry ? entry.name : '');
