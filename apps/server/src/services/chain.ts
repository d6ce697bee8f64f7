import { createHash } from 'node:crypto';
import canonicalize from 'canonicalize';

/** What the chain of a job's entries begins with: the file that they change, by its SHA-256. */
export const chainStart = (sha256: string): string => hash(`file ${sha256}`);

/** The chain as far as an entry: of all before it and of its own text, in the one form that its JSON has (RFC 8785), however it was stored. */
export const chainOf = (before: string, entry: unknown): string => hash(`${before} ${canonicalize(entry)}`);

/** An id that is always the same for what it is derived from (RFC 9562, version 8), so that what is sent again is known. */
export function derivedId(from: string, use: string): string {
  const hex = hash(`${use} ${from}`);
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-8${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}

function hash(text: string): string {
  return createHash('sha256').update(text).digest('hex');
}
