import { parentPort } from 'node:worker_threads';
import { gzipSync } from 'node:zlib';
import type { FindingCounts } from '@isola/contract';
import {
  auditDesign,
  type Design,
  extendHistory,
  type Finding,
  type History,
  inspectProgram,
  publishObject,
  readStitchFile,
  recognizeProgram,
  startHistory,
  writeStitchFile,
  startDesign,
} from '@isola/core';
import type { Answer, JobState, Request, TaskName } from './protocol.ts';

/** How many jobs' designs are kept in hand; a design of 400,000 rows takes some 10 MB. */
const KEPT = 4;

interface Kept {
  readonly history: History;
  readonly count: number;
  readonly lastEntryId: string | undefined;
  readonly initialTarget: string;
}

const kept = new Map<string, Kept>();

const TASKS: { [K in TaskName]: (request: Request<K>) => Answer<K> } = {
  read({ bytes, target }) {
    const read = readStitchFile(bytes);
    if (!read.ok) return { refused: read.error };
    const { program, kind, warnings } = read.value;
    return {
      kind,
      warnings,
      figures: inspectProgram(program, target),
      findings: countFindings(auditDesign({ program, target })),
      program: gzipSync(writeStitchFile(program, 'csv')),
    };
  },
  derive(state) {
    const design = bringUp(state);
    if (design === 'bytes-needed' || 'refused' in design) return design;
    const open = auditDesign(design).filter((f) => !(f.key in design.kept));
    return {
      figures: inspectProgram(design.program, design.target),
      target: design.target,
      findings: countFindings(open),
      openStops: open.filter((f) => f.severity === 'stop').map((f) => f.message),
    };
  },
  recognize(state) {
    const design = bringUp(state);
    if (design === 'bytes-needed') return design;
    if ('refused' in design) throw new Error(`a stored journal does not replay: ${design.refused}`);
    return {
      objects: recognizeProgram(design.program, { decisions: design.decisions, rebuilt: design.rebuilt }).objects.map(publishObject),
    };
  },
  write(state) {
    const design = bringUp(state);
    if (design === 'bytes-needed') return design;
    if ('refused' in design) throw new Error(`a stored journal does not replay: ${design.refused}`);
    const content = writeStitchFile(design.program, state.format === 'csv.gz' ? 'csv' : state.format);
    return { content: state.format === 'csv.gz' ? gzipSync(content) : content };
  },
};

/** The design after a job's entries, from what is in hand where that is a beginning of them. */
function bringUp(state: JobState): Design | { refused: string } | 'bytes-needed' {
  const { jobId, entries, bytes } = state;
  const initialTarget = JSON.stringify(state.initialTarget);
  const known = kept.get(jobId);
  const isUsable =
    known !== undefined &&
    known.initialTarget === initialTarget &&
    known.count <= entries.length &&
    (known.count === 0 || entries[known.count - 1]!.id === known.lastEntryId);
  let history: History;
  let from = 0;
  if (isUsable) {
    history = known.history;
    from = known.count;
  } else {
    if (bytes === undefined) return 'bytes-needed';
    const read = readStitchFile(bytes);
    if (!read.ok) throw new Error(`a stored file does not read: ${read.error.message}`);
    history = startHistory(startDesign(read.value.program, state.initialTarget));
  }
  for (const entry of entries.slice(from)) {
    const next = extendHistory(history, entry);
    if (!next.ok) return { refused: next.error };
    history = next.value;
  }
  kept.delete(jobId);
  kept.set(jobId, { history, count: entries.length, lastEntryId: entries[entries.length - 1]?.id, initialTarget });
  if (kept.size > KEPT) kept.delete(kept.keys().next().value!);
  return history.design;
}

function countFindings(findings: readonly Finding[]): FindingCounts {
  const counts = { stop: 0, fix: 0, note: 0 };
  for (const f of findings) counts[f.severity]++;
  return counts;
}

parentPort!.on('message', ({ id, name, request }: { id: number; name: TaskName; request: never }) => {
  try {
    const answer: unknown = TASKS[name](request);
    parentPort!.postMessage({ id, answer });
  } catch (error) {
    parentPort!.postMessage({ id, failure: error instanceof Error ? (error.stack ?? error.message) : String(error) });
  }
});
