/** The way that a key of the arrows goes, y up. */
export const ARROWS: Readonly<Record<string, readonly [dx: number, dy: number]>> = {
  ArrowUp: [0, 1],
  ArrowRight: [1, 0],
  ArrowDown: [0, -1],
  ArrowLeft: [-1, 0],
};
