/** What went wrong with the arguments or a file: said in one line, exit status 2. */
export class UsageError extends Error {}

/** Why a file could not be read or written, in words. */
export function reasonOf(error: unknown): string {
  const code = (error as { code?: string }).code;
  const words: Record<string, string> = { ENOENT: 'no such file or folder', EACCES: 'not permitted', EISDIR: 'is a folder' };
  return words[code ?? ''] ?? (error instanceof Error ? error.message : String(error));
}
