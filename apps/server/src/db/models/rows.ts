import type { AuditFileState, FindingCounts, PassedCheck, Release, Role, Stage } from '@isola/contract';
import type {
  BoardPlan,
  Figures,
  FileAudit,
  FormatId,
  JournalEntry,
  PhotoPoint,
  PlantedFault,
  PracticeClaim,
  PracticeResult,
  RowEntry,
  SewOut,
  Target,
} from '@isola/core';
import type { CreationOptional, InferAttributes, InferCreationAttributes, Model } from 'sequelize';

// What the tables hold, row by row.

export interface JobModel extends Model<InferAttributes<JobModel>, InferCreationAttributes<JobModel>> {
  id: string;
  name: string;
  customer: string;
  due: string | null;
  fileName: string;
  fileKind: FormatId;
  warnings: readonly string[];
  /** What the journal starts from. */
  initialTarget: Target;
  /** Target, figures and findings as the journal leaves them, kept here so that a list need not replay it. */
  target: Target;
  before: Figures;
  now: Figures;
  findings: FindingCounts;
  stage: Stage;
  /** Number of journal entries. */
  version: number;
  detailsVersion: number;
  /** The rulebook by which `findings` were counted. */
  rulebook: number;
  /** Its last release. */
  released: CreationOptional<Release | null>;
  /** Of the request by which it was taken in, where that had one. */
  requestKey: CreationOptional<string | null>;
  /** Of the program that the last entry led to; none before there is one. */
  programHash: CreationOptional<string | null>;
  /** Whether it is there to practise on, and was judged; none of a job of the shop. */
  practice: CreationOptional<'open' | 'judged' | null>;
  createdAt: CreationOptional<Date>;
  updatedAt: CreationOptional<Date>;
  /** When it was deleted, where it can still be put back; queries pass it over. */
  deletedAt: CreationOptional<Date | null>;
}

export interface JobFileModel extends Model<InferAttributes<JobFileModel>, InferCreationAttributes<JobFileModel>> {
  jobId: string;
  /** Of the file as it came in. */
  sha256: string;
  bytes: Buffer;
  /** Whether `bytes` are gzipped: large files take a twentieth so, on their way and on the disk. */
  isPacked: boolean;
  /** A machine's own file as it came, gzipped; `bytes` are then its program as stitch CSV. */
  original: CreationOptional<Buffer | null>;
}

export interface JobBaseModel extends Model<InferAttributes<JobBaseModel>, InferCreationAttributes<JobBaseModel>> {
  jobId: string;
  /** The recognizer by which it was made. */
  recognizer: number;
  /** How many entries of the journal are in it. */
  version: number;
  /** JSON, gzipped. */
  base: Buffer;
  createdAt: CreationOptional<Date>;
}

export interface SnapshotModel extends Model<InferAttributes<SnapshotModel>, InferCreationAttributes<SnapshotModel>> {
  jobId: string;
  version: number;
  /** JSON, gzipped. */
  snapshot: Buffer;
  createdAt: CreationOptional<Date>;
}

export interface JournalEntryModel extends Model<InferAttributes<JournalEntryModel>, InferCreationAttributes<JournalEntryModel>> {
  jobId: string;
  /** Counts from 1. */
  seq: number;
  entryId: string;
  /** The entry before it, which another one may follow, too; none of the first. */
  parent: CreationOptional<string | null>;
  /** Of entries that are in the job's base: as journals were before objects lasted. */
  entry: JournalEntry | RowEntry;
  /** Of all entries as far as this one, and the file (see services/chain.ts). */
  chain: string;
  /** SHA-256 of the program that it led to (`programBytes`); none of entries from before that was worked out. */
  programHash: CreationOptional<string | null>;
  /** Who made it, where accounts are asked for. */
  who: CreationOptional<string | null>;
  createdAt: CreationOptional<Date>;
}

export interface BranchModel extends Model<InferAttributes<BranchModel>, InferCreationAttributes<BranchModel>> {
  jobId: string;
  name: string;
  /** Its last entry; none where nothing was done on it. */
  entryId: string | null;
}

/** What people call a branch or a revision, other than it was called when it was made. */
export interface GivenNameModel extends Model<InferAttributes<GivenNameModel>, InferCreationAttributes<GivenNameModel>> {
  jobId: string;
  kind: 'branch' | 'revision';
  /** Of a branch the id of the step that begins it, of a revision its number. */
  subject: string;
  name: string;
}

export interface RevisionModel extends Model<InferAttributes<RevisionModel>, InferCreationAttributes<RevisionModel>> {
  jobId: string;
  /** Counts from 1, which is the file as it came in. */
  number: number;
  version: number;
  /** The entry that it was kept at; none: the file as it came in. */
  entryId: CreationOptional<string | null>;
  name: string;
  note: string;
  figures: Figures;
  /** Stitch CSV, gzipped. */
  program: Buffer;
  isRelease: CreationOptional<boolean>;
  /** How many findings of severity stop were open; of early ones it is not known. */
  stopCount: CreationOptional<number | null>;
  requestKey: CreationOptional<string | null>;
  /** Who released it, and what was gone through before; of earlier ones, and of those that were only kept, there is nothing. */
  who: CreationOptional<string | null>;
  checks: CreationOptional<readonly PassedCheck[] | null>;
  createdAt: CreationOptional<Date>;
}

/** Who took a file of a job though findings of severity stop were open, and why. */
export interface SignOffModel extends Model<InferAttributes<SignOffModel>, InferCreationAttributes<SignOffModel>> {
  id: string;
  jobId: string;
  version: number;
  who: string;
  reason: string;
  /** What stood against it, in words. */
  stops: readonly string[];
  createdAt: CreationOptional<Date>;
}

export interface ShopRecordModel extends Model<InferAttributes<ShopRecordModel>, InferCreationAttributes<ShopRecordModel>> {
  kind: string;
  id: string;
  position: number;
  data: unknown;
}

/** A change of the shop's records, kept for good; null: it was, or is, not there. */
export interface ShopChangeModel extends Model<InferAttributes<ShopChangeModel>, InferCreationAttributes<ShopChangeModel>> {
  seq: CreationOptional<number>;
  id: string;
  kind: string;
  recordId: string;
  before: unknown;
  after: unknown;
  undoes: string | null;
  who: string;
  why: string;
  createdAt: CreationOptional<Date>;
}

export interface AuditModel extends Model<InferAttributes<AuditModel>, InferCreationAttributes<AuditModel>> {
  id: string;
  name: string;
  target: Target;
  cancelledAt: CreationOptional<Date | null>;
  createdAt: CreationOptional<Date>;
}

export interface AuditFileModel extends Model<InferAttributes<AuditFileModel>, InferCreationAttributes<AuditFileModel>> {
  auditId: string;
  /** Counts from 1. */
  seq: number;
  name: string;
  /** Gzipped. */
  bytes: Buffer;
  state: AuditFileState;
  /** How often a worker began on it. */
  tries: CreationOptional<number>;
  result: CreationOptional<FileAudit | null>;
  /** Why there is no result. */
  problem: CreationOptional<string | null>;
  /** Who judged it: machine and process. */
  worker: CreationOptional<string | null>;
  milliseconds: CreationOptional<number | null>;
  finishedAt: CreationOptional<Date | null>;
}

export interface SewOutModel extends Model<InferAttributes<SewOutModel>, InferCreationAttributes<SewOutModel>> {
  id: string;
  /** None once the job is gone for good. */
  jobId: string | null;
  jobName: string;
  version: CreationOptional<number>;
  record: SewOut;
  requestKey: CreationOptional<string | null>;
  createdAt: CreationOptional<Date>;
}

export interface SewOutPhotoModel extends Model<InferAttributes<SewOutPhotoModel>, InferCreationAttributes<SewOutPhotoModel>> {
  id: string;
  sewOutId: string;
  name: string;
  mime: string;
  width: number;
  height: number;
  bytes: Buffer;
  /** By which it lies over the design; none before three were marked. */
  points: readonly PhotoPoint[] | null;
  createdAt: CreationOptional<Date>;
}

/** The only row of its table. */
export interface BoardModel extends Model<InferAttributes<BoardModel>, InferCreationAttributes<BoardModel>> {
  id: number;
  version: number;
  plan: BoardPlan;
}

export interface PracticeModel extends Model<InferAttributes<PracticeModel>, InferCreationAttributes<PracticeModel>> {
  jobId: string;
  version: CreationOptional<number>;
  planted: readonly PlantedFault[];
  claims: readonly PracticeClaim[];
  /** None before it is judged. */
  result: CreationOptional<PracticeResult | null>;
  createdAt: CreationOptional<Date>;
}

export interface PersonModel extends Model<InferAttributes<PersonModel>, InferCreationAttributes<PersonModel>> {
  id: string;
  name: string;
  role: Role;
  /** As argon2 has it. */
  password: string;
  isOut: CreationOptional<boolean>;
  createdAt: CreationOptional<Date>;
}

/** Of the token the digest alone is kept. */
export interface SessionModel extends Model<InferAttributes<SessionModel>, InferCreationAttributes<SessionModel>> {
  tokenHash: string;
  personId: string;
  agent: string;
  seenAt: Date;
  expiresAt: Date;
  createdAt: CreationOptional<Date>;
}

export interface InvitationModel extends Model<InferAttributes<InvitationModel>, InferCreationAttributes<InvitationModel>> {
  tokenHash: string;
  role: Role;
  invitedBy: string;
  expiresAt: Date;
  createdAt: CreationOptional<Date>;
}

export interface HappeningModel extends Model<InferAttributes<HappeningModel>, InferCreationAttributes<HappeningModel>> {
  seq: CreationOptional<number>;
  at: CreationOptional<Date>;
  who: string | null;
  address: string;
  method: string;
  path: string;
  words: string | null;
  status: number;
}

export interface MarkModel extends Model<InferAttributes<MarkModel>, InferCreationAttributes<MarkModel>> {
  name: string;
  createdAt: CreationOptional<Date>;
}
