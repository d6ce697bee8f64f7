import { createHash } from 'node:crypto';
import { gunzipSync } from 'node:zlib';
import {
  baseFromJson,
  type Design,
  historyFrom,
  inspectProgram,
  type JournalEntry,
  placeProgram,
  readStitchFile,
  replayJournal,
} from '@isola/core';
import canonicalize from 'canonicalize';
import type { JobModel, JournalEntryModel, Models } from '../db/models/index.ts';
import { chainOf, chainStart } from '../services/chain.ts';
import { bytesOf, MAIN } from '../services/records.ts';
import { hashProgram, readStored } from '../workers/storedFiles.ts';

export interface Examination {
  readonly steps: number;
  /** What differs from what was stored, each in words; none where all is as it was. */
  readonly problems: readonly string[];
}

/** Replays a job from its file and compares all that follows with what was stored when it was made. */
export async function examineJob(models: Models, job: JobModel): Promise<Examination> {
  const where = { jobId: job.id };
  const [file, base, snapshot, branch, entries, revisions] = await Promise.all([
    models.JobFile.findByPk(job.id),
    models.JobBase.findByPk(job.id),
    models.Snapshot.findByPk(job.id),
    models.Branch.findOne({ where: { ...where, name: MAIN } }),
    models.JournalEntry.findAll({ where, order: ['seq'] }),
    models.Revision.findAll({ where, order: ['number'] }),
  ]);
  const problems: string[] = [];
  const steps = entries.length;
  if (file === null) return { steps, problems: ['its file is missing'] };
  const bytes = await bytesOf(file).catch(() => undefined);
  if (bytes === undefined) return { steps, problems: ['its file cannot be unpacked'] };
  const isFileSound = sha256(bytes) === file.sha256;
  if (!isFileSound) problems.push('its file is not the one that was taken in');
  problems.push(...examineTrail(entries, file.sha256));
  if (job.version !== steps) problems.push(`it says that it is at version ${job.version}, and has ${steps} steps`);
  if ((branch?.entryId ?? null) !== (entries.at(-1)?.entryId ?? null)) problems.push('its branch does not end at its last step');
  // What was never looked at is read from its file when it is; what follows from another file says nothing.
  if (base === null || !isFileSound) return { steps, problems };

  const program = readStored(bytes);
  const start = baseFromJson(gunzipSync(base.base).toString('utf8'), program);
  /** By version, from the base on. */
  const hashes = [hashProgram(start.design.program)];
  const placed = [hashPlaced(start.design)];
  const replayed = replayJournal(
    historyFrom(start),
    entries.slice(base.version).map(({ entry }) => entry as JournalEntry),
    ({ design }) => {
      hashes.push(hashProgram(design.program));
      placed.push(hashPlaced(design));
    },
  );
  if (!replayed.ok) return { steps, problems: [...problems, `its steps do not replay: ${replayed.error}`] };
  const other = entries.find(
    ({ seq, programHash }) => programHash !== null && seq >= base.version && hashes[seq - base.version] !== programHash,
  );
  if (other !== undefined) problems.push(`step ${other.seq} leads to another program than when it was made`);
  const { design } = replayed.value;
  if (!isSame(inspectProgram(design.program, design.target), job.now)) problems.push('its figures are not those that were stored');
  if (!isSame(design.target, job.target)) problems.push('its target is not the one that was stored');
  if (snapshot !== null) {
    const since = entries.slice(snapshot.version).map(({ entry }) => entry as JournalEntry);
    const later = replayJournal(historyFrom(baseFromJson(gunzipSync(snapshot.snapshot).toString('utf8'), program)), since);
    // A step from before the snapshot may be taken back since: that needs the whole journal, which was replayed above.
    if (later.ok && hashProgram(later.value.design.program) !== hashes.at(-1)) problems.push('its snapshot leads to another program');
  }
  for (const { number, version, program: kept } of revisions) {
    const read = readStitchFile(gunzipSync(kept));
    const isMet = read.ok && (version < base.version || hashProgram(read.value.program) === placed[version - base.version]);
    if (!isMet) problems.push(`revision ${number} is not what its steps lead to`);
  }
  return { steps, problems };
}

/** Entries have to follow one another without a gap, and be chained to each other and to the file as they were when they were written. */
function examineTrail(entries: readonly JournalEntryModel[], sha: string): string[] {
  const problems: string[] = [];
  let chain = chainStart(sha);
  for (const [k, { seq, entryId, entry, parent, chain: stored }] of entries.entries()) {
    if (seq !== k + 1) return [...problems, `step ${k + 1} is missing`];
    if (entry.id !== entryId) problems.push(`step ${seq} is stored under another id`);
    if (parent !== (entries[k - 1]?.entryId ?? null)) problems.push(`step ${seq} does not follow the step before it`);
    chain = chainOf(chain, entry);
    if (chain !== stored) return [...problems, `step ${seq} or one before it was changed after it was stored`];
  }
  return problems;
}

/** Of a design as it leaves: as it lies in the hoop. */
const hashPlaced = ({ program, target }: Design): string => hashProgram(placeProgram(program, target.place));

const isSame = (a: unknown, b: unknown): boolean => canonicalize(JSON.parse(JSON.stringify(a))) === canonicalize(b);
const sha256 = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex');
