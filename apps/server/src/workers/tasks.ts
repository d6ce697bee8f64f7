import { createHash } from 'node:crypto';
import { gunzipSync, gzipSync } from 'node:zlib';
import type { FindingCounts } from '@isola/contract';
import {
  type AboutDesign,
  AS_FILED,
  auditDesign,
  auditFile,
  baseFromJson,
  baseToJson,
  checkRelease,
  compareFindings,
  encodeLayout,
  countProgram,
  type Design,
  type Finding,
  type FormatId,
  findRule,
  type History,
  historyFrom,
  judgePractice,
  inspectProgram,
  type JobBase,
  type MachineLayout,
  makeBase,
  objectsOf,
  overlapOf,
  plantFaults,
  type Program,
  placeProgram,
  productionSheet,
  publishObject,
  reachesFar,
  replayJournal,
  type Result,
  runClock,
  stateOf,
  succeed,
  takeSnapshot,
  touchedBetween,
  touchedSince,
  weighRepair,
  writeDesignJson,
  writeStitchFile,
} from '@isola/core';
import type { Answer, JobState, Needed, Progress, Request, TaskName } from './protocol.ts';
import { aboutOf, hashProgram, readSent, readStored } from './storedFiles.ts';

/** Of how many rows designs are kept in hand (a design of 400,000 takes some 10 MB, its objects as much again), and how many states of each job. */
const MOST_ROWS = 1_500_000;
const MOST_STATES = 2;

interface State {
  readonly version: number;
  readonly lastEntryId: string | null;
  readonly history: History;
  /** Of its program, which itself is not held for designs that wait. */
  readonly rows: number;
  readonly base: Omit<JobBase, 'design'>;
}

export type Tasks = { [K in TaskName]: (request: Request<K>, progress: (at: Progress) => void) => Answer<K> };

/** The computations of a worker, as functions of what they are asked; they keep the designs of a few jobs, but no answer depends on that. */
export function createTasks(mostRows = MOST_ROWS): Tasks {
  const kept = new Map<string, readonly State[]>();

  /** A job's design at a version, as it is in hand or from the beginning. */
  function bringUp({ jobId, version, lastEntryId, whole }: JobState): State | Needed {
    if (whole === undefined) {
      const known = kept.get(jobId)?.find((s) => s.version === version && s.lastEntryId === lastEntryId);
      if (known !== undefined) keep(jobId, known);
      return known ?? 'state-needed';
    }
    const file = readStored(whole.bytes);
    const base = baseFromJson(gunzipSync(whole.base).toString('utf8'), file);
    if (reachesFar(historyFrom(base), whole.entries)) return 'journal-needed';
    const history = replayJournal(historyFrom(base), whole.entries);
    if (!history.ok) throw new Error(`a stored journal does not replay: ${history.error}`);
    const { recognizer, steps, isOfFile } = base;
    const { rowCount: rows } = history.value.design.program;
    const state = { version, lastEntryId, history: history.value, rows, base: { recognizer, steps, isOfFile, version: base.version } };
    keep(jobId, state);
    return state;
  }

  function keep(jobId: string, state: State): void {
    const others = (kept.get(jobId) ?? []).filter((s) => s.version !== state.version || s.lastEntryId !== state.lastEntryId);
    kept.delete(jobId);
    kept.set(jobId, [state, ...others].slice(0, MOST_STATES));
    let rows = 0;
    for (const [other, states] of [...kept].reverse()) {
      rows += states.reduce((sum, state) => sum + state.rows, 0);
      if (rows > mostRows && other !== jobId) kept.delete(other);
    }
  }

  function designOf(state: JobState): Design | Needed {
    const known = bringUp(state);
    return typeof known === 'string' ? known : known.history.design;
  }

  return {
    read({ bytes: sent, target: usual, layout }) {
      const read = readSent(sent, layout);
      if (!read.ok) return { refused: read.error };
      const { program, kind, warnings, bytes } = read.value;
      const about = kind === 'json' ? aboutOf(sent) : undefined;
      const target = about?.target ?? usual;
      return {
        ...{ kind, warnings, figures: inspectProgram(program, target), findings: countFindings(auditDesign({ program, target })) },
        program: gzipSync(writeStitchFile(program, 'csv')),
        sha256: createHash('sha256').update(bytes).digest('hex'),
        packed: gzipSync(bytes),
        ...(bytes === sent ? {} : { original: gzipSync(sent) }),
        ...(about === undefined ? {} : { about }),
      };
    },
    adopt({ bytes, target, entries, isPlain = false }, progress) {
      const base = makeBase(readStored(bytes), target, entries, { isPlain, progress: (share, doing) => progress({ share, doing }) });
      if (!base.ok) throw new Error(`a stored journal of rows does not replay: ${base.error}`);
      const { recognizer, version } = base.value;
      return { base: gzipSync(baseToJson(base.value)), recognizer, version };
    },
    derive({ more, beside, ...state }) {
      const from = bringUp(state);
      if (typeof from === 'string') return from;
      if (reachesFar(from.history, more)) return 'journal-needed';
      const theirs = beside && touchedSince(from.history, beside.since, new Set(beside.own));
      if (beside !== undefined && theirs === undefined) return 'journal-needed';
      const programHashes: string[] = [];
      const history = replayJournal(from.history, more, ({ design }) => programHashes.push(hashProgram(design.program)));
      // What does not go on top of what others did touches it.
      if (!history.ok) return theirs === undefined ? { refused: history.error } : { overlap: [] };
      const { design } = history.value;
      const overlap = theirs === undefined ? [] : overlapOf(touchedBetween(from.history.design, design), theirs, from.history.design);
      if (overlap.length > 0) return { overlap };
      // Another state beside the one that is stored: should these entries not be stored, that one is still there.
      const last = more[more.length - 1];
      if (last !== undefined)
        keep(state.jobId, {
          ...from,
          version: state.version + more.length,
          lastEntryId: last.id,
          history: history.value,
          rows: design.program.rowCount,
        });
      return {
        ...{ figures: inspectProgram(design.program, design.target), target: design.target, programHashes },
        stepCount: history.value.far.length + history.value.done.length,
      };
    },
    count(state) {
      const design = designOf(state);
      if (typeof design === 'string') return design;
      const open = auditDesign(design);
      return { figures: inspectProgram(design.program, design.target), findings: countFindings(open), openStops: sayStops(open) };
    },
    snapshot(state) {
      const from = bringUp(state);
      if (typeof from === 'string') return from;
      return { snapshot: gzipSync(baseToJson(takeSnapshot(from.base, from.history, from.version))) };
    },
    audit({ bytes, target, layout }) {
      const read = layout === undefined ? undefined : readSent(bytes, layout);
      if (read?.ok === false) return { refused: read.error };
      const audited = auditFile(read?.value.bytes ?? bytes, target);
      return audited.ok ? { audit: audited.value } : { refused: audited.error };
    },
    report(state) {
      const design = designOf(state);
      if (typeof design === 'string') return design;
      const { program, target, kept } = design;
      const findings = auditDesign(design);
      const figures = inspectProgram(program, target);
      const verdict = weighRepair(findings, objectsOf(design.plan).objects, figures.stitches);
      return { target, figures, kept, verdict, findings: findings.map((finding) => ({ ...finding, rows: [] })) };
    },
    sheet(state) {
      const design = designOf(state);
      if (typeof design === 'string') return design;
      const program = placeProgram(design.program, design.target.place);
      return { sheet: productionSheet(design), program, extents: countProgram(program).extents };
    },
    plant({ count, seed, ...state }) {
      const design = designOf(state);
      if (typeof design === 'string') return design;
      const { program, planted } = plantFaults(design.program, design.target, count, seed);
      return { bytes: writeStitchFile(program, 'csv'), planted };
    },
    practise({ planted, claims, ...state }) {
      const from = bringUp(state);
      if (typeof from === 'string') return from;
      const start = stateOf(from.history, 'start');
      if (start === undefined) return 'journal-needed';
      const { design } = from.history;
      // On what it is judged for now, so that another cloth mends nothing.
      const before = auditDesign({ ...start, target: design.target });
      return { result: judgePractice(planted, claims, before, auditDesign({ ...design, kept: {} })) };
    },
    check(state) {
      const design = designOf(state);
      return typeof design === 'string' ? design : { checks: checkRelease(design, sayStops(auditDesign(design))) };
    },
    judge({ instead, ...state }) {
      const design = designOf(state);
      if (typeof design === 'string') return design;
      const other = { ...design, target: { ...design.target, ...instead } };
      const changes = compareFindings(auditDesign(design), auditDesign(other));
      const say = (rule: string, count: number): string => (count > 1 ? `${findRule(rule).title} (${count})` : findRule(rule).title);
      return {
        came: changes.filter(({ added }) => added > 0).map(({ rule, added }) => say(rule, added)),
        went: changes.filter(({ gone }) => gone > 0).map(({ rule, gone }) => say(rule, gone)),
        seconds: {
          before: runClock(design.program, design.target.machine).totals.seconds,
          after: runClock(design.program, other.target.machine).totals.seconds,
        },
      };
    },
    objects(state) {
      const design = designOf(state);
      return typeof design === 'string' ? design : { objects: objectsOf(design.plan).objects.map(publishObject) };
    },
    convert({ bytes, target, format }) {
      const program = readStored(bytes);
      // It lies in the hoop as it is, wherever the job's design lies now.
      const written = writeAs(program, format);
      if (!written.ok) return { refused: written.error };
      return {
        content: written.value,
        openStops: sayStops(auditDesign({ program, target: { ...target, place: AS_FILED } })),
      };
    },
    write({ format, about, ...state }) {
      const design = designOf(state);
      if (typeof design === 'string') return design;
      if (format === 'json') {
        // Where it lies in the hoop its target says.
        const { program, target, plan } = design;
        const objects = objectsOf(plan).objects.map(publishObject) as unknown as NonNullable<AboutDesign['objects']>;
        return { content: new TextEncoder().encode(writeDesignJson(program, { ...about, target, objects })) };
      }
      const written = writeAs(placeProgram(design.program, design.target.place), format === 'csv.gz' ? 'csv' : format);
      if (!written.ok) return { refused: written.error };
      return { content: format === 'csv.gz' ? gzipSync(written.value) : written.value };
    },
  };
}

function writeAs(program: Program, format: FormatId | MachineLayout): Result<Uint8Array, string> {
  if (typeof format === 'string') return succeed(writeStitchFile(program, format));
  const written = encodeLayout(program, format);
  return written.ok ? succeed(written.value.bytes) : written;
}

const sayStops = (findings: readonly Finding[]): string[] => findings.filter((f) => f.severity === 'stop').map((f) => f.message);

function countFindings(findings: readonly Finding[]): FindingCounts {
  const counts = { stop: 0, fix: 0, note: 0 };
  for (const f of findings) counts[f.severity]++;
  return counts;
}
