import { findConcerned } from '../recognize/publishObjects.ts';
import type { Recognition } from '../recognize/recognizeProgram.ts';
import type { Finding } from './finding.ts';

/** Findings with the ids of the objects that they concern. */
export function nameFindings(findings: readonly Finding[], recognition: Recognition): Finding[] {
  return findings.map((finding) => ({
    ...finding,
    objects: findConcerned(finding.rows, recognition).map((k) => recognition.objects[k]!.id),
  }));
}
