import type { Happening } from '@isola/contract';

/** What requests do, in words, by method and address; the first that fits. */
const WORDS: readonly (readonly [method: string, path: RegExp, words: string])[] = [
  ['POST', /^\/api\/session$/, 'signed in'],
  ['DELETE', /^\/api\/session$/, 'signed out'],
  ['DELETE', /^\/api\/session\/everywhere$/, 'signed out everywhere'],
  ['PUT', /^\/api\/session\/password$/, 'changed their password'],
  ['POST', /^\/api\/session\/join$/, 'came in by an invitation'],
  ['POST', /^\/api\/session\/invitation$/, 'opened an invitation'],
  ['POST', /^\/api\/people\/invitations$/, 'invited somebody'],
  ['PATCH', /^\/api\/people\//, 'changed what somebody may do'],
  ['DELETE', /^\/api\/people\/[^/]+\/sessions$/, 'signed somebody out'],
  ['POST', /^\/api\/jobs$/, 'took a file in'],
  ['DELETE', /^\/api\/jobs\/[^/]+$/, 'deleted a job'],
  ['PATCH', /^\/api\/jobs\/[^/]+$/, 'renamed a job'],
  ['POST', /\/put-back$/, 'put a job back'],
  ['POST', /\/revisions$/, 'kept or released a revision'],
  ['POST', /\/sign-offs$/, 'signed for a file'],
  ['PUT', /^\/api\/shop\//, 'changed a record of the shop'],
  ['DELETE', /^\/api\/shop\//, 'deleted a record of the shop'],
  ['POST', /^\/api\/shop\/changes\//, 'took a change of the shop back'],
  ['POST', /^\/api\/sew-outs$/, 'recorded a sample'],
  ['PUT', /^\/api\/sew-outs\//, 'changed a sample'],
  ['PUT', /^\/api\/board$/, 'changed the board'],
  ['POST', /^\/api\/audits$/, 'began an audit of many files'],
];

/** Something that happened in words; what was refused says so. */
export function sayHappening({ method, path, status }: Pick<Happening, 'method' | 'path' | 'status'>): string {
  const words = WORDS.find(([m, p]) => m === method && p.test(path))?.[2] ?? `${method} ${path}`;
  return status < 400 ? words : `${words}: refused (${status})`;
}
