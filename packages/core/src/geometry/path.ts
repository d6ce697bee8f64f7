/**
 * The length of an open path given as xyxy pairs, in the unit of its coordinates. No points or one give 0.
 */
export function lengthOfPath(path: Float64Array): number {
  let sum = 0;
  for (let i = 2; i < path.length; i += 2) sum += Math.hypot(path[i]! - path[i - 2]!, path[i + 1]! - path[i - 1]!);
  return sum;
}

/**
 * A new path of `count` ≥ 2 points evenly spaced along an open path (xyxy), its first and last point included. A path without length gives
 * `count` copies of its first point.
 *
 * @throws when the path has no point or fewer than two are asked for.
 */
export function resamplePath(path: Float64Array, count: number): Float64Array {
  if (path.length < 2 || count < 2)
    throw new RangeError(`resamplePath needs a point and count ≥ 2, got ${path.length / 2} points, ${count}`);
  const total = lengthOfPath(path);
  const out = new Float64Array(count * 2);
  let segment = 0;
  let walked = 0;
  for (let k = 0; k < count; k++) {
    const wanted = (total * k) / (count - 1);
    let length = segmentLength(path, segment);
    while (walked + length < wanted && segment < path.length / 2 - 2) {
      walked += length;
      segment++;
      length = segmentLength(path, segment);
    }
    const t = length > 0 ? Math.min(1, (wanted - walked) / length) : 0;
    const at = segment * 2;
    const next = Math.min(at + 2, path.length - 2);
    out[k * 2] = path[at]! + t * (path[next]! - path[at]!);
    out[k * 2 + 1] = path[at + 1]! + t * (path[next + 1]! - path[at + 1]!);
  }
  return out;
}

function segmentLength(path: Float64Array, segment: number): number {
  const at = segment * 2;
  return at + 3 < path.length ? Math.hypot(path[at + 2]! - path[at]!, path[at + 3]! - path[at + 1]!) : 0;
}
