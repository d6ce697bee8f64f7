import { type JobChange, type JobDetail, type JobHistory, type JobSummary, VERSION_HEADER } from '@isola/contract';
import {
  baseFromJson,
  baseToJson,
  defaultTarget,
  historyFrom,
  inspectProgram,
  type JournalEntry,
  ProgramBuilder,
  readStepTree,
  readStitchFile,
  replayJournal,
  overlapOf,
  takeSnapshot,
  touchedBetween,
  touchedSince,
  writeStitchCsv,
} from '@isola/core';
import { baseOf } from '../../workers/testing/openOn.ts';

/** A file with faults of several kinds: needless trims, a stitch longer than the machine makes, tiny stitches, no lock at the end. */
function faultyFile(): Uint8Array {
  const builder = new ProgramBuilder().color('#1f4e5f', 'Harbor').jump(0, 0).stitch(0, 0).stitch(0.7, 0).stitch(0, 0).stitch(0.7, 0);
  for (let k = 0; k < 40; k++) builder.stitch(2 + (k % 2) * 3, k * 0.4);
  builder.trim().jump(5.6, 16).stitch(5.6, 16).stitch(6.3, 16).stitch(5.6, 16).stitch(6.3, 16);
  for (let k = 0; k < 30; k++) builder.stitch(8 + (k % 2) * 3, 16 - k * 0.4);
  builder.stitch(22, 4).stitch(22.1, 4).stitch(25, 4).stitch(28, 4);
  return new TextEncoder().encode(writeStitchCsv(builder.trim().end().build()));
}

interface Sent {
  readonly baseVersion: number;
  readonly entries: JournalEntry[];
  readonly own?: string[];
  readonly isAside?: boolean;
}

/** What the server keeps of jobs, and how it answers: versions are checked as there. */
export class StandInServer {
  readonly journals = new Map<string, JournalEntry[]>();
  /** Those who hear of changes. */
  readonly pages = new Set<(change: JobChange) => void>();
  readonly file = faultyFile();
  readonly baseJson = baseOf(this.file, defaultTarget());
  /** The version of the snapshot that jobs are opened at. */
  private snapshotAt = 0;
  private snapshot = '';
  appends = 0;
  /** What was asked for, in order: of a job its parts, or `job`. */
  readonly asked: string[] = [];
  /** So many times it says first that the base is still being made. */
  waits = 0;
  isReachable = true;
  /** An append is made, and its answer lost on the way back. */
  losesAnswers = false;
  delay = 0;
  /** Which program it says that steps lead to; null: it does not say. */
  programHash: string | null = null;

  /** Who made entries, by their ids. */
  readonly makers = new Map<string, string>();

  /** Names of branches by the steps that begin them. */
  private readonly names = new Map<string, string>();

  /** Keeps a job as it is, so that it is opened there. */
  keepSnapshot(id: string): void {
    const entries = this.journals.get(id)!;
    const read = readStitchFile(this.file);
    if (!read.ok) throw new Error(read.error.message);
    const base = baseFromJson(this.baseJson, read.value.program);
    const history = replayJournal(historyFrom(base), entries);
    if (!history.ok) throw new Error(history.error);
    this.snapshot = baseToJson(takeSnapshot(base, history.value, entries.length));
    this.snapshotAt = entries.length;
  }

  async answer(at: string, init: RequestInit): Promise<Response> {
    if (this.delay > 0) await new Promise((resolve) => setTimeout(resolve, this.delay));
    if (!this.isReachable) throw new TypeError('no network');
    const [, , , id = '', what] = at.split('?')[0]!.split('/');
    const from = at.endsWith('from=start') ? 0 : this.snapshotAt;
    const journal = this.journals.get(id);
    if (journal === undefined) return problem(404, 'No such job', 'It may have been deleted.');
    this.asked.push(what ?? 'job');
    if (what === undefined) return json(this.detail(id, journal, from));
    if (what === 'base') {
      if (this.waits-- > 0) return json({ share: 0.5, doing: 'joining sections' }, 202);
      return new Response(from === 0 ? this.baseJson : this.snapshot, { headers: { [VERSION_HEADER]: String(from) } });
    }
    if (what === 'file' || what === 'revisions') return new Response(this.file as BodyInit);
    if (what === 'history') return json(this.history(journal));
    if (what === 'branches') {
      this.names.set(at.split('/').at(-1)!, (JSON.parse(init.body as string) as { name: string }).name);
      return json(this.history(journal));
    }
    this.appends++;
    const { baseVersion, entries, own = [], isAside } = JSON.parse(init.body as string) as Sent;
    const isKnown = (entry: JournalEntry): boolean => journal.some(({ id: known }) => known === entry.id);
    const known = entries.filter(isKnown).length;
    const goesOn = known === 0 ? baseVersion : journal.findIndex(({ id: last }) => last === entries[known - 1]!.id) + 1;
    if (
      goesOn !== journal.length &&
      known < entries.length &&
      isAside !== true &&
      this.isApart(journal, baseVersion, entries, own) === false
    )
      return problem(409, 'Changed meanwhile', `The job is at version ${journal.length}.`, { version: journal.length, known });
    const { at: tips } = readStepTree(journal);
    const go = (to: string | null): JournalEntry => ({ id: crypto.randomUUID(), kind: 'go', to });
    if (isAside !== true) journal.push(...entries.slice(known));
    else if (known === 0) journal.push(go(tips[baseVersion]!), ...entries, go(tips.at(-1)!));
    for (const hear of this.pages) hear({ id, version: journal.length });
    if (this.losesAnswers) throw new TypeError('connection reset');
    return json(this.detail(id, journal));
  }

  /** Whether entries that were made on a version touch nothing that others did since. */
  private isApart(journal: readonly JournalEntry[], version: number, entries: readonly JournalEntry[], own: readonly string[]): boolean {
    const read = readStitchFile(this.file);
    if (!read.ok) throw new Error(read.error.message);
    const now = replayJournal(historyFrom(baseFromJson(this.baseJson, read.value.program)), journal);
    const after = now.ok ? replayJournal(now.value, entries) : now;
    if (!now.ok || !after.ok) return false;
    const theirs = touchedSince(now.value, readStepTree(journal).at[version] ?? null, new Set(own));
    return overlapOf(touchedBetween(now.value.design, after.value.design), theirs!, now.value.design).length === 0;
  }

  private history(journal: readonly JournalEntry[]): JobHistory {
    const { steps, at } = readStepTree(journal);
    return {
      version: journal.length,
      earlier: [],
      steps: steps.map(({ id, parent, entry }) => {
        const made = journal[entry] as Extract<JournalEntry, { kind: 'do' }>;
        return { id, parent, seq: entry + 1, at: '2026-11-23T08:00:00.000Z', name: made.name, reason: null, isTarget: false, who: null };
      }),
      now: at.at(-1) ?? null,
      branches: [...this.names].map(([step, name]) => ({ step, name })),
      revisions: [{ number: 1, step: null }],
    };
  }

  private detail(id: string, journal: readonly JournalEntry[], from = 0): JobDetail {
    const read = readStitchFile(this.file);
    if (!read.ok) throw new Error(read.error.message);
    const figures = inspectProgram(read.value.program, defaultTarget());
    const at = '2026-11-23T08:00:00.000Z';
    const summary: JobSummary = {
      ...{ id, name: `Job ${id}`, customer: '', due: null, fileName: 'f.csv', fileKind: 'csv', warnings: [], target: defaultTarget() },
      ...{ before: figures, now: figures, findings: { stop: 0, fix: 0, note: 0 }, stage: 'in-work', version: journal.length },
      ...{ detailsVersion: 0, programHash: this.programHash, released: null, practice: null, createdAt: at, updatedAt: at },
    };
    return {
      ...summary,
      initialTarget: defaultTarget(),
      base: { version: from, recognizer: 1 },
      journal: journal.map((entry, k) => ({ seq: k + 1, at, who: this.makers.get(entry.id) ?? null, entry })).slice(from),
      revisions: [],
      signOffs: [],
    };
  }
}

const json = (body: unknown, status = 200): Response =>
  new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } });
const problem = (status: number, title: string, detail: string, more = {}): Response =>
  new Response(JSON.stringify({ type: 'about:blank', status, title, detail, ...more }), {
    status,
    headers: { 'Content-Type': 'application/problem+json' },
  });
