/** How many rows are done at a time, given the seconds at which each is: a binary search, since times only grow. */
export function rowsDone(done: Float64Array, time: number): number {
  let low = 0;
  let high = done.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (done[middle]! <= time) low = middle + 1;
    else high = middle;
  }
  return low;
}
