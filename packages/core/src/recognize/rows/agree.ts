/** How well places agree about where a grid lies. */
export interface Agreement {
  /** From 0, where places lie anywhere between two lines of a grid, to 1. */
  readonly agreement: number;
  /** Where they lie between two lines, as a share, from −0.5 to 0.5. */
  readonly phase: number;
}

/** How well places agree about where a grid lies: the mean resultant of its phases (Mardia and Jupp, Directional Statistics, 2000, section 2.2). */
export function agree<T>(places: ArrayLike<T>, weights: ArrayLike<number>, onGrid: (place: T) => number): Agreement {
  let [c, s, all] = [0, 0, 0];
  for (let k = 0; k < places.length; k++) {
    const turn = 2 * Math.PI * onGrid(places[k]!);
    c += weights[k]! * Math.cos(turn);
    s += weights[k]! * Math.sin(turn);
    all += weights[k]!;
  }
  return { agreement: Math.hypot(c, s) / all, phase: Math.atan2(s, c) / (2 * Math.PI) };
}
