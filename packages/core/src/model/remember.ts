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

/**
 * The same for values that others keep for long while what is made of them is large: only those asked for last, at most `most` of them, are held.
 */
export function rememberFew<K extends object, V>(make: (of: K) => V, most = 6): (of: K) => V {
  const known = new Map<K, V>();
  return (of) => {
    const found = known.has(of) ? known.get(of)! : make(of);
    // Asked for again it is the newest.
    known.delete(of);
    known.set(of, found);
    if (known.size > most) known.delete(known.keys().next().value!);
    return found;
  };
}
