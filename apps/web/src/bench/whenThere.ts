import { watch } from 'vue';

/**
 * Has a part of the screen do something: at once, or, while it is still being built or does not know yet what it is about, as soon as it is
 * there. Keys that are pressed before that are done in their order; those that still wait when the screen is left are forgotten. To be called
 * while a component is set up.
 */
export function whenThere<T>(part: () => T | null | undefined): (act: (part: T) => unknown) => void {
  const waiting: ((part: T) => unknown)[] = [];
  watch(
    part,
    (there) => {
      if (there !== null && there !== undefined) for (const act of waiting.splice(0)) act(there);
    },
    { flush: 'post' },
  );
  return (act) => {
    const there = part();
    if (there === null || there === undefined) waiting.push(act);
    else act(there);
  };
}
