import { DataTypes, type ModelStatic, type Sequelize } from 'sequelize';
import { date, integer, json, key, onlyCreated, text } from './columns.ts';
import { definePeople, type PeopleModels } from './people.ts';
import type {
  AuditFileModel,
  AuditModel,
  BoardModel,
  BranchModel,
  GivenNameModel,
  JobBaseModel,
  JobFileModel,
  JobModel,
  JournalEntryModel,
  PracticeModel,
  MarkModel,
  RevisionModel,
  SewOutModel,
  SewOutPhotoModel,
  ShopChangeModel,
  ShopRecordModel,
  SignOffModel,
  SnapshotModel,
} from './rows.ts';

export type * from './rows.ts';

export interface Models extends PeopleModels {
  readonly sequelize: Sequelize;
  readonly Job: ModelStatic<JobModel>;
  readonly JobFile: ModelStatic<JobFileModel>;
  readonly JobBase: ModelStatic<JobBaseModel>;
  readonly Snapshot: ModelStatic<SnapshotModel>;
  readonly JournalEntry: ModelStatic<JournalEntryModel>;
  readonly Branch: ModelStatic<BranchModel>;
  readonly GivenName: ModelStatic<GivenNameModel>;
  readonly Revision: ModelStatic<RevisionModel>;
  readonly SignOff: ModelStatic<SignOffModel>;
  readonly ShopRecord: ModelStatic<ShopRecordModel>;
  readonly ShopChange: ModelStatic<ShopChangeModel>;
  readonly Audit: ModelStatic<AuditModel>;
  readonly AuditFile: ModelStatic<AuditFileModel>;
  readonly SewOut: ModelStatic<SewOutModel>;
  readonly SewOutPhoto: ModelStatic<SewOutPhotoModel>;
  readonly Board: ModelStatic<BoardModel>;
  readonly Practice: ModelStatic<PracticeModel>;
  readonly Mark: ModelStatic<MarkModel>;
}

/** The tables as models of one connection. */
export function defineModels(sequelize: Sequelize): Models {
  return {
    sequelize,
    Job: sequelize.define<JobModel>(
      'Job',
      {
        id: { type: DataTypes.UUID, ...key },
        name: text(),
        customer: text(),
        due: { type: DataTypes.DATEONLY },
        fileName: text(),
        fileKind: text(),
        warnings: json(),
        initialTarget: json(),
        target: json(),
        before: json(),
        now: json(),
        findings: json(),
        stage: text(),
        version: integer(),
        detailsVersion: integer(),
        rulebook: integer(),
        released: { type: DataTypes.JSONB },
        requestKey: { type: DataTypes.UUID },
        programHash: { type: DataTypes.TEXT },
        practice: { type: DataTypes.TEXT },
        createdAt: date(),
        updatedAt: date(),
        deletedAt: date(),
      },
      { tableName: 'jobs', underscored: true, paranoid: true },
    ),
    JobFile: sequelize.define<JobFileModel>(
      'JobFile',
      {
        jobId: { type: DataTypes.UUID, ...key },
        sha256: text(),
        bytes: { type: DataTypes.BLOB, allowNull: false },
        isPacked: { type: DataTypes.BOOLEAN, allowNull: false },
        original: { type: DataTypes.BLOB },
      },
      { tableName: 'job_files', underscored: true, timestamps: false },
    ),
    JobBase: sequelize.define<JobBaseModel>(
      'JobBase',
      {
        jobId: { type: DataTypes.UUID, ...key },
        recognizer: integer(),
        version: integer(),
        base: { type: DataTypes.BLOB, allowNull: false },
        createdAt: date(),
      },
      { tableName: 'job_bases', ...onlyCreated },
    ),
    Snapshot: sequelize.define<SnapshotModel>(
      'Snapshot',
      {
        jobId: { type: DataTypes.UUID, ...key },
        version: integer(),
        snapshot: { type: DataTypes.BLOB, allowNull: false },
        createdAt: date(),
      },
      { tableName: 'snapshots', ...onlyCreated },
    ),
    JournalEntry: sequelize.define<JournalEntryModel>(
      'JournalEntry',
      {
        jobId: { type: DataTypes.UUID, ...key },
        seq: { ...integer(), ...key },
        entryId: { type: DataTypes.UUID, allowNull: false },
        parent: { type: DataTypes.UUID },
        entry: json(),
        chain: text(),
        programHash: { type: DataTypes.TEXT },
        who: { type: DataTypes.TEXT },
        createdAt: date(),
      },
      { tableName: 'journal_entries', ...onlyCreated },
    ),
    Branch: sequelize.define<BranchModel>(
      'Branch',
      { jobId: { type: DataTypes.UUID, ...key }, name: { ...text(), ...key }, entryId: { type: DataTypes.UUID } },
      { tableName: 'branches', underscored: true, timestamps: false },
    ),
    GivenName: sequelize.define<GivenNameModel>(
      'GivenName',
      { jobId: { type: DataTypes.UUID, ...key }, kind: { ...text(), ...key }, subject: { ...text(), ...key }, name: text() },
      { tableName: 'given_names', underscored: true, timestamps: false },
    ),
    Revision: sequelize.define<RevisionModel>(
      'Revision',
      {
        jobId: { type: DataTypes.UUID, ...key },
        number: { ...integer(), ...key },
        version: integer(),
        entryId: { type: DataTypes.UUID },
        name: text(),
        note: text(),
        figures: json(),
        program: { type: DataTypes.BLOB, allowNull: false },
        isRelease: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
        stopCount: { type: DataTypes.INTEGER },
        requestKey: { type: DataTypes.UUID },
        who: { type: DataTypes.TEXT },
        checks: { type: DataTypes.JSONB },
        createdAt: date(),
      },
      { tableName: 'revisions', ...onlyCreated },
    ),
    SignOff: sequelize.define<SignOffModel>(
      'SignOff',
      {
        id: { type: DataTypes.UUID, ...key },
        jobId: { type: DataTypes.UUID, allowNull: false },
        version: integer(),
        who: text(),
        reason: text(),
        stops: json(),
        createdAt: date(),
      },
      { tableName: 'sign_offs', ...onlyCreated },
    ),
    ShopRecord: sequelize.define<ShopRecordModel>(
      'ShopRecord',
      { kind: { ...text(), ...key }, id: { ...text(), ...key }, position: integer(), data: json() },
      { tableName: 'shop_records', underscored: true, timestamps: false },
    ),
    ShopChange: sequelize.define<ShopChangeModel>(
      'ShopChange',
      {
        seq: { type: DataTypes.BIGINT, ...key, autoIncrement: true },
        id: { type: DataTypes.UUID, allowNull: false },
        kind: text(),
        recordId: text(),
        before: { type: DataTypes.JSONB },
        after: { type: DataTypes.JSONB },
        undoes: { type: DataTypes.UUID },
        who: text(),
        why: text(),
        createdAt: date(),
      },
      { tableName: 'shop_changes', ...onlyCreated },
    ),
    Audit: sequelize.define<AuditModel>(
      'Audit',
      { id: { type: DataTypes.UUID, ...key }, name: text(), target: json(), cancelledAt: date(), createdAt: date() },
      { tableName: 'audits', ...onlyCreated },
    ),
    AuditFile: sequelize.define<AuditFileModel>(
      'AuditFile',
      {
        auditId: { type: DataTypes.UUID, ...key },
        seq: { ...integer(), ...key },
        name: text(),
        bytes: { type: DataTypes.BLOB, allowNull: false },
        state: text(),
        tries: { ...integer(), defaultValue: 0 },
        result: { type: DataTypes.JSONB },
        problem: { type: DataTypes.TEXT },
        worker: { type: DataTypes.TEXT },
        milliseconds: { type: DataTypes.INTEGER },
        finishedAt: date(),
      },
      { tableName: 'audit_files', underscored: true, timestamps: false },
    ),
    SewOut: sequelize.define<SewOutModel>(
      'SewOut',
      {
        id: { type: DataTypes.UUID, ...key },
        jobId: { type: DataTypes.UUID },
        jobName: text(),
        version: { ...integer(), defaultValue: 0 },
        record: json(),
        requestKey: { type: DataTypes.UUID },
        createdAt: date(),
      },
      { tableName: 'sew_outs', ...onlyCreated },
    ),
    SewOutPhoto: sequelize.define<SewOutPhotoModel>(
      'SewOutPhoto',
      {
        id: { type: DataTypes.UUID, ...key },
        sewOutId: { type: DataTypes.UUID, allowNull: false },
        ...{ name: text(), mime: text(), width: integer(), height: integer() },
        bytes: { type: DataTypes.BLOB, allowNull: false },
        points: { type: DataTypes.JSONB },
        createdAt: date(),
      },
      { tableName: 'sew_out_photos', ...onlyCreated },
    ),
    Board: sequelize.define<BoardModel>(
      'Board',
      { id: { type: DataTypes.INTEGER, ...key }, version: integer(), plan: json() },
      { tableName: 'board', underscored: true, timestamps: false },
    ),
    Practice: sequelize.define<PracticeModel>(
      'Practice',
      {
        jobId: { type: DataTypes.UUID, ...key },
        version: { ...integer(), defaultValue: 0 },
        ...{ planted: json(), claims: json() },
        result: { type: DataTypes.JSONB },
        createdAt: date(),
      },
      { tableName: 'practices', ...onlyCreated },
    ),
    ...definePeople(sequelize),
    Mark: sequelize.define<MarkModel>('Mark', { name: { ...text(), ...key }, createdAt: date() }, { tableName: 'marks', ...onlyCreated }),
  };
}
