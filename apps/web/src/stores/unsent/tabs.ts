const nameOf = (tab: string): string => `isola window ${tab}`;

/** The name of this window, by which the others know for as long as it lives that its steps are its own. */
export function claimTab(): string {
  const tab = crypto.randomUUID();
  void navigator.locks.request(nameOf(tab), () => new Promise<never>(() => undefined));
  return tab;
}

/** Does something on behalf of a window that is gone; nothing where it lives, or where another one does it already. */
export async function forGoneTab(tab: string, act: () => Promise<void>): Promise<void> {
  await navigator.locks.request(nameOf(tab), { ifAvailable: true }, async (lock) => {
    if (lock !== null) await act();
  });
}
