/** Gives what `make` gives for a value that never changes, worked out once for as long as the value is there. */
export function remember<K extends object, V>(make: (of: K) => V): (of: K) => V {
  const known = new WeakMap<K, { readonly value: V }>();
  return (of) => {
    let found = known.get(of);
    if (found === undefined) {
      found = { value: make(of) };
      known.set(of, found);
    }
    return found.value;
  };
}
