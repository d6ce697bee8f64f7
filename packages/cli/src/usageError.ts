/** What went wrong with the arguments or a file: said in one line, exit status 2. */
export class UsageError extends Error {}
