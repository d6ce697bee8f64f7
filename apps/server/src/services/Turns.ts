/** Work on the same thing is done one after another, in the order in which it was asked for; on different things at once. */
export class Turns {
  private readonly last = new Map<string, Promise<unknown>>();

  take<T>(of: string, act: () => Promise<T>): Promise<T> {
    const mine = (this.last.get(of) ?? Promise.resolve()).then(act);
    const over = mine.then(
      () => undefined,
      () => undefined,
    );
    this.last.set(of, over);
    void over.then(() => this.last.get(of) === over && this.last.delete(of));
    return mine;
  }
}
