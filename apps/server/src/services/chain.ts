import { createHash } from 'node:crypto';
import canonicalize from 'canonicalize';

/** What the chain of a job's entries begins with: the file that they change, by its SHA-256. */
export const chainStart = (sha256: string): string => hash(`file ${sha256}`);

/** The chain as far as an entry: of all before it and of its own text, in the one form that its JSON has (RFC 8785), however it was stored. */
export const chainOf = (before: string, entry: unknown): string => hash(`${before} ${canonicalize(entry)}`);

function hash(text: string): string {
  return createHash('sha256').update(text).digest('hex');
}
