import type { Happening } from '@isola/contract';

/** Something that happened in words; what was refused says so. */
export function sayHappening({ method, path, words, status }: Pick<Happening, 'method' | 'path' | 'words' | 'status'>): string {
  const what = words ?? `${method} ${path}`;
  return status < 400 ? what : `${what}: refused (${status})`;
}
