import type {
  AuditDetail,
  AuditSummary,
  Board,
  DeletedJob,
  JobDetail,
  JobHistory,
  Happening,
  Invitation,
  JobSummary,
  Lessons,
  Person,
  Practice,
  Presence,
  ProblemDetails,
  RecordUse,
  RevisionSummary,
  Role,
  Session,
  SewOutRecord,
  ShopEffect,
  Shop,
  ShopChange,
  ShopKind,
  ShopSignature,
  SignOff,
} from '@isola/contract';
import { SAVED_HEADER, TOTAL_HEADER, VERSION_HEADER } from '@isola/contract';
import type { BoardPlan, FormatId, JournalEntry, PhotoPoint, PracticeClaim, SewOut, ShopRules, Target } from '@isola/core';

/** What the server refused, in its own words. `status` 0: it could not be reached. */
export class ApiError extends Error {
  readonly status: number;
  readonly title: string;
  readonly details: ProblemDetails | undefined;

  constructor(status: number, title: string, detail: string, details?: ProblemDetails) {
    super(detail);
    this.status = status;
    this.title = title;
    this.details = details;
  }
}

/** How far a long piece of work of the server is, from 0 to 1, and what it is doing. */
export interface Progress {
  readonly share: number;
  readonly doing: string;
}

/** A base or a snapshot of a job, and how many entries of its journal are in it. */
export interface JobBaseText {
  readonly json: string;
  readonly version: number;
}

export interface JobsAsked {
  readonly search?: string;
  /** Those that are not released, or those that are to be sewn. */
  readonly of?: 'open' | 'board';
  readonly limit?: number;
  readonly offset?: number;
}

export interface JobsFound {
  readonly jobs: readonly JobSummary[];
  /** How many there are; of those that are looked for 1000 at most. */
  readonly total: number;
  /** Seconds that were saved on all orders; not told of those that are looked for. */
  readonly savedSeconds: number | undefined;
}

/** So often (ms) the server is asked how far it is. */
const ASK_EVERY = 300;

export const api = {
  /** Jobs that have all of some words in them or are of some kind, so many of them; and how many there are. */
  async jobs({ search = '', of, limit, offset = 0 }: JobsAsked = {}): Promise<JobsFound> {
    const asked = new URLSearchParams();
    if (search.trim() !== '') asked.set('search', search.trim());
    if (of !== undefined) asked.set('of', of);
    if (limit !== undefined) asked.set('limit', String(limit));
    if (offset > 0) asked.set('offset', String(offset));
    const response = await reach(asked.size === 0 ? '/jobs' : `/jobs?${asked.toString()}`, {});
    const jobs = (await response.json()) as JobSummary[];
    const saved = response.headers.get(SAVED_HEADER) ?? undefined;
    return { jobs, total: Number(response.headers.get(TOTAL_HEADER)), savedSeconds: saved === undefined ? undefined : Number(saved) };
  },
  /** `after`: with no more of its journal than what came after that version. */
  job: (id: string, from: 'snapshot' | 'start' = 'snapshot', after = 0) =>
    request<JobDetail>('GET', `/jobs/${id}?from=${from}${after === 0 ? '' : `&after=${after}`}`),
  /** What a job is at; null: it is gone; nothing where that cannot be asked. */
  versionOf: (id: string): Promise<number | null | undefined> =>
    api.job(id).then(
      ({ version }) => version,
      (error: unknown) => (error instanceof ApiError && error.status === 404 ? null : undefined),
    ),
  file: (id: string) => requestBytes(`/jobs/${id}/file`),
  /** What a job's journal is replayed from, its last snapshot or its base; while the server makes that, how far it is. */
  async base(id: string, from: 'snapshot' | 'start', progress: (at: Progress) => void): Promise<JobBaseText> {
    for (;;) {
      const response = await reach(`/jobs/${id}/base?from=${from}`, {});
      if (response.status !== 202) return { json: await response.text(), version: Number(response.headers.get(VERSION_HEADER)) };
      progress((await response.json()) as Progress);
      await new Promise((resolve) => setTimeout(resolve, ASK_EVERY));
    }
  },
  program: (id: string) => requestBytes(`/jobs/${id}/program`),
  revisionProgram: (id: string, number: number) => requestBytes(`/jobs/${id}/revisions/${number}/program`),
  auditPdfAddress: (id: string) => `/api/jobs/${id}/audit.pdf`,
  sheetPdfAddress: (id: string) => `/api/jobs/${id}/sheet.pdf`,
  exportAddress: (id: string, format: FormatId) => `/api/jobs/${id}/export?format=${format}`,
  /** The file as it came in, byte for byte. */
  fileAddress: (id: string) => `/api/jobs/${id}/file?as=came`,
  machineFileAddress: (id: string, layout: string) => `/api/jobs/${id}/export?layout=${encodeURIComponent(layout)}`,
  revisionAddress: (id: string, number: number, format: FormatId) => `/api/jobs/${id}/revisions/${number}/file?format=${format}`,
  sign: (id: string, signature: { baseVersion: number; who: string; reason: string }) =>
    request<SignOff>('POST', `/jobs/${id}/sign-offs`, signature),
  /** `own`: which of the entries since that version are of this window; they go on top of what others did where that touches nothing in common. */
  append: (id: string, baseVersion: number, entries: readonly JournalEntry[], own: readonly string[] = []) =>
    request<JobSummary>('POST', `/jobs/${id}/journal`, { baseVersion, entries, own }),
  /** Keeps entries as a branch, where they do not go on top of what others did. */
  keepAside: (id: string, baseVersion: number, entries: readonly JournalEntry[], own: readonly string[] = []) =>
    request<JobSummary>('POST', `/jobs/${id}/journal`, { baseVersion, entries, own, isAside: true }),
  presences: (id: string) => request<Presence[]>('GET', `/jobs/${id}/here`),
  come: (id: string, page: string, stage: string) => request<Presence[]>('PUT', `/jobs/${id}/here`, { page, stage }),
  /** Also said by a page that is just being closed. */
  leave: (id: string, page: string) => reach(`/jobs/${id}/here/${page}`, { method: 'DELETE', keepalive: true }),
  changeDetails: (id: string, details: { detailsVersion: number; name: string; customer: string; due: string | null }) =>
    request<JobSummary>('PATCH', `/jobs/${id}`, details),
  remove: (id: string) => request<undefined>('DELETE', `/jobs/${id}`),
  keepRevision: (
    id: string,
    revision: { baseVersion: number; name: string; note: string; isRelease: boolean; who?: string; reasons?: object },
  ) => once((key) => send<RevisionSummary>('POST', `/jobs/${id}/revisions`, JSON.stringify(revision), key)),
  nameRevision: (id: string, number: number, name: string) =>
    request<RevisionSummary>('PATCH', `/jobs/${id}/revisions/${number}`, { name }),
  history: (id: string) => request<JobHistory>('GET', `/jobs/${id}/history`),
  nameBranch: (id: string, step: string, name: string) => request<JobHistory>('PUT', `/jobs/${id}/branches/${step}`, { name }),
  deleted: () => request<DeletedJob[]>('GET', '/jobs/deleted'),
  putBack: (id: string) => request<JobSummary>('POST', `/jobs/${id}/put-back`),
  /** Takes a file in, until it is given up. */
  takeIn(file: File, signal: AbortSignal): Promise<JobSummary> {
    const form = new FormData();
    form.set('file', file);
    return once((key) => send<JobSummary>('POST', '/jobs', form, key, signal), signal);
  },
  audits: () => request<AuditSummary[]>('GET', '/audits'),
  audit: (id: string) => request<AuditDetail>('GET', `/audits/${id}`),
  beginAudit: (name: string, target: Target) => request<AuditSummary>('POST', '/audits', { name, target }),
  /** A file of an audit by its place, from 1; sent twice it is there once. */
  async addToAudit(id: string, seq: number, file: File, path: string, signal: AbortSignal): Promise<void> {
    const form = new FormData();
    form.set('path', path);
    form.set('file', file);
    await once(() => send<undefined>('PUT', `/audits/${id}/files/${seq}`, form, undefined, signal), signal);
  },
  cancelAudit: (id: string) => request<AuditSummary>('POST', `/audits/${id}/cancel`),
  resumeAudit: (id: string) => request<AuditSummary>('POST', `/audits/${id}/resume`),
  removeAudit: (id: string) => request<undefined>('DELETE', `/audits/${id}`),
  auditTableAddress: (id: string) => `/api/audits/${id}/table`,
  takeInFromAudit: (id: string, seq: number) => once((key) => send<JobSummary>('POST', `/audits/${id}/files/${seq}/job`, undefined, key)),
  sewOuts: (jobId?: string) => request<SewOutRecord[]>('GET', `/sew-outs${jobId === undefined ? '' : `?job=${jobId}`}`),
  addSewOut: (jobId: string, sewOut: SewOut) =>
    once((key) => send<SewOutRecord>('POST', '/sew-outs', JSON.stringify({ jobId, sewOut }), key)),
  changeSewOut: (id: string, version: number, sewOut: SewOut) => request<SewOutRecord>('PUT', `/sew-outs/${id}`, { version, sewOut }),
  lessons: (fabric: string, machine: string) =>
    request<Lessons>('GET', `/sew-outs/lessons?fabric=${encodeURIComponent(fabric)}&machine=${encodeURIComponent(machine)}`),
  addPhoto(id: string, photo: File): Promise<SewOutRecord> {
    const form = new FormData();
    form.set('file', photo);
    return send<SewOutRecord>('POST', `/sew-outs/${id}/photos`, form);
  },
  photoAddress: (id: string) => `/api/sew-outs/photos/${id}`,
  layPhoto: (id: string, points: readonly PhotoPoint[]) => request<SewOutRecord>('PUT', `/sew-outs/photos/${id}`, { points }),
  removePhoto: (id: string) => request<SewOutRecord>('DELETE', `/sew-outs/photos/${id}`),
  beginPractice: (sourceId: string, faults: number) => request<JobSummary>('POST', `/jobs/${sourceId}/practice`, { faults }),
  practice: (id: string) => request<Practice>('GET', `/jobs/${id}/practice`),
  claim: (id: string, version: number, claims: readonly PracticeClaim[]) =>
    request<Practice>('PUT', `/jobs/${id}/practice`, { version, claims }),
  judgePractice: (id: string) => request<Practice>('POST', `/jobs/${id}/practice/judge`),
  session: () => request<Session>('GET', '/session'),
  signIn: (name: string, password: string) => request<Session>('POST', '/session', { name, password }),
  signOut: () => request<undefined>('DELETE', '/session'),
  signOutEverywhere: () => request<undefined>('DELETE', '/session/everywhere'),
  changePassword: (old: string, password: string) => request<undefined>('PUT', '/session/password', { old, password }),
  invitation: (token: string) => request<{ role: Role; invitedBy: string }>('POST', '/session/invitation', { token }),
  join: (token: string, name: string, password: string) => request<Session>('POST', '/session/join', { token, name, password }),
  people: () => request<Person[]>('GET', '/people'),
  happenings: (before?: number) => request<Happening[]>('GET', `/people/happenings${before === undefined ? '' : `?before=${before}`}`),
  invite: (role: Role) => request<Invitation>('POST', '/people/invitations', { role }),
  changePerson: (id: string, change: { role?: Role; isOut?: boolean }) => request<Person[]>('PATCH', `/people/${id}`, change),
  endSessions: (id: string) => request<undefined>('DELETE', `/people/${id}/sessions`),
  board: () => request<Board>('GET', '/board'),
  writeBoard: (version: number, plan: BoardPlan) => request<Board>('PUT', '/board', { version, plan }),
  shop: () => request<Shop>('GET', '/shop'),
  shopChanges: () => request<ShopChange[]>('GET', '/shop/changes'),
  undoShopChange: (id: string, signature: ShopSignature) => request<Shop>('POST', `/shop/changes/${id}/undo`, signature),
  /** `was`: the record as it was when the change was begun; null: there was none. */
  putInShop: (kind: ShopKind, id: string, change: ShopSignature & { record: object; was: object | null }) =>
    request<Shop>('PUT', `/shop/${kind}/${encodeURIComponent(id)}`, change),
  removeFromShop: (kind: ShopKind, id: string, signature: ShopSignature) =>
    request<Shop>('DELETE', `/shop/${kind}/${encodeURIComponent(id)}`, signature),
  usesInJobs: (kind: ShopKind, id: string) => request<RecordUse[]>('GET', `/shop/${kind}/${encodeURIComponent(id)}/uses`),
  putRules: (change: ShopSignature & { record: ShopRules }) => request<Shop>('PUT', '/shop/rules', change),
  shopEffect: (jobId: string, instead: Partial<Pick<Target, 'rules' | 'fabric' | 'machine'>>) =>
    request<ShopEffect>('POST', `/jobs/${jobId}/shop-effect`, instead),
  restoreShop: (signature: ShopSignature) => request<Shop>('POST', '/shop/defaults', signature),
};

/** Sends under a key by which the server knows it: where its answer was lost it is sent once more, and makes nothing twice. */
async function once<T>(act: (key: string) => Promise<T>, signal?: AbortSignal): Promise<T> {
  const key = crypto.randomUUID();
  try {
    return await act(key);
  } catch (error) {
    if (!(error instanceof ApiError) || error.status !== 0 || signal?.aborted === true) throw error;
    return act(key);
  }
}

function request<T>(method: string, path: string, body?: unknown): Promise<T> {
  return send<T>(method, path, body === undefined ? undefined : JSON.stringify(body));
}

async function send<T>(method: string, path: string, body?: string | FormData, key?: string, signal?: AbortSignal): Promise<T> {
  const headers = {
    ...(typeof body === 'string' ? { 'Content-Type': 'application/json' } : {}),
    ...(key === undefined ? {} : { 'Idempotency-Key': key }),
  };
  const response = await reach(path, {
    method,
    headers,
    ...(body === undefined ? {} : { body }),
    ...(signal === undefined ? {} : { signal }),
  });
  return response.status === 204 ? (undefined as T) : ((await response.json()) as T);
}

async function requestBytes(path: string): Promise<Uint8Array> {
  const response = await reach(path, {});
  return new Uint8Array(await response.arrayBuffer());
}

let onSignedOut = (): void => undefined;
/** Has something hear when the server asks who somebody is. */
export function hearSignedOut(hear: () => void): void {
  onSignedOut = hear;
}

async function reach(path: string, init: RequestInit): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, init);
  } catch {
    throw new ApiError(
      0,
      'The server does not answer',
      'Check that Isola is still running on this machine. What you did here is kept until it answers.',
    );
  }
  if (response.ok) return response;
  // Whose session is over signs in again, and goes on where they were.
  if (response.status === 401) onSignedOut();
  const isProblem = response.headers.get('Content-Type')?.startsWith('application/problem+json') ?? false;
  if (!isProblem) throw new ApiError(response.status, 'The server does not answer as expected', `It said ${response.status}.`);
  const details = (await response.json()) as ProblemDetails;
  throw new ApiError(response.status, details.title, details.detail, details);
}
