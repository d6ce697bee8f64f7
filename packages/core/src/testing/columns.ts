/** An arc of a column: its inner and outer rails around a center, from 0 to `turn` degrees; xyxy, mm. */
export function bend(radius: number, width: number, turn: number): { left: Float64Array; right: Float64Array } {
  const arc = (r: number): Float64Array =>
    Float64Array.from({ length: 122 }, (_, k) => {
      const a = (((k >> 1) * turn) / 60) * (Math.PI / 180);
      return k % 2 === 0 ? r * Math.cos(a) : r * Math.sin(a);
    });
  return { left: arc(radius + width / 2), right: arc(radius - width / 2) };
}
