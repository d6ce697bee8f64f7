import type { StitchObject, UnderlayKind } from '@isola/core';

export const LAYER_NAMES: Readonly<Record<UnderlayKind, string>> = {
  'center-run': 'center run',
  'edge-run': 'edge run',
  zigzag: 'zigzag',
  tatami: 'tatami',
};

/** What an object was made with, in a line that the list has room for: 0.38 mm, 45°, on tatami, edge run. */
export function sayFigures(object: StitchObject): string {
  const parts = [
    object.spacing === undefined ? '' : `${object.spacing.toFixed(2)} mm`,
    object.kind === 'fill' && object.angle !== undefined && object.pattern === undefined ? `${object.angle.toFixed(0)}°` : '',
    object.width === undefined ? '' : `${object.width.mean.toFixed(1)} wide`,
    object.kind === 'satin' || object.underlay.length > 0 ? '' : `stitch ${object.stitchLength.toFixed(1)}`,
    object.passes !== undefined && object.passes > 1 ? `${object.passes} passes` : '',
    object.underlay.length === 0
      ? ''
      : `on ${object.underlay.length > MOST_NAMED ? `${object.underlay.length} layers` : object.underlay.map((layer) => LAYER_NAMES[layer.kind]).join(', ')}`,
  ];
  return parts.filter((part) => part !== '').join(' · ');
}

/** So many layers are named in a line. */
const MOST_NAMED = 2;

/** The layers under an object, in order, each with its pitch. */
export function sayUnderlay({ underlay }: StitchObject): string {
  return underlay
    .map((layer) => LAYER_NAMES[layer.kind] + (layer.spacing === undefined ? '' : ` ${layer.spacing.toFixed(1)}`))
    .join(', then ');
}

/** Below this, what was recognized is better looked at by a person. */
export const SURE = 0.6;

/** Why recognition is not sure of an object; nothing where it is. */
export function sayDoubt(object: StitchObject): string {
  if (object.kind === 'other') return 'Not understood: its stitches neither lie in rows nor follow one line.';
  if (object.confidence >= SURE) return '';
  return object.kind === 'run'
    ? 'Not sure: for a line it turns back on itself very often.'
    : 'Not sure: its rows change their distance, length or direction very often.';
}

/** What taking the second reading of an object means, in a sentence. */
export function sayOtherReading({ otherReading, kind }: StitchObject): string {
  return `These stitches can be read two ways: taken for a ${kind} now. Click to take them for a ${otherReading ?? kind}; undo takes it back.`;
}

export function saySize({ outline, path, entry, exit }: StitchObject): string {
  const points = outline.length > 0 ? outline : (path ?? Float64Array.of(entry.x, entry.y, exit.x, exit.y));
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let k = 0; k < points.length; k += 2) {
    minX = Math.min(minX, points[k]!);
    maxX = Math.max(maxX, points[k]!);
    minY = Math.min(minY, points[k + 1]!);
    maxY = Math.max(maxY, points[k + 1]!);
  }
  return `${(maxX - minX).toFixed(1)} × ${(maxY - minY).toFixed(1)} mm`;
}
