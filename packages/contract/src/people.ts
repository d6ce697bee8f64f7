/** What people may do: everything; all but people; samples and the board besides looking; only look. */
export const ROLES = ['owner', 'digitizer', 'operator', 'guest'] as const;
export type Role = (typeof ROLES)[number];

export interface Person {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  /** Whether they were shut out. */
  readonly isOut: boolean;
}

/** Who is here; `hasAccounts`: whether the server asks. */
export interface Session {
  readonly hasAccounts: boolean;
  readonly person: Person | null;
}

/** By its token one new person is let in. */
export interface Invitation {
  readonly token: string;
  readonly role: Role;
  readonly expiresAt: string;
}

/** Something that was asked of the server to be changed, and what it was answered; nothing of it is ever changed. */
export interface Happening {
  readonly seq: number;
  readonly at: string;
  /** Null: nobody was signed in. */
  readonly who: string | null;
  readonly address: string;
  readonly method: string;
  readonly path: string;
  /** What was done, as its route says it; null of what was noted before routes said it, and of what is nowhere. */
  readonly words: string | null;
  readonly status: number;
}
